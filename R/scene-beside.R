# Columns of numbers at the right of panels, each at the tick of its category; see scene-under.R.

# list(at_mm: for each line the place of its column's right edge (its left edge for a title) after
# the panel, in mm; wide_mm: of all columns; head_lines: of their names).
fit_number_columns <- function(lines, laid, block, house, font) {
  ends_mm <- rep(NA_real_, nrow(lines))
  of_columns <- which(lines$side == "beside")
  if (!length(of_columns)) return(list(at_mm = ends_mm, wide_mm = 0, head_lines = 0))
  wide <- vapply(of_columns, width_of_column, 0, lines, laid, block, house, font)
  end <- 0
  titled <- NULL
  for (k in sort(unique(lines$line[of_columns]))) {
    of <- of_columns[lines$line[of_columns] == k]
    own_wide <- max(wide[match(of, of_columns)])
    if (lines$group[of[1]] == 0) {
      ends_mm[of] <- end + beside_gap_mm
      titled <- ends_mm[of[1]] + own_wide
    } else {
      end <- end + beside_gap_mm + own_wide
      ends_mm[of] <- end
    }
    # A title may be wider than its columns.
    last <- !any(lines$line[of_columns] == k + 1 & lines$group[of_columns] > 0)
    if (!is.null(titled) && last) {
      end <- max(end, titled)
      titled <- NULL
    }
  }
  list(at_mm = ends_mm, wide_mm = end, head_lines = 1L + any(lines$group[of_columns] == 0))
}

width_of_column <- function(i, lines, laid, block, house, font) {
  line <- lines[i, ]
  layer <- block$layers[[line$layer]]
  texts <- if (line$group > 0) {
    house_numbers(
      under_texts(layer$ink, layer, line$group, seq_along(layer$y$kind$levels)),
      house$numbers
    )
  }
  max(widest_mm(laid[i]), widest_mm(lapply(texts, set_text, house$type_pt$base, font)))
}

beside_gap_mm <- 2

place_beside <- function(own, panels, house, font) {
  under <- own$parts$under
  columns <- which(under$lines$side == "beside")
  unlist(
    lapply(columns, function(i) {
      line <- under$lines[i, ]
      one_panel <- panels[panels$id == line$panel, ]
      x <- outer_edge(own, one_panel, "y") + under$columns$at_mm[i]
      numbers <- numbers_of_line(i, own, panels, house)
      colour <- colour_of_line(line, own$block)
      put <- function(role, laid, y, across, down) {
        place_text(
          role,
          laid,
          x,
          y,
          font,
          across = across,
          down = down,
          panel = line$panel,
          colour = colour
        )
      }
      title <- line$group == 0
      # Names of groups under the title of all of them.
      up <- if (title) under$line_mm else 0
      c(
        if (one_panel$row == 1) {
          y <- one_panel$y - under_gap_mm - up
          list(put("under name", under$laid[[i]], y, if (title) 0 else 1, 1))
        },
        Map(
          function(text, y) put("under", set_text(text, numbers$size_pt, font), y, 1, 0.5),
          numbers$texts,
          numbers$at
        )
      )
    }),
    recursive = FALSE
  )
}
