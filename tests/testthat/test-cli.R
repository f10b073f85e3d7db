launcher <- function(...) {
  path <- system.file("bin", "nelvat", package = "nelvat")
  suppressWarnings(system2("sh", c(shQuote(path), ...), stdout = TRUE, stderr = FALSE))
}

test_that("the launcher runs the command, with its exit status", {
  expect_match(launcher("--version"), "^nelvat [0-9.]+$")
  expect_identical(attr(launcher("drow"), "status"), 2L)
  folder <- withr::local_tempdir()
  # Without a spreadsheet, one file a panel in folders of their own.
  source <- if (requireNamespace("writexl", quietly = TRUE)) "-source.xlsx"
  talk <- paste0("figure-1-talk", c(".png", source, "-legend.md"))
  expect_setequal(
    grep(
      "-source/",
      launcher("demo", shQuote(folder)),
      value = TRUE,
      invert = TRUE
    ) |> basename(),
    c(
      list.files(system.file("paper", package = "nelvat")),
      paste0(
        "figure-",
        rep(1:6, each = 3 + length(source)),
        c(".pdf", ".png", source, "-legend.md")
      ),
      talk
    )
  )
  expect_true(all(file.exists(file.path(folder, paste0("figure-", 1:6, ".pdf")))))
})

test_that("help is given for the command and for each of its words", {
  expect_match(paste(run_nelvat("--help")$said, collapse = "\n"), "draw")
  for (command in names(nelvat:::cli_commands())) {
    call <- run_nelvat(command, "--help")
    expect_identical(call$status, 0L)
    expect_match(paste(call$said, collapse = "\n"), paste("nelvat", command))
  }
})

test_that("a wrong call ends with 2, a figure that cannot be made with 1", {
  expect_identical(run_nelvat()$status, 2L)
  expect_identical(run_nelvat("draw")$status, 2L)
  expect_identical(run_nelvat("draw", "--size", "3", "x.yaml")$status, 2L)
  call <- run_nelvat("drwa")
  expect_identical(call$status, 2L)
  expect_match(call$complained[1], "Did you mean \"draw\"")
  expect_identical(run_nelvat("draw", "nowhere.yaml")$status, 1L)
})

test_that("the launcher is put where asked", {
  folder <- file.path(withr::local_tempdir(), "bin")
  expect_message(path <- install_command(folder), "PATH")
  expect_identical(unname(file.access(path, 1)), 0L)
  withr::local_path(folder)
  expect_no_message(install_command(folder))
})
