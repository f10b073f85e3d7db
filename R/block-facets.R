#' One panel design, repeated
#'
#' Repeats a panel over the levels of categories across and down the page, over several
#' measures (several `y` in [panel()]), or both: measures go down where levels go across.
#'
#' @eval argument_lines("facets")
#' @return A block, for [plate()].
#' @section Errors:
#' `nelvat_error_column`, `nelvat_error_kind`, `nelvat_error_argument`.
#' @examples
#' loaves <- panel(study("loaves"), x = hydration, y = c(rise, volume), ink_bars())
#' plate(facets(loaves, across = bakery), width = "double", height = 80)
#' scatter <- panel(study("loaves"), x = rise, y = firmness, ink_points())
#' plate(
#'   facets(scatter, across = flour, down = hydration, behind = TRUE),
#'   width = "double",
#'   height = 110
#' )
#' @export
facets <- function(
  panel,
  across = NULL,
  down = NULL,
  per_row = NULL,
  order = NULL,
  missing = "drop",
  empty = "draw",
  heading = NULL,
  behind = FALSE,
  range_per = c(x = "block", y = "block"),
  show_axes = "edge",
  room = "even",
  aspect = NULL,
  alone = NULL,
  ...
) {
  check_rest(...)
  call <- rlang::current_env()
  check_is_panel(asked_later(panel), call)
  new_facets(
    panel,
    rlang::enquo(across),
    rlang::enquo(down),
    list(
      per_row = per_row,
      order = order,
      missing = missing,
      empty = empty,
      heading = heading,
      behind = behind,
      range_per = range_per,
      show_axes = show_axes,
      room = room,
      aspect = aspect,
      alone = alone
    ),
    call
  )
}

facets_settings <- function() setdiff(names(word_arguments("facets")), c("panel", "across", "down"))

# across, down: quosures; settings: a list, those not given as facets() has them.
new_facets <- function(panel, across, down, settings, call) {
  across_quo <- across
  down_quo <- down
  settings <- with_defaults("facets", settings, call)
  panel <- with_parts(panel, list(across, down), call)
  across <- split_variables(across, "across", panel, settings$order, settings$missing, call)
  down <- split_variables(down, "down", panel, NULL, settings$missing, call)
  check_unlike_splits(across, down, call)
  check_one_sequence(panel, across, down, settings$per_row, call)
  new_block(
    "facets",
    panel = panel,
    across = across,
    down = down,
    per_row = settings$per_row,
    heading = if (!is_block_title(settings$heading)) check_heading(settings$heading, call),
    title_over = if (is_block_title(settings$heading)) settings$heading else panel$heading,
    range_per = check_range_per(settings$range_per, call),
    show_axes = settings$show_axes,
    room = settings$room,
    empty = settings$empty,
    made = list(across = across_quo, down = down_quo, settings = settings),
    behind = check_behind(settings$behind, panel, call),
    aspect = settings$aspect %||% own_shape(panel$inks),
    axes = panel$axes,
    alone = check_alone(settings$alone, panel, across, down, call)
  )
}

# Where no ink can stand faintly behind others, asking for it is a slip.
check_behind <- function(behind, panel, call) {
  can <- vapply(panel$inks, function(ink) ink_traits(ink)$behind, NA)
  if (!behind || any(can)) return(behind)
  abort_nelvat(
    "argument",
    c(
      "`behind` has nothing to draw faintly.",
      x = paste0(
        listed(unique(paste0("`ink_", vapply(panel$inks, `[[`, "", "ink"), "()`"))),
        if (length(panel$inks) > 1) " are" else " is",
        " of each panel's own rows only."
      ),
      i = "Points, lines, dots and other marks of single values can."
    ),
    call
  )
}

# Height over width of marks that have a shape of their own, such as images; NULL for others.
own_shape <- function(inks) {
  Find(Negate(is.null), lapply(inks, `[[`, "shape_is"))
}

# list(x, y): levels or numbers of panels whose axis is their own.
check_alone <- function(alone, panel, across, down, call) {
  if (is.null(alone)) return(NULL)
  if (!is.list(alone) || !all(rlang::names2(alone) %in% c("x", "y"))) {
    abort_nelvat(
      "argument",
      c(
        "`alone` must be such as `list(y = \"rye\")`.",
        x = paste0("Found ", describe_value(alone), ".")
      ),
      call
    )
  }
  known <- unlist(
    lapply(c(across, down), function(variable) c(variable$kind$levels, variable$kind$level_names))
  )
  known <- unique(c(known, vapply(panel$variables$y, `[[`, "", "id")))
  for (one in Filter(is.character, lapply(alone, unlist))) {
    absent <- setdiff(one, known)
    if (length(absent)) {
      abort_nelvat(
        "argument",
        c(
          paste0("`alone`: no panel stands for \"", absent[1], "\"."),
          offer(absent[1], known, "level")
        ),
        call
      )
    }
  }
  lapply(alone, unlist)
}

#' @export
panel_variables.nelvat_facets <- function(block, areas, direction) {
  variables <- block$panel$variables
  if (direction == "x") return(rep(list(variables$x), nrow(areas)))
  if (!is.null(variables$shared_y)) return(rep(list(variables$shared_y), nrow(areas)))
  variables$y[areas$measure]
}

#' @export
block_variables.nelvat_facets <- function(block) {
  variables <- block$panel$variables
  c(
    list(variables$x),
    variables$y,
    variables[mark_channels],
    block$across,
    block$down,
    unlist(lapply(block$panel$inks, `[[`, "variables"), recursive = FALSE)
  )
}

#' @export
block_label.nelvat_facets <- function(block) block$panel$label

# The variables that split a panel in one direction, in the order asked; NULL for none.
split_variables <- function(quo, argument, panel, order, missing, call) {
  if (rlang::quo_is_null(quo)) return(NULL)
  book <- panel$book
  column <- quo_column(quo)
  if (!is.null(order) && !is.null(column) && column %in% names(book$data)) {
    book <- order_columns(book, stats::setNames(list(order), column), call)
  }
  check_choice(missing, level_policies, "missing", call)
  lapply(resolve_variables(quo, book, argument, call), function(variable) {
    check_variable_kind(variable, argument, c("category", "ordinal"), call)
    variable <- apply_missing(variable, missing)
    if (!length(variable$kind$levels)) abort_no_levels(variable, argument, call)
    weighed_variable(variable, panel$book)
  })
}

# How many panels the measures of a panel make.
panel_measures <- function(panel) {
  if (is.null(panel$variables$shared_y)) max(1L, length(panel$variables$y)) else 1L
}

# A column that splits both ways leaves all panels but its diagonal empty.
check_unlike_splits <- function(across, down, call) {
  both <- intersect(vapply(across, `[[`, "", "id"), vapply(down, `[[`, "", "id"))
  if (!length(both)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`across` and `down` must split by unlike columns.",
      x = paste0("Both are of ", quoted(both), ".")
    ),
    call
  )
}

check_one_sequence <- function(panel, across, down, per_row, call) {
  sequences <- c(
    if (panel_measures(panel) > 1) paste(panel_measures(panel), "measures"),
    if (!is.null(across)) paste0("the levels of ", quoted(vapply(across, `[[`, "", "id"))),
    if (!is.null(down)) paste0("the levels of ", quoted(vapply(down, `[[`, "", "id")))
  )
  if (is.null(per_row) || length(sequences) < 2) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`per_row` needs one sequence of panels.",
      x = paste0("There are ", length(sequences), ": ", listed(sequences), ".")
    ),
    call
  )
}

heading_pieces <- c("{name}", "{level}", "{unit}", "{n}", "{missing}")

# A heading without any piece stands over the whole block.
is_block_title <- function(heading) {
  rlang::is_string(heading) && !rlang::have_name(heading) && !grepl("[{}]", heading)
}

check_heading <- function(heading, call) {
  if (is.null(heading)) return(NULL)
  if (is.list(heading)) heading <- unlist(heading)
  if (rlang::is_string(heading) && is.null(names(heading))) {
    heading <- c(across = heading, down = heading)
  }
  right <- is.character(heading) && all(rlang::names2(heading) %in% c("across", "down"))
  pieces <- if (right) unlist(regmatches(heading, gregexpr("\\{[^}]*\\}", heading)))
  stray <- setdiff(pieces, heading_pieces)
  if (right && !length(stray)) return(as.list(heading))
  abort_nelvat(
    "argument",
    c(
      paste0(
        "`heading` must be text, or a pattern of text and ",
        quoted(heading_pieces),
        ", or one for each of \"across\" and \"down\"."
      ),
      x = if (length(stray)) {
        paste0("Found \"", stray[1], "\".")
      } else {
        paste0("Found ", describe_value(heading), ".")
      }
    ),
    call
  )
}

check_is_panel <- function(panel, call) {
  if (inherits(panel, "nelvat_panel")) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`facets()` repeats a panel.",
      x = paste0("Found ", describe_value(panel), "."),
      i = "Make one with `panel(data, x = , y = , <inks>)`."
    ),
    call
  )
}

check_range_per <- function(range_per, call) {
  if (is.list(range_per)) range_per <- unlist(range_per)
  if (rlang::is_string(range_per) && !rlang::have_name(range_per)) {
    range_per <- c(x = range_per, y = range_per)
  }
  stray <- setdiff(rlang::names2(range_per), c("x", "y"))
  if (!is.character(range_per) || length(stray)) {
    abort_nelvat(
      "argument",
      c(
        "`range_per` must be such as `c(x = \"block\", y = \"panel\")`.",
        x = paste0("Found ", describe_value(range_per), ".")
      ),
      call
    )
  }
  for (direction in names(range_per)) {
    check_choice(range_per[[direction]], range_words, "range_per", call)
  }
  utils::modifyList(list(x = "block", y = "block"), as.list(range_per))
}

# For what each axis has a range of its own.
range_words <- c("block", "column", "row", "panel")
