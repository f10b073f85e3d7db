# Extracted from test-save-formats.R:166

# prequel ----------------------------------------------------------------------
loaves <- study("loaves")
fig <- plate(panel(loaves, x = flour, y = rise, colour = hydration, ink_bars()), width = 80, height = 60, title = "Rise of loaves")
bytes_of <- function(path) readBin(path, "raw", file.size(path))
tiff_tags <- function(bytes) {
  int <- function(at, size) sum(as.integer(bytes[at + seq_len(size)]) * 256^(seq_len(size) - 1))
  start <- int(4, 4)
  n <- int(start, 2)
  data.frame(tag = vapply(seq_len(n), function(i) int(start + 2 + (i - 1) * 12, 2), 0), value = vapply(seq_len(n), function(i) int(start + 2 + (i - 1) * 12 + 8, 4), 0))
}

# test -------------------------------------------------------------------------
path <- withr::local_tempfile(fileext = ".html")
suppressWarnings(report(fig, path))
page <- paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
found <- function(pattern) regmatches(page, gregexpr(pattern, page, perl = TRUE))[[1]]
