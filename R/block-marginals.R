#' A panel of two quantities with marginals
#'
#' `joint()` draws two quantities against each other and each of them alone along its
#' edge. `marginals()` adds marginals to a panel, to each panel of [facets()], or to a matrix of
#' some variables against others, [every_pair()] with `rows`: one above each column and one beside
#' each row, a category by its counts.
#'
#' @eval argument_lines("joint", "marginals")
#' @return A block, for [plate()].
#' @details On a transformed axis marginals are computed in the transformed values and
#'   stand over the axis's own labels. A key stands in the corner between the marginals
#'   where it fits, otherwise at the top of the plate.
#' @section Errors:
#' `nelvat_error_kind` where `x` or `y` is not a quantity or a moment; those of [panel()].
#' @examples
#' loaves <- study("loaves")
#' plate(
#'   joint(loaves, x = rise, y = firmness, colour = flour, ink_points()),
#'   width = 100,
#'   height = 90
#' )
#' scatter <- panel(loaves, x = rise, y = volume, ink_points())
#' plate(
#'   marginals(facets(scatter, across = verdict), x = ink_histogram(), depth = 8),
#'   width = "double",
#'   height = 70
#' )
#' @export
joint <- function(
  data,
  x,
  y,
  ...,
  colour = NULL,
  shape = NULL,
  dash = NULL,
  size = NULL,
  group = NULL,
  marginal = NULL,
  depth = NULL,
  gap = 1,
  marginal_axis = FALSE,
  aspect = NULL,
  derive = NULL,
  keep = NULL,
  order = NULL,
  missing = NULL,
  x_axis = NULL,
  y_axis = NULL,
  heading = NULL
) {
  call <- rlang::current_env()
  check_needed(joint, "joint", call)
  check_stray(...names(), setdiff(names(formals(joint)), "..."), "joint", call)
  channels <- list(
    x = rlang::enquo(x),
    y = rlang::enquo(y),
    colour = rlang::enquo(colour),
    shape = rlang::enquo(shape),
    dash = rlang::enquo(dash),
    size = rlang::enquo(size),
    group = rlang::enquo(group)
  )
  new_joint(
    table_or_codebook(data, deparsed_label(substitute(data)), call),
    channels,
    list(...),
    list(
      derive = captured_derive(rlang::enquo(derive), call),
      keep = rlang::enquo(keep),
      order = order,
      missing = missing,
      x_axis = x_axis,
      y_axis = y_axis
    ),
    list(
      marginal = marginal,
      depth = depth,
      gap = gap,
      axis = marginal_axis,
      aspect = aspect,
      heading = heading
    ),
    call
  )
}

#' @export
word_rows.joint <- function(word) {
  of_panel <- word_arguments("panel")
  direction <- a_variable(says = "The two quantities.")
  c(
    of_panel["data"],
    list(x = direction, y = direction),
    of_panel[c("colour", "shape", "dash", "size", "group")],
    list(
      ink = some_inks(
      dots = TRUE,
      says = "Inks of two quantities, drawn in this order; none: [ink_points()]."
    ),
    marginal = some_inks(
      inks_for_both(),
      says = c(
        "An ink of one quantity, or lists of them; `list(x = , y = )` sets them apart.",
        "`NULL`: [ink_density()] where colour tells groups apart, else [ink_histogram()].",
        "Bins that are not asked for line up with the panel's ticks."
      )
    ),
    depth = a_depth(
      says = "Depth of the marginals in mm; `NULL`: a fifth of the panel's shorter side."
    ),
    gap = a_number(
      0,
      50,
      unit = "mm",
      says = "Millimetres between panel and marginals; 0: they touch."
    ),
    marginal_axis = a_flag(says = "Tick text on the marginals' own axes?"),
    aspect = an_aspect(
      says = "Height of the plot area over its width, such as 1; `NULL` fills the room."
    )
    ),
    of_panel[c("derive", "keep", "order", "missing", "x_axis", "y_axis", "heading")]
  )
}

joint_settings <- c("marginal", "depth", "gap", "marginal_axis", "aspect", "heading")

inks_for_both <- function() {
  inks <- one_or_more(ref_to("ink"))
  sides <- list(
    type = "object",
    properties = list(x = inks, y = inks),
    additionalProperties = FALSE
  )
  list(anyOf = c(inks$anyOf, list(sides)))
}

new_joint <- function(book, channels, inks, settings, layout, call) {
  for (channel in c("x", "y")) {
    if (rlang::quo_is_missing(channels[[channel]]) || rlang::quo_is_null(channels[[channel]])) {
      abort_nelvat(
        "argument",
        c("A joint figure needs `x` and `y`.", x = paste0("`", channel, "` is not given.")),
        call
      )
    }
  }
  if (!length(inks)) inks <- list(ink_points())
  design <- new_panel(
    book,
    channels,
    inks,
    settings$derive,
    settings$keep %||% rlang::quo(NULL),
    settings$order,
    settings$missing,
    list(
      x = check_axis(settings$x_axis, "x_axis", call),
      y = check_axis(settings$y_axis, "y_axis", call)
    ),
    call
  )
  marginal <- both_margins(layout$marginal, design)
  layout$joint <- TRUE
  with_heading(new_marginals(design, marginal$x, marginal$y, layout, call), layout$heading, call)
}

# list(x, y) of what is asked for the margins of a joint figure.
both_margins <- function(marginal, design) {
  grouped <- !is.null(design$variables$colour) && has_levels(design$variables$colour$kind)
  marginal <- marginal %||% if (grouped) ink_density() else ink_histogram()
  apart <- is.list(marginal) && !is_ink(marginal) && any(rlang::names2(marginal) %in% c("x", "y"))
  if (apart) marginal[c("x", "y")] else list(x = marginal, y = marginal)
}

#' @rdname joint
#' @export
marginals <- function(
  panel,
  x = NULL,
  y = NULL,
  depth = NULL,
  gap = 1,
  axis = FALSE,
  outside = FALSE,
  ...
) {
  check_rest(...)
  call <- rlang::current_env()
  if (!inherits(panel, c("nelvat_panel", "nelvat_facets", "nelvat_pairs"))) {
    abort_nelvat(
      "argument",
      c(
        "`marginals()` adds to a `panel()`, `facets()` or an `every_pair()` with `rows`.",
        x = paste0("Found ", describe_value(panel), ".")
      ),
      call
    )
  }
  if (is.null(x) && is.null(y)) {
    abort_nelvat(
      "argument",
      c("`marginals()` needs inks for `x` or `y`.", x = "Neither is given."),
      call
    )
  }
  layout <- list(depth = depth, gap = gap, axis = axis, outside = outside)
  new_marginals(panel, x, y, layout, call)
}

#' @export
word_rows.marginals <- function(word) {
  side <- some_inks(
    says = c(
      "In `marginals()` the inks of one quantity along",
      "the top and the right, or `NULL` for none there."
    )
  )
  list(
    panel = in_calls(
      a_part(
        "panel",
        NULL,
        "a panel or facets",
        FALSE,
        says = "A [panel()], [facets()], or an [every_pair()] with `rows`."
      )
    ),
    x = side,
    y = side,
    depth = a_depth(
      says = "Depth of the marginals in mm; `NULL`: a fifth of the panel's shorter side."
    ),
    gap = a_number(
      0,
      50,
      unit = "mm",
      says = "Millimetres between panel and marginals; 0: they touch."
    ),
    axis = a_flag(says = "Tick text on the marginals' own axes?"),
    outside = a_flag(
      says = c(
        "Of [facets()]: one marginal for each column of panels and one for each row, of all their",
        "rows of data, outside the whole grid, in place of one at each panel?"
      )
    )
  )
}

new_marginals <- function(panel, x, y, layout, call) {
  block <- as_block(panel, call)
  if (inherits(block, "nelvat_pairs")) return(margins_of_pairs(block, x, y, layout, call))
  design <- block$panel
  check_one_measure(design, x, y, call)
  check_open_axes(design, call)
  inks <- list()
  for (side in c("x", "y")) {
    given <- list(x = x, y = y)[[side]]
    if (is.null(given)) next
    given_inks <- lapply(
      check_inks(list(given), call),
      resolve_ink,
      book = design$book,
      missing = NULL,
      call = call
    )
    inks[[side]] <- lapply(
      given_inks,
      function(ink) {
        ink <- beside_inks(settled_ink(ink, design$variables), list())
        ink_on_axes(ink, design$variables[side], call)
      }
    )
    with_place(
      paste0("the marginal of `", side, "`"),
      marginal_panel(design, side, inks[[side]], call)
    )
  }
  made <- list(x = x, y = y, layout = layout)
  block$marginals <- margin_record(inks, made, layout$outside %||% FALSE, call)
  if (!is.null(layout$aspect)) {
    block$aspect <- checked_argument("joint", "aspect", layout$aspect, call)
  }
  block
}

# What is known of a block's margins. inks: by side; made: as they were said.
margin_record <- function(inks, made, outside, call) {
  checked <- function(argument, value) checked_argument("marginals", argument, value, call)
  list(
    made = made,
    inks = inks,
    depth = checked("depth", made$layout$depth),
    gap = checked("gap", made$layout$gap %||% 1),
    axis = checked("axis", made$layout$axis %||% FALSE),
    outside = checked("outside", outside)
  )
}

# What stands along x alone may stand over several measures.
check_one_measure <- function(design, x, y, call) {
  n <- length(design$variables$y)
  if (is.null(design$variables$shared_y) && n < 2) return(invisible())
  inks <- if (!is.null(x)) check_inks(list(x), call)
  in_strips <- vapply(inks, function(ink) ink_traits(ink)$own_strip, NA)
  if (is.null(y) && all(in_strips)) return(invisible())
  abort_nelvat(
    "argument",
    c("Marginals need panels of one `y`.", x = paste0("There are ", n, ".")),
    call
  )
}

# Inks that draw axes of their own leave none for marginals to stand on.
check_open_axes <- function(design, call) {
  if (!isTRUE(design$variables$x$kind$hidden)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        "Marginals and ",
        listed(vapply(design$inks, `[[`, "", "ink")),
        " have no axis in common."
      ),
      i = "Draw the panel without marginals."
    ),
    call
  )
}

# A panel of one of the quantities of another.
marginal_panel <- function(design, side, inks, call = NULL) {
  other <- setdiff(c("x", "y"), side)
  # What tells measures apart says nothing of the one that stands alone.
  of_measures <- vapply(design$variables, function(one) identical(one$id, "measure"), NA)
  design$variables[c(other, "shared_y", names(which(of_measures)))] <- NULL
  if (is_ramp(design$variables$colour)) design$variables$colour <- NULL
  design$variables$size <- NULL
  design$inks <- inks
  for (ink in inks) check_in_panel(ink, design, call)
  design$variables <- supply_axes(design$variables, inks, design$n)
  design
}
