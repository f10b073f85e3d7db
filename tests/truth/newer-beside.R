# What stands beside the marks: rules and their counts, notes, phases, second scales, bars of
# length.

truth_beside <- list(
  rules = function(table) {
    x <- one_of(3, 5.5)
    y <- round(stats::median(table$data$rise, na.rm = TRUE), 1) + 0.05
    both <- chance(0.5)
    judged_panel(
      bquote(
        panel(
          book,
          x = n,
          y = rise,
          ink_points(),
          ink_rule(x = .(x), y = .(if (both) y), count = TRUE),
          ink_shade(x = c(2, 3))
        )
      ),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "n", "rise")
        # Left and right of the one, above the other; what lies on a rule is beyond neither.
        above <- if (both) rows$rise > y else TRUE
        wanted <- c(sum(rows$n < x & above), sum(rows$n > x & above))
        texts <- nelvat::as_scene(plate)$texts
        said <- texts[!texts$role %in% c("tick", "axis title", "key", "key title", "heading"), ]
        said <- numbers_in(said$string)
        # None lie beyond a rule at the end of the axis, where no number has room.
        some <- function(n) sort(as.numeric(n[n > 0]))
        holds(
          verdict,
          identical(some(said), some(wanted)) && length(said) <= length(wanted),
          "rules count ",
          paste(said, collapse = " "),
          " for ",
          paste(wanted, collapse = " ")
        )
        line <- marks_of_ink(plate, "rule", "segments")
        upright <- line[abs(line$x0 - line$x1) < 1e-9, ]
        holds(verdict, near(upright$x0, x), "a rule stands elsewhere")
        legend_holds(verdict, plate, sub("[.]", "[.]", x))
      }
    )
  },
  vectors = function(table) {
    arrows <- data.frame(x = c(1, -0.5, 0.2), y = c(0.3, 1, -0.8), name = c("salt", "heat", "rest"))
    scores <- table$data
    scores$n <- scores$n - mean(scores$n, na.rm = TRUE)
    scores$rise <- scores$rise - mean(scores$rise, na.rm = TRUE)
    judged_panel(
      bquote(panel(book, x = n, y = rise, ink_points(), ink_vectors(.(arrows)))),
      scores,
      function(verdict, plate) {
        # After the lines come the strokes of their heads.
        marks <- utils::head(marks_of_ink(plate, "vectors", "segments"), 3)
        ratio <- c(marks$x1 / arrows$x, marks$y1 / arrows$y)
        holds(
          verdict,
          nrow(marks) == 3 && diff(range(ratio)) < 1e-3 * abs(ratio[1]),
          "other vectors"
        )
        holds(verdict, all(abs(c(marks$x0, marks$y0)) < 1e-6), "vectors start elsewhere")
        texts <- nelvat::as_scene(plate)$texts
        holds(verdict, all(arrows$name %in% texts$string), "vectors without names")
      }
    )
  },
  phases = function(table) {
    phases <- data.frame(from = c(1, 3), to = c(2, 4.5), name = c("Rest", "Bake"))
    judged_panel(
      bquote(
        marginals(
          panel(book, x = n, y = rise, ink_points(), ink_phases(.(phases))),
          x = ink_phases(.(phases))
        )
      ),
      table$book,
      function(verdict, plate) {
        texts <- nelvat::as_scene(plate)$texts
        scene <- nelvat::as_scene(plate)
        area <- scene$panels[scene$panels$role == "panel", ][1, ]
        axis <- scene$axes[[area$x_axis]]
        for (k in 1:2) {
          seen <- phases$to[k] > axis$range[1] && phases$from[k] < axis$range[2]
          name <- texts[texts$string == phases$name[k], ]
          inside <- min(phases$to[k], axis$range[2]) - max(phases$from[k], axis$range[1])
          if (!seen) {
            holds(verdict, !nrow(name), "a phase beyond the axis")
          } else if (inside > 0.2 * diff(axis$range)) {
            if (!holds(verdict, nrow(name) == 1, "a phase without its name")) next
            middle <- (max(phases$from[k], axis$range[1]) + min(phases$to[k], axis$range[2])) / 2
            wanted <- area$x + (middle - axis$range[1]) / diff(axis$range) * area$w
            holds(verdict, abs(name$centre_x - wanted) < 0.5, "a phase's name stands elsewhere")
          }
        }
        seen <- phases$to > axis$range[1] & phases$from < axis$range[2]
        legend_holds(verdict, plate, phases$name[seen])
      }
    )
  },
  notes = function(table) {
    judged_panel(
      quote(
        panel(
          book,
          x = n,
          y = rise,
          ink_points(),
          ink_text("here", x = 4, y = 30, anchor = "middle"),
          y_axis = axis_of(range = c(0, 60)),
          x_axis = axis_of(range = c(0, 10))
        )
      ),
      table$book,
      function(verdict, plate) {
        scene <- nelvat::as_scene(plate)
        note <- scene$texts[scene$texts$string == "here", ]
        area <- scene$panels[1, ]
        holds(verdict, nrow(note) == 1, "a note is not there")
        x <- area$x + 0.4 * area$w
        y <- area$y + 0.5 * area$h
        holds(
          verdict,
          abs(note$centre_x - x) < 0.05 && abs(note$centre_y - y) < 0.6,
          "a note stands elsewhere"
        )
      }
    )
  },
  second_scale = function(table) {
    asked <- one_of("degrees", "expression")
    few <- data.frame(hour = 1:12, heat = sort(round(stats::runif(12, 10, one_of(20, 90)), 1)))
    also <- if (asked == "degrees") "\u00b0F" else "Wave (nm) = 1240 / heat"
    judged_panel(
      bquote(panel(book, x = hour, y = heat, ink_line(), y_axis = axis_of(also = .(also)))),
      nelvat::codebook(few, heat = nelvat::quantity("Heat", "\u00b0C")),
      function(verdict, plate) {
        scene <- nelvat::as_scene(plate)
        area <- scene$panels[1, ]
        range <- scene$axes[[area$y_axis]]$range
        ticks <- scene$texts[scene$texts$role == "tick", ]
        ticks <- ticks[ticks$centre_x > area$x + area$w, ]
        holds(verdict, nrow(ticks) > 1, "a second scale without ticks")
        said <- numbers_in(ticks$string)
        heat <- if (asked == "degrees") (said - 32) / 1.8 else 1240 / said
        y <- area$y + area$h * (1 - (heat - range[1]) / diff(range))
        holds(
          verdict,
          max(abs(y - ticks$centre_y)) < 0.01,
          "ticks of a second scale stand elsewhere"
        )
      }
    )
  },
  scale_bar = function(table) {
    length <- one_of(1, 5, 8)
    per_pixel <- one_of(0.02, 0.05)
    list(
      call = bquote(
        image_panel(
          nelvat::study_file("crumb.png"),
          scale_bar(length = .(length), unit = "mm", per_pixel = .(per_pixel))
        )
      ),
      data = NULL,
      judge = function(verdict, plate) {
        scene <- nelvat::as_scene(plate)
        across <- dim(png::readPNG(nelvat::study_file("crumb.png")))[2]
        bars <- Filter(
          function(one) one$primitive == "rects" && one$ink == "scale_bar",
          scene$marks
        )
        bar <- bars[[length(bars)]]$table
        wanted <- length / per_pixel / across
        holds(verdict, near(bar$x1 - bar$x0, wanted), "a scale bar of another length")
        texts <- gsub("\u00a0", " ", scene$texts$string)
        holds(verdict, paste(length, "mm") %in% texts, "a scale bar without its length")
        legend_holds(verdict, plate, paste0(length, ".mm"))
      }
    )
  }
)
