#' A curve that is said
#'
#' The curve of a formula over the whole panel, such as a model of theory beside the data.
#'
#' @eval argument_lines("ink_curve")
#' @return An ink, for [panel()] with quantities on `x` and `y`. It has no say in their ranges.
#' @section Errors: `nelvat_error_argument` for an argument of another sort;
#' `nelvat_error_expression` for a formula of other functions; `nelvat_error_kind` where the panel
#' does not suit the ink.
#' @examples
#' plate(
#'   panel(study("doses"), x = asinh(dose), y = growth, ink_points(),
#'     ink_curve(y ~ 100 / (1 + x / 20), name = "simple inhibition")),
#'   width = 90, height = 60
#' )
#' @export
ink_curve <- function(formula, name = NULL, dash = FALSE, weight = 0.9, colour = NULL, ...) {
  said_ink("curve", ...)
}

#' @export
word_rows.ink_curve <- function(word) {
  list(
    formula = formula_type(
      says = c(
        "y as a function of x, such as `y ~ 2 * exp(-x / 3)`, or the same as text; in data",
        "units, in the functions that figure files know."
      )
    ),
    name = a_title(
      says = "What is written of it, in its colour, where it covers least; `NULL` for nothing."
    ),
    dash = a_flag(says = "Is the curve dashed?"),
    weight = pt_weight(FALSE, says = "Line weight in points."),
    colour = a_colour(says = "A colour; `NULL` for that of axes.")
  )
}

# The right side of a formula of y, checked: of x, of `names`, and of the functions of figure files.
right_side <- function(formula, argument, names, call) {
  is_formula <- inherits(formula, "formula")
  text <- if (is_formula) {
    paste(deparse(formula, 500L), collapse = " ")
  } else if (rlang::is_string(formula)) formula
  sides <- strsplit(text %||% "", "~", fixed = TRUE)[[1]]
  if (length(sides) != 2 || trimws(sides[1]) != "y") {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`",
          argument,
          "` must be such as `y ~ ",
          if (length(names)) "a + b * x" else "2 * x",
          "`."
        ),
        x = paste0(
          "Found ",
          if (is.null(text)) describe_value(formula) else paste0("\"", text, "\""),
          "."
        )
      ),
      call
    )
  }
  parsed <- tryCatch(parse(text = sides[2], keep.source = FALSE), error = function(error) NULL)
  lacking <- setdiff(all.vars(parsed), c("x", "pi", names))
  if (length(lacking) && argument == "model") {
    abort_nelvat(
      "argument",
      c(
        paste0("`start` lacks a number for ", quoted(lacking), "."),
        x = paste0("The formula is \"", text, "\".")
      ),
      call
    )
  }
  rlang::quo_get_expr(checked_expression(trimws(sides[2]), c("x", names), argument))
}

#' @export
check_ink.ink_curve <- function(ink, panel, call) check_two_quantities(panel, "A curve", call)

# A formula is of the numbers that the axes show.
#' @export
said_on_axis.ink_curve <- function(ink, direction) ink["formula"]

#' @export
train_ink.ink_curve <- function(ink, layer) {
  formula <- paste0("y = ", paste(deparse(ink$formula, 500L), collapse = " "))
  says <- paste0(
    "curve of ",
    if (!is.null(ink$name)) paste0(plain_text(ink$name), ", "),
    formula
  )
  c(train_places(layer), list(says = says))
}

#' @export
place_ink.ink_curve <- function(ink, trained, site) {
  panels <- trained$table$panel
  n <- 4 * curve_points
  of_panel <- rep(panels, each = n)
  unit <- rep(seq(0, 1, length.out = n), length(panels))
  x <- site$data(unit, of_panel, "x")
  y <- suppressWarnings(site$unit(formula_value(ink$formula)(x, NULL), of_panel, "y"))
  # Beyond the panel, where the axis has room and no values, and where the formula has none, there
  # is no curve.
  has_x <- abs(site$unit(x, of_panel, "x") - unit) < 1e-9
  shown <- which(has_x & is.finite(y) & y >= 0 & y <= 1)
  if (!length(shown)) {
    inform_once(
      c(i = paste0("The curve y = ", deparse(ink$formula, 60L)[1], " is nowhere in its panel."))
    )
    return(list())
  }
  run <- cumsum(c(TRUE, diff(shown) != 1 | diff(of_panel[shown]) != 0))
  colour <- ink$colour %||% site$house$colour$axis
  marks <- list(
    new_marks(
      "lines",
      new_table(
        panel = of_panel[shown],
        line = run,
        x = unit[shown],
        y = y[shown],
        colour = colour,
        weight_pt = ink$weight,
        dash = if (ink$dash) "4 2" else "solid",
        opacity = 1,
        .rows = length(shown)
      )
    )
  )
  if (is.null(ink$name)) return(marks)
  named <- unique(of_panel[shown])
  c(
    marks,
    list(
      c(
        new_marks(
          "words",
          new_table(
            panel = named,
            string = ink$name,
            size_pt = site$house$type_pt$least,
            colour = legible(colour),
            .rows = length(named)
          )
        ),
        list(role = "equation", corner = TRUE)
      )
    )
  )
}

#' @export
ink_traits.ink_curve <- function(ink) note_traits(anywhere = !is.null(ink$name), as_is = TRUE)

#' @export
marks_named.ink_curve <- function(ink) "curves"
