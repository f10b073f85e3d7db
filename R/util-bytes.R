# Text files as bytes: always UTF-8, whatever the locale.

file_bytes <- function(path) readBin(path, "raw", file.size(path))

# Lines as the bytes of a text file.
text_bytes <- function(lines) charToRaw(paste0(enc2utf8(as.character(lines)), "\n", collapse = ""))

# The lines of a text file's bytes.
byte_lines <- function(bytes) text_lines(rawToChar(bytes))

# The lines of a text in UTF-8. By bytes: by characters, the time grows with the square of the
# length.
text_lines <- function(text) {
  lines <- sub("\r$", "", strsplit(text, "\n", fixed = TRUE, useBytes = TRUE)[[1]], useBytes = TRUE)
  Encoding(lines) <- "UTF-8"
  lines
}

# The text of a file, without a byte order mark; what is not UTF-8 is an error with its line.
read_utf8 <- function(path, what, call) {
  bytes <- file_bytes(path)
  if (length(bytes) > 2 && identical(bytes[1:3], as.raw(c(0xef, 0xbb, 0xbf)))) {
    bytes <- bytes[-(1:3)]
  }
  if (any(bytes == 0)) {
    abort_encoding(
      path,
      what,
      "It holds bytes of 0, as UTF-16 and files that are no text do.",
      call
    )
  }
  text <- rawToChar(bytes)
  Encoding(text) <- "UTF-8"
  if (validUTF8(text)) return(text)
  lines <- strsplit(text, "\n", fixed = TRUE, useBytes = TRUE)[[1]]
  wrong <- which(!validUTF8(lines))
  shown <- iconv(lines[wrong[1]], "latin1", "UTF-8")
  abort_encoding(
    path,
    what,
    paste0("Line ", wrong[1], " is not: ", trimws(shown), " (shown as Latin-1)."),
    call
  )
}

abort_encoding <- function(
  path,
  what,
  found,
  call,
  i = "Save it again as UTF-8 in the program it came from."
) {
  abort_nelvat(
    "encoding",
    c(paste0("The ", what, " file \"", path, "\" is not in UTF-8."), x = found, i = i),
    call
  )
}

md5_of <- function(bytes) {
  path <- tempfile()
  on.exit(unlink(path))
  writeBin(bytes, path)
  unname(tools::md5sum(path))
}
