# Numbers along an axis of panels, each at its tick: rows of them under the axis or over the panel,
# their names left of the first panel; columns of them at the right of each panel, their names over
# the uppermost. How much room they take, and where they stand. Names have their groups' colours.

# What the layers of a block write along the axes of its panels: a row a line (or column) of text,
# with panel, side, layer, group (0 for a title), name and line (1 the uppermost or leftmost); NULL
# for nothing.
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
              side = rows$side %||% "under",
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
  changed(found, line = lines_of(found))
}

lines_of <- function(found) {
  line <- integer(nrow(found))
  for (of_side in split(seq_len(nrow(found)), found$side)) {
    one <- found[of_side, ]
    key <- paste(one$layer, one$group == 0, one$name, sep = "\r")
    first <- !duplicated(key)
    line[of_side] <- match(key, key[first][order(one$layer[first], one$group[first] != 0)])
  }
  line
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

# Measured: list(lines, laid names, room_mm below and over_mm over each row of panels, left_mm
# before the first column, right_mm after each column; columns: see fit_number_columns()).
fit_under <- function(block, house, font) {
  lines <- under_lines(block)
  n_rows <- max(block$panels$row)
  n_columns <- max(block$panels$column)
  if (is.null(lines)) {
    none <- rep(0, n_rows)
    return(list(room_mm = none, over_mm = none, left_mm = 0, right_mm = rep(0, n_columns)))
  }
  size <- house$type_pt$base
  line_mm <- text_height_mm(1, size, font) + under_leading_mm
  laid <- lapply(lines$name, set_text, size, font)
  row <- block$panels$row[match(lines$panel, block$panels$id)]
  deep <- function(side) {
    vapply(
      seq_len(n_rows),
      function(k) {
        of <- lines$line[row == k & lines$side == side]
        if (length(of)) max(of) * line_mm + under_gap_mm else 0
      },
      0
    )
  }
  columns <- fit_number_columns(lines, laid, block, house, font)
  over <- deep("over")
  over[1] <- max(over[1], columns$head_lines * line_mm + under_gap_mm * (columns$head_lines > 0))
  list(
    lines = lines,
    laid = laid,
    line_mm = line_mm,
    room_mm = deep("under"),
    over_mm = over,
    left_mm = if (any(lines$side != "beside")) {
      max(widest_mm(laid[lines$side != "beside"])) + tick_out_mm(house) + house$space_mm$tick_gap
    } else {
      0
    },
    right_mm = vapply(
      seq_len(n_columns),
      function(k) {
        of <- block$panels$column[match(lines$panel, block$panels$id)] == k
        if (any(of & lines$side == "beside")) columns$wide_mm else 0
      },
      0
    ),
    columns = columns
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

# Rows under the name of the axis, or over the panel.
place_under <- function(own, panels, house, font) {
  under <- own$parts$under
  if (is.null(under$lines)) return(NULL)
  beyond <- tick_out_mm(house) + house$space_mm$tick_gap
  lines <- which(under$lines$side != "beside")
  rows <- lapply(lines, numbers_of_line, own, panels, house)
  size <- if (length(rows)) under_size(rows, house, font, NULL)
  in_rows <- unlist(
    Map(
      function(i, row) {
        line <- under$lines[i, ]
        one_panel <- panels[panels$id == line$panel, ]
        y <- top_of_rows(own, one_panel, line$side) + (line$line - 0.5) * under$line_mm
        colour <- colour_of_line(line, own$block)
        put <- function(role, laid, x, across) {
          place_text(
            role,
            laid,
            x,
            y,
            font,
            across = across,
            down = 0.5,
            panel = line$panel,
            colour = colour
          )
        }
        c(
          if (one_panel$column == 1) {
            list(put("under name", under$laid[[i]], one_panel$x - beyond, 1))
          },
          Map(function(text, x) put("under", set_text(text, size, font), x, 0.5), row$texts, row$at)
        )
      },
      lines,
      rows
    ),
    recursive = FALSE
  )
  c(in_rows, place_beside(own, panels, house, font))
}

# Where the first of the rows of a panel begins.
top_of_rows <- function(own, one_panel, side) {
  if (side == "over") {
    rows <- own$parts$under$lines
    k <- max(rows$line[rows$panel == one_panel$id & rows$side == "over"])
    return(outer_edge(own, one_panel, "x") - under_gap_mm - k * own$parts$under$line_mm)
  }
  row <- one_panel$row
  own$frame$y$start_mm[row] + own$frame$y$length_mm[row] + own$frame$reach$bottom_ticks[row] +
    own$parts$titles$bottom_mm[row] + under_gap_mm
}

# The upper (right) edge of a panel with its marginals there.
outer_edge <- function(own, one_panel, side) {
  beyond <- margins_mm(own$block, side, own$frame)[match(one_panel$id, own$block$panels$id)]
  if (side == "x") one_panel$y - beyond else one_panel$x + one_panel$w + beyond
}

# The numbers of a line, as the house writes them, and where they stand along the axis, in mm.
numbers_of_line <- function(i, own, panels, house) {
  block <- own$block
  line <- own$parts$under$lines[i, ]
  one_panel <- panels[panels$id == line$panel, ]
  layer <- block$layers[[line$layer]]
  on <- if (line$side == "beside") "y" else "x"
  k <- block$panels[[paste0(on, "_axis")]][match(line$panel, block$panels$id)]
  fit <- own$fits[[k]]
  # An axis of some levels only has other slots than they have codes.
  levels <- block$axes[[k]]$slot_levels
  places <- if (line$group > 0) fit$kept else integer()
  breaks <- fit$breaks[places]
  texts <- if (length(places)) {
    codes <- if (length(levels)) levels[breaks] else breaks
    house_numbers(under_texts(layer$ink, layer, line$group, codes), house$numbers)
  }
  # A head that bears no rows has no number.
  bears <- !(breaks %in% fit$heads & texts %in% c("0", no_number))
  unit <- fit$unit[places][bears]
  list(
    at = if (on == "x") {
      one_panel$x + unit * one_panel$w
    } else {
      one_panel$y + (1 - unit) * one_panel$h
    },
    size_pt = min(house$type_pt$base, fit$size_pt),
    texts = texts[bears]
  )
}

colour_of_line <- function(line, block) {
  if (is.na(line$code)) return(NULL)
  layer <- block$layers[[line$layer]]
  look <- layer$looks$colour
  legible(look$colour[match(layer$colour$kind$levels[line$code], look$levels)])
}
