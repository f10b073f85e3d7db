# Each sentence of a legend is read back and its numbers are recomputed from the table.
legend_of <- function(..., width = 178, height = 120) {
  suppressMessages(suppressWarnings(legend_text(plate(..., width = width, height = height))))
}
loaves <- study("loaves")
table <- data.frame(
  t = rep(1:6, 4),
  v = c(1:6, 2:7, 3:8, c(4, NA, 6:9)) + 0.5,
  f = rep(c("p", "q"), each = 12),
  g = rep(c("x", "y", "x", "y"), each = 6),
  s = rep(c("one", "two", "three", "four"), each = 6)
)

test_that("an axis that is drawn at a neighbour keeps its variable in the legend", {
  text <- legend_of(
    stacked(
      panel(table, x = t, y = v, ink_points()),
      panel(table, x = t, y = v, ink_line(group = s))
    )
  )
  expect_match(text, "^a, v against t .* b, v against t ")
})

test_that("zooms are called enlargements, say their part, and tell no n or fit of the whole", {
  whole <- panel(table, x = t, y = v, ink_points(), ink_fit())
  text <- legend_of(beside(all = whole, zoom(of = "all", x = c(2, 4))))
  enlarged <- sub(".* b, ", "", text)
  expect_match(enlarged, "^enlargement of the outlined part of a \\(t from 2 to 4\\)")
  expect_identical(
    as.numeric(sub(".*n = ([0-9]+).*", "\\1", enlarged)),
    as.numeric(sum(table$t %in% 2:4 & !is.na(table$v)))
  )
  expect_no_match(enlarged, "R\u00b2")
})

test_that("levels down and of outer tiers are told", {
  text <- legend_of(facets(panel(table, x = t, y = v, ink_points()), across = c(f, g), down = s))
  expect_match(
    text,
    "for each f \\(p and q\\), g \\(x and y\\) and s \\(one, two, three and four\\)"
  )
})

test_that("what was kept is told, with how many rows", {
  text <- legend_of(panel(table, x = t, y = v, keep = t > 2 & f == "p", ink_points()))
  expect_match(text, "Shown are rows where t > 2 and f is p (8 of 24).", fixed = TRUE)
})

test_that("rows without a level of colour are told of bars that count and of circles", {
  graded <- data.frame(
    flour = rep(c("Wheat", "Rye"), each = 5),
    risen = rep(c("yes", "no", NA, NA, "yes"), 2)
  )
  inks <- list(
    panel(graded, x = flour, colour = risen, ink_bars()),
    panel(graded, y = flour, colour = risen, ink_bars(arrange = "share")),
    panel(graded, colour = risen, ink_pie())
  )
  for (one in inks) {
    expect_match(legend_text(plate(one, width = 80, height = 60)), "4 missing values of risen are")
  }
  # A bar holds its colours; what is counted for each is no bar.
  share <- plate(inks[[2]], width = 80, height = 60)
  expect_match(legend_text(share), "(n = 1 to 2 a part)", fixed = TRUE)
  alone <- data.frame(mass = c(1, 2, 4, 9), oven = c("a", "a", "a", "b"))
  quantiles <- plate(
    panel(alone, y = mass, colour = oven, ink_quantiles()),
    width = 80,
    height = 60
  )
  expect_match(legend_text(quantiles), "1 value of mass is too few for quantiles")
})

test_that("letters stand as a range only where they follow each other", {
  gap <- data.frame(g = c("u", "v"), some = c(NA, 1:9), all = 1:10)
  lacking <- panel(gap, x = g, y = some, ink_points())
  whole <- panel(gap, x = g, y = all, ink_points())
  said <- function(...) legend_text(plate(..., per_row = 2, width = 120, height = 160))
  expect_match(said(lacking, whole, lacking, lacking), "left out (a, c and d).", fixed = TRUE)
  expect_match(said(whole, lacking, lacking, lacking), "left out (b\u2013d).", fixed = TRUE)
  kept <- panel(gap, x = g, y = all, keep = all > 2, ink_points())
  expect_match(
    said(kept, whole, kept, whole),
    "Shown in a and c are rows where all > 2 (8 of 10).",
    fixed = TRUE
  )
})

test_that("n is of each bar and box, and says the range over them", {
  uneven <- data.frame(f = rep(c("a", "b", "c"), c(2, 5, 9)), v = 1:16)
  expect_match(legend_of(panel(uneven, x = f, y = v, ink_bars())), "n = 2 to 9 a bar")
  expect_match(legend_of(panel(uneven, x = f, y = v, ink_box())), "n = 2 to 9 a box")
  days <- data.frame(day = rep(1:3, c(2, 3, 4)), v = 1:9)
  expect_match(
    legend_of(panel(days, x = day, y = v, ink_line(centre = "mean"))),
    "n = 2 to 4 a mean"
  )
})

test_that("matrices name the pairs that they show, no others", {
  expect_match(
    legend_of(every_pair(loaves, c(rise, volume), rows = c(ph, acidity))),
    paste0(
      "^Each of Crumb pH and acidity \\(mmol/g\\) ",
      "against each of Loaf rise \\(mm\\) and volume \\(mL\\)"
    )
  )
  expect_match(
    legend_of(every_pair(loaves, c(rise, volume, ph))),
    "^Each pair of Loaf rise \\(mm\\), volume \\(mL\\) and Crumb pH"
  )
})

test_that("boxes say which values they leave out, heat maps what a cell is", {
  far <- data.frame(f = "a", v = c(1:9, 40, 50))
  expect_match(
    legend_of(panel(far, x = f, y = v, ink_box(outliers = FALSE))),
    "2 values beyond them not drawn"
  )
  expect_match(legend_of(panel(far, x = f, y = v, ink_box())), "values beyond[;.]")
  heat <- legend_of(
    panel(
      correlations(loaves, c(rise, volume, firmness)),
      x = first,
      y = second,
      colour = r,
      ink_tiles()
    )
  )
  expect_match(heat, "^Pearson.s correlation of each two of")
  expect_match(heat, "n = 140 to 144 a pair")
  expect_match(heat, "9 cells")
  expect_no_match(heat, "drawn as tiles")
})

test_that("missing values that are bridged, gaps and fills are told", {
  expect_match(
    legend_of(panel(table, x = t, y = v, group = s, missing = "bridge", ink_line())),
    "Lines go on over 1 missing value of v"
  )
  days <- data.frame(day = as.Date("2026-03-01") + c(0:19, 35:50), v = 1:36)
  text <- legend_of(panel(days, x = day, y = v, ink_line()))
  expect_match(text, "1 gap of day in a regular series has no line")
  expect_no_match(legend_of(panel(days, x = day, y = v, ink_line(gap = FALSE))), "gap")
})

test_that("a gap of a regular series breaks its line, and `gap` sets how long one is", {
  paths <- function(...) {
    days <- data.frame(day = as.Date("2026-03-01") + c(0:19, 35:50), v = 1:36)
    scene <- suppressWarnings(
      as_scene(plate(panel(days, x = day, y = v, ink_line(...)), width = 90, height = 60))
    )
    length(unique(Find(function(layer) layer$primitive == "lines", scene$marks)$table$line))
  }
  expect_identical(paths(), 2L)
  expect_identical(paths(gap = "20 days"), 1L)
  expect_identical(paths(gap = FALSE), 1L)
  expect_error(
    panel(table, x = t, y = v, ink_line(gap = "1 day")),
    "a number in units of x",
    class = "nelvat_error_argument"
  )
  # Steps that are not regular are no gaps.
  set.seed(4)
  uneven <- data.frame(x = cumsum(rexp(40)), y = 1:40)
  scene <- as_scene(plate(panel(uneven, x = x, y = y, ink_line()), width = 90, height = 60))
  expect_identical(length(unique(scene$marks[[1]]$table$line)), 1L)
})

test_that("running statistics and fills stay within a series, facets' levels included", {
  steps <- data.frame(
    t = rep(1:5, 2),
    v = c(1, 1, 1, 1, 1, 9, 9, 9, 9, 9),
    f = rep(c("p", "q"), each = 5)
  )
  smooth <- list(m = derived(running_mean(v, width = 3)))
  drawn <- function(block) {
    scene <- suppressWarnings(as_scene(plate(block, width = 120, height = 60)))
    layer <- scene$marks[[1]]
    sort(
      unique(
        round(
          unlist(
            lapply(seq_len(nrow(scene$panels)), function(i) {
              axis <- scene$axes[[scene$panels$y_axis[i]]]$range
              axis[1] + layer$table$y[layer$table$panel == scene$panels$id[i]] * diff(axis)
            })
          ),
          8
        )
      )
    )
  }
  expect_equal(
    drawn(panel(steps, x = t, y = m, colour = f, derive = smooth, ink_points())),
    c(1, 9)
  )
  expect_equal(
    drawn(facets(panel(steps, x = t, y = m, derive = smooth, ink_points()), across = f)),
    c(1, 9)
  )
  expect_length(drawn(panel(steps, x = t, y = m, derive = smooth, ink_points())), 4)
  steps$v[3] <- NA
  expect_equal(
    drawn(
      facets(panel(steps, x = t, y = v, missing = fill_with("mean"), ink_points()), across = f)
    ),
    c(1, 9)
  )
})

test_that("fits are told apart by all that parts them, and none is claimed where none was made", {
  found <- fits(
    plate(
      panel(loaves, x = rise, y = volume, colour = flour, dash = hydration, ink_fit()),
      width = 120,
      height = 80
    )
  )
  expect_identical(nrow(unique(found[c("colour", "dash")])), 12L)
  lone <- data.frame(x = 1, y = 2)
  text <- legend_of(panel(lone, x = x, y = y, ink_points(), ink_fit()))
  expect_no_match(text, "R\u00b2|[Ss]traight line")
})

test_that("headings count what is drawn and what is missing, notes and levels too", {
  fig <- plate(
    facets(
      panel(
        table,
        x = t,
        y = v,
        ink_points(),
        ink_text("{n} of them, not {missing}", x = 0.1, y = 0.9, at = "panel")
      ),
      across = s,
      heading = "{level} (n = {n}, {missing} missing)"
    ),
    width = 178,
    height = 60
  )
  scene <- suppressWarnings(as_scene(fig))
  expect_identical(
    scene$panels$heading,
    paste0(
      c("one", "two", "three", "four"),
      " (n = ",
      c(6, 6, 6, 5),
      ", ",
      c(0, 0, 0, 1),
      " missing)"
    )
  )
  expect_identical(
    gsub("\n", " ", scene$texts$string[scene$texts$role == "note"]),
    paste0(c(6, 6, 6, 5), " of them, not ", c(0, 0, 0, 1))
  )
  counted <- suppressWarnings(
    as_scene(
      plate(
        panel(table, x = s, y = v, x_axis = axis_of(counts = TRUE), ink_bars()),
        width = 120,
        height = 60
      )
    )
  )
  expect_identical(
    counted$axes[[counted$panels$x_axis]]$text,
    paste0(c("one", "two", "three", "four"), "\nn = ", c(6, 6, 6, 5))
  )
  titled <- as_scene(
    plate(panel(table, x = t, y = v, heading = "Growth", ink_points()), width = 90, height = 60)
  )
  expect_true("Growth" %in% titled$texts$string)
})

test_that("source data hold the rows drawn, in data units, under their own names", {
  rows <- data.frame(x = c(1, 10, 100, NA), y = c(2, NA, 4, 5), g = c("a", "b", "a", "b"))
  fig <- plate(panel(rows, x = log10(x), y = y, colour = g, ink_points()), width = 90, height = 60)
  values <- suppressWarnings(source_data(fig))[[1]]
  expect_equal(values$x, c(1, 100))
  expect_equal(values$y, c(2, 4))
  beyond <- suppressWarnings(
    source_data(
      plate(
        panel(rows, x = x, y = y, x_axis = axis_of(range = c(0, 50)), ink_points()),
        width = 90,
        height = 60
      )
    )
  )[[1]]
  expect_equal(beyond$x, 1)
  bars <- source_data(
    plate(panel(table[1:18, ], x = f, y = v, colour = g, ink_bars()), width = 90, height = 60)
  )[[1]]
  means <- bars[bars$part == "bars", ]
  by_hand <- aggregate(v ~ f + g, table[1:18, ], function(v) c(mean(v), length(v)))
  key <- match(paste(means$f, means$g), paste(by_hand$f, by_hand$g))
  expect_equal(means$centre, by_hand$v[key, 1])
  expect_equal(means$n, by_hand$v[key, 2])
})

test_that(
  "residuals stand on an axis of residuals, in joint figures too, and with no ink of raw values",
  {
    loaves_data <- loaves$data
    left <- unname(residuals(lm(volume ~ rise, loaves_data)))
    fig <- plate(
      joint(
        loaves,
        x = rise,
        y = volume,
        ink_residuals(),
        marginal = list(x = ink_histogram(), y = ink_histogram(width = 20))
      ),
      width = 100,
      height = 90
    )
    scene <- as_scene(fig)
    host <- scene$panels[scene$panels$role == "panel", ]
    axis <- scene$axes[[host$y_axis]]
    expect_match(axis$name, "Residual of")
    points <- Find(function(layer) layer$primitive == "points", scene$marks)$table
    expect_equal(sort(axis$range[1] + points$y * diff(axis$range)), sort(left))
    side <- scene$panels[scene$panels$side %in% "y", ]
    bars <- Find(
      function(layer) layer$primitive == "rects" && any(layer$table$panel == side$id),
      scene$marks
    )$table
    count_axis <- scene$axes[[side$x_axis]]$range
    expect_equal(sum((bars$x1 - bars$x0) * diff(count_axis)), length(left))
    low <- axis$range[1] + bars$y0 * diff(axis$range)
    by_hand <- vapply(low, function(edge) sum(left > edge + 1e-9 & left <= edge + 20 + 1e-9), 0L)
    expect_equal((bars$x1 - bars$x0) * diff(count_axis), by_hand)
    expect_match(
      legend_text(fig),
      "n = 144 loaves\\)\\. Points, residuals of a straight line by least squares"
    )
    table <- source_data(fig)[[1]]
    expect_equal(sort(table$volume[table$part == "values"]), sort(loaves_data$volume))
    expect_equal(sort(table[["residual of volume"]][table$part == "residuals"]), sort(left))
    expect_error(
      panel(loaves, x = rise, y = volume, ink_points(), ink_residuals()),
      "no axis in common",
      class = "nelvat_error_argument"
    )
    grown <- data.frame(x = 1:20, y = exp((1:20) / 4 + sin(1:20)))
    logged <- as_scene(
      plate(panel(grown, x = x, y = log(y), ink_residuals()), width = 90, height = 60)
    )
    points <- Find(function(layer) layer$primitive == "points", logged$marks)$table
    axis <- logged$axes[[logged$panels$y_axis]]
    expect_equal(
      axis$range[1] + points$y * diff(axis$range),
      unname(residuals(lm(log(y) ~ x, grown)))
    )
  }
)

test_that("an inset covers no data: it goes where there is room, or says that there is none", {
  ramp <- data.frame(x = 1:200, y = 1:200)
  box_of <- function(scene) scene$grounds[1, ]
  fig <- plate(
    all = panel(ramp, x = x, y = y, ink_line()),
    zoom(of = "all", x = c(90, 100), y = c(90, 100), inset = TRUE),
    width = 120,
    height = 100
  )
  scene <- as_scene(fig)
  host <- scene$panels[scene$panels$role == "panel", ]
  ground <- box_of(scene)
  x <- host$x +
    (1:200 - scene$axes[[host$x_axis]]$range[1]) / diff(scene$axes[[host$x_axis]]$range) * host$w
  y <- host$y +
    (1 - (1:200 - scene$axes[[host$y_axis]]$range[1]) / diff(scene$axes[[host$y_axis]]$range)) *
      host$h
  expect_false(any(x > ground$x0 & x < ground$x1 & y > ground$y0 & y < ground$y1))
  full <- data.frame(expand.grid(x = 1:40, y = 1:40))
  crowded <- function(inset) {
    plate(
      all = panel(full, x = x, y = y, ink_points()),
      zoom(of = "all", x = c(10, 12), y = c(10, 12), inset = inset),
      width = 120,
      height = 100
    )
  }
  expect_error(
    as_scene(crowded(TRUE)),
    "covers nothing.*inset = \"top right\"",
    class = "nelvat_error_space"
  )
  found <- suppressMessages(proof(crowded("top right")))
  expect_identical(found$verdict[found$rule == "insets over data"], "look")
})

test_that("an inset stands in the panel that it enlarges", {
  fig <- plate(
    all = facets(panel(table, x = t, y = v, ink_points()), across = s, per_row = 2),
    zoom(of = "all", panel = 4, x = c(2, 3), y = c(5, 8), inset = "bottom right"),
    width = 178,
    height = 140
  )
  scene <- suppressWarnings(as_scene(fig))
  inset <- scene$panels[scene$panels$role == "inset", ]
  host <- scene$panels[match(inset$host, scene$panels$id), ]
  expect_identical(host$heading, "four")
  expect_true(
    inset$x > host$x && inset$x + inset$w < host$x + host$w && inset$y > host$y &&
      inset$y + inset$h < host$y + host$h
  )
})

test_that("letters of statistics are set in italic type, other words are not", {
  compared <- panel(
    study("loaves"),
    x = flour,
    y = rise,
    ink_box(),
    ink_contrasts(between = "wheat")
  )
  fig <- plate(compared, width = 80)
  text <- legend_text(fig, "markdown")
  for (piece in c("Welch's *t* tests", "*p* adjusted by", "*n* = 36")) {
    expect_match(text, piece, fixed = TRUE)
  }
  expect_match(legend_text(fig, "html"), "Welch's <i>t</i> tests", fixed = TRUE)
  expect_no_match(legend_text(fig), "*", fixed = TRUE)
})
