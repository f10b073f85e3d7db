#' Labels of points
#'
#' Text beside points, placed so that no two labels touch and none covers a point; a thin
#' leader joins those that stand away. Labels that find no place are left out and counted
#' in the facts.
#'
#' @eval argument_lines("ink_labels")
#' @return An ink, for [panel()].
#' @details Labels keep clear of all points, labelled or not. Greedy placement among candidates
#'   round each point, in C++, in the order of `rank` or else of the rows: Christensen, Marks and
#'   Shieber (1995), ACM Transactions on Graphics 14(3).
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' few <- study("loaves")$data[1:15, ]
#' plate(panel(few, x = rise, y = volume, ink_points(), ink_labels(loaf)), width = 100, height = 80)
#' @export
ink_labels <- function(
  text,
  far = 8,
  move = TRUE,
  size = NULL,
  rank = NULL,
  most = NULL,
  where = NULL,
  ...
) {
  said_ink("labels", ...)
}

#' @export
word_rows.ink_labels <- function(word) {
  list(
    text = a_column(mapped = "label", says = "A column whose values are written."),
    far = a_number(
      0.5,
      60,
      unit = "mm",
      says = "Greatest distance of a label from its point, in mm."
    ),
    move = a_flag(
      says = c(
        "May labels move to where none touches another? Where not, each stands right of its point,",
        "or left of it where the panel ends, and none is left out."
      )
    ),
    size = pt_size(says = "Size of type in points; `NULL`: the house's least."),
    rank = a_column(
      or_null = TRUE,
      says = "Points whose value is greater are labelled first: a column or an expression."
    ),
    most = a_number(
      1,
      1000,
      whole = TRUE,
      or_null = TRUE,
      says = "How many are labelled in each panel at most: the first by `rank`."
    ),
    where = a_condition(
      says = 'A condition: points for which it is true are labelled, such as `p < 0.001`.'
    )
  )
}

#' @export
check_ink.ink_labels <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "Labels", call)
  if (!is.null(ink$variables$rank)) {
    check_variable_kind(ink$variables$rank, "rank", c("quantity", "moment"), call)
  } else if (!is.null(ink$most)) {
    abort_nelvat(
      "argument",
      c("`most` needs `rank`: which labels come first.", x = "It is not given."),
      call
    )
  }
}

#' @export
beside_inks.ink_labels <- function(ink, others) parts_with(ink, others)

#' @export
train_ink.ink_labels <- function(ink, layer) {
  table <- layer$table
  variable <- ink$variables$label
  table$string <- label_strings(variable, table$label)
  table[c("aside_x", "aside_y")] <- aside_in_slots(ink, layer, table)
  complete <- complete_rows(table, c("x", "y", "label"))
  drawn_points <- table_rows(table, complete_rows(table, c("x", "y")))
  chosen <- chosen_labels(ink, table, complete)
  points <- table_rows(table, chosen)
  list(
    table = points,
    others = new_table(
      panel = drawn_points$panel,
      x = drawn_points$x,
      y = drawn_points$y,
      aside_x = drawn_points$aside_x,
      aside_y = drawn_points$aside_y,
      .rows = nrow(drawn_points)
    ),
    extent = extent_by_panel(points$panel, x0 = points$x, y0 = points$y),
    zero = character(),
    used = seq_along(complete) %in% chosen,
    shows = labels_words(ink)
  )
}

# Rows that get a label, the first to be placed first.
chosen_labels <- function(ink, table, complete) {
  where <- ink$variables$where
  if (!is.null(where)) complete <- complete & table$where %in% match("TRUE", where$kind$levels)
  if (is.null(ink$variables$rank)) return(which(complete))
  rows <- which(complete & !is.na(table$rank))
  rows <- rows[order(-table$rank[rows])]
  if (is.null(ink$most)) return(rows)
  place <- stats::ave(seq_along(rows), table$panel[rows], FUN = seq_along)
  rows[place <= ink$most]
}

labels_words <- function(ink) {
  paste0(
    "labels of ",
    if (!is.null(ink$most)) paste0("the ", ink$most, " with the greatest ") else "single values",
    if (!is.null(ink$most)) plain_name(ink$variables$rank),
    if (!is.null(ink$variables$where)) paste0(", where ", ink$said_where)
  )
}

label_strings <- function(variable, values) {
  if (has_levels(variable$kind)) return(variable$kind$level_names[values])
  if (variable$kind$kind == "moment") {
    return(format(as.POSIXct(values, origin = "1970-01-01", tz = variable$kind$zone %||% "UTC")))
  }
  as.character(ifelse(is.na(values), NA, number_text_each(values)))
}

label_gap_mm <- 1.1
led_mm <- 2 # from a point to its label, from which a line joins them

#' @export
place_ink.ink_labels <- function(ink, trained, site) {
  size <- ink$size %||% site$house$type_pt$least
  # A point beyond the panel, as in a zoom, has no label.
  x <- aside_unit(trained$table, site, "x")
  y <- aside_unit(trained$table, site, "y")
  seen <- which(pmin(x, y) >= -1e-6 & pmax(x, y) <= 1 + 1e-6)
  points <- table_rows(trained$table, seen)
  x <- x[seen]
  y <- y[seen]
  wide <- site$panel_w(points$panel)
  high <- site$panel_h(points$panel)
  text_mm <- site$text_mm(points$string, size)
  others <- trained$others
  others$x_mm <- aside_unit(others, site, "x") * site$panel_w(others$panel)
  others$y_mm <- aside_unit(others, site, "y") * site$panel_h(others$panel)
  placed <- stack_tables(
    lapply(split(seq_len(nrow(points)), points$panel), function(rows) {
      x_mm <- x[rows] * wide[rows]
      y_mm <- y[rows] * high[rows]
      centre <- if (ink$move) {
        label_places_cpp(
          x_mm,
          y_mm,
          others$x_mm[others$panel == points$panel[rows[1]]],
          others$y_mm[others$panel == points$panel[rows[1]]],
          text_mm$width[rows],
          rep(text_mm$height, length(rows)),
          label_gap_mm,
          ink$far,
          led_mm,
          wide[rows[1]],
          high[rows[1]]
        )
      } else {
        beside_points(x_mm, y_mm, text_mm$width[rows], text_mm$height, wide[rows[1]], high[rows[1]])
      }
      new_table(
        row = rows,
        x = centre[, 1] / wide[rows],
        y = centre[, 2] / high[rows],
        .rows = length(rows)
      )
    })
  ) %||% new_table(row = integer(), x = numeric(), y = numeric(), .rows = 0L)
  unplaced <- sum(is.na(placed$x))
  placed <- table_rows(placed, !is.na(placed$x))
  row <- placed$row
  ends <- leader_ends(placed, x, y, wide, high, text_mm)
  led <- which(ends$reach_mm > led_mm)
  list(
    new_marks(
      "segments",
      new_table(
        panel = points$panel[row[led]],
        x0 = x[row[led]],
        y0 = y[row[led]],
        x1 = ends$x[led],
        y1 = ends$y[led],
        colour = site$house$colour$heading_rule,
        weight_pt = site$house$weight_pt$heading_rule,
        .rows = length(led)
      )
    ),
    c(
      new_marks(
        "words",
        new_table(
          panel = points$panel[row],
          x = placed$x,
          y = placed$y,
          string = points$string[row],
          size_pt = size,
          across = 0.5,
          down = 0.5,
          colour = legible(site$colour_of(points$colour, nrow(points))[row]),
          .rows = length(row)
        )
      ),
      list(role = "point label", unplaced = unplaced)
    )
  )
}

# Middles of labels that stand where they stand: right of their points, left of those that are too
# near to the right end of the panel; all of them within its height.
beside_points <- function(x_mm, y_mm, width, height, panel_w, panel_h) {
  aside <- label_gap_mm + width / 2
  right <- x_mm + label_gap_mm + width <= panel_w
  cbind(
    x_mm + ifelse(right, aside, -aside),
    pmin(pmax(y_mm, height / 2), panel_h - height / 2)
  )
}

# Where a leader meets the box of its label: at the place of its edge that is nearest to the point;
# how long it is.
leader_ends <- function(placed, x, y, wide, high, text_mm) {
  row <- placed$row
  across <- nearest_within((x[row] - placed$x) * wide[row], text_mm$width[row] / 2)
  up <- nearest_within((y[row] - placed$y) * high[row], text_mm$height / 2)
  from_x <- ((x[row] - placed$x) * wide[row] - across)
  from_y <- ((y[row] - placed$y) * high[row] - up)
  reach_mm <- sqrt(from_x^2 + from_y^2)
  short <- pmin(1, leader_gap_mm / pmax(reach_mm, 1e-9))
  list(
    x = placed$x + (across + short * from_x) / wide[row],
    y = placed$y + (up + short * from_y) / high[row],
    reach_mm = reach_mm
  )
}
leader_gap_mm <- 0.4 # between a leader and its label
nearest_within <- function(values, half) pmin(pmax(values, -half), half)

#' @export
ink_traits.ink_labels <- function(ink) new_traits("word", "colour", read_off = TRUE)

#' @export
marks_named.ink_labels <- function(ink) "names"
