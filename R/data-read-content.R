# Whether a file is whole, and is what its name says.

# The first bytes of what is given as a table and is none.
other_contents <- list(
  list(what = "a PDF", bytes = "%PDF"),
  list(what = "a PNG image", bytes = c(0x89, 0x50, 0x4e, 0x47)),
  list(what = "a JPEG image", bytes = c(0xff, 0xd8, 0xff)),
  list(what = "a TIFF image", bytes = c(0x49, 0x49, 0x2a, 0x00)),
  list(what = "a TIFF image", bytes = c(0x4d, 0x4d, 0x00, 0x2a)),
  list(what = "a GIF image", bytes = "GIF8"),
  list(what = "a workbook or another zip archive", bytes = c(0x50, 0x4b, 0x03, 0x04)),
  list(what = "a workbook of the old form", bytes = c(0xd0, 0xcf, 0x11, 0xe0)),
  list(what = "a gzipped file", bytes = c(0x1f, 0x8b)),
  list(what = "a Parquet file", bytes = "PAR1"),
  list(what = "an SQLite database", bytes = "SQLite format 3"),
  list(what = "an R data file", bytes = "RDX")
)

begins_with <- function(head, bytes) {
  bytes <- if (is.character(bytes)) charToRaw(bytes) else as.raw(bytes)
  length(head) >= length(bytes) && identical(head[seq_along(bytes)], bytes)
}

# Stops where the content of a file of text is plainly something else.
check_is_text <- function(path, head, call) {
  found <- Find(function(one) begins_with(head, one$bytes), other_contents)
  what <- found$what
  if (is.null(what)) {
    ascii <- head[head > as.raw(0) & head < as.raw(0x80)]
    start <- trimws(tolower(rawToChar(ascii)))
    if (grepl("^(<!doctype html|<html|<head)", start)) what <- "a web page"
    else if (grepl("^<\\?xml|^<svg", start)) what <- "an XML document"
    else if (grepl("^[{]\\\\rtf", start)) what <- "a rich text document"
  }
  if (is.null(what)) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0("The data file \"", path, "\" is no table of text."),
      x = paste0("Its first bytes are those of ", what, "."),
      i = if (grepl("workbook", what)) {
        "Give it its own ending, `.xlsx` or `.xls`, to have it read as a workbook."
      } else if (grepl("gzip", what)) {
        "Give it the ending `.gz` after its own, such as `.csv.gz`."
      } else if (what == "a web page") {
        "A page that asks to log in may have been saved in place of the file; fetch the file again."
      } else {
        "Export the table as comma-separated text."
      }
    ),
    call
  )
}

# What a gzipped file says of itself at its end must be so: the length of what is in it, and its
# checksum (RFC 1952). Files of several members end with the last one's; they are taken as they are.
check_gzip_whole <- function(path, n_bytes, call) {
  size <- file.size(path)
  cut <- size < 18
  if (!cut) {
    connection <- file(path, "rb")
    on.exit(close(connection))
    bytes <- readBin(connection, "raw", size)
    ends <- utils::tail(bytes, 4)
    told <- sum(as.integer(ends) * 256^(0:3))
    members <- gzip_members(bytes)
    cut <- members == 1 && told != n_bytes %% 2^32 ||
      members == 1 && size < largest_checked &&
        inherits(try(memDecompress(bytes, "gzip"), silent = TRUE), "try-error")
  }
  if (!cut) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0("The data file \"", path, "\" is not whole."),
      x = "It is cut short or damaged: its length or its checksum is not what its end says.",
      i = "Copy or download it again."
    ),
    call
  )
}
largest_checked <- 50e6 # bytes of a gzipped file whose checksum is worked out

# How many members a gzipped file begins, by their first three bytes and flags.
gzip_members <- function(bytes) {
  first <- which(bytes == as.raw(0x1f))
  first <- first[first + 3 <= length(bytes)]
  sum(
    bytes[first + 1] == as.raw(0x8b) & bytes[first + 2] == as.raw(8) &
      bytes[first + 3] < as.raw(0x20)
  )
}
