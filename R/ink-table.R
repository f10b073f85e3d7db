# A table of text as print sets it: see table_panel().

#' @export
check_ink.ink_table <- function(ink, panel, call) invisible()

#' @export
train_ink.ink_table <- function(ink, layer) list(table = layer$table, zero = character())

table_gap_mm <- 2.4 # between columns, at least
table_pad_mm <- 0.7 # over and under the text of a row

#' @export
place_ink.ink_table <- function(ink, trained, site) {
  area <- trained$table$panel
  wide <- site$panel_w(area)
  high <- site$panel_h(area)
  set <- set_table(ink, wide, high, site)
  width <- set$width
  row_mm <- set$row_mm
  texts <- set$texts
  laid <- set$laid
  size <- set$size_pt
  gap <- if (length(width) > 1) (wide - sum(width)) / (length(width) - 1) else 0
  left <- c(0, cumsum(width + gap))[seq_along(width)]
  top <- c(0, cumsum(row_mm))
  y <- 1 - (top[seq_along(row_mm)] + table_pad_mm) / high
  # Heads stand on their rule, whatever lines they have.
  written <- lapply(seq_along(width), function(k) {
    at_right <- ink$numeric[k]
    head_mm <- row_mm[1] - 2 * table_pad_mm - laid[[k]]$height[1]
    new_table(
      panel = area,
      x = (left[k] + if (at_right) width[k] else 0) / wide,
      y = y - c(head_mm, rep(0, length(y) - 1)) / high,
      string = texts[, k],
      size_pt = size,
      across = if (at_right) 1 else 0,
      down = 0,
      most_mm = width[k] + 0.01,
      colour = site$house$colour$text,
      .rows = length(y)
    )
  })
  rule_y <- 1 - c(0, row_mm[1], sum(row_mm)) / high
  rules <- list(
    new_marks(
      "segments",
      new_table(
        panel = area,
        x0 = 0,
        x1 = 1,
        y0 = rule_y,
        y1 = rule_y,
        colour = site$house$colour$axis,
        weight_pt = site$house$weight_pt$axis * c(1.4, 0.7, 1.4),
        .rows = 3L
      )
    )
  )
  c(
    rules,
    table_words(lapply(written[ink$numeric], below_head), "value"),
    table_words(c(lapply(written, head_alone), lapply(written[!ink$numeric], below_head)), "cell")
  )
}

head_alone <- function(column) table_rows(column, 1L)
below_head <- function(column) table_rows(column, seq_len(nrow(column))[-1])

# Numbers are written as the house writes them; heads and texts, such as codes, as they are.
table_words <- function(written, role) {
  table <- stack_tables(written)
  if (!is.null(table)) list(c(new_marks("words", table), list(role = role, most_lines = 50L)))
}

# A table at the greatest size, from that of the house's base to its least, at which it has room.
set_table <- function(ink, wide, high, site) {
  type <- site$house$type_pt
  sizes <- unique(seq(type$base, min(type$base, type$least), length.out = 4))
  texts <- rbind(ink$heads, do.call(cbind, ink$cells))
  for (size in sizes) {
    width <- table_widths(ink, wide, size, site)
    if (is.null(width)) next
    laid <- lapply(seq_along(width), function(k) site$set_mm(texts[, k], size, width[k]))
    row_mm <- do.call(pmax, lapply(laid, `[[`, "height")) + 2 * table_pad_mm
    if (sum(row_mm) <= high + 1e-6) {
      return(list(width = width, row_mm = row_mm, texts = texts, laid = laid, size_pt = size))
    }
  }
  if (is.null(width)) table_widths(ink, wide, size, site, must = TRUE)
  check_table_height(sum(row_mm), high)
}

# Columns as wide as their widest text where there is room. Else heads are wrapped first, then
# texts, down to their longest words; NULL where these have no room, or an error.
table_widths <- function(ink, wide, size, site, must = FALSE) {
  columns <- seq_along(ink$cells)
  in_one_line <- function(texts) max(site$text_mm(texts, size)$width)
  by_words <- function(texts) max(site$set_mm(texts, size, 0)$width)
  heads <- vapply(columns, function(k) by_words(ink$heads[k]), 0)
  cells <- vapply(columns, function(k) in_one_line(ink$cells[[k]]), 0)
  shortest <- ifelse(ink$numeric, cells, vapply(ink$cells, by_words, 0))
  steps <- list(
    pmax(heads, shortest),
    pmax(heads, cells),
    pmax(vapply(columns, function(k) in_one_line(ink$heads[k]), 0), cells)
  )
  room <- wide - table_gap_mm * (length(columns) - 1)
  missing <- sum(steps[[1]]) - room
  if (missing > 1e-6 && !must) return(NULL)
  if (missing > 1e-6) {
    abort_nelvat(
      "space",
      c(
        "The columns of a table have no room beside each other.",
        x = paste0(fixed_text(missing, 1), " mm of width are missing."),
        i = "Take fewer columns, shorter names, or give the table more width."
      ),
      call = NULL
    )
  }
  last <- max(which(vapply(steps, sum, 0) <= room + 1e-6))
  if (last == 3) return(steps[[3]])
  # The same part of what each would like beyond what it has.
  more <- steps[[last + 1]] - steps[[last]]
  steps[[last]] + more * (room - sum(steps[[last]])) / sum(more)
}

check_table_height <- function(needed, high) {
  if (needed <= high + 1e-6) return(invisible())
  abort_nelvat(
    "space",
    c(
      "The rows of a table have no room in their place.",
      x = paste0(fixed_text(needed - high, 1), " mm of height are missing."),
      i = "Keep fewer rows, or make the plate higher or the table wider."
    ),
    call = NULL
  )
}

#' @export
natural_width.ink_table <- function(ink, heading, house) {
  font <- house_font(house$families)
  size <- house$type_pt$base
  columns <- vapply(
    seq_along(ink$cells),
    function(k) {
      max(one_line_width(c(ink$heads[k], ink$cells[[k]]), font)) * size * mm_per_pt
    },
    0
  )
  sum(columns) + table_gap_mm * (length(columns) - 1) + 0.1
}

#' @export
ink_traits.ink_table <- function(ink) note_traits(read_off = FALSE)
