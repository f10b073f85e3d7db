#' One panel: a table, what stands on its axes, and what is drawn
#'
#' Columns are named bare (`x = flour`), as a string (`x = "flour"`) or through the pronoun
#' (`x = .data[["flour"]]`); what a column is can be said on the spot
#' (`x = ordinal(month)`). Several columns for `y`, as `c(rise, volume)`, make
#' one panel for each of them in [facets()], or one series each where `colour` or
#' `shape` is [measure()]. A call of `log10()`, `log2()`, `log()`, `sqrt()`, `asinh()`,
#' `logit()` or `reverse()` on `x` or `y` makes an axis of that transform, labelled in
#' the column's own units. `factor(hour)`, `reorder(bakery, rise)` and the like are the column
#' still, as levels: by its name, and with the names and colours that a codebook gives them. Other
#' expressions make new values.
#'
#' @eval argument_lines("panel")
#' @return A panel: a list with class `nelvat_panel`.
#' @section Errors:
#' `nelvat_error_column` for a column that is not there, `nelvat_error_kind` for a
#' column whose kind does not suit, `nelvat_error_expression` for an expression that
#' cannot be computed, `nelvat_error_argument` for anything else.
#' @examples
#' panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars())
#' panel(
#'   study("pores"),
#'   x = log10(area),
#'   y = roundness,
#'   keep = flour == "rye",
#'   ink_points(size = 0.3)
#' )
#' @export
panel <- function(
  data,
  ...,
  x = NULL,
  y = NULL,
  colour = NULL,
  shape = NULL,
  dash = NULL,
  size = NULL,
  group = NULL,
  derive = NULL,
  keep = NULL,
  order = NULL,
  missing = NULL,
  x_axis = NULL,
  y_axis = NULL,
  house = NULL,
  heading = NULL
) {
  call <- rlang::current_env()
  check_needed(panel, "panel", call)
  check_stray(
    ...names(),
    c(
      "data",
      panel_channels,
      "derive",
      "keep",
      "order",
      "missing",
      "x_axis",
      "y_axis",
      "house",
      "heading"
    ),
    "panel",
    call
  )
  channels <- list(
    x = rlang::enquo(x),
    y = rlang::enquo(y),
    colour = rlang::enquo(colour),
    shape = rlang::enquo(shape),
    dash = rlang::enquo(dash),
    size = rlang::enquo(size),
    group = rlang::enquo(group)
  )
  book <- table_or_codebook(data, deparsed_label(substitute(data)), call)
  axes <- list(x = check_axis(x_axis, "x_axis", call), y = check_axis(y_axis, "y_axis", call))
  derive <- captured_derive(rlang::enquo(derive), call)
  made <- new_panel(
    book,
    channels,
    inks_in_dots(book, call, list(...)),
    derive,
    rlang::enquo(keep),
    order,
    missing,
    axes,
    call
  )
  with_heading(with_house(made, house, call), heading, call)
}

# A panel whose running statistics and fills stay within what parts it further, such as facets; one
# of a database that was not asked yet is asked with them.
with_parts <- function(panel, parts, call) {
  parts <- Filter(Negate(rlang::quo_is_null), parts)
  made <- panel$made
  filled <- any(vapply(c(made$missing, list(made$missing)), inherits, NA, "nelvat_fill"))
  parted <- length(parts) && (filled || !is.null(made$derive) || is_source(made$book))
  if (!parted && !isTRUE(panel$book$first_rows)) return(panel)
  again <- new_panel(
    made$book,
    made$channels,
    made$inks,
    made$derive,
    made$keep,
    made$order,
    made$missing,
    made$axes,
    call,
    parts
  )
  with_heading(with_house(again, panel$house, call), panel$heading, call)
}

# A panel or block with a title over it.
with_heading <- function(block, heading, call) {
  heading <- checked_argument("panel", "heading", heading, call)
  if (is.null(heading)) return(block)
  if (inherits(block, "nelvat_panel")) {
    changed(block, heading = heading)
  } else {
    changed(block, title_over = heading)
  }
}

# A panel whose marks are drawn in a house style of its own.
with_house <- function(panel, house, call) {
  if (!is.null(house)) panel$house <- house_from(house, call)
  panel
}

panel_channels <- c("x", "y", "colour", "shape", "dash", "size", "group")

# book: a codebook; channels: quosures by channel; inks: what the dots held; keep: a
# quosure; parts: quosures of what parts the panel's rows besides its channels, such as facets.
new_panel <- function(
  book,
  channels,
  inks,
  derive = NULL,
  keep = rlang::quo(NULL),
  order = NULL,
  missing = NULL,
  axes = NULL,
  call,
  parts = list()
) {
  inks <- check_inks(inks, call)
  made <- list(
    book = book,
    channels = channels,
    inks = inks,
    derive = derive,
    keep = keep,
    order = order,
    missing = missing,
    axes = axes
  )
  if (is_source(book)) {
    ask <- if (asking$later) first_rows_book else asked_book
    book <- ask(book, channels, inks, derive, keep, parts, call)
    # Levels that are not among the first rows may be named by what is said of them.
    if (asking$later) {
      order <- NULL
      axes <- NULL
    }
    derive <- NULL
    keep <- rlang::quo(NULL)
    channels <- book$channels %||% channels
    if (!is.null(book$breaks)) inks <- lapply(inks, changed, found_breaks = book$breaks)
  }
  if (!nrow(book$data)) {
    abort_nelvat(
      "data",
      c(paste0("There is nothing to draw in ", book$label, "."), x = "It has no rows."),
      call
    )
  }
  parts <- c(channels[c("colour", "shape", "dash", "group")], parts)
  book <- derive_columns(book, derive, call, parts)
  whole <- book
  book <- keep_rows(book, keep, call)
  book <- order_columns(book, order_left(order, whole, book), call)
  missing <- check_missing(missing, panel_channels, call)
  if (!is.null(book$times)) check_no_fill(missing, call)
  variables <- resolve_channels(channels, book, missing, call, series_codes(book, parts))
  check_channels(variables, call)
  variables <- with_times(variables, book)
  inks <- lapply(inks, resolve_ink, book = book, missing = missing, call = call)
  inks <- lapply(inks, settled_ink, variables)
  inks <- lapply(seq_along(inks), function(k) beside_inks(inks[[k]], inks[-k]))
  design <- structure(
    list(
      label = book$label,
      book = book,
      variables = variables,
      n = nrow(book$data),
      inks = inks,
      axes = axes,
      made = made
    ),
    class = "nelvat_panel"
  )
  inks <- lapply(inks, ink_on_axes, variables, call)
  axes$x <- axis_in_its_unit(axes$x, variables$x, "x_axis", call)
  axes$y <- axis_in_its_unit(axes$y, variables$y[[1]], "y_axis", call, variables$y)
  design$axes <- axes
  at_head <- rows_at_heads(axes$y, variables$y[[1]])
  variables$x <- none_missing_at(variables$x, at_head)
  inks <- lapply(inks, function(ink) {
    changed(ink, variables = lapply(ink$variables, none_missing_at, at_head))
  })
  design$variables <- variables
  design$inks <- inks
  for (ink in inks) check_in_panel(ink, design, call)
  check_category_ranges(variables, axes, call)
  check_one_axis(inks, variables, call)
  design$variables <- supply_axes(variables, inks, nrow(book$data))
  with_replaced_axes(design)
}

check_axis <- function(axis, argument, call) {
  if (is.null(axis) || inherits(axis, "nelvat_axis")) return(axis)
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be such as `axis_of(range = c(0, 24))`."),
      x = paste0("Found ", describe_value(axis), ".")
    ),
    call
  )
}

check_inks <- function(inks, call) {
  inks <- unlist(
    lapply(
      inks,
      function(ink) if (is_ink(ink)) list(ink) else if (is.list(ink)) ink else list(ink)
    ),
    recursive = FALSE
  )
  wrong <- Filter(Negate(is_ink), inks)
  if (length(wrong) || !length(inks)) {
    abort_nelvat(
      "argument",
      c(
        "A panel needs inks, such as `ink_bars()` or `ink_points()`.",
        x = if (length(wrong)) paste0("Found ", describe_value(wrong[[1]]), ".") else "Found none."
      ),
      call
    )
  }
  inks
}

# Where one axis is not given, the first ink that counts or estimates brings it; where
# none does, the panel has no such axis.
supply_axes <- function(variables, inks, n) {
  for (direction in c("x", "y")) {
    if (!is.null(variables[[direction]])) next
    kinds <- Filter(Negate(is.null), lapply(inks, supplied_axis, direction, variables))
    kind <- if (length(kinds)) kinds[[1]] else hidden_axis()
    variable <- new_variable(
      kind$name,
      kind,
      values = rep(if (has_levels(kind)) 1 else NA_real_, n),
      supplied = TRUE
    )
    variables[[direction]] <- if (direction == "y") list(variable) else variable
  }
  variables
}

# Stops where a panel does not suit an ink, whose own channels, and its one colour, go before the
# panel's.
check_in_panel <- function(ink, panel, call) {
  own_channels <- intersect(names(ink$variables), c("colour", "shape", "dash", "size", "group"))
  given <- replace(panel$variables, own_channels, ink$variables[own_channels])
  if (!is.null(ink$settings$colour)) given$colour <- NULL
  check_ink(ink, replace(panel, "variables", list(given)), call)
}

# The columns an ink shows on channels of its own.
resolve_ink <- function(ink, book, missing, call) {
  if (!is.null(ink$mapped$where)) {
    check_level_words(rlang::quo_get_expr(ink$mapped$where), book, call)
  }
  ink$variables <- lapply(stats::setNames(nm = names(ink$mapped)), function(channel) {
    ready_variable(resolve_variable(ink$mapped[[channel]], book, channel, call), missing[[channel]])
  })
  ink$mapped <- NULL
  check_channels(ink$variables, call)
  ink
}

#' @export
print.nelvat_panel <- function(x, ...) {
  shown <- vapply(
    setdiff(names(x$variables), "shared_y"),
    function(channel) {
      variables <- x$variables[[channel]]
      ids <- if (channel == "y") vapply(variables, `[[`, "", "id") else variables$id
      paste0(channel, " = ", paste(ids, collapse = ", "))
    },
    ""
  )
  cat(
    "Panel of ",
    x$label,
    " (",
    counted(x$n, "row"),
    "): ",
    paste(shown, collapse = "; "),
    "\n",
    "Inks: ",
    paste(vapply(x$inks, `[[`, "", "ink"), collapse = ", "),
    "\n",
    sep = ""
  )
  invisible(x)
}

# What stands in the dots: inks. A column there was meant for an axis.
inks_in_dots <- function(book, call, inks) {
  tryCatch(inks, error = function(error) {
    if (inherits(error, "nelvat_error")) stop(error)
    missing_name <- regmatches(
      conditionMessage(error),
      regexec("^object '([^']+)' not found$", conditionMessage(error))
    )[[1]][2]
    if (is.na(missing_name) || !missing_name %in% names(book$data)) stop(error)
    abort_nelvat(
      "argument",
      c(
        "Columns of a panel are named: `x =`, `y =`, `colour =`.",
        x = paste0("Found ", missing_name, " without a name."),
        i = paste0("Such as `panel(data, x = ", missing_name, ", <inks>)`.")
      ),
      call
    )
  })
}
