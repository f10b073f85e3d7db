# Rules of the written file: its size, page, fonts, resolution.

proof_file <- function(path, scene, plate, call) {
  check_file(path, "written", call)
  limits <- plate$house$limits
  size <- file.size(path) / 1e6
  format <- tolower(tools::file_ext(path))
  c(
    list(
      finding(
        "file format",
        format,
        paste(limits$formats, collapse = ", "),
        if (format %in% limits$formats) "good" else "bad",
        basename(path),
        "Save in one of the formats the house names."
      ),
      finding(
        "file size",
        paste(format(round(size, 2)), "MB"),
        paste("at most", limits$file_mb, "MB"),
        if (size <= limits$file_mb) "good" else "bad",
        basename(path),
        "Save with `dense = \"image\"`, or thin the data."
      )
    ),
    switch(
      format,
      pdf = proof_pdf(path, scene),
      eps = proof_eps(path, scene),
      png = proof_png(path, scene, limits),
      list()
    )
  )
}

# The page and fonts of a PDF of either form; one that cannot be read is a finding.
proof_pdf <- function(path, scene) {
  file <- tryCatch(read_pdf(file_bytes(path)), error = identity)
  if (inherits(file, "error")) {
    remedy <- "Save the plate again."
    return(
      list(
        finding(
          "page of the file",
          "cannot be read",
          conditionMessage(file),
          "bad",
          basename(path),
          remedy
        )
      )
    )
  }
  texts <- vapply(file$objects, `[[`, "", "text")
  pages <- texts[grepl("/Type\\s*/Page\\b", texts)]
  boxes <- lapply(pages, pdf_numbers, "MediaBox")
  size <- if (length(boxes) && length(boxes[[1]]) == 4) {
    boxes[[1]][3:4] - boxes[[1]][1:2]
  } else {
    c(NA_real_, NA_real_)
  }
  fonts <- texts[grepl("/Type\\s*/FontDescriptor\\b", texts)]
  embedded <- sum(grepl("/FontFile[23]?\\s", fonts))
  bitmap <- any(grepl("/Subtype\\s*/Type3\\b", texts))
  list(
    page_finding(path, size, scene),
    finding(
      "fonts embedded",
      paste(embedded, "of", length(fonts)),
      "all",
      if (embedded >= length(fonts)) "good" else "bad",
      basename(path),
      "Save with `save_plate()`, which embeds fonts."
    ),
    finding(
      "bitmap fonts",
      if (bitmap) "some" else "none",
      "none",
      if (bitmap) "bad" else "good",
      basename(path),
      "Choose a family that has outlines in the house's `families`."
    )
  )
}

# size_pt: width and height of the page in points.
page_finding <- function(path, size_pt, scene) {
  size_mm <- round(size_pt * 25.4 / 72, 2)
  right <- !anyNA(size_mm) && all(abs(size_mm - c(scene$page$width_mm, scene$page$height_mm)) < 0.1)
  finding(
    "page of the file",
    paste(size_mm, collapse = " by "),
    paste(scene$page$width_mm, "by", scene$page$height_mm, "mm"),
    if (right) "good" else "bad",
    basename(path),
    "Save the plate again."
  )
}

# The page of an EPS file.
proof_eps <- function(path, scene) {
  text <- ascii_bytes_cpp(file_bytes(path))
  box <- function(name) {
    found <- regmatches(text, regexpr(paste0("%%", name, ": [-0-9. ]+"), text))
    as.numeric(strsplit(sub("^[^:]*: ", "", found), " +")[[1]])
  }
  exact <- grepl("%%HiResBoundingBox: ", text, fixed = TRUE)
  corners <- if (exact) box("HiResBoundingBox") else if (
    grepl("%%BoundingBox: ", text, fixed = TRUE)
  ) box("BoundingBox") else rep(NA_real_, 4)
  list(page_finding(path, corners[3:4] - corners[1:2], scene))
}

proof_png <- function(path, scene, limits) {
  bytes <- readBin(path, "raw", 32)
  pixels <- sum(as.integer(bytes[17:20]) * 256^(3:0))
  dpi <- pixels / scene$page$width_mm * 25.4
  list(
    finding(
      "resolution of the file",
      paste(round(dpi), "dpi"),
      paste("at least", limits$image_dpi, "dpi"),
      if (dpi >= limits$image_dpi - 1) "good" else "bad",
      basename(path),
      paste0("Save with `dpi = ", limits$image_dpi, "` or more.")
    )
  )
}
