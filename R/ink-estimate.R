#' Estimates with intervals from the table
#'
#' A symbol at each estimate and a line over its interval, both as columns of the table have them:
#' of models fitted elsewhere, of published studies. With names of studies on y this is a forest
#' plot. Colours stand side by side.
#'
#' @eval argument_lines("ink_estimate")
#' @return An ink, for [panel()].
#' @details The estimate stands on the axis that has the quantity; the other axis may hold levels or
#'   a quantity, such as a dose. On a logarithmic axis an end that is not above zero reaches to the
#'   axis's end. Rows without an interval are drawn without one and counted. For the text beside a
#'   forest plot see [ink_column()]. Source of the form: Lewis and Clarke (2001), BMJ 322.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, for intervals whose
#' ends are exchanged or do not hold their estimate, or where two estimates stand at one place;
#' `nelvat_error_kind` where the panel does not suit the ink; `nelvat_error_level` for a pooled
#' level that does not exist.
#' @examples
#' effects <- data.frame(
#'   bakery = c("North", "South", "Harbour", "All"), ratio = c(1.2, 0.9, 1.5, 1.19),
#'   lower = c(0.9, 0.7, 1.1, 1.02), upper = c(1.6, 1.16, 2.05, 1.39)
#' )
#' plate(
#'   panel(effects, x = log10(ratio), y = bakery,
#'     ink_estimate(lower, upper, "95 % confidence interval", pooled = "All", line = 1)),
#'   width = 90, height = 50
#' )
#' @export
ink_estimate <- function(
  low,
  high,
  means = NULL,
  pooled = NULL,
  line = NULL,
  size = NULL,
  shape = NULL,
  colour = NULL,
  ...
) {
  said_ink("estimate", ...)
}

#' @export
word_rows.ink_estimate <- function(word) {
  list(
    low = a_column(says = "Columns with the ends of the interval."),
    high = a_column(says = "Columns with the ends of the interval."),
    means = a_text(
      or_null = TRUE,
      says = c(
        'What the interval is, such as `"95 % confidence interval"`: for the legend, which',
        "else can only name the columns."
      )
    ),
    pooled = texts(
      or_null = TRUE,
      says = c(
        "Levels of the category axis whose estimate is drawn as a diamond from `low` to",
        '`high`, such as `"All studies"`.'
      )
    ),
    line = a_number(
      or_null = TRUE,
      says = c(
        "Where a reference line stands, such as 1 for ratios or 0 for differences; `NULL`",
        "for none."
      )
    ),
    size = a_channel(
      says = c(
        "Diameter of the symbols in mm, or a quantity that their area shows, such as the",
        "weight of a study."
      )
    ),
    shape = a_channel(says = "A symbol, or a category shown by symbol in this ink alone."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

# Squares, where nothing else is said of shapes. Rows without an interval are drawn without one, and
# counted below.
#' @export
settled_ink.ink_estimate <- function(ink, variables) {
  if (is.null(ink$settings$shape) && is.null(ink$variables$shape) && is.null(variables$shape)) {
    ink$settings$shape <- "square"
  }
  ends <- intersect(c("low", "high"), names(ink$variables))
  ink$variables[ends] <- lapply(ink$variables[ends], changed, n_missing = 0L)
  ink
}

# A diamond has no size of its own.
#' @export
is_unsized.ink_estimate <- function(ink, layer) {
  lying <- has_levels(layer$y$kind)
  kind <- if (lying) layer$y$kind else layer$x$kind
  if (!has_levels(kind)) return(rep(FALSE, nrow(layer$table)))
  code <- if (lying) layer$table$y else layer$table$x
  (kind$levels[code] %in% ink$pooled | plain_text(kind$level_names)[code] %in% ink$pooled) &
    !is.na(code)
}

#' @export
said_on_axis.ink_estimate <- function(ink, direction) ink["line"]
#' @export
axis_columns.ink_estimate <- function(ink) c("low", "high")

# "95 % confidence interval", where the ends are called "Lower end, ..." and "Upper end, ..." of it.
named_interval <- function(variables) {
  names <- vapply(variables[c("low", "high")], function(one) plain_text(one$kind$name), "")
  of <- sub("^(Lower|Upper) end, ", "", names)
  if (all(startsWith(names, c("Lower end, ", "Upper end, "))) && of[1] == of[2]) of[[1]]
}

#' @export
train_ink.ink_estimate <- function(ink, layer) {
  on_levels <- has_levels(layer$x$kind) || has_levels(layer$y$kind)
  slots <- if (on_levels) slot_groups(layer, share = 0.7) else free_slots(layer)
  complete <- slots$complete & complete_rows(layer$table, c("panel", "shape"))
  is_pooled <- is_unsized(ink, layer)
  if (!is.null(slots$table$size)) complete <- complete & (is_pooled | !is.na(slots$table$size))
  rows_used <- which(complete)
  points <- table_rows(slots$table, rows_used)
  points$pooled <- is_pooled[rows_used]
  check_intervals(points, ink)
  points$spot <- if (on_levels) {
    (slots$rows$x0[slots$at[rows_used]] + slots$rows$x1[slots$at[rows_used]]) / 2
  } else {
    points$x
  }
  check_estimates_apart(points)
  check_none_below(points$size, layer$size)
  bare <- is.na(points$low) | is.na(points$high)
  on_value <- if (slots$lying) layer$x else layer$y
  holds <- axis_transform(on_value$transform)$holds
  endless <- !bare & !(holds(points$low) & holds(points$high))
  seen <- function(values) {
    ifelse(is.na(values) | !holds(values), points$y, values)
  }
  list(
    table = points,
    lying = slots$lying,
    extent = exchange_axes(
      extent_by_panel(
        rep(points$panel, 3),
        x0 = rep(points$spot, 3),
        y0 = c(points$y, seen(points$low), seen(points$high))
      ),
      slots$lying
    ),
    zero = character(),
    used = complete,
    shows = paste0(
      "estimates with ",
      ink$means %||% named_interval(ink$variables) %||% paste0(
        "intervals from \"",
        said_name(ink$variables$low, with_unit = TRUE),
        "\" to \"",
        said_name(ink$variables$high, with_unit = TRUE),
        "\""
      ),
      if (any(points$pooled)) paste0(", diamonds: ", listed(ink$pooled)),
      if (!is.null(ink$line)) paste0(", line at ", number_text_each(ink$line))
    ),
    error_means = ink$means %||% named_interval(ink$variables) %||% "as given in the table",
    notes = stack_tables(
      list(
        if (any(bare)) {
          new_table(
            column = on_value$id,
            what = "values without an interval",
            n = sum(bare),
            .rows = 1L
          )
        },
        if (any(endless)) {
          new_table(
            column = ink$variables$low$id,
            what = "values that reach beyond what the axis can show",
            n = sum(endless),
            .rows = 1L
          )
        }
      )
    )
  )
}

# Rows of two quantities: the estimate is on y.
free_slots <- function(layer) {
  table <- layer$table
  table$colour <- table$colour %||% rep(NA_integer_, nrow(table))
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour"))
  list(table = table, lying = FALSE, complete = complete)
}

diamond_mm <- 2.6 # height of a pooled estimate's diamond at most

#' @export
place_ink.ink_estimate <- function(ink, trained, site) {
  points <- trained$table
  n <- nrow(points)
  unit_at <- lying_unit(site, trained$lying, points$panel)
  across <- unit_at(points$spot, "x")
  estimate <- unit_at(points$y, "y")
  # What a logarithmic axis cannot show reaches to its end.
  clipped <- function(values, end) ifelse(is.nan(values), end, pmin(1, pmax(0, values)))
  low <- clipped(unit_at(points$low, "y"), 0)
  high <- clipped(unit_at(points$high, "y"), 1)
  colour <- site$colour_of(if (all(is.na(points$colour))) NULL else points$colour, n)
  whole <- which(!points$pooled & !is.na(low) & !is.na(high))
  single <- which(!points$pooled)
  panels <- unique(points$panel)
  marks <- if (!is.null(ink$line)) {
    stands <- lying_unit(site, trained$lying, panels)(rep(ink$line, length(panels)), "y")
    list(
      new_marks(
        "segments",
        exchange_axes(
          new_table(
            panel = panels,
            x0 = 0,
            x1 = 1,
            y0 = stands,
            y1 = stands,
            colour = site$house$colour$axis,
            weight_pt = site$house$weight_pt$axis,
            .rows = length(panels)
          ),
          trained$lying
        )
      )
    )
  }
  marks <- c(
    marks,
    list(
      new_marks(
        "segments",
        exchange_axes(
          new_table(
            panel = points$panel[whole],
            x0 = across[whole],
            x1 = across[whole],
            y0 = low[whole],
            y1 = high[whole],
            colour = colour[whole],
            weight_pt = site$house$weight_pt$error * 1.2,
            .rows = length(whole)
          ),
          trained$lying
        )
      ),
      new_marks(
        "points",
        exchange_axes(
          new_table(
            panel = points$panel[single],
            x = across[single],
            y = estimate[single],
            colour = colour[single],
            opacity = 1,
            shape = (
              if (is.null(points$shape)) {
                rep(ink$settings$shape %||% "square", n)
              } else {
                site$shape_of(points$shape)
              }
            )[single],
            size_mm = (
              if (is.null(points$size)) {
                rep(ink$settings$size %||% site$house$points$size_mm, n)
              } else {
                site$size_of(points$size)
              }
            )[single],
            .rows = length(single)
          ),
          trained$lying
        )
      )
    )
  )
  pooled <- setdiff(which(points$pooled & !is.na(low) & !is.na(high)), whole)
  if (!length(pooled)) return(marks)
  across_mm <- (if (trained$lying) site$panel_h else site$panel_w)(points$panel[pooled])
  slot <- abs(unit_at(points$spot + 0.3, "x") - across)[pooled]
  half <- pmin(slot, diamond_mm / 2 / across_mm)
  c(
    marks,
    list(
      new_marks(
        "areas",
        exchange_axes(
          new_table(
            panel = rep(points$panel[pooled], each = 4),
            area = rep(seq_along(pooled), each = 4),
            x = as.vector(
              rbind(across[pooled], across[pooled] + half, across[pooled], across[pooled] - half)
            ),
            y = as.vector(rbind(low[pooled], estimate[pooled], high[pooled], estimate[pooled])),
            fill = rep(colour[pooled], each = 4),
            opacity = 1,
            colour = NA_character_,
            weight_pt = 0,
            .rows = 4 * length(pooled)
          ),
          trained$lying
        )
      )
    )
  )
}

#' @export
ink_traits.ink_estimate <- function(ink) {
  new_traits(
    "symbol",
    c("colour", "shape", "size"),
    "values",
    echoes = FALSE,
    behind = FALSE,
    side_by_side = TRUE
  )
}

#' @export
marks_named.ink_estimate <- function(ink) "symbols"
