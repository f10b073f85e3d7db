# Random plates, each with what must be true of it worked out from its own tables by other means.

# A table whose categories have some of their levels, in an order of their own, and values missing.
truth_table <- function(levels_of_g = letters[1:4]) {
  n <- sample(c(8, 20, 45), 1)
  table <- data.frame(
    f = sample(c("Oat", "Rye", "Emmer")[seq_len(sample(3, 1))], n, TRUE),
    g = sample(levels_of_g, n, TRUE),
    s = sample(c("North", "South")[seq_len(sample(2, 1))], n, TRUE),
    v = round(rnorm(n, 20, 5), 1),
    w = round(rexp(n, 0.1) + 1, 2)
  )
  for (column in sample(c("f", "g", "v", "w"), sample(0:2, 1))) {
    table[[column]][sample(n, sample(3, 1))] <- NA
  }
  table
}

# One block: list(block, table, x, y, ink, colour, shape, split): the columns that stand where.
truth_block <- function(levels_of_g) {
  table <- truth_table(levels_of_g)
  colour <- if (runif(1) < 0.7) "g"
  split <- if (runif(1) < 0.4) "s"
  ink <- sample(
    c("points", "bars", "counts", "box", "histogram", "fit", "line", "dots", "median"),
    1
  )
  on <- switch(
    ink,
    points =,
    fit =,
    line = c("v", "w"),
    counts = c("f", NA),
    histogram = c("v", NA),
    c("f", "w")
  )
  shape <- if (ink == "points" && runif(1) < 0.5) "g"
  made <- switch(
    ink,
    points = ink_points(),
    fit = ink_fit(),
    line = ink_line(),
    counts = ink_bars(),
    box = ink_box(),
    histogram = ink_histogram(arrange = sample(c("stack", "overlay"), 1)),
    dots = ink_dots(),
    bars = ink_bars(error = sample(c("sd", "se", "ci"), 1)),
    median = ink_bars(centre = "median")
  )
  channels <- Filter(
    Negate(is.null),
    list(x = on[1], y = if (!is.na(on[2])) on[2], colour = colour, shape = shape)
  )
  design <- do.call(panel, c(list(table), lapply(channels, as.name), list(made)))
  block <- if (is.null(split)) design else do.call(facets, list(design, across = as.name(split)))
  list(
    block = block,
    table = table,
    x = on[1],
    y = on[2],
    ink = ink,
    colour = colour,
    shape = shape,
    split = split
  )
}

truth_plate <- function(seed) {
  set.seed(seed)
  parts <- lapply(
    seq_len(sample(3, 1)),
    function(i) truth_block(sample(letters[1:4], sample(2:4, 1)))
  )
  list(
    plate = do.call(
      plate,
      c(lapply(parts, `[[`, "block"), list(width = 178, height = 150, share = FALSE, per_row = 2))
    ),
    parts = parts
  )
}

# The rows of a table that a panel of one level of its split draws: those with all that is shown.
drawn_of <- function(part, level = NULL) {
  columns <- unique(na.omit(c(part$x, part$y, part$colour, part$shape)))
  table <- part$table[complete.cases(part$table[columns]), ]
  if (is.null(level)) table else table[table[[part$split]] %in% level, ]
}

# Marks of a block's panel as data: positions in data units, by its axes.
in_data_units <- function(scene, area, layer) {
  axis <- function(direction) scene$axes[[area[[paste0(direction, "_axis")]]]]$range
  table <- layer$table[layer$table$panel == area$id, ]
  for (column in intersect(c("x", "x0", "x1"), names(table))) {
    table[[column]] <- axis("x")[1] + table[[column]] * diff(axis("x"))
  }
  for (column in intersect(c("y", "y0", "y1"), names(table))) {
    table[[column]] <- axis("y")[1] + table[[column]] * diff(axis("y"))
  }
  table
}

# What is not true of a plate, in words; NULL where all is.
untruths <- function(made) {
  # Resolved once for both, as the report does.
  resolved <- nelvat:::resolve_plate(made$plate)
  scene <- suppressWarnings(nelvat:::whole_scene(resolved, made$plate))
  source <- nelvat:::source_tables(resolved, scene, made$plate)
  wrong <- character()
  say <- function(...) wrong <<- c(wrong, paste0(...))
  shown_levels <- character()
  areas <- scene$panels[scene$panels$role == "panel", ]
  key_colour <- function(level) {
    scene$keys$colour[scene$keys$key == "g" & scene$keys$label == level][1]
  }
  key_shape <- function(level) {
    scene$keys$shape[scene$keys$key == "g" & scene$keys$label == level][1]
  }
  for (i in seq_along(made$parts)) {
    part <- made$parts[[i]]
    own <- areas[areas$block == paste0("block", i), ]
    levels <- if (is.null(part$split)) list(NULL) else as.list(unique(part$table[[part$split]]))
    if (nrow(own) != length(levels)) {
      say("block ", i, " has ", nrow(own), " panels of ", length(levels))
    }
    for (k in seq_len(nrow(own))) {
      rows <- drawn_of(part, levels[[k]])
      if (!is.null(part$split)) rows <- drawn_of(part, own$heading[k])
      at <- paste0("block ", i, " (", part$ink, "), panel ", k, ": ")
      accounts <- scene$accounts[scene$accounts$area == own$id[k], ]
      # Fits need rows; all others use every complete one.
      if (part$ink != "fit" && sum(accounts$used) != nrow(rows)) {
        say(at, "used ", sum(accounts$used), " of ", nrow(rows))
      }
      given <- if (is.null(part$split)) {
        nrow(part$table)
      } else {
        sum(part$table[[part$split]] == own$heading[k])
      }
      if (sum(accounts$given) != given) say(at, "given ", sum(accounts$given), " of ", given)
      marks <- Filter(
        function(layer) layer$block == own$block[k] && layer$primitive != "words",
        scene$marks
      )
      found <- untrue_marks(scene, own[k, ], marks, part, rows, key_colour, key_shape)
      if (length(found)) say(at, found)
      if (!is.null(part$colour)) shown_levels <- union(shown_levels, unique(rows$g))
    }
    redrawn <- untrue_source(part, source, made, i)
    if (length(redrawn)) say("block ", i, ": ", redrawn)
    legend <- untrue_legend(scene, part, i)
    if (length(legend)) say("block ", i, ": ", legend)
  }
  entries <- unique(scene$keys$label[scene$keys$key == "g"])
  idle <- setdiff(
    entries,
    unique(
      unlist(
        lapply(
          made$parts,
          function(part) if (!is.null(part$colour) || !is.null(part$shape)) part$table$g
        )
      )
    )
  )
  if (length(idle)) say("a key entry of no mark: ", idle)
  if (length(setdiff(shown_levels, entries))) {
    say("no key entry for ", setdiff(shown_levels, entries))
  }
  if (length(wrong)) wrong
}

# The marks of one panel against the rows that are drawn in it.
untrue_marks <- function(scene, area, marks, part, rows, key_colour, key_shape) {
  near <- function(a, b) {
    length(a) == length(b) && all(abs(sort(a) - sort(b)) < 1e-6 * max(1, abs(b)))
  }
  coloured <- !is.null(part$colour)
  if (part$ink %in% c("points", "dots")) {
    drawn <- in_data_units(scene, area, marks[[1]])
    if (nrow(drawn) != nrow(rows)) return(paste(nrow(drawn), "points of", nrow(rows)))
    value <- rows[[part$y]]
    if (!near(drawn$y, value)) return("points stand elsewhere")
    for (level in unique(rows$g)) {
      if (coloured && !near(drawn$y[drawn$colour == key_colour(level)], value[rows$g == level])) {
        return(paste("points of", level, "have another colour"))
      }
      if (
        !is.null(part$shape) &&
          !near(drawn$y[drawn$shape == key_shape(level)], value[rows$g == level])
      ) {
        return(paste("points of", level, "have another shape"))
      }
    }
  }
  if (part$ink %in% c("bars", "counts", "median")) {
    drawn <- in_data_units(scene, area, Find(function(layer) layer$primitive == "rects", marks))
    of <- function(table) {
      switch(
        part$ink,
        bars = tapply(table$w, table$f, mean),
        median = tapply(table$w, table$f, median),
        counts = table(table$f)
      )
    }
    for (level in if (coloured) unique(rows$g) else NA) {
      held <- if (coloured) rows[rows$g == level, ] else rows
      shown <- if (coloured) drawn[drawn$fill == key_colour(level), ] else drawn
      if (!near(shown$y1 - shown$y0, as.numeric(of(held)))) {
        return(paste("bars of", level, "are of other lengths"))
      }
    }
  }
  if (part$ink == "histogram") {
    drawn <- in_data_units(scene, area, Find(function(layer) layer$primitive == "rects", marks))
    for (level in if (coloured) unique(rows$g) else NA) {
      n <- if (coloured) sum(rows$g == level) else nrow(rows)
      shown <- if (coloured) drawn[drawn$fill == key_colour(level), ] else drawn
      if (abs(sum(shown$y1 - shown$y0) - n) > 1e-6) {
        return(paste("bins of", level, "hold", sum(shown$y1 - shown$y0), "of", n))
      }
    }
  }
  if (part$ink == "line") {
    drawn <- do.call(
      rbind,
      lapply(marks, function(layer) in_data_units(scene, area, layer)[c("x", "y", "colour")])
    )
    for (level in if (coloured) unique(rows$g) else NA) {
      held <- if (coloured) rows[rows$g == level, ] else rows
      shown <- if (coloured) drawn[drawn$colour == key_colour(level), ] else drawn
      if (!near(unique(shown[c("x", "y")])$y, unique(held[c("v", "w")])$w)) {
        return(paste("the line of", level, "has other values"))
      }
    }
  }
  if (part$ink == "box" && nrow(rows)) {
    colours <- unique(
      unlist(lapply(marks, function(layer) layer$table$colour[layer$table$panel == area$id]))
    )
    if (coloured && !all(vapply(unique(rows$g), key_colour, "") %in% colours)) {
      return("a box has no key colour")
    }
  }
  if (part$ink == "fit") {
    lines <- Find(function(layer) layer$primitive == "lines", marks)$table
    colours <- unique(lines$colour[lines$panel == area$id])
    enough <- if (coloured) {
      names(which(tapply(rows$v, rows$g, function(v) length(unique(v))) > 2))
    } else {
      character()
    }
    if (coloured && !all(vapply(enough, key_colour, "") %in% colours)) {
      return("a fit has another colour")
    }
    fitted <- scene$fits[scene$fits$panel == area$id & scene$fits$term %in% "x", ]
    for (level in enough) {
      slope <- unname(coef(lm(w ~ v, rows[rows$g == level, ]))[2])
      if (abs(fitted$estimate[fitted$colour == level] - slope) > 1e-8 * max(1, abs(slope))) {
        return(paste("the slope of", level))
      }
    }
  }
  NULL
}

# The values of the source data are the rows drawn, no more and no less.
untrue_source <- function(part, source, made, i) {
  letter <- if (length(made$parts) > 1) letters[i]
  held <- if (is.null(letter)) {
    source
  } else {
    source[grepl(paste0("^", letter, "( |$)"), names(source))]
  }
  values <- unlist(
    lapply(
      held,
      function(table) table[table$part == "values", if (is.na(part$y)) part$x else part$y]
    )
  )
  wanted <- drawn_of(part)
  if (part$ink == "fit") return(NULL)
  wanted <- wanted[[if (is.na(part$y)) part$x else part$y]]
  if (!identical(sort(unname(values)), sort(wanted))) {
    paste("source data of", length(values), "rows for", length(wanted))
  }
}

# Each n of the legend, read back from its sentence, against the table.
untrue_legend <- function(scene, part, i) {
  text <- nelvat:::legend_inks(scene, paste0("block", i))
  if (grepl("Nothing is drawn", text) || part$ink == "fit") return(NULL)
  said <- regmatches(text, regexpr("n = [0-9,]+( to [0-9,]+)?", text))
  if (!length(said)) return(paste("no n in", text))
  said <- as.numeric(strsplit(sub("n = ", "", gsub(",", "", said)), " to ")[[1]])
  rows <- drawn_of(part)
  by_mark <- part$ink %in% c("bars", "counts", "median", "box")
  parts <- Filter(
    Negate(is.null),
    list(
      if (by_mark) rows$f,
      if (by_mark && !is.null(part$colour)) rows$g,
      if (!is.null(part$split)) rows[[part$split]]
    )
  )
  n <- if (length(parts)) as.numeric(table(do.call(paste, parts))) else as.numeric(nrow(rows))
  if (!identical(unique(range(n)), said)) {
    return(
      paste0(
        "legend says n = ",
        paste(said, collapse = " to "),
        ", the table ",
        paste(range(n), collapse = " to "),
        ": ",
        text
      )
    )
  }
  groups <- regmatches(text, gregexpr("[a-d]: [0-9,]+( to [0-9,]+)?", text))[[1]]
  for (group in groups) {
    level <- substr(group, 1, 1)
    ends <- as.numeric(strsplit(sub("^.: ", "", gsub(",", "", group)), " to ")[[1]])
    own <- rows[rows$g == level, ]
    each <- if (is.null(part$split)) as.numeric(nrow(own)) else as.numeric(table(own[[part$split]]))
    if (!identical(unique(range(each)), ends)) {
      return(paste("legend says", group, "for", paste(each, collapse = ", ")))
    }
  }
  NULL
}
