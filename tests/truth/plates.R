# Random plates of random tables: list(plate, parts), a part being one block with all that was
# asked.

truth_part <- function(table, name = sample(names(truth_inks), 1)) {
  if (isTRUE(truth_inks[[name]]()$of_few) && nrow(table$data) > 16) name <- "points"
  ink <- truth_inks[[name]]()
  column_for <- function(role) {
    switch(
      role %||% "",
      level = "flour",
      value = ink$value %||% one_of("mass", "mass", "rise", "n", "twice"),
      loaf = "loaf",
      ones = "passed",
      hour = "hour",
      when = one_of("day", "time")
    )
  }
  on <- lapply(as.list(ink$axes), function(role) if (!is.na(role)) column_for(role))
  names(on) <- c("x", "y")
  # Both quantities of a pair are others.
  if (!is.null(on$x) && identical(on$x, on$y)) on$y <- setdiff(c("mass", "rise", "n"), on$x)[1]
  quantity <- function(column) !is.null(column) && column %in% c("mass", "rise", "n", "twice")
  scale_for <- function(column) {
    grounded <- isTRUE(ink$grounded)
    if (identical(column, "mass") && !grounded && chance(0.4)) {
      one_of("log10", "log2", "ln", "sqrt")
    } else {
      "identity"
    }
  }
  scales <- lapply(on, scale_for)
  if (isTRUE(ink$may_lie) && chance(0.3)) {
    on <- stats::setNames(rev(on), c("x", "y"))
    scales <- stats::setNames(rev(scales), c("x", "y"))
  }
  value <- if (quantity(on$x) && !quantity(on$y)) "x" else "y"
  part <- list(
    name = name,
    ink = ink,
    table = table,
    on = on,
    scales = scales,
    # The axis of the values, and the one that they stand along.
    value = value,
    along = setdiff(c("x", "y"), value),
    colour = if (isTRUE(ink$must_colour) || !isTRUE(ink$colourless) && chance(0.6)) "bakery",
    split = if (chance(0.4)) "oven",
    reversed = c(x = chance(0.2), y = chance(0.2)) & vapply(on, quantity, NA),
    keep = if (chance(0.2)) one_of(quote(hour > 1), quote(n > 3 & hour < 6), quote(rise > 2))
  )
  part$order <- if (chance(0.2)) bquote(list(flour = .(rev(table$categories$flour$codes))))
  part$shape <- if (isTRUE(ink$shapes) && !is.null(part$colour) && chance(0.4)) "bakery"
  part$scale <- scales[[value]]
  part$x_scale <- scales$x
  part$block <- eval(part_call(part), list(book = table$book), asNamespace("nelvat"))
  part
}

`%||%` <- function(a, b) if (is.null(a)) b else a

# The call that a user would write.
part_call <- function(part) {
  shown <- function(direction) {
    column <- part$on[[direction]]
    if (is.null(column)) return(NULL)
    call <- as.name(column)
    if (part$scales[[direction]] != "identity") call <- call(part$scales[[direction]], call)
    call
  }
  turned <- function(direction) {
    if (isTRUE(part$reversed[[direction]])) quote(axis_of(reverse = TRUE))
  }
  arguments <- list(
    x = shown("x"),
    y = shown("y"),
    colour = if (!is.null(part$colour)) as.name(part$colour),
    shape = if (!is.null(part$shape)) as.name(part$shape),
    derive = if ("twice" %in% unlist(part$on)) quote(c(twice = rise * 2)),
    keep = part$keep,
    order = part$order,
    x_axis = turned("x"),
    y_axis = turned("y")
  )
  arguments <- Filter(Negate(is.null), arguments)
  design <- as.call(
    c(
      list(quote(panel), quote(book)),
      arguments,
      Filter(Negate(is.null), list(part$ink$also, part$ink$call))
    )
  )
  if (is.null(part$split)) {
    design
  } else {
    as.call(list(quote(facets), design, across = as.name(part$split)))
  }
}

truth_plate <- function(seed) {
  set.seed(seed)
  first <- random_table()
  # A second table has the same categories; a plate of unlike ones is another matter.
  tables <- list(first, random_table(first$categories))
  parts <- lapply(
    seq_len(one_of(1, 2, 2, 3)),
    function(i) truth_part(tables[[sample(2, 1, prob = c(0.8, 0.2))]])
  )
  blocks <- lapply(parts, `[[`, "block")
  # On axes the mass has one unit, that of the first block that shows it there.
  # Residuals of it are another variable.
  on_axis <- vapply(
    parts,
    function(part) {
      "mass" %in% unlist(if (isTRUE(part$ink$replaces)) part$on["x"] else part$on)
    },
    NA
  )
  shown <- vapply(parts, function(part) part$table$show, "")
  unit <- ifelse(on_axis, shown[which(on_axis)[1]], shown)
  for (i in seq_along(parts)) {
    parts[[i]]$factor <- grams[[parts[[i]]$table$unit]] / grams[[unit[i]]]
  }
  list(
    seed = seed,
    parts = parts,
    plate = do.call(
      nelvat::plate,
      c(
        blocks,
        list(
          width = if (seed %% 3 == 0) 86 else 178,
          height = 230,
          per_row = 1,
          share = chance(0.5)
        )
      )
    )
  )
}

# The rows that are asked for, and of these what a panel of one level of its split shows.
asked_rows <- function(part) {
  data <- part$table$data
  data$twice <- 2 * data$rise
  if (is.null(part$keep)) return(data)
  data[which(eval(part$keep, data)), ]
}
drawn_rows <- function(part, level = NULL) {
  columns <- unique(c(unlist(part$on), part$ink$needs, part$colour, part$shape, part$split))
  rows <- asked_rows(part)
  rows <- rows[stats::complete.cases(rows[columns]), ]
  rows$mass <- rows$mass * part$factor
  if (!is.null(level)) rows <- rows[rows[[part$split]] == level, ]
  if (!is.null(part$on[[part$value]])) rows$value <- rows[[part$on[[part$value]]]]
  if (!is.null(part$on[[part$along]])) rows$along <- rows[[part$on[[part$along]]]]
  if (part$value == "x" && part$name %in% c("fit", "weighed", "value", "residuals", "contours")) {
    rows[c("value", "along")] <- rows[c("along", "value")]
  }
  rows
}

# The marks that stand for rows: a list of groups, each with its rows, the levels that part it, and
# what is true of it.
true_marks <- function(part, rows) {
  direction <- c(x = part$on$x, y = part$on$y, colour = part$colour)
  parts <- part$ink$parts
  # Of an ink that lies, the category stands on y.
  if (part$along == "y" && isTRUE(part$ink$may_lie)) parts <- sub("^x$", "y", parts)
  columns <- unique(unname(direction[intersect(parts, names(direction))]))
  key <- if (length(columns)) {
    told <- lapply(columns, function(column) format(as_told(part, column, rows[[column]])))
    do.call(paste, c(told, sep = "\r"))
  } else {
    rep("", nrow(rows))
  }
  lapply(split(rows, key), function(own) {
    list(
      rows = own,
      levels = as.list(own[1, columns, drop = FALSE]),
      true = part$ink$true(own, part)
    )
  })
}
