# Rows of numbers under the x axis of panels, each number at its tick: how much room they take, and
# where they stand. Their names stand left of the first panel, in the colours of their groups.

# What the layers of a block write under each of its panels: a row a line of text, with panel,
# layer, group (0 for a title), name and line (1 the uppermost); NULL for nothing.
under_lines <- function(block) {
  found <- stack_tables(
    Map(
      function(layer, number) {
        if (layer$behind || layer$role != "panel") return(NULL)
        rows <- under_rows(layer$ink, layer)
        if (is.null(rows)) return(NULL)
        groups <- rows$groups
        names <- group_names(layer, groups)
        titled <- any(nzchar(names))
        stack_tables(
          lapply(unique(groups$panel), function(id) {
            of <- which(groups$panel == id)
            new_table(
              panel = id,
              layer = number,
              group = c(if (titled) 0L, of),
              name = c(
                if (titled) rows$title,
                if (titled) names[of] else rep(rows$title, length(of))
              ),
              code = c(
                if (titled) NA_integer_,
                if (is.null(groups$colour)) rep(NA_integer_, length(of)) else groups$colour[of]
              ),
              .rows = length(of) + titled
            )
          })
        )
      },
      block$layers,
      seq_along(block$layers)
    )
  )
  if (is.null(found)) return(NULL)
  # Groups of one name stand on one line in all panels.
  key <- paste(found$layer, found$group == 0, found$name, sep = "\r")
  order <- unlist(
    lapply(split(unique(key), sub("\r.*", "", unique(key))), function(of) {
      of[order(sub("^[^\r]*\r([^\r]*)\r.*", "\\1", of) != "TRUE")]
    })
  )
  found$line <- match(key, order)
  found
}

# Names of groups by what parts them beside panels, "" for a lone one.
group_names <- function(layer, groups) {
  channels <- Filter(
    function(channel) !is.null(groups[[channel]]) && !is.null(layer[[channel]]),
    c("colour", "dash")
  )
  if (!length(channels)) return(rep("", nrow(groups)))
  variable <- layer[[channels[1]]]
  code <- groups[[channels[1]]]
  ifelse(is.na(code), "", variable$kind$level_names[code])
}

# Measured: list(lines, laid names, room_mm below each row of panels, left_mm before the first
# column).
fit_under <- function(block, house, font) {
  lines <- under_lines(block)
  n_rows <- max(block$panels$row)
  if (is.null(lines)) return(list(room_mm = rep(0, n_rows), left_mm = 0))
  size <- house$type_pt$base
  line_mm <- text_height_mm(1, size, font) + under_leading_mm
  laid <- lapply(lines$name, set_text, size, font)
  row <- block$panels$row[match(lines$panel, block$panels$id)]
  deep <- vapply(
    seq_len(n_rows),
    function(k) if (any(row == k)) max(lines$line[row == k]) * line_mm + under_gap_mm else 0,
    0
  )
  list(
    lines = lines,
    laid = laid,
    line_mm = line_mm,
    room_mm = deep,
    left_mm = max(widest_mm(laid)) + tick_out_mm(house) + house$space_mm$tick_gap
  )
}

under_leading_mm <- 0.3
under_gap_mm <- 1

# The size of type at which no number of these rows touches its neighbour: the base where it can,
# down to the least; an error below that.
under_size <- function(rows, house, font, call) {
  scale <- vapply(
    rows,
    function(row) {
      if (length(row$texts) < 2) return(1)
      order <- order(row$at)
      half <- widest_mm(lapply(row$texts[order], set_text, house$type_pt$base, font)) / 2
      min(1, (diff(row$at[order]) - text_clearance_mm) / (half[-1] + half[-length(half)]))
    },
    0
  )
  size <- house$type_pt$base * min(1, scale)
  if (size >= house$type_pt$least - 1e-9) return(size)
  crowded <- rows[[which.min(scale)]]
  abort_nelvat(
    "labels",
    c(
      "The numbers under an axis have no room beside each other.",
      x = paste0(
        quoted(crowded$texts[1]),
        " and its neighbours would be set in ",
        format(round(size, 1)),
        " pt; the least is ",
        house$type_pt$least,
        " pt."
      ),
      i = "Make the panels wider, or write fewer digits."
    ),
    call
  )
}

# Under the name of the axis.
place_under <- function(own, panels, axes, house, font) {
  under <- own$parts$under
  if (is.null(under$lines)) return(NULL)
  block <- own$block
  reach <- own$frame$reach
  beyond <- tick_out_mm(house) + house$space_mm$tick_gap
  top_of <- function(row) {
    own$frame$y$start_mm[row] + own$frame$y$length_mm[row] + reach$bottom_ticks[row] +
      own$parts$titles$bottom_mm[row] + under_gap_mm
  }
  rows <- lapply(seq_len(nrow(under$lines)), function(i) {
    line <- under$lines[i, ]
    one_panel <- panels[panels$id == line$panel, ]
    layer <- block$layers[[line$layer]]
    fit <- own$fits[[block$panels$x_axis[match(line$panel, block$panels$id)]]]
    places <- if (line$group > 0) fit$kept else integer()
    list(
      at = one_panel$x + fit$unit[places] * one_panel$w,
      texts = if (length(places)) {
        under_texts(layer$ink, layer, line$group, fit$breaks[places])
      }
    )
  })
  size <- under_size(rows, house, font, NULL)
  unlist(
    lapply(seq_len(nrow(under$lines)), function(i) {
      line <- under$lines[i, ]
      one_panel <- panels[panels$id == line$panel, ]
      layer <- block$layers[[line$layer]]
      y <- top_of(one_panel$row) + (line$line - 0.5) * under$line_mm
      colour <- if (!is.na(line$code)) {
        look <- layer$looks$colour
        legible(look$colour[match(layer$colour$kind$levels[line$code], look$levels)])
      }
      named <- one_panel$column == 1
      c(
        if (named) {
          list(
            place_text(
              "under name",
              under$laid[[i]],
              one_panel$x - beyond,
              y,
              font,
              across = 1,
              down = 0.5,
              panel = line$panel,
              colour = colour
            )
          )
        },
        Map(
          function(text, x) {
            place_text(
              "under",
              set_text(text, size, font),
              x,
              y,
              font,
              across = 0.5,
              down = 0.5,
              panel = line$panel,
              colour = colour
            )
          },
          rows[[i]]$texts,
          rows[[i]]$at
        )
      )
    }),
    recursive = FALSE
  )
}
