# Random plates against what is true of them (see tests/truth/run.R), and that they stand well.
truth <- new.env(parent = globalenv())
sys.source(test_path("..", "truth", "run.R"), truth, chdir = FALSE)

test_that("what 300 random plates draw and say is what their tables hold", {
  for (seed in seq_len(300)) {
    found <- truth$judge_seed(seed)
    expect_identical(found$false, NULL, label = paste("what is false of plate", seed))
    if (is.null(found$refused)) {
      faults <- scene_faults(suppressWarnings(as_scene(found$plate)))
      expect_identical(faults, NULL, label = paste("what stands badly on plate", seed))
    } else {
      expect_match(
        found$refused,
        "mm|room|Nothing is left",
        label = paste("why plate", seed, "is refused")
      )
    }
  }
})

test_that("an attachment that is off its axis is found", {
  set.seed(3)
  found <- 0
  for (k in 1:4) {
    one <- truth$random_attached()
    block <- eval(one$call, list(book = one$data), asNamespace("nelvat"))
    scene <- suppressMessages(suppressWarnings(as_scene(plate(block, width = 120, height = 90))))
    judged <- function(scene) {
      verdict <- truth$new_verdict()
      truth$judge_sides(verdict, scene, one)
      verdict
    }
    expect_gt(judged(scene)$checked, 3)
    expect_length(judged(scene)$false, 0)
    side <- which(!is.na(scene$panels$side))[1]
    along <- scene$panels$side[side]
    for (what in c(along, if (along == "x") "w" else "h")) {
      moved <- scene
      moved$panels[[what]][side] <- moved$panels[[what]][side] + 0.02
      found <- found + any(grepl("off its axis", judged(moved)$false))
    }
  }
  expect_identical(found, 8)
})

test_that("what is false of a plate is found", {
  judged <- function(made) {
    suppressMessages(suppressWarnings(truth$judge_plate(made)))$false
  }
  coloured <- c("bars", "box", "centre", "points", "density", "fit", "contrasts")
  seen <- character()
  for (seed in seq_len(80)) {
    made <- suppressMessages(truth$truth_plate(seed))
    part <- made$parts[[1]]
    if (!part$name %in% setdiff(coloured, seen)) next
    seen <- c(seen, part$name)
    column <- sub("^twice$", "rise", part$on[[part$value]])
    shown <- which(stats::complete.cases(truth$asked_rows(part)))
    if (!length(shown)) next
    # A value that is another than the one that was drawn.
    lying <- made
    for (i in seq_along(lying$parts)) {
      table <- lying$parts[[i]]$table
      table$data[[column]] <- table$data[[column]] * 1.5 + 1
      lying$parts[[i]]$table <- table
    }
    expect_gt(length(judged(lying)), 0, label = paste("faults of a false", part$name))
  }
  expect_gt(length(seen), 4)
})
