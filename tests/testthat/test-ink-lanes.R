starters <- study("starters")
lanes <- function(data = starters, ..., on = NULL) {
  panel(data, x = to, y = starter, ink_lanes(from), ...)
}
scene_of <- function(block) as_scene(plate(block, width = 100, height = 110))

test_that("lanes run from where they begin to their end, events stand on them", {
  scene <- scene_of(lanes(starters, ink_events(collapsed, "Collapsed", shape = "triangle")))
  box <- scene$panels[1, ]
  axis <- scene$axes[[box$x_axis]]
  unit <- function(values) (values - axis$range[1]) / diff(axis$range)
  bars <- Find(function(one) one$ink == "lanes", scene$marks)$table
  expect_equal(sort(bars$x1), sort(unit(starters$data$to)))
  expect_equal(unique(bars$x0), unit(0))
  events <- Find(function(one) one$ink == "events", scene$marks)$table
  known <- !is.na(starters$data$collapsed)
  expect_equal(sort(events$x), sort(unit(starters$data$collapsed[known])))
  expect_identical(unique(events$shape), "triangle")
  expect_true("Collapsed" %in% scene$texts$string[scene$texts$role == "key"])
  rows <- scene$axes[[box$y_axis]]
  level <- match(starters$data$starter[known], rows$text)
  expect_equal(events$y, rows$unit[level])
})

test_that(
  "events of several sorts are entries of one key, and what did not happen is not missing",
  {
    fig <- plate(
      lanes(
        starters,
        ink_events(doubled, "Doubled"),
        ink_events(collapsed, "Collapsed", shape = "triangle")
      ),
      width = 100,
      height = 110
    )
    expect_no_warning(scene <- as_scene(fig))
    expect_identical(nrow(scene$keys[scene$keys$shape %in% c("disc", "triangle"), ]), 2L)
    expect_false(grepl("missing", legend_text(fig)))
  }
)

test_that("lanes that go on end in arrows", {
  data <- transform(starters$data, on = starter %in% c("S01", "S02"))
  scene <- scene_of(panel(data, x = to, y = starter, ink_lanes(from, onward = on)))
  heads <- Find(function(one) one$primitive == "areas", scene$marks)$table
  expect_length(unique(heads$area), 2)
  expect_match(legend_text(scene), "with an arrow where it goes on")
})

test_that("lanes that cannot be are told", {
  data <- starters$data
  expect_error(
    scene_of(lanes(rbind(data, data[1, ]))),
    "has several",
    class = "nelvat_error_argument"
  )
  turned <- data
  turned$from[3] <- 99
  expect_error(scene_of(lanes(turned)), "ends before it begins", class = "nelvat_error_argument")
  expect_error(panel(data, x = starter, y = to, ink_lanes(from)), class = "nelvat_error_kind")
  expect_error(lanes(data, ink_events(fed, "x")), class = "nelvat_error_kind")
  from_nothing <- panel(data, x = log10(to), y = starter, ink_lanes(from))
  expect_error(scene_of(from_nothing), "begins at 0", class = "nelvat_error_argument")
  never <- transform(data, never = NA_real_)
  scene <- scene_of(lanes(never, ink_events(never, "Never")))
  expect_false("Never" %in% scene$texts$string)
  expect_error(ink_events(doubled), "name", class = "nelvat_error_argument")
})
