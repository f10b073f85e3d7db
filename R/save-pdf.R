# PDF by R's cairo device, which embeds fonts and keeps text as text. That device has
# two limits: it cuts pages to whole points, and it sets letters on a grid of one unit.
# So the plate is drawn larger, and the file is written anew with what was drawn as a form
# (ISO 32000-1, section 8.10) set on a page of the exact size.
#
# Letters are right to 0.005 mm from 50 times their size on; but marks grow in bytes with their
# scale, as their numbers get longer and what cairo curves gets more pieces (bench/formats.R). So
# text and marks are two pages of one file, each a form at its own scale; symbols of points are
# written into the latter, see save-symbols.R. Plots of other packages hold lengths that do not
# grow: each is a page at true size.
marks_scale <- 2
text_scale <- 50

pdf_bytes <- function(scene, dpi) {
  apart <- symbols_apart(scene)
  if (length(apart$of)) {
    bytes <- tryCatch(layered_pdf(scene, apart), nelvat_error_pdf = function(error) NULL)
    if (!is.null(bytes)) return(bytes)
  }
  tryCatch(
    layered_pdf(scene, list(scene = scene)),
    nelvat_error_pdf = function(error) plain_pdf(scene, error)
  )
}

# apart: see symbols_apart().
layered_pdf <- function(scene, apart) {
  pictures <- picture_grobs(scene)
  pages <- c(
    list(scene_grob(apart$scene, marks_scale, "marks", corner = TRUE)),
    pictures,
    list(scene_grob(scene, text_scale, "texts", corner = TRUE))
  )
  scales <- c(marks_scale, rep(1, length(pictures)), text_scale)
  exact_pdf(cairo_pdf_bytes(scene, pages, max(scales)), scene, scales, apart$of)
}

# All pages of a file by cairo have one size, `scale` times that of the plate.
cairo_pdf_bytes <- function(scene, pages, scale) {
  size_pt <- ceiling(page_pt(scene) * scale)
  open <- function(path) {
    grDevices::cairo_pdf(
      path,
      width = size_pt[1] / 72,
      height = size_pt[2] / 72,
      bg = "transparent",
      onefile = TRUE
    )
  }
  device_bytes("pdf", open, pages)
}

page_pt <- function(scene) c(scene$page$width_mm, scene$page$height_mm) * 72 / 25.4

# One page of the exact size, made of the pages that cairo drew at `scales`; `apart` go into the
# first of them.
exact_pdf <- function(bytes, scene, scales, apart = list()) {
  file <- read_pdf(bytes)
  objects <- file$objects[!is_structural(file$objects)]
  objects[as.character(file$info)] <- NULL
  tree <- pdf_reference(pdf_at(objects, file$root)$text, "Pages")
  pages <- page_kids(objects, tree)
  if (length(pages) != length(scales)) {
    abort_pdf(
      paste("it has", counted(length(pages), "page"), "where", length(scales), "were drawn")
    )
  }
  size_pt <- page_pt(scene)
  forms <- vapply(pages, function(page) pdf_reference(pdf_at(objects, page)$text, "Contents"), 0)
  if (anyNA(forms)) abort_pdf("its pages are not of one piece")
  check_text_drawn(objects, scene)
  if (length(apart)) {
    content <- as.character(forms[1])
    stream <- with_symbols(pdf_stream_bytes(objects[[content]]), apart, scene, scales[1])
    objects[[content]] <- list(
      text = "<< /Filter /FlateDecode >>",
      stream = memCompress(stream, "gzip")
    )
  }
  for (i in seq_along(pages)) {
    objects[[as.character(forms[i])]] <- as_form(objects, pages[i], forms[i], scales[i], size_pt)
  }
  new <- max(as.numeric(names(objects))) + 1:2
  objects[[as.character(pages[1])]] <- list(
    text = page_text(objects, pages[1], tree, forms, new[1], size_pt)
  )
  objects[as.character(pages[-1])] <- NULL
  objects[[as.character(tree)]] <- list(
    text = paste0("<< /Type /Pages /Kids [ ", pages[1], " 0 R ] /Count 1 >>")
  )
  objects[[as.character(new[1])]] <- content_stream(forms)
  objects[[as.character(new[2])]] <- list(text = pdf_info(scene))
  write_pdf(objects, file$root, new[2])
}

# A font that the measuring found, but the device did not, would leave a page without words.
check_text_drawn <- function(objects, scene) {
  has_font <- any(vapply(objects, function(object) grepl("/Type\\s*/Font\\b", object$text), NA))
  if (has_font || !any(nzchar(trimws(scene$runs$string)))) return(invisible())
  abort_nelvat(
    "font",
    c(
      paste0("R's cairo device found no font to set text in, so the PDF would be without words."),
      i = paste0(
        "Install the font \"",
        scene$font$family,
        "\" so that fontconfig finds it, and start R again."
      )
    ),
    call = NULL
  )
}

# Objects that only say where others are.
is_structural <- function(objects) {
  vapply(objects, function(object) grepl("/Type\\s*/(ObjStm|XRef)\\b", object$text), NA)
}

pdf_at <- function(objects, number) {
  objects[[as.character(number)]] %||% abort_pdf(paste("object", number, "is missing"))
}

page_kids <- function(objects, tree) {
  kids <- regmatches(
    pdf_at(objects, tree)$text,
    regexpr("/Kids\\s*\\[[^]]*\\]", pdf_at(objects, tree)$text)
  )
  as.numeric(sub(" .*$", "", regmatches(kids, gregexpr("\\d+ \\d+ R", kids))[[1]]))
}

# The content of a page as a form: scaled to true size, its top left corner on the page's.
as_form <- function(objects, page, content, scale, size_pt) {
  text <- pdf_at(objects, page)$text
  drawn_pt <- pdf_numbers(text, "MediaBox")[3:4]
  stream <- pdf_at(objects, content)
  packed <- pdf_written(stream$text, "Filter")
  if (!is.null(pdf_written(stream$text, "DecodeParms"))) {
    abort_pdf("its drawing is packed in an unknown way")
  }
  dictionary <- paste0(
    "<< /Type /XObject /Subtype /Form /BBox [ 0 0 ",
    format_pt(drawn_pt),
    " ]",
    " /Matrix [ ",
    format_pt(c(1 / scale, 0, 0, 1 / scale, 0, size_pt[2] - drawn_pt[2] / scale)),
    " ]",
    " /Resources ",
    pdf_written(text, "Resources") %||% "<< >>",
    " /Length ",
    length(stream$stream),
    if (!is.null(packed)) paste(" /Filter", packed),
    " >>"
  )
  list(text = dictionary, stream = stream$stream)
}

page_text <- function(objects, page, tree, forms, content, size_pt) {
  group <- pdf_written(pdf_at(objects, page)$text, "Group")
  paste0(
    "<< /Type /Page /Parent ",
    tree,
    " 0 R /MediaBox [ 0 0 ",
    format_pt(size_pt),
    " ] /Contents ",
    content,
    " 0 R",
    if (!is.null(group)) paste0(" /Group ", group),
    " /Resources << /XObject << ",
    paste0("/Drawn", seq_along(forms), " ", forms, " 0 R", collapse = " "),
    " >> >> >>"
  )
}

content_stream <- function(forms) {
  content <- paste0("q /Drawn", seq_along(forms), " Do Q", collapse = " ")
  list(text = paste0("<< /Length ", nchar(content), " >>"), stream = charToRaw(content))
}

format_pt <- function(pt) {
  digits <- formatC(pt, digits = 6, format = "f", decimal.mark = ".")
  paste(sub("\\.?0+$", "", digits), collapse = " ")
}

# A file of these objects, with a plain cross-reference table (section 7.5.4).
write_pdf <- function(objects, root, info) {
  objects <- objects[order(as.numeric(names(objects)))]
  numbers <- as.numeric(names(objects))
  head <- c(charToRaw("%PDF-1.7\n%"), as.raw(c(0xe2, 0xe3, 0xcf, 0xd3, 0x0a)))
  pieces <- pdf_pieces(objects)
  offsets <- length(head) + c(0, cumsum(lengths(pieces)))
  table <- rep("0000000000 65535 f ", max(numbers) + 1)
  table[numbers + 1] <- sprintf("%010.0f 00000 n ", offsets[seq_along(numbers)])
  size <- max(numbers) + 1
  tail <- c(
    paste0("xref\n0 ", size),
    table,
    paste0("trailer\n<< /Size ", size, " /Root ", root, " 0 R /Info ", info, " 0 R >>"),
    "startxref",
    sprintf("%.0f", offsets[length(offsets)]),
    "%%EOF"
  )
  c(head, unlist(pieces, use.names = FALSE), text_bytes(tail))
}

# Where cairo's file cannot be read, the plate as cairo draws it at true size.
plain_pdf <- function(scene, error) {
  bytes <- undated(cairo_pdf_bytes(scene, list(scene_grob(scene, 1, corner = TRUE)), 1))
  off_mm <- (ceiling(page_pt(scene)) - page_pt(scene)) * 25.4 / 72
  warn_nelvat(
    "device",
    c(
      paste0(
        "The page of the PDF is ",
        ceiling(max(off_mm) * 100),
        " hundredths of a millimetre too large."
      ),
      x = paste0(conditionMessage(error), " So it was saved as R's cairo device made it."),
      i = paste0(
        "Its version of cairo is ",
        grDevices::grSoftVersion()[["cairo"]],
        "; please tell the makers of Nelvat."
      )
    )
  )
  bytes
}

# Cairo's own date of making, set to a fixed one of the same length; the rest of it is the
# time zone.
undated <- function(pdf) {
  found <- regexpr("/CreationDate \\(D:[^)]*\\)", ascii_bytes_cpp(pdf))
  if (found < 0) return(pdf)
  length <- attr(found, "match.length") - nchar("/CreationDate (D:)")
  fixed <- formatC(substr("19700101000000Z", 1, length), width = -length)
  pdf[found + nchar("/CreationDate (D:") - 1 + seq_len(length)] <- charToRaw(fixed)
  pdf
}

# Title, description and hash, and no date but one that SOURCE_DATE_EPOCH asks for.
pdf_info <- function(scene) {
  about <- about_scene(scene)
  epoch <- Sys.getenv("SOURCE_DATE_EPOCH")
  made <- if (grepl("^[0-9]+$", epoch)) {
    time <- as.POSIXct(as.numeric(epoch), origin = "1970-01-01", tz = "UTC")
    paste0(" /CreationDate (D:", format(time, "%Y%m%d%H%M%SZ", tz = "UTC"), ")")
  }
  paste0(
    "<< /Producer (Nelvat) /Title ",
    pdf_text(about$title),
    " /Subject ",
    pdf_text(about$description),
    " /Keywords (",
    about$hash,
    ")",
    made,
    " >>"
  )
}
