# Rules of the written file: its size, page, fonts, resolution.

proof_file <- function(path, scene, plate, call) {
  check_file(path, "written", call)
  limits <- plate$house$limits
  size <- file.size(path) / 1e6
  format <- tolower(tools::file_ext(path))
  c(
    list(finding("file format", format, paste(limits$formats, collapse = ", "), if (format %in% limits$formats) "good" else "bad", basename(path), "Save in one of the formats the house names."),
         finding("file size", paste(format(round(size, 2)), "MB"), paste("at most", limits$file_mb, "MB"), if (size <= limits$file_mb) "good" else "bad", basename(path), "Save with `dense = \"image\"`, or thin the data.")),
    switch(format, pdf = proof_pdf(path, scene), png = proof_png(path, scene, limits), list())
  )
}

proof_pdf <- function(path, scene) {
  text <- ascii_bytes_cpp(readBin(path, "raw", file.size(path)))
  boxes <- regmatches(text, gregexpr("/MediaBox \\[[^]]*\\]", text))[[1]]
  box <- as.numeric(strsplit(trimws(gsub("[^0-9. ]", "", utils::tail(boxes, 1))), " +")[[1]])
  size <- round(box[3:4] * 25.4 / 72, 2)
  right <- all(abs(size - c(scene$page$width_mm, scene$page$height_mm)) < 0.1)
  times <- function(words) lengths(regmatches(text, gregexpr(words, text, fixed = TRUE)))
  descriptors <- times("/Type /FontDescriptor")
  embedded <- times("/FontFile")
  bitmap <- grepl("/Subtype /Type3", text, fixed = TRUE)
  list(
    finding("page of the file", paste(size, collapse = " by "), paste(scene$page$width_mm, "by", scene$page$height_mm, "mm"), if (right) "good" else "bad", basename(path), "Save the plate again."),
    finding("fonts embedded", paste(embedded, "of", descriptors), "all", if (embedded >= descriptors) "good" else "bad", basename(path), "Save with `save_plate()`, which embeds fonts."),
    finding("bitmap fonts", if (bitmap) "some" else "none", "none", if (bitmap) "bad" else "good", basename(path), "Choose a family that has outlines in the house's `families`.")
  )
}

proof_png <- function(path, scene, limits) {
  bytes <- readBin(path, "raw", 32)
  pixels <- sum(as.integer(bytes[17:20]) * 256^(3:0))
  dpi <- pixels / scene$page$width_mm * 25.4
  list(finding("resolution of the file", paste(round(dpi), "dpi"), paste("at least", limits$image_dpi, "dpi"), if (dpi >= limits$image_dpi - 1) "good" else "bad", basename(path),
               paste0("Save with `dpi = ", limits$image_dpi, "` or more.")))
}

#' @export
print.nelvat_proof <- function(x, ...) {
  writeLines(format(x, ...))
  invisible(x)
}

#' @export
format.nelvat_proof <- function(x, width = NULL, ...) {
  n <- table(factor(x$verdict, c("good", "look", "bad")))
  lines <- unlist(lapply(seq_len(nrow(x)), function(i) {
    first <- paste0("  ", formatC(x$verdict[i], width = -5), " ", x$rule[i], ": ", x$measured[i], if (nzchar(x$limit[i])) paste0(" (", x$limit[i], ")"))
    if (x$verdict[i] == "good") return(first)
    c(first, paste0("          where: ", x$where[i]), paste0("          mend:  ", x$mend[i]))
  }))
  c(paste0("Proof: ", n[["good"]], " good, ", n[["look"]], " to look at, ", n[["bad"]], " bad"), lines)
}
