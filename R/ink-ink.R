# What an ink is. A description (`ink_bars()`), a list with class
# c("ink_<name>", "nelvat_ink"), and four methods that make the registry:
#
#   check_ink(ink, panel, call)  stops where the panel does not suit the ink;
#   train_ink(ink, layer)        computes in data space, per panel;
#   place_ink(ink, trained, site)   turns that into marks in unit-panel coordinates;
#   ink_traits(ink)              what it says of itself (see ink-traits.R);
#   own_keys(ink, layer, house)  keys of its own, such as a ramp of counts.
#
# An ink's statistic is a pure function in a stat-* file. Marks are of few
# primitives (rects, segments, points), each drawn by one draw-* function, so an
# ink of known primitives needs no drawing code of its own.
#
# A layer is one ink over all panels of a block: list(ink, table, x, y, colour,
# shape). `table` has panel, x, y and where mapped colour, shape: quantities in
# data units, categories as codes. `x`, `y`, `colour`, `shape` are variables without
# their values, NULL where not mapped.
#
# train_ink() returns a list of its own fields and of these, which check_trained() holds it to:
#   table   what its marks are made of, with the panel of each row;
#   extent  panel, x0, x1, y0, y1: what must be seen (NA for no say), or NULL;
#   zero    the directions whose axis starts at zero;
#   used    which rows of the layer stand behind its marks; NULL where it shows no data;
#   shows   in words, what they show: the statistic, and what its error means;
#   error_means   what its error bars or band span, in words; NULL where it draws none;
#   findings   what each mark says, of inks that compute (see ink-findings.R); traces: what runs
#           along them;
#   notes   what was left out, told to the user: column, what, n; or NULL.

new_ink <- function(ink, ...) {
  structure(list(ink = ink, ...), class = c(paste0("ink_", ink), "nelvat_ink"))
}

# An ink whose own channels were given as quosures: a colour or a number is a setting
# for the whole ink, anything else a column.
# An ink as its word says it, with what its call gives: to be called by the function of the word.
said_ink <- function(name, ..., call = rlang::caller_env()) {
  word <- paste0("ink_", name)
  taken <- taken_arguments(word, call, if (...length()) ...names() %||% rep("", ...length()))
  ink <- structure(c(list(ink = name), taken$values), class = c(word, "nelvat_ink"))
  rows <- word_arguments(word)
  for (argument in names(taken$columns)) {
    quo <- taken$columns[[argument]]
    type <- rows[[argument]]
    if (rlang::quo_is_null(quo)) next
    if (type$kind == "channel") {
      ink <- with_channels(ink, taken$columns[argument], call)
    } else if (type$kind == "condition") {
      ink <- in_panels_where(ink, quo)
    } else if (!is.null(type$choices) && is.character(rlang::quo_get_expr(quo))) {
      ink[[argument]] <- check_choice(rlang::quo_get_expr(quo), type$choices, argument, call)
    } else {
      check_is_no_text(quo, argument, call)
      ink$mapped[[type$mapped %||% argument]] <- quo
    }
  }
  ink
}

# A column is said bare.
check_is_no_text <- function(quo, argument, call) {
  said <- rlang::quo_get_expr(quo)
  if (!is.atomic(said)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be a column, bare."),
      x = paste0("Found ", describe_value(said), ".")
    ),
    call
  )
}

with_channels <- function(ink, channels, call = rlang::caller_env()) {
  for (channel in names(channels)) {
    quo <- channels[[channel]]
    if (rlang::quo_is_null(quo)) next
    fixed <- tryCatch(rlang::eval_tidy(quo), error = function(error) NULL)
    if (is_setting(fixed, channel)) {
      ink$settings[[channel]] <- if (channel == "colour") {
        plain_colour(fixed)
      } else if (is.numeric(fixed)) {
        as.numeric(check_type(mm_size(), fixed, channel, call))
      } else {
        fixed
      }
    } else if (is.character(fixed) && length(fixed) == 1) {
      abort_nelvat(
        "argument",
        c(
          paste0(
            "`",
            channel,
            "` must be a ",
            if (channel == "shape") "symbol" else channel,
            " or a column, bare."
          ),
          x = paste0("Found ", describe_value(fixed), "."),
          if (channel == "shape") offer(fixed, symbol_names, "symbol")
        ),
        call
      )
    } else {
      ink$mapped[[channel]] <- quo
    }
  }
  ink
}

is_setting <- function(value, channel) {
  if (channel == "size") return(is.numeric(value) && length(value) == 1)
  if (channel == "group") return(FALSE)
  if (channel == "shape") return(rlang::is_string(value) && value %in% symbol_names)
  rlang::is_string(value) && (
    grepl("^#([0-9A-Fa-f]{6}|[0-9A-Fa-f]{8})$", value) || value %in% grDevices::colors()
  )
}

# An ink once it is known what its panel shows: for what the ink leaves to that.
settled_ink <- function(ink, variables) UseMethod("settled_ink")
#' @export
settled_ink.default <- function(ink, variables) ink

# An ink once it is known which others are in its panel.
beside_inks <- function(ink, others) UseMethod("beside_inks")
#' @export
beside_inks.default <- function(ink, others) ink

# What an ink asks of a table that stays in its database: "nothing" (notes), "rows", "bins" (of one
# quantity), "moments" (of a quantity in groups), "classes" (fine ones of a quantity in groups),
# "counts" (of groups), "pairs" (moments of two quantities) or "cells" (of two quantities).
question_of <- function(ink) UseMethod("question_of")
#' @export
question_of.default <- function(ink) {
  if (ink_traits(ink)$summarises == "nothing") "nothing" else "rows"
}
errors_of_moments <- c("sd", "se", "ci", "range", "none")
question_of_centre <- function(centre, error) {
  if (centre %in% c("mean", "sum") && error %in% errors_of_moments) return("moments")
  if (centre == "median" && error %in% c("quartiles", "range", "none")) "classes" else "rows"
}

is_ink <- function(x) inherits(x, "nelvat_ink")

check_ink <- function(ink, panel, call) UseMethod("check_ink")
train_ink <- function(ink, layer) UseMethod("train_ink")
place_ink <- function(ink, trained, site) UseMethod("place_ink")

# The kind of the axis that an ink brings where the panel names none, such as a count.
supplied_axis <- function(ink, direction, variables) UseMethod("supplied_axis")
#' @export
supplied_axis.default <- function(ink, direction, variables) NULL

# An axis that is not drawn.
hidden_axis <- function() new_kind("quantity", name = "", hidden = TRUE)

# What an ink says of itself in an enlargement that shows so much of x.
enlarged_says <- function(ink, seen) UseMethod("enlarged_says")
#' @export
enlarged_says.default <- function(ink, seen) NULL

# The variable that stands on an axis once an ink has changed what it shows.
replaced_axis <- function(ink, direction, variable) UseMethod("replaced_axis")
#' @export
replaced_axis.default <- function(ink, direction, variable) variable

# What such an ink shows on the y axis of each row of its layer: see marginals.
replaced_values <- function(ink, layer) UseMethod("replaced_values")
#' @export
replaced_values.default <- function(ink, layer) NULL

# What an ink that stands above the marks of others lacks of room there: a row a panel with panel,
# missing_mm (less than 0: more than it needs) and top_mm, how high those marks reach. NULL:
# nothing.
head_needs <- function(ink, trained, site) UseMethod("head_needs")
#' @export
head_needs.default <- function(ink, trained, site) NULL

# Rows of numbers that an ink writes under its axis: list(title, groups), a row a group, with the
# panel and the codes that part them; NULL for none. under_texts(): the numbers of one group at
# places of the axis.
under_rows <- function(ink, layer) UseMethod("under_rows")
#' @export
under_rows.default <- function(ink, layer) NULL
under_texts <- function(ink, layer, group, ticks) UseMethod("under_texts")

# What stands at the end of a strip that an ink draws in a margin; NULL for nothing.
margin_name <- function(ink, layer) UseMethod("margin_name")
#' @export
margin_name.default <- function(ink, layer) NULL

# What the marks of an ink are called where several of them are spoken of.
marks_named <- function(ink) UseMethod("marks_named")
#' @export
marks_named.default <- function(ink) gsub("_", " ", ink$ink)

# How wide a panel is that holds no more than an ink's text needs, in mm; NULL for an ink that takes
# what width there is.
natural_width <- function(ink, heading, house) UseMethod("natural_width")
#' @export
natural_width.default <- function(ink, heading, house) NULL

# Rows of a layer whose mark bears no size, though a quantity is on `size`.
is_unsized <- function(ink, layer) UseMethod("is_unsized")
#' @export
is_unsized.default <- function(ink, layer) rep(FALSE, nrow(layer$table))

# Keys an ink brings of its own, such as a ramp of counts.
own_keys <- function(ink, layer, house) UseMethod("own_keys")
#' @export
own_keys.default <- function(ink, layer, house) NULL

# Marks of one primitive; `table` columns are those of the primitive in draw-*.
new_marks <- function(primitive, table) list(primitive = primitive, table = table)

# Bands, shades and filled regions lie under the points and lines of inks before them: over them
# they would change their colours.
under_points <- function(marks) c(marks, list(under = TRUE))

# Groups of a layer's rows: a panel's levels of the channels that part series. ink: one that
# makes a statistic of them. A group tells series of raw values apart, such as each subject's
# trace; a statistic pools over it, unless the ink has a group of its own.
# Returns list(at: group of each row, NA where a channel is missing; rows: one a group).
layer_groups <- function(layer, complete, ink = NULL, table = layer$table) {
  if (!is.null(ink) && !is_told_apart(ink)) table$group <- NULL
  columns <- c("panel", intersect(c("colour", "shape", "dash", "group"), names(table)))
  if (is_ramp(layer$colour)) columns <- setdiff(columns, "colour")
  key <- table[columns]
  complete <- complete & complete_rows(key, columns)
  match_rows(key, complete)
}

is_told_apart <- function(ink) !is.null(ink$variables$group) || isTRUE(ink$told_apart)

# Numbers the distinct rows of `key` among those that are complete.
match_rows <- function(key, complete) {
  rows <- which(complete)
  group <- as.integer(vctrs::vec_group_id(vctrs::vec_slice(key, rows)))
  group_of <- rep(NA_integer_, nrow(key))
  group_of[rows] <- group
  list(at = group_of, rows = table_rows(key, rows[!duplicated(group)]))
}

is_constant <- function(values) length(values) > 0 && !anyNA(values) && all(values == values[1])

# The panels that rows are of, in order; codes count from one.
panels_in <- function(codes) which(tabulate(codes) > 0)

# The panels of rows and which of them each row is of.
panel_index <- function(panel) {
  if (is_constant(panel)) return(list(panels = panel[1], at = rep(1L, length(panel))))
  panels <- panels_in(panel)
  list(panels = panels, at = match(panel, panels))
}

# Rows of a layer with all of `columns`.
complete_rows <- function(table, columns) {
  complete <- lapply(intersect(columns, names(table)), function(column) !is.na(table[[column]]))
  Reduce(`&`, complete, rep(TRUE, nrow(table)))
}

check_trained <- function(trained, layer) {
  right <- is.list(trained) && is.character(trained$zero) && all(trained$zero %in% c("x", "y")) &&
    (
      is.null(trained$extent) || all(c("panel", "x0", "x1", "y0", "y1") %in% names(trained$extent))
    ) &&
    (
      is.null(trained$used) ||
        length(trained$used) == nrow(layer$table) && rlang::is_string(trained$shows)
    )
  if (right) {
    check_findings(trained, layer)
    return(trained)
  }
  abort_nelvat(
    "record",
    c(
      paste0("What ", paste0("`ink_", layer$ink$ink, "()`"), " computed is not right."),
      x = paste0(
        "It lacks `zero`, or its `extent`, `used` or `shows` is of another form than an ink gives."
      )
    ),
    call = NULL
  )
}

extent_by_panel <- function(panel, x0 = NA, x1 = x0, y0 = NA, y1 = y0) {
  index <- panel_index(panel)
  k <- length(index$panels)
  end <- function(values, which) {
    panel_extent_cpp(
      index$at,
      as.numeric(
        if (length(values) %in% c(1, length(panel))) values else rep_len(values, length(panel))
      ),
      k
    )[which, ]
  }
  new_table(
    panel = index$panels,
    x0 = end(x0, 1),
    x1 = end(x1, 2),
    y0 = end(y0, 1),
    y1 = end(y1, 2),
    .rows = k
  )
}

# Exchanges x and y in a table of marks or extents: an ink computes its upright
# form, and lies down by this.
exchange_axes <- function(table, swap) {
  if (!swap) return(table)
  turned <- c(x = "y", y = "x", x0 = "y0", y0 = "x0", x1 = "y1", y1 = "x1")
  is_turned <- names(table) %in% names(turned)
  names(table)[is_turned] <- turned[names(table)[is_turned]]
  table
}
