# Every piece of text on the page, placed: its box, and the runs to draw.

# laid: set lines; x_mm, y_mm: the anchor; across, down: where in the text's own box
# the anchor is (0 left or top, 1 right or bottom); angle: degrees counterclockwise;
# align: of lines within the box, 0 left to 1 right.
place_text <- function(role, laid, x_mm, y_mm, font, ..., panel = NA_integer_, colour = NULL) {
  stand <- changed(list(across = 0, down = 0, angle = 0), ...)
  across <- stand$across
  angle <- stand$angle
  align <- stand$align %||% across
  size <- laid$size_pt
  em_mm <- size * mm_per_pt
  width <- max(laid$widths_mm)
  height <- text_height_mm(laid$n_lines, size, font)
  turn <- angle * pi / 180
  to_page <- function(dx, dy) {
    list(x = x_mm + dx * cos(turn) + dy * sin(turn), y = y_mm - dx * sin(turn) + dy * cos(turn))
  }
  left <- -across * width
  top <- -stand$down * height
  corners <- to_page(left + c(0, width, width, 0), top + c(0, 0, height, height))
  runs <- laid$runs
  rise <- c(sub_rise, 0, super_rise)[runs$script + 2]
  start <- to_page(
    left + (width - laid$widths_mm[runs$line]) * align + runs$x_mm,
    top + (font$ascent + (runs$line - 1) * leading - rise) * em_mm
  )
  string <- laid_string(laid)
  list(
    text = new_table(
      role = role,
      panel = panel,
      string = string,
      lines = laid$n_lines,
      size_pt = size,
      angle = angle,
      x0 = min(corners$x),
      y0 = min(corners$y),
      x1 = max(corners$x),
      y1 = max(corners$y),
      centre_x = mean(corners$x),
      centre_y = mean(corners$y),
      width_mm = width,
      height_mm = height,
      .rows = 1L
    ),
    runs = new_table(
      string = runs$string,
      family = script_families(runs$string, font),
      bold = runs$bold,
      italic = runs$italic,
      colour = colour %||% NA_character_,
      size_pt = size * ifelse(runs$script == 0, 1, script_scale),
      x = start$x,
      y = start$y,
      width_mm = runs$width_mm,
      angle = angle,
      .rows = nrow(runs)
    )
  )
}

# Laid text as read: a space where runs stand apart, a line feed between lines.
laid_string <- function(laid) {
  runs <- laid$runs
  n <- nrow(runs)
  if (n == 1L) return(runs$string)
  apart <- runs$x_mm[-1] - (runs$x_mm + runs$width_mm)[-n] > 0.05
  before <- c("", ifelse(diff(runs$line) > 0, "\n", ifelse(apart, " ", "")))
  paste0(before, runs$string, collapse = "")
}

recoloured <- function(runs, colour) {
  runs$colour <- ifelse(is.na(runs$colour), colour, runs$colour)
  runs
}

# Pieces of text as the scene's two tables.
gather_texts <- function(placed, colour) {
  placed <- Filter(Negate(is.null), placed)
  if (!length(placed)) {
    empty <- place_text(
      "",
      list(
        size_pt = 1,
        widths_mm = 0,
        n_lines = 1L,
        runs = new_table(
          line = 1L,
          string = "",
          bold = FALSE,
          italic = FALSE,
          script = 0L,
          x_mm = 0,
          width_mm = 0
        )
      ),
      0,
      0,
      list(ascent = 0, descent = 0)
    )
    return(
      list(
        texts = table_rows(do.call(new_table, c(list(id = 1L), empty$text)), integer()),
        runs = table_rows(
          do.call(new_table, c(list(text = 1L), recoloured(empty$runs, colour))),
          integer()
        )
      )
    )
  }
  texts <- stack_tables(lapply(placed, `[[`, "text"))
  runs <- stack_tables(lapply(placed, `[[`, "runs"))
  n_runs <- vapply(placed, function(one) nrow(one$runs), 0L)
  list(
    texts = do.call(new_table, c(list(id = seq_along(placed)), texts)),
    runs = do.call(
      new_table,
      c(list(text = rep(seq_along(placed), n_runs)), recoloured(runs, colour))
    )
  )
}
