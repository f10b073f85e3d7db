# PDF by R's cairo device, which embeds fonts and keeps text as text. That device
# has two limits: it cuts the page to whole points, and sets letters on a grid of
# one unit. So the plate is drawn `pdf_scale` times as large, and the page is put
# back to size by an incremental update (ISO 32000-1, section 7.5.6): a scaling
# matrix before the page's contents and a media box of the exact size.

pdf_scale <- 50

save_pdf <- function(scene, path, dpi) {
  page <- scene$page
  grDevices::cairo_pdf(path, width = page$width_mm / 25.4 * pdf_scale, height = page$height_mm / 25.4 * pdf_scale, bg = "white")
  draw_and_close(as_grob(scene, scale = pdf_scale))
  size_pt <- c(page$width_mm, page$height_mm) * 72 / 25.4
  pdf <- readBin(path, "raw", file.size(path))
  writeBin(pdf_resized(pdf, size_pt, pdf_scale), path)
}

# pdf: the bytes of a one-page file with a cross-reference table.
pdf_resized <- function(pdf, size_pt, scale) {
  text <- pdf_text(pdf)
  trailer <- regmatches(text, regexpr("(?s)trailer\\s*<<.*?>>", text, perl = TRUE))
  page <- regmatches(text, regexpr("(?s)(?<=\n)\\d+ 0 obj\n<< /Type /Page\\b(?!s).*?endobj", text, perl = TRUE))
  if (!length(trailer) || !length(page)) {
    abort_nelvat("device", "R's cairo device wrote a PDF of a form that cannot be brought to size.")
  }
  number <- function(pattern, within) as.integer(regmatches(within, regexpr(pattern, within, perl = TRUE)))
  size <- number("(?<=/Size )\\d+", trailer)
  contents <- number("(?<=/Contents )\\d+", page)
  drawn_pt <- as.numeric(strsplit(regmatches(page, regexpr("(?<=/MediaBox \\[ )[^]]+", page, perl = TRUE)), " ")[[1]][3:4])
  matrix <- pdf_matrix(scale, size_pt, drawn_pt)
  page <- sub("/MediaBox \\[[^]]*\\]", paste0("/MediaBox [ 0 0 ", paste(format_pt(size_pt), collapse = " "), " ]"), page)
  page <- sub("/Contents \\d+ 0 R", paste0("/Contents [ ", size, " 0 R ", contents, " 0 R ]"), page)
  info <- number("(?<=/Info )\\d+", trailer)
  objects <- list(
    page, paste0(size, " 0 obj\n<< /Length ", nchar(matrix), " >>\nstream\n", matrix, "\nendstream\nendobj"),
    paste0(info, " 0 obj\n<< /Producer (Nelvat) >>\nendobj")
  )
  append_update(pdf, objects, c(number("^\\d+", page), size, info), trailer, size + 1L, text)
}

# The device cuts its page to whole units and measures y from the top: the drawing
# is scaled about its top left corner.
pdf_matrix <- function(scale, size_pt, drawn_pt) {
  shift <- size_pt[2] - drawn_pt[2] / scale
  paste(paste(format_pt(c(1 / scale, 0, 0, 1 / scale, 0, shift)), collapse = " "), "cm")
}

format_pt <- function(pt) sub("\\.?0+$", "", formatC(pt, digits = 5, format = "f"))

# Bytes as one string, those of streams made harmless.
pdf_text <- function(pdf) {
  pdf[pdf == as.raw(0) | pdf > as.raw(0x7e)] <- as.raw(0x3f)
  rawToChar(pdf)
}

append_update <- function(pdf, objects, numbers, trailer, size, text) {
  start <- length(pdf) + 1L
  lengths <- nchar(unlist(objects)) + 1L
  offsets <- start + c(0L, cumsum(lengths))
  entries <- paste0(numbers, " 1\n", sprintf("%010d 00000 n \n", offsets[seq_along(numbers)]), collapse = "")
  previous <- regmatches(text, regexpr("(?<=startxref\n)\\d+(?=\\s*%%EOF\\s*$)", text, perl = TRUE))
  trailer <- sub("/Size \\d+", paste0("/Size ", size, " /Prev ", previous), trailer)
  update <- paste0(
    "\n", paste0(unlist(objects), "\n", collapse = ""), "xref\n", entries, trailer, "\nstartxref\n", utils::tail(offsets, 1), "\n%%EOF\n"
  )
  c(pdf, charToRaw(update))
}
