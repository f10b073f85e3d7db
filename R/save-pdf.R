# PDF by R's cairo device, which embeds fonts and keeps text as text. That device has
# two limits: it cuts pages to whole points, and it sets letters on a grid of one
# unit. So two pages are drawn, the plate without its text at true size, and its text
# `text_scale` times as large. An incremental update (ISO 32000-1, section 7.5.6)
# then makes one page of them, of the exact size: the second page's content becomes a
# form (section 8.10) that is set over the first at its true size.

text_scale <- 50

save_pdf <- function(scene, path, dpi) {
  page <- scene$page
  inches <- c(page$width_mm, page$height_mm) / 25.4
  grDevices::cairo_pdf(path, width = inches[1] * text_scale, height = inches[2] * text_scale, bg = "transparent", onefile = TRUE)
  draw_and_close(list(
    scene_grob(scene, parts = "all but texts", corner = TRUE), scene_grob(scene, text_scale, parts = "texts", corner = TRUE)
  ))
  pdf <- undated(readBin(path, "raw", file.size(path)))
  writeBin(one_page(pdf, inches * 72, text_scale, pdf_info(scene)), path)
}

# Cairo's own date of making, set to a fixed one of the same length.
undated <- function(pdf) {
  found <- regexpr("/CreationDate \\(D:[0-9]{14}", pdf_text(pdf))
  if (found > 0) pdf[found + attr(found, "match.length") - 14 + 0:13] <- charToRaw("19700101000000")
  pdf
}

# Makes one page of the two. pdf: the bytes of a file by cairo with a plain
# cross-reference table; size_pt: of the page; info: its information dictionary.
one_page <- function(pdf, size_pt, scale, info) {
  text <- pdf_text(pdf)
  trailer <- found_once("(?s)trailer\\s*<<.*?>>", text)
  tree <- number_after("/Pages ", pdf_object(text, number_after("/Root ", trailer)))
  pages <- pdf_object(text, tree)
  kids <- as.integer(strsplit(trimws(found_once("(?<=/Kids \\[)[^]]*", pages)), " 0 R ?")[[1]])
  base <- pdf_object(text, kids[1])
  over <- pdf_object(text, kids[2])
  drawn_pt <- as.numeric(strsplit(found_once("(?<=/MediaBox \\[ )[^]]+", base), " ")[[1]][3:4])
  free <- number_after("/Size ", trailer)
  resources <- number_after("/Resources ", base)
  objects <- list(
    page = page_object(base, size_pt, c(free, number_after("/Contents ", base), free + 1L)),
    pages = sub("/Count 2", "/Count 1", sub("/Kids \\[[^]]*\\]", paste0("/Kids [ ", kids[1], " 0 R ]"), pages)),
    resources = with_form(pdf_object(text, resources), free + 2L),
    before = pdf_stream(free, paste("q", corner_matrix(1, size_pt, drawn_pt), "cm")),
    after = pdf_stream(free + 1L, "Q /NelvatText Do"),
    form = form_object(free + 2L, pdf, text, over, corner_matrix(scale, size_pt, drawn_pt), drawn_pt),
    info = charToRaw(paste0(number_after("/Info ", trailer), " 0 obj\n", info, "\nendobj"))
  )
  numbers <- c(kids[1], tree, resources, free + 0:2, number_after("/Info ", trailer))
  append_update(pdf, objects, numbers, trailer, free + 3L, text)
}

# A drawing of `drawn_pt`, `scale` times too large, to its true size, its top left
# corner on the page's.
corner_matrix <- function(scale, size_pt, drawn_pt) {
  format_pt(c(1 / scale, 0, 0, 1 / scale, 0, size_pt[2] - drawn_pt[2] / scale))
}

page_object <- function(page, size_pt, contents) {
  page <- sub("/MediaBox \\[[^]]*\\]", paste0("/MediaBox [ 0 0 ", format_pt(size_pt), " ]"), page)
  sub("/Contents \\d+ 0 R", paste0("/Contents [ ", paste0(contents, " 0 R", collapse = " "), " ]"), page)
}

# The resources of the page with the form among their outside objects.
with_form <- function(resources, number) {
  entry <- paste0("/NelvatText ", number, " 0 R")
  if (grepl("/XObject <<", resources, fixed = TRUE)) return(sub("/XObject <<", paste("/XObject <<", entry), resources, fixed = TRUE))
  sub("<<", paste0("<< /XObject << ", entry, " >>"), resources, fixed = TRUE)
}

form_object <- function(number, pdf, text, page, matrix, drawn_pt) {
  contents <- number_after("/Contents ", page)
  start <- regexpr(paste0("(?s)(?<=\n)", contents, " 0 obj\n.*?stream\n"), text, perl = TRUE)
  length <- as.integer(found_once("(?<=obj\n)\\s*\\d+", pdf_object(text, number_after("/Length ", pdf_object(text, contents)))))
  bytes <- pdf[start + attr(start, "match.length") - 1L + seq_len(length)]
  head <- paste0(
    number, " 0 obj\n<< /Type /XObject /Subtype /Form /BBox [ 0 0 ", format_pt(drawn_pt), " ] /Matrix [ ", matrix, " ]",
    " /Resources ", number_after("/Resources ", page), " 0 R /Length ", length, " /Filter /FlateDecode >>\nstream\n"
  )
  c(charToRaw(head), bytes, charToRaw("\nendstream\nendobj"))
}

pdf_stream <- function(number, content) {
  paste0(number, " 0 obj\n<< /Length ", nchar(content), " >>\nstream\n", content, "\nendstream\nendobj")
}

# Reading -------------------------------------------------------------------------

# Bytes as one string of the same length, those of streams made harmless.
pdf_text <- function(pdf) ascii_bytes_cpp(pdf)

pdf_object <- function(text, number) found_once(paste0("(?s)(?<=\n)", number, " 0 obj\n.*?endobj"), text)

number_after <- function(name, within) as.integer(found_once(paste0("(?<=", name, ")\\d+"), within))

found_once <- function(pattern, within) {
  found <- regmatches(within, regexpr(pattern, within, perl = TRUE))
  if (length(found)) return(found)
  abort_nelvat("device", c(
    "R's cairo device wrote a PDF of a form that cannot be brought to its exact size.",
    i = paste0("Its version of cairo is \"", grDevices::grSoftVersion()[["cairo"]], "\"; 1.16 is known to work.")
  ), call = NULL)
}

# Writing -------------------------------------------------------------------------

format_pt <- function(pt) paste(sub("\\.?0+$", "", formatC(pt, digits = 5, format = "f")), collapse = " ")

append_update <- function(pdf, objects, numbers, trailer, size, text) {
  bytes <- lapply(objects, function(object) c(if (is.raw(object)) object else charToRaw(object), charToRaw("\n")))
  offsets <- length(pdf) + c(0L, cumsum(lengths(bytes)))
  table <- paste0(numbers, " 1\n", sprintf("%010d 00000 n \n", offsets[seq_along(numbers)]), collapse = "")
  previous <- found_once("(?<=startxref\n)\\d+(?=\\s*%%EOF\\s*$)", text)
  trailer <- sub("/Size \\d+", paste0("/Size ", size, " /Prev ", previous), trailer)
  end <- paste0("xref\n", table, trailer, "\nstartxref\n", utils::tail(offsets, 1), "\n%%EOF\n")
  c(pdf, unlist(bytes, use.names = FALSE), charToRaw(end))
}
