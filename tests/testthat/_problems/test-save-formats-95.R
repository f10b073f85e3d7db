# Extracted from test-save-formats.R:95

# prequel ----------------------------------------------------------------------
loaves <- study("loaves")
fig <- plate(panel(loaves, x = flour, y = rise, colour = hydration, ink_bars()), width = 80, height = 60, title = "Rise of loaves")
bytes_of <- function(path) readBin(path, "raw", file.size(path))
tiff_tags <- function(bytes) {
  int <- function(at, size) sum(as.integer(bytes[at + seq_len(size)]) * 256^(seq_len(size) - 1))
  start <- int(4, 4)
  n <- int(start, 2)
  data.frame(tag = vapply(seq_len(n), function(i) int(start + 2 + (i - 1) * 12, 2), 0), value = vapply(seq_len(n), function(i) int(start + 2 + (i - 1) * 12 + 8, 4), 0))
}

# test -------------------------------------------------------------------------
skip_if_not_installed("png")
pores <- plate(panel(study("pores"), x = log10(area), y = roundness, ink_points(size = 1.2)), width = 60, height = 50)
trace <- plate(panel(study("probe"), x = time, y = core, missing = "bridge", ink_line()), width = 60, height = 40)
for (figure in list(pores, trace)) {
    scene <- suppressWarnings(as_scene(figure))
    thin <- withr::local_tempfile(fileext = ".png")
    suppressWarnings(save_plate(figure, thin))
    marks <- sum(vapply(scene$marks, function(layer) nrow(layer$table), 0L))
    full <- withr::local_tempfile(fileext = ".png")
    testthat::with_mocked_bindings(
      {
        whole <- suppressWarnings(as_scene(figure))
        suppressWarnings(save_plate(figure, full))
      },
      thinned_marks = function(marks, panels) marks
    )
    expect_lt(marks, 0.9 * sum(vapply(whole$marks, function(layer) nrow(layer$table), 0L)))
    expect_lt(mean(abs(png::readPNG(thin) - png::readPNG(full))) * 255, 1)
  }
