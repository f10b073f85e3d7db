test_that("numbers on an axis have the same decimals and a true minus sign", {
  expect_identical(nelvat:::number_text(c(-1, -0.5, 0)), c("\u22121.0", "\u22120.5", "0.0"))
  expect_identical(nelvat:::number_text(c(0, 500, 1000)), c("0", "500", "1000"))
  expect_identical(nelvat:::number_text(c(0, 20000)), c("0", "20\u2009000"))
  expect_identical(nelvat:::number_text(c(0, 2e6, 4e6)), c("0", "2\u00d710^6^", "4\u00d710^6^"))
  expect_identical(
    nelvat:::number_text(c(1e-5, 2.5e-5)),
    c("1.0\u00d710^\u22125^", "2.5\u00d710^\u22125^")
  )
})

test_that("breaks lie in the range, evenly, and are no more than wished", {
  set.seed(11)
  for (i in 1:60) {
    range <- sort(runif(2, -10, 10)) * 10^sample(-3:5, 1)
    n <- sample(2:8, 1)
    breaks <- nelvat:::number_breaks(range, n)
    expect_true(
      all(breaks >= range[1] - 1e-6 * diff(range) & breaks <= range[2] + 1e-6 * diff(range))
    )
    expect_lte(length(breaks), max(n, 2) + 2)
    expect_gte(length(breaks), 2)
    # Multiples of 1, 2, 2.5 or 5 times a power of ten; 2.5 only where it adds no digit.
    step <- min(diff(breaks))
    lead <- signif(step / 10^floor(log10(step) + 1e-9), 6)
    expect_true(lead %in% c(1, 2, 5) || lead == 2.5 && step >= 25, label = paste("step", step))
    expect_lt(max(abs(breaks / step - round(breaks / step))), 1e-6)
    if (length(breaks) > 2) expect_lt(diff(range(diff(breaks))), 1e-6 * diff(range))
  }
})

test_that("a range holds what is shown, zero where bars stand, and room beyond", {
  expect_equal(nelvat:::value_range(c(2, 10), zero = TRUE), c(0, 10.45))
  expect_equal(nelvat:::value_range(c(-4, 6), zero = TRUE), c(-4.45, 6.45))
  expect_equal(nelvat:::value_range(c(3, 3)), c(1.5, 4.5))
  expect_equal(nelvat:::value_range(c(0, 0)), c(-0.5, 0.5))
  expect_equal(nelvat:::value_range(c(NA, Inf)), c(0, 1))
})

test_that("tick text of a shared axis is drawn once, under the lowest panel of each column", {
  panels <- data.frame(row = c(1, 1, 1, 2, 2), column = c(1, 2, 3, 1, 2), variable = "flour")
  axis <- nelvat:::share_axes(panels, "block")
  expect_identical(axis, rep(1L, 5))
  expect_identical(nelvat:::draws_tick_text(panels, axis, "x"), c(FALSE, FALSE, TRUE, TRUE, TRUE))
  expect_identical(nelvat:::draws_tick_text(panels, axis, "y"), c(TRUE, FALSE, FALSE, TRUE, FALSE))
  expect_identical(nelvat:::share_axes(panels, "row"), c(1L, 1L, 1L, 2L, 2L))
  expect_identical(nelvat:::share_axes(panels, "column"), c(1L, 2L, 3L, 1L, 2L))
  expect_identical(nelvat:::share_axes(panels, "panel"), 1:5)
  panels$variable <- c("a", "b", "a", "b", "a")
  expect_identical(nelvat:::share_axes(panels, "block"), c(1L, 2L, 1L, 2L, 1L))
})

test_that(
  "faint lines stand at the breaks, and between them where asked: at minor ticks, or half way",
  {
    lines_at <- function(...) {
      scene <- as_scene(
        plate(
          panel(
            study("pores"),
            x = depth,
            y = roundness,
            keep = depth < 8,
            x_axis = axis_of(...),
            ink_points()
          ),
          width = 86,
          height = 60
        )
      )
      grid <- Filter(function(layer) layer$ink == "grid", scene$marks)
      x <- scene$axes[[which(vapply(scene$axes, `[[`, "", "direction") == "x")]]
      list(
        at = if (length(grid)) sort(grid[[1]]$table$x0 * diff(x$range) + x$range[1]),
        breaks = x$breaks
      )
    }
    expect_null(lines_at()$at)
    major <- lines_at(grid = TRUE, breaks = c(2, 4, 6))
    expect_equal(major$at, c(2, 4, 6))
    expect_true(
      all(c(2, 3, 4, 5, 6) %in% round(lines_at(grid = "minor", breaks = c(2, 4, 6))$at, 6))
    )
    expect_true(
      all(
        c(2, 2.5, 3, 3.5, 4) %in% round(
          lines_at(grid = "minor", breaks = c(2, 4, 6), minor = 0.5)$at,
          6
        )
      )
    )
    expect_error(axis_of(grid = "major"), class = "nelvat_error_argument")
  }
)

test_that("each transform is R's function, goes back, and says what it can hold", {
  at <- c(-2, -0.5, 0, 0.25, 1, 8, 1000)
  cases <- list(
    identity = list(identity, rep(TRUE, 7)),
    log10 = list(log10, at > 0),
    log2 = list(log2, at > 0),
    ln = list(log, at > 0),
    sqrt = list(sqrt, at >= 0),
    asinh = list(asinh, rep(TRUE, 7)),
    logit = list(stats::qlogis, at > 0 & at < 1)
  )
  for (name in names(cases)) {
    transform <- nelvat:::axis_transform(name)
    holds <- cases[[name]][[2]]
    expect_identical(transform$holds(at), holds, info = name)
    held <- at[holds]
    expect_equal(transform$forward(held), cases[[name]][[1]](held), tolerance = 1e-12, info = name)
    expect_equal(transform$backward(transform$forward(held)), held, tolerance = 1e-9, info = name)
  }
  table <- data.frame(v = c(-0.5, 0, 0.2, 0.7, 1, 1.5), w = 1:6)
  told <- tryCatch(
    as_scene(plate(panel(table, x = logit(v), y = w, ink_points()), width = 60, height = 50)),
    nelvat_warning = conditionMessage
  )
  expect_match(told, "4 values of .v. not between 0 and 1 are left out")
})
