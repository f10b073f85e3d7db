# Names of axes: what they take of the room, and where they stand. own: one block's list(block,
# frame, fits, parts).

# By which a name may stand off its own tick text to be in line with its neighbours.
most_moved_mm <- 1.5

# Beyond the tick text that it names; in line with those of its neighbours, where that moves it by
# little.
place_titles <- function(panels, own, house, font) {
  titles <- own$parts$titles
  reach <- own$frame$reach
  frame <- own$frame
  middle <- function(track) {
    (track$start_mm[1] + utils::tail(track$start_mm + track$length_mm, 1)) / 2
  }
  near <- function(even, own) if (even - own <= most_moved_mm) even else own
  left <- function(column, of, laid) {
    wide <- text_height_mm(laid$n_lines, laid$size_pt, font) + house$space_mm$title_gap
    frame$x$start_mm[column] - near(reach$left[column] - wide, max(reach$own_left[of])) - wide
  }
  below <- function(row, of) {
    frame$y$start_mm[row] + frame$y$length_mm[row] +
      near(reach$bottom_ticks[row], max(reach$own_bottom[of])) +
      house$space_mm$title_gap
  }
  title <- function(laid, x, y, ..., panel = NA_integer_) {
    if (!is.null(laid)) place_text("axis title", laid, x, y, font, across = 0.5, ..., panel = panel)
  }
  own_panels <- own$block$panels
  lowest <- which(own_panels$row == max(own_panels$row))
  first <- which(own_panels$column == min(own_panels$column))
  c(
    list(
      title(titles$x_block, middle(frame$x), below(length(frame$y$start_mm), lowest)),
      if (!is.null(titles$y_block)) {
        title(
          titles$y_block,
          left(min(own_panels$column), first, titles$y_block),
          middle(frame$y),
          angle = 90
        )
      }
    ),
    lapply(seq_along(titles$x_each), function(i) {
      title(
        titles$x_each[[i]],
        panels$x[i] + panels$w[i] / 2,
        below(panels$row[i], i),
        panel = panels$id[i]
      )
    }),
    lapply(seq_along(titles$y_each), function(i) {
      laid <- titles$y_each[[i]]
      if (is.null(laid)) return(NULL)
      x <- left(panels$column[i], i, laid)
      title(laid, x, panels$y[i] + panels$h[i] / 2, angle = 90, panel = panels$id[i])
    }),
    marginal_titles(
      own,
      panels,
      list(title = title, left = left, below = below),
      house$type_pt$title,
      font
    )
  )
}

# What the axes of marginals are called, in line with the names of their panels' axes, where a name
# fits beside its strip. put: the functions title, left and below of place_titles().
marginal_titles <- function(own, panels, put, size_pt, font) {
  block <- own$block
  reach <- own$frame$reach
  lapply(which(panels$role == "marginal"), function(i) {
    strip <- panels[i, ]
    area <- block$areas[match(strip$id, block$areas$id), ]
    on_top <- area$side == "x"
    axis <- block$axes[[area[[if (on_top) "y_axis" else "x_axis"]]]]
    if (!strip$id %in% axis$drawn_at || !nzchar(axis$title)) return(NULL)
    host <- match(area$host, block$panels$id)
    line <- block$panels[host, ]
    free_mm <- if (on_top) reach$left_title[line$column] else reach$bottom_title[line$row]
    laid <- set_lines(measure_words(axis$title, font), size_pt, font)
    if (free_mm <= 0 || laid$widths_mm > (if (on_top) strip$h else strip$w) + 1.5) return(NULL)
    if (on_top) {
      put$title(
        laid,
        put$left(line$column, host, laid),
        strip$y + strip$h / 2,
        angle = 90,
        panel = strip$id
      )
    } else {
      put$title(laid, strip$x + strip$w / 2, put$below(line$row, host), panel = strip$id)
    }
  })
}

# An axis title stands once, centred on the block, where all panels show the same
# variable; otherwise at each panel with the axis's tick text that has none before it
# in its row or column, unless its heading names it.
axis_titles <- function(block, frame, house, font) {
  panels <- block$panels
  size <- house$type_pt$title
  line_mm <- function(laid) {
    if (is.null(laid)) 0 else text_height_mm(laid$n_lines, size, font) + house$space_mm$title_gap
  }
  span <- function(track) utils::tail(track$start_mm + track$length_mm, 1) - track$start_mm[1]
  titles_of <- function(direction) {
    shown <- block$panels[[paste0(direction, "_shown")]]
    vapply(shown, function(i) if (is.na(i)) "" else block$axes[[i]]$title, "")
  }
  of_direction <- function(direction) {
    room_mm <- rep(0, max(panels[[if (direction == "x") "row" else "column"]]))
    title <- titles_of(direction)
    if (all(title == "") || (direction == "y" && block$parts$heads_measure)) {
      return(list(room_mm = room_mm))
    }
    title_words <- lapply(
      block$panels[[paste0(direction, "_shown")]],
      function(i) if (!is.na(i)) block$axes[[i]]$title_words
    )
    track <- frame[[direction]]
    place <- panels[[if (direction == "x") "column" else "row"]]
    if (length(unique(title)) == 1) {
      laid <- set_within(title_words[[1]], size, font, max(8, span(track)), 3L)
      outer <- if (direction == "x") length(room_mm) else 1
      return(list(block = laid, room_mm = replace(room_mm, outer, line_mm(laid))))
    }
    bears <- bears_title(title, panels, has_tick_text(block, direction), direction)
    each <- lapply(seq_along(title), function(i) {
      if (bears[i]) set_within(title_words[[i]], size, font, max(8, track$length_mm[place[i]]), 4L)
    })
    lengths_mm <- vapply(each, line_mm, 0)
    across <- panels[[if (direction == "x") "row" else "column"]]
    list(each = each, room_mm = greatest_by(lengths_mm, across))
  }
  x <- of_direction("x")
  y <- of_direction("y")
  list(
    left_mm = y$room_mm,
    bottom_mm = x$room_mm,
    x_block = x$block,
    y_block = y$block,
    x_each = x$each,
    y_each = y$each
  )
}

# Panels that have their own axis title: y titles at the first panel of a row that shows
# it, x titles at the last of a column.
bears_title <- function(title, panels, has_text, direction) {
  along <- if (direction == "x") -panels$row else panels$column
  line <- if (direction == "x") panels$column else panels$row
  vapply(
    seq_along(title),
    function(i) {
      has_text[i] && nzchar(title[i]) &&
        !any(line == line[i] & along < along[i] & title == title[i])
    },
    NA
  )
}
