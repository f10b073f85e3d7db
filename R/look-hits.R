# What stands where on a drawn page, as plain shapes in mm with what can be said of each: the marks
# with their numbers, axes, keys, headings. From the scene and its findings; nothing is worked out
# anew. A mark is told its numbers only where they and no others stand at its place.

most_hits <- 4000L # shapes of a page; of more, panels alone are told

# list of shapes: kind, x, y, w, h, title, lines (sentences). stands_in: of each block where in its
# file it is said, by its id. words: lines of keys and the like, and a function of an axis.
page_hits <- function(scene, resolved, words, stands_in = NULL) {
  boxes <- table_rows(scene$panels, !scene$panels$role %in% "words")
  panels <- lapply(each_row(boxes), function(box) {
    list(
      kind = "panel",
      x = box$x,
      y = box$y,
      w = box$w,
      h = box$h,
      title = panel_title(scene, box),
      lines = as.list(c(panel_lines(scene, box), stands_in[[box$block]]))
    )
  })
  n_marks <- sum(vapply(scene$marks, function(one) NROW(one$table), 0L))
  marks <- if (n_marks <= most_hits) {
    unlist(
      lapply(scene$marks, function(one) layer_hits(one, scene, resolved)),
      recursive = FALSE
    )
  }
  c(panels, axis_hits(scene, resolved, words), text_hits(scene, words), marks)
}

panel_title <- function(scene, box) {
  names <- panel_names(scene, table_rows(scene$panels, scene$panels$id == box$id))
  paste("Panel", names[1])
}

panel_lines <- function(scene, box) {
  accounts <- scene$accounts[scene$accounts$area == box$id & scene$accounts$used > 0, ]
  if (!NROW(accounts)) return(character())
  said <- unique(accounts[c("layer", "marks", "shows")])
  n <- vapply(
    said$layer,
    function(layer) sum(accounts$used[accounts$layer == layer]),
    0
  )
  paste0(begun(said$marks), ": ", said$shows, ", n = ", count_text(n))
}

# Boxes of the marks of one layer, with the numbers of the findings that they are of.
layer_hits <- function(marks, scene, resolved) {
  table <- marks$table
  if (is.null(marks$layer) || is.null(table) || !nrow(table)) return(NULL)
  block <- Find(function(one) identical(one$id, marks$block), resolved$blocks)
  layer <- block$layers[[marks$layer]]
  if (is.null(layer) || isTRUE(layer$behind)) return(NULL)
  box <- scene$panels[match(table$panel, scene$panels$id), ]
  ends <- mark_ends(marks$primitive, table)
  if (is.null(ends)) return(NULL)
  finding <- finding_of_mark(marks, ends, layer, scene)
  row <- if (all(is.na(finding))) {
    row_of_mark(marks, layer, scene)
  } else {
    rep(NA_integer_, nrow(table))
  }
  account <- scene$accounts[
    scene$accounts$block == marks$block & scene$accounts$layer == marks$layer,
  ]
  title <- if (nrow(account)) paste0(begun(account$marks[1]), ": ", account$shows[1]) else marks$ink
  wide <- pmax((ends$x1 - ends$x0) * box$w, least_hit_mm)
  high <- pmax((ends$y1 - ends$y0) * box$h, least_hit_mm)
  x <- box$x + (ends$x0 + ends$x1) / 2 * box$w - wide / 2
  y <- box$y + (1 - (ends$y0 + ends$y1) / 2) * box$h - high / 2
  lapply(seq_len(nrow(table)), function(i) {
    list(
      kind = "mark",
      x = x[i],
      y = y[i],
      w = wide[i],
      h = high[i],
      title = title,
      lines = as.list(
        if (!is.na(finding[i])) {
          finding_lines(layer, finding[i])
        } else if (!is.na(row[i])) {
          row_lines(layer, row[i])
        }
      )
    )
  })
}

least_hit_mm <- 1.2

# Corners of marks in units of their panels; NULL for what is pointed at as a panel.
mark_ends <- function(primitive, table) {
  size <- function(a, b, f) f(table[[a]], table[[b]])
  switch(
    primitive,
    rects = ,
    segments = list(
      x0 = size("x0", "x1", pmin),
      x1 = size("x0", "x1", pmax),
      y0 = size("y0", "y1", pmin),
      y1 = size("y0", "y1", pmax)
    ),
    points = list(x0 = table$x, x1 = table$x, y0 = table$y, y1 = table$y),
    NULL
  )
}

# Of each mark the one finding of its layer at whose level it stands and whose numbers are its ends;
# NA for none or several.
finding_of_mark <- function(marks, ends, layer, scene) {
  findings <- layer$trained$findings
  found <- rep(NA_integer_, length(ends$x0))
  numbers <- intersect(on_value, names(findings))
  if (is.null(findings) || !length(numbers)) return(found)
  drawn_rows <- which(is.na(findings$why) & !is.na(findings$value))
  for (panel_id in unique(marks$table$panel)) {
    rows <- drawn_rows[findings$panel[drawn_rows] == panel_id]
    here <- which(marks$table$panel == panel_id)
    if (!length(rows)) next
    places <- finding_places(table_rows(findings, rows), numbers, panel_id, layer, scene)
    found[here] <- vapply(
      here,
      function(i) {
        standing <- which(stand_at(places, lapply(ends, `[`, i)))
        if (length(standing) == 1) rows[standing] else NA_integer_
      },
      0L
    )
  }
  found
}

# Where findings of one panel stand, in units: on (the axis of their numbers), at: a matrix of
# these, a row a finding; from, to: of the slot or place across, NA where nothing parts them there.
finding_places <- function(findings, numbers, panel_id, layer, scene) {
  on <- findings$value[1]
  other <- setdiff(c("x", "y"), on)
  ends <- vapply(
    numbers,
    function(name) unit_places(as.numeric(findings[[name]]), panel_id, on, layer, scene),
    numeric(nrow(findings))
  )
  across <- findings[[other]]
  half <- if (has_levels(layer[[other]]$kind)) 0.5 else 0
  end <- function(by) {
    if (is.null(across)) return(rep(NA_real_, nrow(findings)))
    unit_places(across + by, panel_id, other, layer, scene)
  }
  list(
    on = on,
    other = other,
    at = matrix(ends, nrow(findings)),
    from = pmin(end(-half), end(half)) - 1e-6,
    to = pmax(end(-half), end(half)) + 1e-6
  )
}

# Both ends: bars of one slot all stand on the same base.
stand_at <- function(places, ends) {
  marked <- unlist(ends[paste0(places$on, 0:1)])
  middle <- mean(unlist(ends[paste0(places$other, 0:1)]))
  at_end <- lapply(marked, function(end) {
    rowSums(abs(places$at - end) < 1e-6, na.rm = TRUE) > 0
  })
  at_end[[1]] & at_end[[2]] & (is.na(places$from) | middle >= places$from & middle <= places$to)
}

# Data values as places along an axis of a panel, 0 to 1.
unit_places <- function(values, panel_id, direction, layer, scene) {
  panel_row <- match(panel_id, scene$panels$id)
  axis <- scene$axes[[scene$panels[[paste0(direction, "_axis")]][panel_row]]]
  if (!is.null(axis$slot_levels)) {
    values <- match(round(values), axis$slot_levels) + values - round(values)
  }
  forward <- axis_transform(axis$transform)$forward
  (suppressWarnings(forward(values)) - axis$range[1]) / (axis$range[2] - axis$range[1])
}

# Of points that are the rows themselves, which row.
row_of_mark <- function(marks, layer, scene) {
  none <- rep(NA_integer_, nrow(marks$table))
  rows <- which(layer$trained$used %||% FALSE)
  if (marks$primitive != "points" || ink_traits(layer$ink)$summarises != "values") return(none)
  table <- layer$table
  if (!length(rows) || anyNA(table$x[rows]) || anyNA(table$y[rows])) return(none)
  for (panel_id in unique(marks$table$panel)) {
    of_panel <- rows[table$panel[rows] == panel_id]
    x <- unit_places(table$x[of_panel], panel_id, "x", layer, scene)
    y <- unit_places(table$y[of_panel], panel_id, "y", layer, scene)
    key <- paste(round(x, 7), round(y, 7))
    here <- which(marks$table$panel == panel_id)
    found <- match(paste(round(marks$table$x[here], 7), round(marks$table$y[here], 7)), key)
    twice <- key %in% key[duplicated(key)]
    none[here] <- ifelse(twice[found], NA, of_panel[found])
  }
  none
}

# "Flour: Wheat", "n = 12", "centre 45.1" ...
finding_lines <- function(layer, k) {
  finding <- layer$trained$findings[k, ]
  levels <- level_lines(layer, finding, setdiff(finding_channels, "panel"))
  numbers <- intersect(c(on_value, on_none), names(finding))
  numbers <- numbers[!is.na(unlist(finding[numbers]))]
  c(
    levels,
    paste("n =", count_text(finding$n)),
    if (length(numbers)) {
      paste(gsub("_", " ", numbers), number_text_each(as.numeric(unlist(finding[numbers])), 4))
    }
  )
}

row_lines <- function(layer, row) {
  level_lines(layer, table_rows(layer$table, row), c("x", "y", mark_channels))
}

level_lines <- function(layer, row, channels) {
  unlist(
    lapply(intersect(channels, names(row)), function(channel) {
      value <- row[[channel]]
      variable <- layer[[channel]]
      if (is.null(variable) || is.na(value) || isTRUE(variable$kind$hidden)) return(NULL)
      kind <- variable$kind
      text <- if (has_levels(kind)) {
        plain_text(kind$level_names[round(value)])
      } else if (kind$kind == "moment") {
        said_value_text(kind, value)
      } else {
        number_text_each(value, 5)
      }
      paste0(plain_text(kind_title(kind)), ": ", text)
    })
  )
}

# Tick text and names of axes: which axis, its range, and the words that set it.
axis_hits <- function(scene, resolved, words) {
  texts <- scene$texts[scene$texts$role %in% c("tick", "axis title") & !is.na(scene$texts$panel), ]
  # What was asked of an axis stands with those that were trained, in the same order.
  trained <- unlist(lapply(resolved$blocks, `[[`, "axes"), recursive = FALSE)
  same <- length(trained) == length(scene$axes)
  said <- lapply(seq_along(scene$axes), function(i) {
    axis <- scene$axes[[i]]
    axis$asked <- if (same) trained[[i]]$asked
    c(axis_lines(axis), words$axis(axis))
  })
  box <- scene$panels[match(texts$panel, scene$panels$id), ]
  lapply(seq_len(nrow(texts)), function(i) {
    one <- texts[i, ]
    below <- one$y0 >= box$y[i] + box$h[i] - 1e-6
    direction <- if (below) "x" else "y"
    index <- box[[paste0(direction, "_axis")]][i]
    axis <- if (!is.na(index)) scene$axes[[index]]
    list(
      kind = "axis",
      x = one$x0,
      y = one$y0,
      w = one$x1 - one$x0,
      h = one$y1 - one$y0,
      title = paste(direction, "axis of", box_name(scene, box[i, ])),
      lines = as.list(if (!is.null(axis)) said[[index]])
    )
  })
}

box_name <- function(scene, box) {
  panel_names(scene, table_rows(scene$panels, scene$panels$id == box$id))[1]
}

axis_lines <- function(axis) {
  if (is.null(axis)) return(character())
  c(
    paste0("Shows \"", axis$variable, "\""),
    if (axis$transform != "identity") paste("Transform:", axis$transform),
    if (axis$quantity && all(is.finite(axis$range))) {
      ends <- axis_transform(axis$transform)$backward(axis$range)
      paste("Range:", paste(number_text_each(ends, 4), collapse = " to "))
    },
    if (axis$slots) {
      levels <- gsub("\n", " ", plain_text(utils::head(axis$text, 12)))
      paste("Levels:", paste(levels, collapse = ", "))
    }
  )
}

# Keys, headings, letters and notes: what they are, and the words that set them.
text_hits <- function(scene, words) {
  kinds <- c(
    key = "key",
    `key title` = "key",
    heading = "heading",
    letter = "letter",
    `plate title` = "title",
    `plate note` = "note"
  )
  texts <- scene$texts[scene$texts$role %in% names(kinds), ]
  lapply(each_row(texts), function(one) {
    kind <- kinds[[one$role]]
    list(
      kind = kind,
      x = one$x0,
      y = one$y0,
      w = one$x1 - one$x0,
      h = one$y1 - one$y0,
      title = paste0(begun(kind), " \"", gsub("\n", " ", one$string), "\""),
      lines = as.list(words[[kind]])
    )
  })
}
