#' Boxes and whiskers
#'
#' The median, the quartiles, whiskers to the farthest values within `whiskers`
#' interquartile ranges, and the values beyond, for each category; colours stand side
#' by side.
#'
#' @eval argument_lines("ink_box")
#' @return An ink, for [panel()].
#' @details Quartiles are of type 7 (Hyndman and Fan 1996). Box and whiskers: Tukey
#'   (1977), "Exploratory Data Analysis"; notches: McGill, Tukey and Larsen (1978),
#'   "Variations of box plots", The American Statistician 32(1). Boxes of several columns:
#'   `x = measure(), y = c(chamber, surface, core)`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(
#'   panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_box()),
#'   width = 120,
#'   height = 60
#' )
#' @export
ink_box <- function(
  whiskers = 1.5,
  notch = FALSE,
  outliers = NULL,
  fill = "paper",
  width = NULL,
  colour = NULL,
  on = "axis",
  ...
) {
  said_ink("box", ...)
}

#' @export
check_ink.ink_box <- function(ink, panel, call) check_category_quantity(panel, "Boxes", call)

# Values beyond the whiskers are not drawn twice.
#' @export
beside_inks.ink_box <- function(ink, others) {
  if (!is.null(ink$outliers)) return(ink)
  draws_all <- function(other) {
    traits <- ink_traits(other)
    traits$summarises == "values" && "symbol" %in% traits$mark && !traits$computed
  }
  told <- any(vapply(others, draws_all, NA))
  changed(ink, outliers = !told, told_by_others = told)
}

# Stops unless a category stands on one axis and a quantity on the other.
# Of two quantities, is the first rather a code: of whole numbers, and fewer of them?
is_coded <- function(a, b) {
  distinct <- function(variable) length(unique(variable$values))
  a$kind$kind == "quantity" && distinct(a) < distinct(b) && all(
    a$values == round(a$values),
    na.rm = TRUE
  )
}

check_category_quantity <- function(panel, what, call) {
  variables <- panel$variables
  if (!is.null(variables$colour)) {
    check_variable_kind(variables$colour, "colour", c("category", "ordinal"), call)
  }
  if (is_lone_quantity(variables)) return(invisible())
  check_needs(panel, c("x", "y"), what, call)
  if (has_levels(variables$x$kind)) {
    for (y in variables$y) {
      check_variable_kind(
        y,
        "y",
        c("quantity", "moment"),
        call,
        paste("beside a category on x, for", tolower(what))
      )
    }
    return(invisible())
  }
  if (!has_levels(variables$y[[1]]$kind) && is_coded(variables$x, variables$y[[1]])) {
    check_variable_kind(
      variables$x,
      "x",
      c("category", "ordinal"),
      call,
      paste("beside a quantity, for", tolower(what))
    )
  }
  for (y in variables$y) {
    check_variable_kind(
      y,
      "y",
      c("category", "ordinal"),
      call,
      paste("beside a quantity on x, for", tolower(what))
    )
  }
}

# Only a quantity is given: all its values stand in one slot, or one a colour.
is_lone_quantity <- function(variables) {
  given <- c(list(variables$x), variables$y)
  given <- Filter(function(variable) !is.null(variable) && !isTRUE(variable$supplied), given)
  length(given) == 1 && given[[1]]$kind$kind %in% c("quantity", "moment")
}

# An axis of one slot, not drawn.
lone_slot <- function() {
  new_kind("category", name = "", levels = "all", level_names = "", hidden = TRUE)
}

#' @export
supplied_axis.ink_box <- function(ink, direction, variables) lone_slot()

# Groups of a category's slot: the panel, slot and colour, and where in the slot each
# stands. Returns list(table, lying, at, rows with x0, x1, middle; complete).
slot_groups <- function(layer, share = 0.7) {
  lying <- lies(layer)
  table <- exchange_axes(layer$table, lying)
  on_slots <- if (lying) layer$y else layer$x
  table$colour <- table$colour %||% rep(NA_integer_, nrow(table))
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour"))
  group <- match_rows(table[c("panel", "x", "colour")], complete)
  rows <- group$rows
  parted <- parts_slots(layer, table, on_slots)
  width <- bar_places(rows$colour, if (parted) length(layer$colour$kind$levels) else 1L, share)
  rows$x0 <- rows$x + width$from
  rows$x1 <- rows$x + width$to
  list(table = table, lying = lying, at = group$at, rows = rows, complete = complete)
}

#' @export
train_ink.ink_box <- function(ink, layer) {
  slots <- slot_groups(layer)
  scale <- summary_scale(ink, if (slots$lying) layer$x else layer$y)
  values <- scale$forward(slots$table$y)
  parts <- parts_of(slots$table, scale$forward)
  # Of values that stand for many it is told how many lie beyond.
  if (!is.null(parts)) ink$outliers <- FALSE
  summary <- box_summary(values, slots$at, nrow(slots$rows), ink$whiskers, parts)
  drawn_ends <- setdiff(names(summary$boxes), c("group", "n"))
  summary$boxes[drawn_ends] <- lapply(summary$boxes[drawn_ends], scale$restored)
  summary$outliers$value <- scale$restored(summary$outliers$value)
  boxes <- cbind(table_rows(slots$rows, summary$boxes$group), summary$boxes[-1])
  outliers <- cbind(table_rows(slots$rows, summary$outliers$group), value = summary$outliers$value)
  draws_beyond <- ink$outliers %||% TRUE
  list(
    table = boxes,
    findings = new_findings(
      boxes,
      "box",
      boxes$n,
      q1 = boxes$q1,
      median = boxes$median,
      q3 = boxes$q3,
      low = boxes$low,
      high = boxes$high,
      notch_low = if (ink$notch) boxes$notch_low,
      notch_high = if (ink$notch) boxes$notch_high,
      beyond = summary$beyond,
      lying = slots$lying
    ),
    outliers = if (draws_beyond) outliers,
    drawn_together = TRUE,
    lying = slots$lying,
    extent = exchange_axes(
      extent_by_panel(
        c(boxes$panel, outliers$panel),
        x0 = c(boxes$x0, outliers$x0),
        x1 = c(boxes$x1, outliers$x1),
        y0 = c(boxes$low, outliers$value),
        y1 = c(boxes$high, outliers$value)
      ),
      slots$lying
    ),
    zero = character(),
    used = slots$complete,
    shows = paste0(
      box_words(ink, sum(summary$beyond)),
      if (scale$name != "identity") {
        paste(", of the", scale_values[[sub("/.*", "", scale$name)]])
      }
    )
  )
}

#' @export
place_ink.ink_box <- function(ink, trained, site) {
  boxes <- trained$table
  unit_at <- lying_unit(site, trained$lying, boxes$panel)
  colour <- site$colour_of(if (all(is.na(boxes$colour))) NULL else boxes$colour, nrow(boxes))
  ends <- drawn_ends(boxes, trained$lying, site, whole = TRUE)
  x0 <- ends$x0
  x1 <- ends$x1
  mid <- (x0 + x1) / 2
  y <- lapply(
    boxes[c("low", "q1", "median", "q3", "high", "notch_low", "notch_high")],
    unit_at,
    "y"
  )
  weight <- site$house$weight_pt$error
  marks <- list(
    new_marks(
      "segments",
      exchange_axes(
        new_table(
          panel = rep(boxes$panel, 2),
          x0 = rep(mid, 2),
          x1 = rep(mid, 2),
          y0 = c(y$low, y$q3),
          y1 = c(y$q1, y$high),
          colour = rep(colour, 2),
          weight_pt = weight,
          .rows = 2 * nrow(boxes)
        ),
        trained$lying
      )
    ),
    new_marks(
      "areas",
      exchange_axes(
        box_outlines(
          boxes$panel,
          x0,
          x1,
          y,
          colour,
          ink$notch,
          weight,
          if (ink$fill == "light") {
            paler(colour, site$house$colour$paper)
          } else {
            site$house$colour$paper
          }
        ),
        trained$lying
      )
    ),
    new_marks(
      "segments",
      exchange_axes(
        new_table(
          panel = boxes$panel,
          x0 = if (ink$notch) x0 + (x1 - x0) * notch_depth else x0,
          x1 = if (ink$notch) x1 - (x1 - x0) * notch_depth else x1,
          y0 = y$median,
          y1 = y$median,
          colour = colour,
          weight_pt = weight * 2,
          .rows = nrow(boxes)
        ),
        trained$lying
      )
    )
  )
  out <- trained$outliers
  if (is.null(out) || !nrow(out)) return(marks)
  unit_of <- lying_unit(site, trained$lying, out$panel)
  out_ends <- drawn_ends(out, trained$lying, site)
  c(
    marks,
    list(
      new_marks(
        "points",
        exchange_axes(
          new_table(
            panel = out$panel,
            x = (out_ends$x0 + out_ends$x1) / 2,
            y = unit_of(out$value, "y"),
            colour = site$colour_of(if (all(is.na(out$colour))) NULL else out$colour, nrow(out)),
            opacity = 1,
            shape = "ring",
            size_mm = site$house$points$size_mm * 0.75,
            .rows = nrow(out)
          ),
          trained$lying
        )
      )
    )
  )
}

notch_depth <- 0.22 # of the box's width, from each side

# A fifth of a colour over the paper, as a solid colour.
paler <- function(colour, paper) {
  mixed <- 0.2 * grDevices::col2rgb(colour) + 0.8 * as.vector(grDevices::col2rgb(paper))
  grDevices::rgb(mixed[1, ], mixed[2, ], mixed[3, ], maxColorValue = 255)
}

# Boxes inside a coloured line, notched or not.
box_outlines <- function(panel, x0, x1, y, colour, notch, weight_pt, fill) {
  n <- length(panel)
  cut <- (x1 - x0) * if (notch) notch_depth else 0
  at_low <- if (notch) pmax(y$notch_low, y$q1) else y$median
  at_high <- if (notch) pmin(y$notch_high, y$q3) else y$median
  xs <- rbind(x0, x1, x1, x1 - cut, x1, x1, x0, x0, x0 + cut, x0)
  ys <- rbind(y$q1, y$q1, at_low, y$median, at_high, y$q3, y$q3, at_high, y$median, at_low)
  new_table(
    panel = rep(panel, each = 10),
    area = rep(seq_len(n), each = 10),
    x = as.vector(xs),
    y = as.vector(ys),
    fill = rep(rep_len(fill, n), each = 10),
    opacity = 1,
    colour = rep(colour, each = 10),
    weight_pt = weight_pt,
    .rows = 10 * n
  )
}

#' @export
question_of.ink_box <- function(ink) "classes"

#' @export
ink_traits.ink_box <- function(ink) {
  new_traits("swatch", "colour", "spread", side_by_side = TRUE, called = "box")
}

#' @export
marks_named.ink_box <- function(ink) "boxes"
