# A book as PDF: each figure and each legend is drawn as a page of its own, then becomes a form
# (ISO 32000-1, section 8.10) on a page of the book; bookmarks lead to the figures (section 12.3.3).

book_page_mm <- c(210, 297)
book_margin_mm <- 20
legend_gap_mm <- 4

book_pdf <- function(plates, numbers, legends, title, call) {
  pages <- list()
  entries <- list()
  for (i in seq_along(plates)) {
    figure <- suppressWarnings(book_figure(plates[[i]], names(plates)[i], numbers, legends, call))
    made <- book_figure_pages(figure, plates[[i]]$house)
    entries[[i]] <- list(text = book_entry(figure), page = length(pages) + 1)
    pages <- c(pages, made)
  }
  first <- book_list_pages(title, entries, plates[[1]]$house)
  for (i in seq_along(entries)) entries[[i]]$page <- entries[[i]]$page + length(first)
  joined_pdf(c(first, pages), entries, title %||% "Figures")
}

# Text as a piece of a page: list(bytes, width_mm, height_mm).
text_piece <- function(text, width_mm, house) {
  # As high as any legend; its page then ends below its last line.
  scene <- as_scene(plate(text_panel(text), width = width_mm, height = 280, house = house))
  height_mm <- max(12, ceiling(max(scene$texts$y1, scene$texts$y0)) + 2)
  scene$page$height_mm <- height_mm
  scene$panels$h <- pmin(scene$panels$h, height_mm - scene$panels$y)
  scene_piece(scene)
}

scene_piece <- function(scene) {
  list(
    bytes = pdf_bytes(scene, 600),
    width_mm = scene$page$width_mm,
    height_mm = scene$page$height_mm
  )
}

# The pages of one figure: list(width_mm, height_mm, pieces: list(bytes, x, y), from the upper
# left).
book_figure_pages <- function(figure, house) {
  k <- figure$pages
  lapply(seq_len(k), function(i) {
    drawn_piece <- scene_piece(figure$drawings[[i]])
    width_mm <- max(book_page_mm[1], drawn_piece$width_mm + 2 * book_margin_mm)
    said <- paste0(
      "**",
      plain_markup(figure$number),
      if (k > 1) paste0(", page ", i, " of ", k),
      ".** ",
      if (i == 1) {
        paste0(
          if (nzchar(figure$title)) paste0("**", figure$title, ".** "),
          plain_markup(figure$legend)
        )
      }
    )
    legend <- text_piece(said, width_mm - 2 * book_margin_mm, house)
    height_mm <- max(
      book_page_mm[2],
      drawn_piece$height_mm + legend$height_mm + legend_gap_mm + 2 * book_margin_mm
    )
    below <- book_margin_mm + drawn_piece$height_mm + legend_gap_mm
    list(
      width_mm = width_mm,
      height_mm = height_mm,
      pieces = list(
        c(drawn_piece, x = book_margin_mm, y = book_margin_mm),
        c(legend, x = book_margin_mm, y = below)
      )
    )
  })
}

# Legends are plain text: what would be markup in it stays as it is.
plain_markup <- function(text) gsub("([*^~\\\\])", "\\\\\\1", text)

entries_per_page <- 40

# The first pages: the title, and the list of figures with their pages.
book_list_pages <- function(title, entries, house) {
  n_pages <- ceiling(length(entries) / entries_per_page)
  of_page <- split(entries, ceiling(seq_along(entries) / entries_per_page))
  lapply(seq_along(of_page), function(i) {
    listed_entries <- vapply(
      of_page[[i]],
      function(entry) paste0(plain_markup(entry$text), ", page ", entry$page + n_pages),
      ""
    )
    heading <- if (i == 1) paste0("**", title %||% "Figures", "**\n\n")
    piece <- text_piece(
      paste0(heading, paste(listed_entries, collapse = "\n")),
      book_page_mm[1] - 2 * book_margin_mm,
      house
    )
    list(
      width_mm = book_page_mm[1],
      height_mm = book_page_mm[2],
      pieces = list(c(piece, x = book_margin_mm, y = book_margin_mm))
    )
  })
}

# One file of pages made of pieces, each the bytes of a PDF of one page. entries: list(text, page)
# of bookmarks.
joined_pdf <- function(pages, entries, title) {
  objects <- list()
  next_number <- 3
  tree <- 1
  kids <- numeric()
  for (page in pages) {
    forms <- numeric()
    content <- character()
    for (piece in page$pieces) {
      taken <- piece_objects(piece$bytes, next_number)
      objects <- c(objects, taken$objects)
      next_number <- taken$following
      forms <- c(forms, taken$form)
      low_mm <- page$height_mm - piece$y - piece$height_mm
      content <- c(
        content,
        paste0(
          "q 1 0 0 1 ",
          format_pt(c(piece$x, low_mm) * 72 / 25.4),
          " cm /Piece",
          length(forms),
          " Do Q"
        )
      )
    }
    text <- paste(content, collapse = " ")
    objects[[as.character(next_number)]] <- list(
      text = paste0("<< /Length ", nchar(text), " >>"),
      stream = charToRaw(text)
    )
    objects[[as.character(next_number + 1)]] <- list(
      text = paste0(
        "<< /Type /Page /Parent ",
        tree,
        " 0 R /MediaBox [ 0 0 ",
        format_pt(c(page$width_mm, page$height_mm) * 72 / 25.4),
        " ] /Contents ",
        next_number,
        " 0 R /Resources << /XObject << ",
        paste0("/Piece", seq_along(forms), " ", forms, " 0 R", collapse = " "),
        " >> >> >>"
      )
    )
    kids <- c(kids, next_number + 1)
    next_number <- next_number + 2
  }
  objects[[as.character(tree)]] <- list(
    text = paste0(
      "<< /Type /Pages /Count ",
      length(kids),
      " /Kids [ ",
      paste(kids, "0 R", collapse = " "),
      " ] >>"
    )
  )
  marks <- bookmark_objects(entries, kids, next_number)
  objects <- c(objects, marks$objects)
  objects[["2"]] <- list(
    text = paste0(
      "<< /Type /Catalog /Pages ",
      tree,
      " 0 R /Outlines ",
      next_number,
      " 0 R /PageMode /UseOutlines >>"
    )
  )
  info <- marks$following
  objects[[as.character(info)]] <- list(
    text = paste0("<< /Producer (Nelvat) /Title ", pdf_text(plain_text(title)), " >>")
  )
  write_pdf(objects, 2, info)
}

# The objects of a file of one page, renumbered from a number on; its page as a form.
piece_objects <- function(bytes, from) {
  file <- read_pdf(bytes)
  objects <- file$objects[!is_structural(file$objects)]
  tree <- pdf_reference(pdf_at(objects, file$root)$text, "Pages")
  page <- page_kids(objects, tree)[1]
  page_object <- pdf_at(objects, page)$text
  content <- pdf_reference(page_object, "Contents")
  stream <- pdf_stream_bytes(pdf_at(objects, content))
  box <- pdf_numbers(page_object, "MediaBox")
  group <- pdf_written(page_object, "Group")
  objects[as.character(c(file$root, tree, file$info, content))] <- NULL
  objects[[as.character(page)]] <- list(
    text = paste0(
      "<< /Type /XObject /Subtype /Form /BBox [ ",
      format_pt(box),
      " ]",
      if (!is.null(group)) paste0(" /Group ", group),
      " /Resources ",
      pdf_written(page_object, "Resources") %||% "<< >>",
      " /Length ",
      length(stream),
      " >>"
    ),
    stream = stream
  )
  numbers <- as.numeric(names(objects))
  renumbered <- stats::setNames(from - 1 + seq_along(numbers), numbers)
  objects <- lapply(objects, function(object) {
    object$text <- renumbered_references(object$text, renumbered)
    object
  })
  names(objects) <- renumbered
  list(
    objects = objects,
    form = renumbered[[as.character(page)]],
    following = from + length(numbers)
  )
}

renumbered_references <- function(text, renumbered) {
  found <- gregexpr("(?<![0-9.])[0-9]+ 0 R\\b", text, perl = TRUE)
  regmatches(text, found) <- lapply(regmatches(text, found), function(references) {
    old <- sub(" 0 R", "", references, fixed = TRUE)
    new <- renumbered[old]
    ifelse(is.na(new), references, paste(new, "0 R"))
  })
  text
}

bookmark_objects <- function(entries, kids, from) {
  k <- length(entries)
  numbers <- from + seq_len(k)
  items <- lapply(seq_len(k), function(i) {
    list(
      text = paste0(
        "<< /Title ",
        pdf_text(plain_text(entries[[i]]$text)),
        " /Parent ",
        from,
        " 0 R /Dest [ ",
        kids[entries[[i]]$page],
        " 0 R /Fit ]",
        if (i > 1) paste0(" /Prev ", numbers[i - 1], " 0 R"),
        if (i < k) paste0(" /Next ", numbers[i + 1], " 0 R"),
        " >>"
      )
    )
  })
  root <- list(
    text = paste0(
      "<< /Type /Outlines /First ",
      numbers[1],
      " 0 R /Last ",
      numbers[k],
      " 0 R /Count ",
      k,
      " >>"
    )
  )
  list(
    objects = stats::setNames(c(list(root), items), c(from, numbers)),
    following = from + k + 1
  )
}
