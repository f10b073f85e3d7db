# Reading PDF files into their objects (ISO 32000-1, section 7.5), of both forms: with a plain
# cross-reference table, and with cross-reference and object streams (PDF 1.5 and later).
# Enough for files that cairo wrote, also after other programs rewrote them; encrypted
# ones are refused.

# bytes: of a file. Returns list(objects, root, info): `objects` by number, each a list of
# `text`, the object without its stream, and `stream`, its bytes as stored, or NULL.
read_pdf <- function(bytes) {
  text <- ascii_bytes_cpp(bytes)
  # The last cross-reference is named at the end of the file.
  end <- substr(text, nchar(text) - 2000, nchar(text))
  start <- regmatches(end, gregexpr("startxref\\s+\\d+", end))[[1]]
  if (!length(start)) abort_pdf("it has no cross-reference")
  references <- read_references(bytes, text, as.integer(gsub("\\D", "", utils::tail(start, 1))))
  if (grepl("/Encrypt ", references$trailer, fixed = TRUE)) abort_pdf("it is encrypted")
  entries <- references$entries
  direct_entries <- entries[entries$type == 1, ]
  direct <- read_direct_objects(bytes, text, direct_entries)
  objects <- c(direct, read_packed_objects(direct, entries[entries$type == 2, ]))
  list(
    objects = objects,
    root = pdf_reference(references$trailer, "Root"),
    info = pdf_reference(references$trailer, "Info")
  )
}

abort_pdf <- function(what) {
  abort_nelvat("pdf", paste0("The PDF cannot be read: ", what, "."), call = NULL)
}

# Cross-references ------------------------------------------------------------------

# From the newest section back over /Prev; of each object the newest entry counts.
read_references <- function(bytes, text, offset) {
  sections <- list()
  seen <- integer()
  while (length(offset)) {
    if (offset[1] %in% seen) abort_pdf("its cross-references run in a circle")
    seen <- c(seen, offset[1])
    section <- read_section(bytes, text, offset[1])
    sections <- c(sections, list(section))
    offset <- c(
      offset[-1],
      pdf_number(section$trailer, "XRefStm"),
      pdf_number(section$trailer, "Prev")
    )
  }
  entries <- do.call(rbind, lapply(sections, `[[`, "entries"))
  list(
    entries = entries[!duplicated(entries$number) & entries$type > 0, ],
    trailer = sections[[1]]$trailer
  )
}

read_section <- function(bytes, text, offset) {
  from <- substr(text, offset + 1, nchar(text))
  if (!startsWith(from, "xref")) {
    return(stream_section(read_object(bytes, text, offset, nchar(text))))
  }
  split <- regexpr("trailer", from, fixed = TRUE)
  trailer <- sub("startxref.*$", "", substr(from, split + 7, nchar(from)))
  list(entries = table_entries(substr(from, 5, split - 1)), trailer = trailer)
}

# Subsections of a plain table: first number and count, then so many lines.
table_entries <- function(text) {
  tokens <- strsplit(trimws(text), "\\s+")[[1]]
  found <- list()
  word_row <- 1
  while (word_row + 1 <= length(tokens)) {
    n <- as.integer(tokens[word_row + 1])
    rows <- matrix(tokens[word_row + 1 + seq_len(3 * n)], ncol = 3, byrow = TRUE)
    type <- ifelse(rows[, 3] == "n", 1, 0)
    found <- c(
      found,
      list(
        reference_table(
          as.integer(tokens[word_row]) + seq_len(n) - 1,
          type,
          as.numeric(rows[, 1]),
          0
        )
      )
    )
    word_row <- word_row + 2 + 3 * n
  }
  do.call(rbind, found)
}

reference_table <- function(number, type, first, second) {
  new_table(
    number = as.numeric(number),
    type = as.numeric(type),
    first = as.numeric(first),
    second = as.numeric(second),
    .rows = length(number)
  )
}

# Section 7.5.8: fields of /W bytes each, for the ranges of /Index.
stream_section <- function(object) {
  widths <- pdf_numbers(object$text, "W")
  if (length(widths) != 3) abort_pdf("its cross-reference stream has no widths")
  data <- matrix(as.integer(pdf_stream_bytes(object)), nrow = sum(widths))
  field <- function(k, default) {
    rows <- sum(widths[seq_len(k - 1)]) + seq_len(widths[k])
    if (!length(rows)) {
      rep(default, ncol(data))
    } else {
      colSums(
        data[rows, , drop = FALSE] * 256^(widths[k] - seq_len(widths[k]))
      )
    }
  }
  ranges <- pdf_numbers(object$text, "Index")
  if (!length(ranges)) ranges <- c(0, pdf_number(object$text, "Size"))
  ranges <- matrix(ranges, nrow = 2)
  number <- unlist(
    lapply(seq_len(ncol(ranges)), function(i) ranges[1, i] + seq_len(ranges[2, i]) - 1)
  )
  list(
    entries = reference_table(number, field(1, 1), field(2, 0), field(3, 0)),
    trailer = object$text
  )
}

# Objects ---------------------------------------------------------------------------

read_direct_objects <- function(bytes, text, at) {
  ends <- sort(c(at$first, length(bytes)))
  lengths <- list()
  objects <- lapply(seq_len(nrow(at)), function(i) {
    read_object(bytes, text, at$first[i], ends[ends > at$first[i]][1], at)
  })
  stats::setNames(objects, at$number)
}

# The object that begins at `offset` and ends before `end`; `at` says where objects stand that
# hold the length of its stream.
read_object <- function(bytes, text, offset, end, at = NULL) {
  # A dictionary is short, a stream is not: the first bytes mostly do.
  object <- read_object_until(bytes, text, offset, min(end, offset + 4000), at)
  if (is.null(object)) object <- read_object_until(bytes, text, offset, end, at)
  object %||% abort_pdf(paste("the object at byte", offset, "has no end"))
}

# NULL where neither a stream nor the object's end begins before `end`.
read_object_until <- function(bytes, text, offset, end, at) {
  slice <- substr(text, offset + 1, end)
  head <- regexpr("^\\s*\\d+\\s+\\d+\\s+obj", slice)
  if (head != 1) abort_pdf(paste("there is no object at byte", offset))
  body <- substr(slice, attr(head, "match.length") + 1, nchar(slice))
  close <- regexpr("\\bstream\\r?\\n|\\bendobj", body)
  if (close < 0) return(NULL)
  object <- list(text = trimws(substr(body, 1, close - 1)))
  if (!startsWith(substr(body, close, close + 5), "stream")) return(object)
  length <- stream_length(object$text, text, at)
  from <- offset + attr(head, "match.length") + close - 1 + attr(close, "match.length")
  if (is.na(length) || from + length > length(bytes)) abort_pdf("a stream is cut short")
  c(object, list(stream = bytes[from + seq_len(length)]))
}

stream_length <- function(dictionary, text, at) {
  reference <- pdf_reference(dictionary, "Length")
  if (is.na(reference)) return(pdf_number(dictionary, "Length")[1])
  offset <- at$first[match(reference, at$number)]
  if (!length(offset) || is.na(offset)) return(NA_real_)
  as.numeric(
    sub("^\\s*\\d+\\s+\\d+\\s+obj\\s+(\\d+).*$", "\\1", substr(text, offset + 1, offset + 60))
  )
}

# Section 7.5.7: objects packed into the streams of others.
read_packed_objects <- function(direct, entries) {
  packed <- lapply(unique(entries$first), function(holder) {
    object <- direct[[as.character(holder)]]
    if (is.null(object)) abort_pdf("an object stream is missing")
    bytes <- pdf_stream_bytes(object)
    first <- pdf_number(object$text, "First")
    text <- ascii_bytes_cpp(bytes)
    pairs <- matrix(as.numeric(strsplit(trimws(substr(text, 1, first)), "\\s+")[[1]]), nrow = 2)
    ends <- c(pairs[2, -1], nchar(text) - first)
    body <- lapply(
      seq_len(ncol(pairs)),
      function(i) list(text = trimws(substr(text, first + pairs[2, i] + 1, first + ends[i])))
    )
    body <- stats::setNames(body, pairs[1, ])
    body[as.character(entries$number[entries$first == holder])]
  })
  unlist(packed, recursive = FALSE)
}

# The bytes of a stream with its compression undone.
pdf_stream_bytes <- function(object) {
  filter <- regmatches(object$text, regexpr("/Filter\\s*\\[?\\s*/\\w+", object$text))
  if (!length(filter)) return(object$stream)
  if (!grepl("FlateDecode", filter)) {
    abort_pdf(paste("its streams are packed as", sub(".*/", "", filter)))
  }
  bytes <- tryCatch(
    memDecompress(object$stream, "gzip"),
    error = function(error) abort_pdf("a stream is damaged")
  )
  predictor <- pdf_number(object$text, "Predictor")
  if (length(predictor) && predictor > 1) {
    without_predictor(bytes, pdf_number(object$text, "Columns"))
  } else {
    bytes
  }
}

# Rows of `columns` bytes, each behind a byte that says how it was foretold (PNG
# specification, section 9): by nothing, the byte left, above, their mean, or Paeth's choice.
without_predictor <- function(bytes, columns) {
  rows <- matrix(as.integer(bytes), nrow = columns + 1)
  above <- integer(columns)
  for (k in seq_len(ncol(rows))) {
    row <- rows[-1, k]
    kind <- rows[1, k]
    if (kind == 2) row <- (row + above) %% 256L
    if (kind %in% c(1, 3, 4)) {
      for (i in seq_len(columns)) {
        left <- if (i > 1) row[i - 1] else 0L
        corner <- if (i > 1) above[i - 1] else 0L
        foretold <- switch(
          as.character(kind),
          `1` = left,
          `3` = (left + above[i]) %/% 2L,
          `4` = paeth(left, above[i], corner)
        )
        row[i] <- (row[i] + foretold) %% 256L
      }
    }
    rows[-1, k] <- above <- as.integer(row)
  }
  as.raw(rows[-1, ])
}

paeth <- function(left, above, corner) {
  away <- abs(left + above - corner - c(left, above, corner))
  c(left, above, corner)[which.min(away)]
}

# Values in dictionaries ----------------------------------------------------------------

# The number of the object that `/Key` refers to; NA where it refers to none.
pdf_reference <- function(text, key) {
  found <- regmatches(text, regexpr(paste0("/", key, "\\s+\\d+\\s+\\d+\\s+R\\b"), text))
  if (length(found)) as.numeric(sub("^/\\w+\\s+(\\d+).*$", "\\1", found)) else NA_real_
}

pdf_number <- function(text, key) {
  found <- regmatches(
    text,
    regexpr(paste0("/", key, "\\s+-?[0-9.]+(?!\\s+\\d+\\s+R)\\b"), text, perl = TRUE)
  )
  if (length(found)) as.numeric(sub("^/\\w+\\s+", "", found))
}

pdf_numbers <- function(text, key) {
  found <- regmatches(text, regexpr(paste0("/", key, "\\s*\\[[^]]*\\]"), text))
  if (!length(found)) return(numeric())
  as.numeric(strsplit(trimws(gsub("^[^[]*\\[|\\]", "", found)), "\\s+")[[1]])
}

# A value as it is written: a reference, or a dictionary with what is nested in it.
pdf_written <- function(text, key) {
  start <- regexpr(paste0("/", key, "(?=[\\s<\\[/])\\s*"), text, perl = TRUE)
  if (start < 0) return(NULL)
  rest <- substr(text, start + attr(start, "match.length"), nchar(text))
  if (!startsWith(rest, "<<")) {
    return(regmatches(rest, regexpr("^(\\d+ \\d+ R|\\[[^]]*\\]|/?[^\\s/<>]+)", rest, perl = TRUE)))
  }
  marks <- gregexpr("<<|>>", rest)[[1]]
  depth <- cumsum(ifelse(substring(rest, marks, marks) == "<", 1, -1))
  substr(rest, 1, marks[which(depth == 0)[1]] + 1)
}
