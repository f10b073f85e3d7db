# Files inside a PDF (ISO 32000-1, sections 7.11.4 and 7.5.6): added by an update at its end, so
# that all of it stays as it is, and read back.

# bytes: of a PDF; files: their bytes, by name. The same bytes each time, without dates.
pdf_with_files <- function(bytes, files) {
  file <- read_pdf(bytes)
  files <- files[order(names(files), method = "radix")]
  first <- max(as.numeric(names(file$objects))) + 1
  streams <- first + seq_along(files) - 1
  entries <- streams + length(files)
  stored <- lapply(files, function(content) {
    packed <- memCompress(content, "gzip")
    list(
      text = paste0(
        "<< /Type /EmbeddedFile /Filter /FlateDecode /Length ",
        length(packed),
        " /Params << /Size ",
        length(content),
        " >> >>"
      ),
      stream = packed
    )
  })
  told <- Map(
    function(name, stream) {
      list(
        text = paste0(
          "<< /Type /Filespec /F ",
          pdf_text(name),
          " /UF ",
          pdf_text(name),
          " /AFRelationship /Source /EF << /F ",
          stream,
          " 0 R >> >>"
        )
      )
    },
    names(files),
    streams
  )
  root <- file$objects[[as.character(file$root)]]
  named <- paste0(
    " /Names << /EmbeddedFiles << /Names [ ",
    paste0(vapply(names(files), pdf_text, ""), " ", entries, " 0 R", collapse = " "),
    " ] >> >> /AF [ ",
    paste0(entries, " 0 R", collapse = " "),
    " ] >>"
  )
  root$text <- sub("\\s*>>\\s*$", named, root$text)
  objects <- c(stored, told, list(root))
  names(objects) <- c(streams, entries, file$root)
  c(bytes, pdf_update(bytes, objects, file, max(entries) + 1))
}

# Objects as an update of a file: themselves, where they stand, and the trailer that leads on to
# what was before.
pdf_update <- function(bytes, objects, file, size) {
  pieces <- pdf_pieces(objects)
  offsets <- length(bytes) + c(0, cumsum(lengths(pieces)))
  numbers <- as.numeric(names(objects))
  sections <- vapply(
    order(numbers),
    function(i) sprintf("%.0f 1\n%010.0f 00000 n ", numbers[i], offsets[i]),
    ""
  )
  end <- utils::tail(bytes, 64)
  before <- sub(".*startxref\\s+(\\d+).*", "\\1", ascii_bytes_cpp(end))
  tail <- c(
    "xref",
    sections,
    paste0(
      "trailer\n<< /Size ",
      size,
      " /Root ",
      file$root,
      " 0 R",
      if (length(file$info) && !is.na(file$info)) paste0(" /Info ", file$info, " 0 R"),
      " /Prev ",
      before,
      " >>"
    ),
    "startxref",
    sprintf("%.0f", offsets[length(offsets)]),
    "%%EOF"
  )
  c(unlist(pieces, use.names = FALSE), text_bytes(tail))
}

# The bytes of each object, by its number.
pdf_pieces <- function(objects) {
  lapply(names(objects), function(number) {
    object <- objects[[number]]
    stream <- if (!is.null(object$stream)) {
      c(charToRaw("\nstream\n"), object$stream, charToRaw("\nendstream"))
    }
    c(charToRaw(paste0(number, " 0 obj\n", object$text)), stream, charToRaw("\nendobj\n"))
  })
}

# A text of a PDF: UTF-16BE with its mark, in hexadecimal (section 7.9.2).
pdf_text <- function(text) {
  bytes <- iconv(enc2utf8(text), "UTF-8", "UTF-16BE", toRaw = TRUE)[[1]]
  paste0("<FEFF", paste(toupper(format(bytes)), collapse = ""), ">")
}

most_packed <- 2e8 # bytes of a file inside, packed or not

# The files inside a PDF, by the names that they are told to have: of anyone's making.
pdf_files <- function(bytes) {
  objects <- read_pdf(bytes)$objects
  told <- Filter(function(object) grepl("/EF\\s*<<", object$text), objects)
  files <- list()
  for (one in told) {
    name <- read_pdf_text(one$text, "UF") %||% read_pdf_text(one$text, "F")
    inner <- regmatches(one$text, regexpr("/EF\\s*<<[^>]*>>", one$text))
    number <- if (length(inner)) pdf_reference(inner, "F")
    stream <- objects[[as.character(number)]]
    if (is.null(name) || is.null(stream$stream)) next
    size <- pdf_number(stream$text, "Size")
    if (length(stream$stream) > most_packed || length(size) && size[1] > most_packed) {
      abort_pdf(paste0("the file \"", name, "\" in it is too large"))
    }
    files[[name]] <- pdf_stream_bytes(stream)
  }
  files
}

# A text under a key, in hexadecimal or in parentheses; NULL for none.
read_pdf_text <- function(text, key) {
  hex <- regmatches(text, regexec(paste0("/", key, "\\s*<([0-9A-Fa-f\\s]*)>"), text, perl = TRUE))[[
    1
  ]]
  if (length(hex) == 2) {
    digits <- gsub("\\s", "", hex[2])
    raw <- as.raw(
      strtoi(substring(digits, seq(1, nchar(digits), 2), seq(2, nchar(digits) + 1, 2)), 16L)
    )
    wide <- length(raw) > 1 && raw[1] == as.raw(0xfe) && raw[2] == as.raw(0xff)
    return(
      if (wide) {
        iconv(list(raw[-(1:2)]), "UTF-16BE", "UTF-8")
      } else {
        iconv(list(raw), "latin1", "UTF-8")
      }
    )
  }
  plain <- regmatches(
    text,
    regexec(paste0("/", key, "\\s*\\(((?:[^()\\\\]|\\\\.)*)\\)"), text, perl = TRUE)
  )[[1]]
  if (length(plain) == 2) gsub("\\\\(.)", "\\1", plain[2], perl = TRUE)
}
