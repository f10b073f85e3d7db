# The values of bars, written at their ends or inside.

# The values of bars as text: beyond the end (and its error bar), inside where stacked
# or where beyond would leave the panel; left out where a bar has no room for it.
bar_values <- function(bars, rects, at, trained, site, fill) {
  style <- site$house
  size <- style$type_pt$least
  value <- bars$length %||% bars$centre
  string <- number_text_each(value)
  long_mm <- if (trained$lying) site$panel_w(bars$panel) else site$panel_h(bars$panel)
  text_mm <- size * mm_per_pt
  end <- if (is.null(bars$length)) pmax(rects$y1, at(bars$upper, "y"), na.rm = TRUE) else rects$y1
  across_text_mm <- site$text_mm(string, size)$width
  need <- (if (trained$lying) across_text_mm else text_mm) + 1
  inside <- !is.null(bars$length) | (1 - end) * long_mm < need
  across_mm <- if (trained$lying) text_mm else across_text_mm
  wide_mm <- (rects$x1 - rects$x0) / (1 - bar_gap) * if (trained$lying) {
    site$panel_h(bars$panel)
  } else {
    site$panel_w(bars$panel)
  }
  has_room <- (!inside | (rects$y1 - rects$y0) * long_mm > need) & across_mm < wide_mm
  mid <- (rects$x0 + rects$x1) / 2
  height_at <- ifelse(
    inside,
    if (is.null(bars$length)) rects$y1 - 0.5 / long_mm else (rects$y0 + rects$y1) / 2,
    end + 0.5 / long_mm
  )
  down <- if (is.null(bars$length)) ifelse(inside, 0, 1) else rep(0.5, nrow(bars))
  table <- if (trained$lying) {
    new_table(
      panel = bars$panel,
      x = height_at,
      y = mid,
      string = string,
      size_pt = size,
      across = 1 - down,
      down = 0.5,
      colour = ifelse(inside, site$contrast(fill), style$colour$text),
      .rows = nrow(bars)
    )
  } else {
    new_table(
      panel = bars$panel,
      x = mid,
      y = height_at,
      string = string,
      size_pt = size,
      across = 0.5,
      down = down,
      colour = ifelse(inside, site$contrast(fill), style$colour$text),
      .rows = nrow(bars)
    )
  }
  c(new_marks("words", table_rows(table, which(has_room & bars$n > 0))), list(role = "value"))
}

# Numbers of one row with as many decimals each: the least of them has `digits` significant figures
# if that is at most one decimal more than the greatest needs. also: numbers beside them, such as
# standard deviations, of which none shall lose its first digit. Where that is too many, each alone.
number_text_alike <- function(numbers, digits = 3, also = numeric()) {
  first_digit <- function(values) {
    floor(log10(abs(signif(values[is.finite(values) & values != 0], digits))))
  }
  # What is left of sums that are zero is zero.
  residue <- function(values) {
    values[abs(values) < 1e-12 * max(abs(c(numbers, also)), 0, na.rm = TRUE)] <- 0
    values
  }
  numbers <- residue(numbers)
  also <- residue(also)
  before <- first_digit(numbers)
  both <- c(numbers, also)
  known <- both[is.finite(both)]
  if (!length(before) || all(known == round(known))) return(number_text_each(both, digits))
  decimals <- max(0, digits - 1 - max(before))
  decimals <- max(decimals, min(decimals + 1, digits - 1 - min(before)))
  wanted <- max(decimals, -first_digit(also))
  if (wanted > decimals + 2) return(number_text_each(both, digits))
  both[abs(both) < 0.5 * 10^-wanted] <- 0
  sub("-", "\u2212", formatC(both, format = "f", digits = wanted))
}

# Each number at three significant figures, or so many; none loses digits before its point.
number_text_each <- function(numbers, digits = 3) {
  text <- vapply(
    numbers,
    function(one) {
      if (!is.finite(one)) return(format(one))
      before <- if (one == 0) 0 else floor(log10(abs(one)))
      rounded <- signif(one, max(digits, before + 1))
      format(rounded, scientific = FALSE, trim = TRUE, digits = 15)
    },
    ""
  )
  sub("-", "\u2212", text)
}
