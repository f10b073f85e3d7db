#' Violins
#'
#' The density of a quantity in each category, mirrored, with its quartiles; colours
#' stand side by side. All violins of a panel have the same greatest width.
#'
#' @eval argument_lines("ink_violin")
#' @return An ink, for [panel()].
#' @details Source: Hintze and Nelson (1998), "Violin plots: a box plot-density trace
#'   synergism", The American Statistician 52(2). Curves end at the least and greatest
#'   value.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(panel(study("loaves"), x = flour, y = moisture, ink_violin()), width = 100, height = 60)
#' @export
ink_violin <- function(
  quartiles = TRUE,
  bandwidth = "silverman",
  colour = NULL,
  side = "both",
  ...
) {
  said_ink("violin", ...)
}

#' @export
word_rows.ink_violin <- function(word) {
  list(
    quartiles = a_flag(says = "Draw the median and the quartiles?"),
    bandwidth = bandwidth_type(says = "As in [ink_density()]."),
    colour = a_channel(says = "A colour, or a category for this ink alone."),
    side = a_choice(
      names(slot_sides),
      says = c(
        'Draw `"both"` halves; or one, `"before"` or `"after"` the middle of its slot (left',
        "or right of it where violins stand), which leaves room for a narrow box,",
        '`ink_box(width = 1.5)`, and `ink_dots(side = "before")`.'
      )
    )
  )
}

# Which halves of a slot an ink takes, and what it leaves free beside the middle, as a share of the
# half.
slot_sides <- list(both = c(-1, 1), before = -1, after = 1)
beside_middle <- 0.22

#' @export
check_ink.ink_violin <- function(ink, panel, call) check_category_quantity(panel, "Violins", call)

#' @export
said_on_axis.ink_violin <- function(ink, direction) ink["bandwidth"]

#' @export
train_ink.ink_violin <- function(ink, layer) {
  slots <- slot_groups(layer, share = 0.86)
  transform <- axis_transform(if (slots$lying) layer$x$transform else layer$y$transform)
  values <- transform$forward(slots$table$y)
  parts <- parts_of(slots$table, transform$forward)
  shapely <- shape_counts(values, slots$at, nrow(slots$rows), parts)
  # Without its quartiles, what has no shape is not drawn.
  if (ink$quartiles) shapely$why[] <- NA
  made <- which(is.na(shapely$why))
  shapes <- stack_tables(
    lapply(seq_len(nrow(slots$rows)), function(g) {
      # One value has no density; its violin is its median alone.
      if (!shapely$many[g]) return(NULL)
      rows <- which(slots$at == g)
      own_parts <- if (!is.null(parts)) lapply(parts, `[`, rows)
      curve <- density_curve(values[rows], ink$bandwidth, parts = own_parts)
      ends <- range(own_parts$least, own_parts$greatest, values[rows])
      curve <- table_rows(curve, curve$x >= ends[1] & curve$x <= ends[2])
      new_table(
        panel = slots$rows$panel[g],
        group = g,
        x = slots$rows$x[g],
        colour = slots$rows$colour[g],
        y = transform$backward(curve$x),
        width = curve$density,
        n = shapely$n[g],
        .rows = nrow(curve)
      )
    })
  )
  summary <- box_summary(values, slots$at, nrow(slots$rows), parts = parts)$boxes
  drawn_ends <- c("q1", "median", "q3", "low", "high")
  summary[drawn_ends] <- lapply(summary[drawn_ends], transform$backward)
  boxes <- cbind(
    table_rows(slots$rows, summary$group),
    summary[drawn_ends],
    group = summary$group
  )
  ends <- group_sums(slots$table$y, slots$at, nrow(slots$rows), parts_of(slots$table))
  quartile <- function(name) {
    if (ink$quartiles) boxes[[name]][match(seq_len(nrow(slots$rows)), boxes$group)]
  }
  used <- slots$complete & slots$at %in% made
  list(
    table = shapes,
    findings = new_findings(
      slots$rows,
      "violin",
      shapely$n,
      q1 = quartile("q1"),
      median = quartile("median"),
      q3 = quartile("q3"),
      why = shapely$why,
      lying = slots$lying
    ),
    traces = if (!is.null(shapes)) {
      exchange_axes(
        new_table(finding = shapes$group, y = shapes$y, density = shapes$width),
        slots$lying
      )
    },
    rows = slots$rows,
    boxes = boxes,
    lying = slots$lying,
    extent = exchange_axes(
      extent_by_panel(
        slots$rows$panel,
        x0 = slots$rows$x0,
        x1 = slots$rows$x1,
        y0 = ends$least,
        y1 = ends$greatest
      ),
      slots$lying
    ),
    zero = character(),
    used = used,
    notes = few_note(
      if (slots$lying) layer$x else layer$y,
      slots$complete & !used,
      "a violin",
      slots$table$times
    ),
    shows = paste0("density", if (ink$quartiles) ", median and quartiles")
  )
}

#' @export
place_ink.ink_violin <- function(ink, trained, site) {
  rows <- drawn_together(trained$rows, site)
  colour <- site$colour_of(if (all(is.na(rows$colour))) NULL else rows$colour, nrow(rows))
  middle <- (rows$x0 + rows$x1) / 2
  half <- (rows$x1 - rows$x0) / 2
  marks <- list()
  shapes <- trained$table
  if (!is.null(shapes)) {
    widest <- stats::ave(shapes$width, shapes$panel, FUN = max)
    reach <- half[shapes$group] * shapes$width / widest
    parts <- split(seq_len(nrow(shapes)), shapes$group)
    outline <- unlist(lapply(parts, function(r) c(r, -rev(r))))
    row <- abs(outline)
    aside <- sign(outline) * reach[row]
    if (ink$side != "both") {
      # The other edge is straight, and stands a little off the middle.
      side <- slot_sides[[ink$side]]
      off <- beside_middle * half[shapes$group][row]
      aside <- side * (off + ifelse(outline > 0, 1, 0) * (1 - beside_middle) * reach[row])
    }
    unit_at <- lying_unit(site, trained$lying, shapes$panel[row])
    marks <- list(
      new_marks(
        "areas",
        exchange_axes(
          new_table(
            panel = shapes$panel[row],
            area = shapes$group[row],
            x = unit_at(middle[shapes$group[row]] + aside, "x"),
            y = unit_at(shapes$y[row], "y"),
            fill = colour[shapes$group[row]],
            opacity = 0.3,
            colour = colour[shapes$group[row]],
            weight_pt = site$house$weight_pt$outline * 1.5,
            .rows = length(row)
          ),
          trained$lying
        )
      )
    )
  }
  if (!ink$quartiles) return(marks)
  boxes <- drawn_together(trained$boxes, site)
  on <- lying_unit(site, trained$lying, boxes$panel)
  aside <- if (ink$side == "both") {
    0
  } else {
    slot_sides[[ink$side]] * beside_middle * (boxes$x1 - boxes$x0) / 2
  }
  mid <- on((boxes$x0 + boxes$x1) / 2 + aside, "x")
  dark <- colour[boxes$group]
  c(
    marks,
    list(
      new_marks(
        "segments",
        exchange_axes(
          new_table(
            panel = boxes$panel,
            x0 = mid,
            x1 = mid,
            y0 = on(boxes$q1, "y"),
            y1 = on(boxes$q3, "y"),
            colour = dark,
            weight_pt = 2.2,
            .rows = nrow(boxes)
          ),
          trained$lying
        )
      ),
      new_marks(
        "points",
        exchange_axes(
          new_table(
            panel = boxes$panel,
            x = mid,
            y = on(boxes$median, "y"),
            colour = "#FFFFFF",
            opacity = 1,
            shape = "disc",
            size_mm = 1,
            .rows = nrow(boxes)
          ),
          trained$lying
        )
      )
    )
  )
}

#' @export
question_of.ink_violin <- function(ink) question_of_density(ink)

#' @export
ink_traits.ink_violin <- function(ink) {
  new_traits("swatch", "colour", "spread", side_by_side = TRUE, called = "shape")
}

#' @export
supplied_axis.ink_violin <- function(ink, direction, variables) lone_slot()

#' @export
marks_named.ink_violin <- function(ink) "violins"
