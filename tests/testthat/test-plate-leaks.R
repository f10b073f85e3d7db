test_that("a plate keeps its house, whatever the session's is later", {
  bars <- panel(study("loaves"), x = flour, y = rise, ink_bars())
  fig <- plate(bars, width = 86, height = 60)
  before <- set_house("compact")
  withr::defer(set_house(before))
  sizes <- function(figure) sort(unique(as_scene(figure)$texts$size_pt))
  expect_identical(sizes(resize(fig, width = 86, height = 70)), sizes(fig))
  expect_identical(sizes(change(fig, ink = ink_bars(error = "se"))), sizes(fig))
  expect_false(identical(sizes(plate(bars, width = 86, height = 60)), sizes(fig)))
})

test_that("a finished plot is set in the house of its plate", {
  loaves <- study("loaves")$data
  scatter <- ggplot2::ggplot(loaves, ggplot2::aes(rise, volume)) + ggplot2::geom_point()
  of_house <- function(house) {
    plate(drawn(scatter, restyle = TRUE), width = 86, height = 60, house = house)$blocks[[1]]$reach
  }
  expect_gt(of_house("projected")$bottom, of_house("plain")$bottom + 1)
  before <- set_house("projected")
  withr::defer(set_house(before))
  expect_gt(of_house("projected")$bottom, of_house("plain")$bottom + 1)
})

test_that("spikes that were removed are told, whatever stands around the call", {
  told <- function(values) {
    fig <- plate(
      panel(
        study("probe"),
        x = time,
        y = clean,
        derive = list(clean = derived(!!rlang::enexpr(values), quantity("Core"))),
        ink_points()
      ),
      width = 86,
      height = 60
    )
    suppressWarnings(as_scene(fig))$told
  }
  plain <- told(without_spikes(core))
  expect_match(plain$what, "spikes removed", all = FALSE)
  for (other in list(
    told(as.numeric(without_spikes(core))),
    told(without_spikes(core) * 1),
    told(1 + without_spikes(core))
  )) {
    expect_identical(other[c("column", "what", "n")], plain[c("column", "what", "n")])
  }
})

test_that("mend shares the variables that proof found, whatever they are called", {
  table <- data.frame(
    `and 2 more; x axis of y` = c(1, 2, 30, 40),
    v = 1:4,
    g = c("a", "a", "b", "b")
  )
  names(table)[1] <- "and 2 more; x axis of y"
  fig <- plate(
    facets(
      panel(table, x = `and 2 more; x axis of y`, y = v, ink_points()),
      across = g,
      range_per = c(x = "panel")
    ),
    width = 120,
    height = 60
  )
  found <- nelvat:::proof_findings(as_scene(fig), fig)
  of_ranges <- Filter(function(one) one$rule == "same variable, same range", found)
  expect_identical(unlist(lapply(of_ranges, `[[`, "variables")), "and 2 more; x axis of y")
})
