#' A circle of shares
#'
#' Shares of a whole as sectors, from the top clockwise in the order of levels, each
#' named with its share. The panel gives the category as `colour`; with a quantity on `y`
#' sectors are its sums, else counts.
#'
#' @eval argument_lines("ink_pie")
#' @return An ink, for [panel()].
#' @details Angles are read less well than lengths on a common line (Cleveland and McGill
#'   1984, "Graphical perception", JASA 79): for more than a few shares, or shares to be
#'   compared, `ink_bars(arrange = "share")` reads better.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(panel(study("loaves"), colour = grade, ink_pie()), width = 80, height = 60)
#' @export
ink_pie <- function(labels = TRUE, ...) {
  said_ink("pie", ...)
}

#' @export
word_rows.ink_pie <- function(word) {
  list(
    labels = a_flag(says = "Name the sectors around the circle, in place of a key?")
  )
}

#' @export
check_ink.ink_pie <- function(ink, panel, call) {
  check_needs(panel, "colour", "A circle of shares", call)
  check_variable_kind(panel$variables$colour, "colour", c("category", "ordinal"), call)
  if (!is.null(panel$variables$x)) {
    abort_nelvat("argument", c("A circle of shares has no `x`.", x = "`x` is given."), call)
  }
  for (y in panel$variables$y) {
    check_variable_kind(y, "y", "quantity", call)
    if (any(y$values < 0, na.rm = TRUE)) {
      abort_nelvat(
        "data",
        c(
          "Shares of a whole cannot be negative.",
          x = paste0("Column \"", y$id, "\" holds ", format(min(y$values, na.rm = TRUE)), ".")
        ),
        call
      )
    }
  }
}

#' @export
supplied_axis.ink_pie <- function(ink, direction, variables) hidden_axis()

#' @export
replaced_axis.ink_pie <- function(ink, direction, variable) hide_axis(variable)

#' @export
train_ink.ink_pie <- function(ink, layer) {
  table <- layer$table
  measured <- !all(is.na(table$y))
  complete <- complete_rows(table, c("colour", if (measured) "y"))
  group <- match_rows(table[c("panel", "colour")], complete)
  shares <- group$rows
  shares$amount <- if (measured) {
    as.numeric(
      rowsum(table$y[complete], group$at[complete])
    )
  } else {
    tabulate(group$at, nrow(shares))
  }
  shares <- table_rows(shares, order(shares$panel, shares$colour))
  whole <- stats::ave(shares$amount, shares$panel, FUN = sum)
  shares$to <- stats::ave(shares$amount, shares$panel, FUN = cumsum) / whole
  shares$from <- shares$to - shares$amount / whole
  shares$name <- layer$colour$kind$level_names[shares$colour]
  panels <- panels_in(table$panel)
  list(
    table = table_rows(shares, which(shares$amount > 0)),
    findings = new_findings(
      shares,
      "slice",
      tabulate(group$at, nrow(group$rows))[match(
        paste(shares$panel, shares$colour),
        paste(group$rows$panel, group$rows$colour)
      )],
      share = shares$to - shares$from,
      value = NA_character_
    ),
    zero = character(),
    extent = new_table(panel = panels, x0 = 0, x1 = 1, y0 = 0, y1 = 1, .rows = length(panels)),
    used = complete,
    says = paste("shares of", said_name(layer$colour)),
    shows = paste(
      "shares of",
      said_name(layer$colour),
      "in",
      if (measured) paste("the sum of", said_name(layer$y)) else "counts"
    )
  )
}

#' @export
place_ink.ink_pie <- function(ink, trained, site) {
  shares <- trained$table
  w <- site$panel_w(shares$panel)
  h <- site$panel_h(shares$panel)
  room <- if (ink$labels) 9 else 1
  # What names need beside the circle, it gives up.
  aside <- if (ink$labels) {
    wide <- site$text_mm(pie_names(shares), site$house$type_pt$least)$width
    pmax(4 * room, 2 * (stats::ave(wide, shares$panel, FUN = max) + 3))
  } else {
    4 * room
  }
  radius <- pmax(pmin(w - aside, h - 1.2 * room) / 2, pmin(w, h) / 5)
  angle <- function(share) pi / 2 - 2 * pi * share
  fill <- site$colour_of(shares$colour)
  sectors <- stack_tables(
    lapply(seq_len(nrow(shares)), function(i) {
      turned_by <- angle(
        seq(
          shares$from[i],
          shares$to[i],
          length.out = max(3, ceiling(180 * (shares$to[i] - shares$from[i])))
        )
      )
      x <- 0.5 + c(0, cos(turned_by)) * radius[i] / w[i]
      y <- 0.5 + c(0, sin(turned_by)) * radius[i] / h[i]
      if (nrow(shares) == 1) { x <- x[-1]; y <- y[-1] }
      new_table(
        panel = shares$panel[i],
        area = i,
        x = x,
        y = y,
        fill = fill[i],
        opacity = 1,
        colour = "#FFFFFF",
        weight_pt = 0.6,
        .rows = length(x)
      )
    })
  )
  marks <- list(new_marks("areas", sectors))
  if (!ink$labels) return(marks)
  c(marks, list(pie_labels(shares, radius, w, h, angle, site)))
}

pie_names <- function(shares) paste0(shares$name, " ", format_percent(shares$to - shares$from))

# Labels beside their sectors, right of the middle or left of it; those of one side are
# pushed apart where they would touch.
pie_labels <- function(shares, radius, w, h, angle, site) {
  middle <- angle((shares$from + shares$to) / 2)
  right <- cos(middle) >= 0
  y_mm <- h / 2 + sin(middle) * (radius + 1.5)
  names <- pie_names(shares)
  most <- pmax(6, w / 2 - abs(cos(middle)) * radius - 2)
  lines <- ceiling(site$text_mm(names, site$house$type_pt$least)$width / most)
  line_mm <- site$house$type_pt$least * mm_per_pt * 1.25 * max(lines)
  for (rows in split(seq_along(y_mm), list(shares$panel, right), drop = TRUE)) {
    y_mm[rows] <- pushed_apart(y_mm[rows], line_mm, h[rows[1]])
  }
  x <- 0.5 + ifelse(right, 1, -1) * (abs(cos(middle)) * radius + 2) / w
  new <- new_marks(
    "words",
    new_table(
      panel = shares$panel,
      x = x,
      y = y_mm / h,
      string = names,
      size_pt = site$house$type_pt$least,
      across = ifelse(right, 0, 1),
      down = 0.5,
      colour = site$house$colour$text,
      most_mm = most,
      .rows = nrow(shares)
    )
  )
  c(new, list(role = "share"))
}

format_percent <- function(share) paste0(formatC(100 * share, digits = 0, format = "f"), "%")

#' @export
ink_traits.ink_pie <- function(ink) {
  new_traits(
    if (ink$labels) character() else "swatch",
    "colour",
    "counts",
    called = "share",
    behind = FALSE
  )
}

#' @export
marks_named.ink_pie <- function(ink) "slices"
