# Figures whose marks stand at places that are given, against the table.

truth_places <- list(
  limits = function(table) {
    both <- chance(0.5)
    judged_panel(
      bquote(
        panel(
          book,
          x = hour,
          y = rise,
          ink_points(),
          .(
            if (both) quote(ink_limits(low, high, before, after)) else quote(ink_limits(low, high))
          ),
          derive = list(before = derived(hour - 0.5), after = derived(hour + 0.25))
        )
      ),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "hour", "rise")
        segments <- marks_of_ink(plate, "limits", "segments")
        upright <- segments[abs(segments$x0 - segments$x1) < 1e-9, ]
        ends <- function(marks, direction) {
          range <- cbind(marks[[paste0(direction, 0)]], marks[[paste0(direction, 1)]])
          c(pmin(range[, 1], range[, 2]), pmax(range[, 1], range[, 2]))
        }
        holds(
          verdict,
          near_sorted(ends(upright, "y"), c(rows$low, rows$high)),
          "limits stand elsewhere"
        )
        level <- segments[abs(segments$y0 - segments$y1) < 1e-9, ]
        wanted <- if (both) c(rows$hour - 0.5, rows$hour + 0.25) else numeric()
        holds(verdict, near_sorted(ends(level, "x"), wanted), "limits along x stand elsewhere")
        legend_holds(verdict, plate, "limits")
      }
    )
  },
  isolines = function(table) {
    grid <- expand.grid(x = seq_len(one_of(2, 5, 9)), y = seq_len(one_of(3, 6)))
    grid$z <- round(stats::rnorm(nrow(grid), 10, 4), 1)
    if (chance(0.3)) grid$z[sample(nrow(grid), 1)] <- NA
    levels <- c(8.05, 12.05)
    judged_panel(
      bquote(panel(book, x = x, y = y, ink_isolines(z, levels = .(levels)))),
      grid,
      function(verdict, plate) {
        lines <- marks_of_ink(plate, "isolines", "lines")
        there <- grid[!is.na(grid$z), ]
        # Lines run through squares of the grid of which all corners are known.
        crossed <- mapply(
          function(x, y) {
            corners <- grid$z[grid$x %in% c(x, x + 1) & grid$y %in% c(y, y + 1)]
            length(corners) == 4 && !anyNA(corners) &&
              any(vapply(levels, function(v) any(corners < v) && any(corners > v), NA))
          },
          grid$x,
          grid$y
        )
        if (!any(crossed)) {
          holds(verdict, !NROW(lines), "lines of what no value crosses")
          return()
        }
        value_at <- function(x, y) grid$z[match(paste(x, y), paste(grid$x, grid$y))]
        # On an edge of the grid a line stands where the straight way between its ends meets it.
        on_edge <- abs(lines$x - round(lines$x)) < 1e-6 | abs(lines$y - round(lines$y)) < 1e-6
        edge <- lines[on_edge, ]
        lower <- value_at(floor(edge$x + 1e-6), floor(edge$y + 1e-6))
        upper <- value_at(ceiling(edge$x - 1e-6), ceiling(edge$y - 1e-6))
        part <- pmax(
          edge$x - floor(edge$x + 1e-6),
          edge$y - floor(edge$y + 1e-6)
        )
        z <- lower + part * (upper - lower)
        near_level <- vapply(z, function(v) min(abs(v - levels)), 0)
        holds(verdict, all(is.na(z) | near_level < 1e-3), "lines stand elsewhere")
        legend_holds(verdict, plate, "equal z", paste(nrow(there)))
      }
    )
  },
  lanes = function(table) {
    few <- few_rows(table, "rise", "loaf")
    few$burst <- ifelse(seq_len(nrow(few)) %% 2 == 1, few$rise - 1, NA)
    judged_panel(
      quote(
        panel(
          book,
          x = rise,
          y = loaf,
          ink_lanes(low),
          ink_events(burst, "Burst")
        )
      ),
      few,
      function(verdict, plate) {
        bars <- marks_of_ink(plate, "lanes", "rects")
        holds(verdict, near_sorted(bars$x0, few$low), "lanes begin elsewhere")
        holds(verdict, near_sorted(bars$x1, few$rise), "lanes end elsewhere")
        points <- marks_of_ink(plate, "events", "points")
        holds(verdict, near_sorted(points$x, few$burst[!is.na(few$burst)]), "events elsewhere")
        said <- said_counts(nelvat::legend_text(plate))
        holds(verdict, setequal(said, c(nrow(few), sum(!is.na(few$burst)))), "another n is said")
        # Each event on its own lane.
        order <- order(bars$x0, bars$x1)
        own <- vapply(
          seq_len(nrow(points)),
          function(k) {
            any(
              points$y[k] > pmin(bars$y0, bars$y1) & points$y[k] < pmax(bars$y0, bars$y1) &
                points$x[k] >= bars$x0 & points$x[k] <= bars$x1
            )
          },
          NA
        )
        holds(verdict, all(own) && length(order) == nrow(few), "events on other lanes")
      }
    )
  },
  columns = function(table) {
    few <- few_rows(table, "n", "loaf")
    judged_panel(quote(panel(book, y = loaf, ink_column(n))), few, function(verdict, plate) {
      texts <- nelvat::as_scene(plate)$texts
      names <- texts[texts$string %in% few$loaf, ]
      said <- texts[!texts$role %in% c("tick", "axis title", "heading"), ]
      for (k in seq_len(nrow(names))) {
        own <- said[abs(said$centre_y - names$centre_y[k]) < 0.6, ]
        wanted <- few$n[few$loaf == names$string[k]]
        holds(verdict, near(numbers_in(own$string), wanted), "another text in a row")
      }
      holds(verdict, nrow(names) == nrow(few), "rows without names")
    })
  },
  labels = function(table) {
    few <- few_rows(table, "n", "rise", "loaf")
    most <- one_of(2, 20)
    judged_panel(
      bquote(
        panel(book, x = n, y = rise, ink_points(), ink_labels(loaf, rank = n, most = .(most)))
      ),
      few,
      function(verdict, plate) {
        texts <- nelvat::as_scene(plate)$texts
        shown <- texts$string[texts$string %in% few$loaf]
        first <- few$loaf[order(-few$n)][seq_len(min(most, nrow(few)))]
        ties <- sum(few$n >= sort(few$n, decreasing = TRUE)[length(first)]) > length(first)
        holds(verdict, all(shown %in% first) || ties, "other names than the first")
        if (most == 2) holds(verdict, length(shown) == length(first), "names are left out")
      }
    )
  },
  curves = function(table) {
    judged_panel(
      quote(panel(book, x = n, y = rise, ink_points(), ink_curve(y ~ 30 + x^2 / 4))),
      table$book,
      function(verdict, plate) {
        line <- marks_of_ink(plate, "curve", "lines")
        holds(verdict, max(abs(line$y - 30 - line$x^2 / 4)) < 1e-6, "another curve")
        legend_holds(verdict, plate, "x\\^2 ?/ ?4")
      }
    )
  },
  paths = function(table) {
    along <- one_of("rows", "y")
    few <- few_rows(table, "n", "rise")
    judged_panel(
      bquote(panel(book, x = n, y = rise, ink_line(along = .(along)))),
      few,
      function(verdict, plate) {
        line <- marks_of_ink(plate, "line", "lines")
        if (nrow(few) < 2) return()
        sorted <- if (along == "y") few[order(few$rise), ] else few
        holds(verdict, near_sorted(line$y, sorted$rise), "a line of other points")
        if (!anyDuplicated(sorted$rise) || along == "rows") {
          holds(verdict, near(line$x, sorted$n), "points joined in another order")
        }
        legend_holds(verdict, plate, if (along == "y") "order of" else "order of the rows")
      }
    )
  },
  polygons = function(table) {
    corners <- data.frame(
      x = c(0, 1, 1, 0, 1, 2, 2, 1),
      y = c(0, 0, 1, 1, 0, 0, 2, 2),
      field = rep(c("a", "b"), each = 4),
      yield = rep(c(3, 8), each = 4)
    )
    judged_panel(
      quote(panel(book, x = x, y = y, group = field, colour = yield, ink_polygons())),
      corners,
      function(verdict, plate) {
        areas <- marks_of_ink(plate, "polygons", "areas")
        sizes <- vapply(
          split(areas, areas$area),
          function(one) {
            next_one <- c(2:nrow(one), 1)
            abs(sum(one$x * one$y[next_one] - one$x[next_one] * one$y)) / 2
          },
          0
        )
        holds(verdict, near_sorted(unname(sizes), c(1, 2)), "polygons of other areas")
        holds(verdict, length(unique(areas$fill)) == 2, "polygons of other colours")
        legend_holds(verdict, plate, "yield")
      }
    )
  },
  depth = function(table) {
    judged_panel(
      quote(panel(book, x = n, y = rise, ink_depth(z = hour))),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "n", "rise", "hour")
        points <- marks_of_ink(plate, "depth", "points")
        holds(verdict, nrow(points) == nrow(rows), "points of other rows")
        legend_holds(verdict, plate, "number", "rise", "hour", paste0("n = ", nrow(rows)))
      }
    )
  }
)
