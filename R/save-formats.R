# The writers of each format besides PDF, and what they say in the file's metadata: the
# title, a description and a hash of the figure. Dates are left out, or are those of
# SOURCE_DATE_EPOCH where the format must have one, so that the same figure gives the same
# bytes.

save_png <- function(scene, path, dpi) {
  grDevices::png(path, width = scene$page$width_mm, height = scene$page$height_mm, units = "mm", res = dpi,
                 type = "cairo", antialias = "subpixel", bg = "white")
  draw_and_close(list(scene_grob(scene)))
  about <- about_scene(scene)
  writeBin(with_png_text(readBin(path, "raw", file.size(path)), about), path)
}

save_tiff <- function(scene, path, dpi) {
  grDevices::tiff(path, width = scene$page$width_mm, height = scene$page$height_mm, units = "mm", res = dpi, type = "cairo", compression = "lzw", bg = "white")
  draw_and_close(list(scene_grob(scene)))
}

# Text stays text; its length is left to the reader, as fonts there may differ.
save_svg <- function(scene, path, dpi) {
  need_package("svglite", "Writing SVG files", NULL)
  svglite::svglite(path, width = scene$page$width_mm / 25.4, height = scene$page$height_mm / 25.4, bg = "white", fix_text_size = FALSE)
  draw_and_close(list(scene_grob(scene)))
  about <- about_scene(scene)
  lines <- readLines(path, encoding = "UTF-8", warn = FALSE)
  at <- grep("<svg ", lines)[1]
  size <- paste0("width='", format(scene$page$width_mm), "mm' height='", format(scene$page$height_mm), "mm'")
  lines[at] <- sub("width='[^']*' height='[^']*'", size, lines[at])
  described <- c(paste0("<title>", xml_text(about$title), "</title>"), paste0("<desc>", xml_text(about$description), "</desc>"))
  writeLines(enc2utf8(append(lines, described, at)), path, useBytes = TRUE)
}

# EPS knows no transparency: cairo makes an image of what is see-through.
save_eps <- function(scene, path, dpi) {
  grDevices::cairo_ps(path, width = scene$page$width_mm / 25.4, height = scene$page$height_mm / 25.4, bg = "white", onefile = FALSE, fallback_resolution = dpi)
  draw_and_close(list(scene_grob(scene)))
  lines <- readLines(path, warn = FALSE, encoding = "latin1")
  about <- about_scene(scene)
  lines <- lines[!grepl("^%%CreationDate:", lines, useBytes = TRUE)]
  title <- paste0("%%Title: ", iconv(about$title, "UTF-8", "ASCII", sub = "?"))
  writeLines(append(lines, title, 1), path, useBytes = TRUE)
}

xml_text <- function(text) gsub(">", "&gt;", gsub("<", "&lt;", gsub("&", "&amp;", text, fixed = TRUE), fixed = TRUE), fixed = TRUE)

# Title, description and hash of a scene. The hash is of all that is drawn, so it
# changes with the data, the file and the house alike.
about_scene <- function(scene) {
  list(
    title = scene$title %||% "Figure", description = describe_scene(scene),
    hash = rlang::hash(list(scene$page, scene$panels, scene$axes, scene$marks, scene$rules, scene$runs, scene$keys))
  )
}

# PNG -----------------------------------------------------------------------------

# Text chunks (iTXt: PNG specification, section 11.3.4.5) before the image data.
with_png_text <- function(png, about) {
  chunks <- unlist(Map(png_text_chunk, c("Title", "Description", "Nelvat hash"), unlist(about)), use.names = FALSE)
  before <- first_image_chunk(png) - 1
  c(png[seq_len(before)], chunks, png[-seq_len(before)])
}

# Where the first IDAT chunk begins: chunks follow the 8 bytes of signature, each of a
# length, a type, so many bytes, and a checksum.
first_image_chunk <- function(png) {
  at <- 9
  while (rawToChar(png[at + 4:7]) != "IDAT") at <- at + 12 + sum(as.integer(png[at + 0:3]) * 256^(3:0))
  at
}

png_text_chunk <- function(key, text) {
  body <- c(charToRaw(key), as.raw(c(0, 0, 0, 0, 0)), charToRaw(enc2utf8(text)))
  typed <- c(charToRaw("iTXt"), body)
  c(big_endian(length(body)), typed, crc32_cpp(typed))
}

big_endian <- function(number) as.raw(number %/% 256^(3:0) %% 256)

# PDF -------------------------------------------------------------------------------

# A text of a PDF: UTF-16BE with its mark, in hexadecimal (ISO 32000-1, section 7.9.2).
pdf_string <- function(text) {
  bytes <- iconv(enc2utf8(text), "UTF-8", "UTF-16BE", toRaw = TRUE)[[1]]
  paste0("<FEFF", paste(toupper(format(bytes)), collapse = ""), ">")
}

pdf_info <- function(scene) {
  about <- about_scene(scene)
  epoch <- Sys.getenv("SOURCE_DATE_EPOCH")
  date <- if (grepl("^[0-9]+$", epoch)) paste0(" /CreationDate (D:", format(as.POSIXct(as.numeric(epoch), origin = "1970-01-01", tz = "UTC"), "%Y%m%d%H%M%SZ"), ")")
  paste0("<< /Producer (Nelvat) /Title ", pdf_string(about$title), " /Subject ", pdf_string(about$description), " /Keywords (", about$hash, ")", date, " >>")
}
