# Symbols of points in a PDF, written here: cairo takes 30 microseconds for a disc, most of them for
# its numbers, and makes small ones of two curves, which are no circles. Before it draws, the
# symbols of a panel are taken out of the scene, and a rectangle of a colour that nothing else has
# stands in for them; in the page that it wrote they are then put in that rectangle's place, between
# the same other marks. Where a page has not every stand-in as it is looked for, cairo draws the
# symbols.

# list(scene, of): the scene with stand-ins, and the symbols that each stands for: its fill, panel,
# table of points, and whether what reaches over the panel is cut off.
symbols_apart <- function(scene) {
  free <- free_fills(scene)
  apart <- list()
  marks <- lapply(scene$marks, function(layer) {
    panels <- panels_apart(layer, scene)
    if (!length(panels)) return(list(layer))
    table <- layer$table
    whole <- reached_over(layer, scene$panels)
    fills <- free(seq_along(panels) + length(apart))
    of_panel <- lapply(
      split(seq_len(nrow(table)), factor(table$panel, panels)),
      function(rows) table_rows(table, rows)
    )
    apart <<- c(
      apart,
      Map(
        function(fill, panel, points) {
          list(fill = fill, panel = panel, points = points, cut = !panel %in% whole)
        },
        fills,
        panels,
        of_panel
      )
    )
    rest <- table_rows(table, which(!table$panel %in% panels))
    stand_ins <- new_table(
      panel = panels,
      x0 = 0,
      y0 = 0,
      x1 = 1,
      y1 = 1,
      fill = fills,
      opacity = vapply(of_panel, function(points) points$opacity[1], 0),
      .rows = length(panels)
    )
    c(
      if (nrow(rest)) list(replace(layer, "table", list(rest))),
      list(list(primitive = "rects", table = stand_ins))
    )
  })
  list(scene = replace(scene, "marks", list(unlist(marks, recursive = FALSE))), of = apart)
}

# Gives, by number, colours that no mark, rule, key or ground of a scene has.
free_fills <- function(scene) {
  tables <- c(lapply(scene$marks, `[[`, "table"), scene[c("rules", "keys", "grounds")])
  used <- unlist(
    rapply(
      tables,
      function(text) {
        toupper(substr(grep("^#[0-9A-Fa-f]{6}", unique(text), value = TRUE), 1, 7))
      },
      "character",
      how = "unlist"
    )
  )
  function(ids) setdiff(sprintf("#%06X", 66051L + 7L * seq_len(max(ids) + length(used))), used)[ids]
}

# The panels of a layer of points whose symbols have one opacity, and are not drawn as an image.
panels_apart <- function(layer, scene) {
  table <- layer$table
  if (layer$primitive != "points" || is.null(table) || !nrow(table)) return(integer())
  opacity <- round(255 * table$opacity)
  first <- opacity[match(table$panel, table$panel)]
  plain <- is.finite(table$x) & is.finite(table$y) & is.finite(table$size_mm) &
    !is.na(table$colour) &
    opacity > 0 & opacity == first & (is.null(table$edge) | opacity == 255)
  panels <- setdiff(table$panel, table$panel[!plain %in% TRUE])
  if (is.null(scene$dense_dpi)) return(panels)
  Filter(function(panel) marks_in(scene$marks, panel) <= dense_marks, panels)
}

# A page's stream with the symbols in place of their stand-ins.
with_symbols <- function(bytes, apart, scene, scale) {
  if (any(bytes > 127)) abort_pdf("its drawing is no text")
  text <- ascii_bytes_cpp(bytes)
  found <- painted_boxes(text)
  box_row <- match(vapply(apart, `[[`, "", "fill"), found$fill)
  boxes <- do.call(rbind, lapply(apart, panel_box, scene, scale))
  if (
    anyNA(box_row) || any(found$fill[-box_row] %in% found$fill[box_row]) || any(
      abs(found$box[box_row, ] - boxes) > most_off
    )
  ) {
    abort_pdf("not all symbols have their place in it")
  }
  order <- order(box_row)
  found <- lapply(found[c("from", "to", "before")], `[`, box_row[order])
  between <- substring(text, c(1, found$to), c(found$from - 1, nchar(text)))
  symbols <- Map(
    function(one, i) symbol_commands(one, boxes[i, ], scale),
    apart,
    seq_along(apart)
  )[order]
  charToRaw(paste0(between, c(paste0(found$before, "\nq\n", symbols, "Q"), ""), collapse = ""))
}

most_off <- 0.05 # of a stand-in, in units of cairo's page: some steps of its grid

# Each filled rectangle of a stream: from and to (behind it) where its commands stand, those of its
# colour and opacity, its fill, and its box.
painted_boxes <- function(text) {
  # What comes before a filled rectangle is looked at there alone: a page has many numbers.
  ends <- gregexpr("\\sre\\s+f\\*?(?=\\s)", text, perl = TRUE)[[1]]
  ends <- ends[ends > 0] + attr(ends, "match.length")[ends > 0]
  windows <- substring(text, ends - most_before, ends - 1)
  number <- "(-?[0-9.]+)\\s+"
  commands <- paste0(
    strrep(number, 3),
    "rg((?:\\s+/\\w+\\s+gs)?)\\s+",
    strrep(number, 4),
    "re\\s+f\\*?$"
  )
  found <- regexpr(commands, windows, perl = TRUE)
  is_box <- found > 0
  if (!any(is_box)) abort_pdf("nothing in it is filled")
  starts <- attr(found, "capture.start")[is_box, , drop = FALSE]
  lengths <- attr(found, "capture.length")[is_box, , drop = FALSE]
  parts <- matrix(substring(windows[is_box], starts, starts + lengths - 1), nrow(starts))
  colour <- matrix(round(255 * as.numeric(parts[, 1:3])), ncol = 3)
  list(
    from = ends[is_box] - attr(found, "match.length")[is_box],
    to = ends[is_box],
    before = paste0(parts[, 1], " ", parts[, 2], " ", parts[, 3], " rg", parts[, 4]),
    fill = sprintf("#%02X%02X%02X", colour[, 1], colour[, 2], colour[, 3]),
    box = matrix(as.numeric(parts[, 5:8]), ncol = 4)
  )
}
most_before <- 200 # characters of a rectangle's colour, opacity and numbers

# A panel's left and upper edge, its width and height on cairo's page.
panel_box <- function(one, scene, scale) {
  panel_area <- scene$panels[match(one$panel, scene$panels$id), ]
  c(panel_area$x, panel_area$y, panel_area$w, panel_area$h) * scale * 72 / 25.4
}

# PDF commands for the symbols of one panel: each a path in its own place.
symbol_commands <- function(one, box, scale) {
  points <- one$points
  open <- points$shape %in% open_symbols
  stroke <- ifelse(open, open_stroke, if (is.null(points$edge)) 0 else hair_stroke)
  # GeomPoint gives lines in 1/96 inch, and adds half a line to a symbol's radius.
  line <- stroke * 96 / 25.4 / 2 * 72 / 96 * scale
  radius <- points$size_mm / 2 * 72 / 25.4 * scale + line / 2
  x <- box[1] + points$x * box[3]
  y <- box[2] + (1 - points$y) * box[4]
  reach <- 1.6 * radius + line
  over <- x < box[1] + reach | x > box[1] + box[3] - reach | y < box[2] + reach |
    y > box[2] + box[4] - reach
  clip <- if (one$cut && any(over)) {
    sprintf("%.3f %.3f %.3f %.3f re W n\n", box[1], box[2], box[3], box[4])
  }
  outline <- if (is.null(points$edge)) points$colour else ifelse(open, points$colour, points$edge)
  paint <- paste0(
    ifelse(open, "", paste(pdf_colour(points$colour), "rg ")),
    ifelse(line > 0, sprintf("%s RG %.4f w ", pdf_colour(outline), line), "")
  )
  # Colours and lines hold until the next.
  paint[c(FALSE, paint[-1] == paint[-length(paint)])] <- ""
  how <- ifelse(open, "S", ifelse(line > 0, "B", "f"))
  paste0(
    c(
      clip,
      if (any(line > 0)) "1 J 1 j [] 0 d\n",
      paste0(
        paint,
        sprintf("q 1 0 0 1 %.2f %.2f cm ", x, y),
        symbol_paths(points$shape, radius),
        " ",
        how,
        " Q\n"
      )
    ),
    collapse = ""
  )
}

# Paths about the origin, y downwards, as long as R's own symbols of that radius are.
symbol_paths <- function(shape, radius) {
  known <- paste(shape, radius)
  first <- which(!duplicated(known))
  mapply(symbol_path, shape[first], radius[first])[match(known, known[first])]
}
symbol_path <- function(shape, radius) {
  if (shape %in% c("disc", "ring")) return(circle_path(radius))
  corners <- radius * switch(
    shape,
    square =,
    `open square` = 0.886227 * rbind(c(-1, -1), c(1, -1), c(1, 1), c(-1, 1)),
    diamond = 1.253314 * rbind(c(-1, 0), c(0, -1), c(1, 0), c(0, 1)),
    triangle =,
    `open triangle` = rbind(c(0, -1.555120), c(1.346774, 0.777560), c(-1.346774, 0.777560)),
    wedge = rbind(c(0, 1.555120), c(1.346774, -0.777560), c(-1.346774, -0.777560))
  )
  corners <- sprintf("%.3f %.3f", corners[, 1], corners[, 2])
  paste(corners[1], "m", paste(corners[-1], "l", collapse = " "), "h")
}

# A circle of four Bezier curves, off by 0.03 % of its radius at most.
circle_path <- function(radius) {
  r <- sprintf("%.3f", radius)
  k <- sprintf("%.3f", radius * 4 / 3 * (sqrt(2) - 1))
  paste0(
    r,
    " 0 m ",
    r,
    " ",
    k,
    " ",
    k,
    " ",
    r,
    " 0 ",
    r,
    " c -",
    k,
    " ",
    r,
    " -",
    r,
    " ",
    k,
    " -",
    r,
    " 0 c -",
    r,
    " -",
    k,
    " -",
    k,
    " -",
    r,
    " 0 -",
    r,
    " c ",
    k,
    " -",
    r,
    " ",
    r,
    " -",
    k,
    " ",
    r,
    " 0 c h"
  )
}

pdf_colour <- function(colours) {
  known <- unique(colours)
  values <- grDevices::col2rgb(known) / 255
  sprintf("%.5g %.5g %.5g", values[1, ], values[2, ], values[3, ])[match(colours, known)]
}
