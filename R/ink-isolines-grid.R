# The grid that isolines are traced on, their levels, and the bands between them.

# Values of lines within the range of z.
isoline_levels <- function(ink, z) {
  if (length(unique(z)) < 2) {
    abort_nelvat(
      "data",
      c(
        "Isolines need values that differ.",
        x = if (length(z)) {
          paste0("All of \"", ink$variables$z$id, "\" are ", number_text_each(z[1], 5), ".")
        } else {
          paste0("No row has a value of \"", ink$variables$z$id, "\" and its place.")
        }
      ),
      call = NULL
    )
  }
  ends <- range(z)
  if (!is.null(ink$every)) {
    n <- diff(ends) / ink$every
    if (n > 100) {
      abort_nelvat(
        "argument",
        c(
          "`every` is too small a step for isolines.",
          x = paste0("It makes ", count_text(n), " of them.")
        ),
        call = NULL
      )
    }
    levels <- ink$every * seq(ceiling(ends[1] / ink$every), floor(ends[2] / ink$every))
  } else {
    levels <- sort(unique(ink$levels %||% number_breaks(ends, 7)))
  }
  inside <- levels[levels > ends[1] & levels < ends[2]]
  if (length(inside)) return(inside)
  abort_nelvat(
    "argument",
    c(
      "No isoline lies within the values.",
      x = paste0(
        "These are from ",
        paste(number_text_each(ends, 5), collapse = " to "),
        ", the lines at ",
        listed(number_text_each(utils::head(levels, 5), 5)),
        "."
      )
    ),
    call = NULL
  )
}

# list(x, y, z: a matrix, a row an x) of values at places of a grid; NA where there is none.
value_grid <- function(x, y, z) {
  columns <- sort(unique(x))
  rows <- sort(unique(y))
  place <- cbind(match(x, columns), match(y, rows))
  wrong <- if (anyDuplicated(place)) {
    "One place has several values."
  } else if (length(columns) < 2 || length(rows) < 2) {
    "There are fewer than two places in one direction."
  } else if (nrow(place) < 0.25 * length(columns) * length(rows)) {
    paste0(
      count_text(nrow(place)),
      " places are known of a grid of ",
      count_text(length(columns)),
      " by ",
      count_text(length(rows)),
      "."
    )
  }
  if (!is.null(wrong)) {
    abort_nelvat(
      "data",
      c(
        "Isolines need values on a grid.",
        x = wrong,
        i = "Average or interpolate them to a grid first; scattered points show as `ink_bins()`."
      ),
      call = NULL
    )
  }
  grid <- matrix(NA_real_, length(columns), length(rows))
  grid[place] <- z
  list(x = columns, y = rows, z = grid)
}

# What lies between neighbouring levels, and between the outer ones and the ends of the values:
# list(rings: panel, band, ring, x, y, level, the middle; findings). A value on a level is above it.
isoline_bands <- function(known, levels, x_axis, y_axis) {
  edges <- c(min(known$z), levels, max(known$z))
  k <- length(edges) - 1
  low <- edges[-(k + 1)]
  high <- edges[-1]
  panels <- panels_in(known$panel)
  rings <- stack_tables(
    lapply(panels, function(id) {
      of_panel <- known[known$panel == id, ]
      grid <- value_grid(x_axis$forward(of_panel$x), y_axis$forward(of_panel$y), of_panel$z)
      # The greatest value itself is in the last band.
      ends <- c(high[-k], high[k] + 1e-9 * diff(range(edges)))
      traced <- isoband::isobands(grid$x, grid$y, t(grid$z), low, ends)
      stack_tables(
        Map(
          function(one, band) {
            new_table(
              panel = id,
              band = band,
              ring = as.integer(one$id),
              x = x_axis$backward(one$x),
              y = y_axis$backward(one$y),
              level = (low[band] + high[band]) / 2,
              .rows = length(one$x)
            )
          },
          traced,
          seq_len(k)
        )
      )
    })
  )
  rows <- expand.grid(band = seq_len(k), panel = panels)
  of_value <- findInterval(known$z, levels) + 1
  n <- mapply(function(band, id) sum(of_value == band & known$panel == id), rows$band, rows$panel)
  drawn_bands <- paste(rows$panel, rows$band) %in% paste(rings$panel, rings$band)
  list(
    rings = rings,
    findings = new_findings(
      rows["panel"],
      "band",
      n,
      estimate = (low[rows$band] + high[rows$band]) / 2,
      from = low[rows$band],
      to = high[rows$band],
      why = ifelse(drawn_bands & n > 0, NA, "no value lies in it"),
      value = NA_character_
    )
  )
}

isoline_areas <- function(rings, site) {
  if (is.null(rings)) return(NULL)
  list(
    under_points(
      new_marks(
        "areas",
        new_table(
          panel = rings$panel,
          area = match_rows(rings[c("panel", "band")], rep(TRUE, nrow(rings)))$at,
          ring = rings$ring,
          x = site$unit(rings$x, rings$panel, "x"),
          y = site$unit(rings$y, rings$panel, "y"),
          fill = site$colour_of(rings$level, nrow(rings)),
          opacity = 1,
          colour = NA_character_,
          weight_pt = 0,
          .rows = nrow(rings)
        )
      )
    )
  )
}
