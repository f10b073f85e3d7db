# The writers of each format besides PDF: each gives the bytes of a file. What they say in the
# file's metadata: the title, a description and a hash of the figure. Dates are left out, so
# that the same figure gives the same bytes.

png_bytes <- function(scene, dpi) {
  with_png_text(
    drawn_png(scene_grob(scene), scene$page$width_mm, scene$page$height_mm, dpi),
    about_scene(scene)
  )
}

# A drawing of so many millimetres as a PNG that states its resolution.
drawn_png <- function(grob, width_mm, height_mm, dpi) {
  open <- function(path) {
    ragg::agg_png(
      path,
      width = width_mm,
      height = height_mm,
      units = "mm",
      res = dpi,
      background = "white"
    )
  }
  device_bytes("png", open, list(grob))
}

tiff_bytes <- function(scene, dpi) {
  open <- function(path) {
    ragg::agg_tiff(
      path,
      width = scene$page$width_mm,
      height = scene$page$height_mm,
      units = "mm",
      res = dpi,
      background = "white",
      compression = "lzw+p"
    )
  }
  device_bytes("tiff", open, list(scene_grob(scene)))
}

# Text stays text; its length is left to the reader, as fonts there may differ.
svg_bytes <- function(scene, dpi) {
  need_package("svglite", "Writing SVG files", NULL)
  open <- function(path) {
    svglite::svglite(
      path,
      width = scene$page$width_mm / 25.4,
      height = scene$page$height_mm / 25.4,
      bg = "white",
      fix_text_size = FALSE
    )
  }
  lines <- byte_lines(device_bytes("svg", open, list(scene_grob(scene))))
  about <- about_scene(scene)
  head_line <- grep("<svg ", lines)[1]
  size <- paste0(
    "width='",
    dot_number(scene$page$width_mm),
    "mm' height='",
    dot_number(scene$page$height_mm),
    "mm'"
  )
  lines[head_line] <- sub("width='[^']*' height='[^']*'", size, lines[head_line])
  described <- c(
    paste0("<title>", xml_text(about$title), "</title>"),
    paste0("<desc>", xml_text(about$description), "</desc>")
  )
  text_bytes(append(lines, described, head_line))
}

xml_text <- function(text) {
  text <- printable(as.character(text))
  gsub(
    ">",
    "&gt;",
    gsub("<", "&lt;", gsub("&", "&amp;", text, fixed = TRUE), fixed = TRUE),
    fixed = TRUE
  )
}

# A number with a point, whatever options(OutDec) says.
dot_number <- function(number) format(number, decimal.mark = ".", digits = 10)

# Title, description and hash of a scene. The hash is of all that is drawn, so it
# changes with the data, the file and the house alike.
about_scene <- function(scene) {
  list(
    title = scene$title %||% "Figure",
    description = describe_scene(scene),
    # One that was read back keeps the hash that it was written with.
    hash = scene$hash %||% rlang::hash(
      list(scene$page, scene$panels, scene$axes, scene$marks, scene$rules, scene$runs, scene$keys)
    )
  )
}

# PNG -----------------------------------------------------------------------------

# Text chunks (iTXt: PNG specification, section 11.3.4.5) before the image data.
with_png_text <- function(png, about) {
  chunks <- unlist(
    Map(png_text_chunk, c("Title", "Description", "Nelvat hash"), unlist(about)),
    use.names = FALSE
  )
  before <- first_image_chunk(png) - 1
  c(png[seq_len(before)], chunks, png[-seq_len(before)])
}

# Where the first IDAT chunk begins: chunks follow the 8 bytes of signature, each of a
# length, a type, so many bytes, and a checksum.
first_image_chunk <- function(png) {
  offset <- 9
  while (rawToChar(png[offset + 4:7]) != "IDAT") {
    offset <- offset + 12 + sum(as.integer(png[offset + 0:3]) * 256^(3:0))
  }
  offset
}

png_text_chunk <- function(key, text) {
  body <- c(charToRaw(key), as.raw(c(0, 0, 0, 0, 0)), charToRaw(enc2utf8(text)))
  typed <- c(charToRaw("iTXt"), body)
  c(big_endian(length(body)), typed, crc32_cpp(typed))
}

big_endian <- function(number) as.raw(number %/% 256^(3:0) %% 256)
