test_that("the inks keep what every ink keeps", {
  for (contract in list(
    nelvat::check_ink_contract(ink_lollipop(), ink_lollipop),
    nelvat::check_ink_contract(ink_spans(), ink_spans)
  )) {
    expect_true(all(contract$holds), info = paste(contract$why, collapse = "; "))
  }
})

test_that("medians and quantiles are R's, and the block draws in the house", {
  loaves <- nelvat::study("loaves")
  said <- nelvat::source_data(
    nelvat::plate(
      nelvat::panel(loaves, x = flour, y = rise, ink_lollipop(), ink_spans(share = 0.5)),
      width = 86,
      height = 60
    )
  )[[1]]
  medians <- tapply(loaves$data$rise, loaves$data$flour, median)
  expect_equal(sort(said$centre[said$part == "lollipop"]), sort(as.vector(medians)))
  pair <- loaf_pair(loaves, flour, rise, volume)
  scene <- nelvat::as_scene(
    nelvat::plate(pair, width = 176, height = 60, house = bakery_house())
  )
  expect_identical(nrow(scene$panels), 2L)
})
