# What is said of tables, all of it: the codebook as printed, its draft and the drafted figure, of
# tables as laboratories have them and of the study's. A change of any word or number stands in the
# difference of `_snaps/spec-kept.md`, to be looked at.

said_of <- function(path, ...) {
  folder <- paste0(dirname(path), "/")
  lines <- utils::capture.output({
    book <- withCallingHandlers(
      read_data(path, ...),
      condition = function(condition) {
        if (!inherits(condition, c("warning", "message"))) return()
        cat("told: ", conditionMessage(condition), "\n", sep = "")
        rlang::cnd_muffle(condition)
      }
    )
    print(book)
    cat("-- codebook\n")
    writeLines(suppressMessages(suppressWarnings(draft_codebook(path, ...))))
    cat("-- figure\n")
    writeLines(suppressMessages(suppressWarnings(start_figure(path, ...))))
  })
  # Of hundreds of columns, the first.
  cat(utils::head(gsub(folder, "", lines, fixed = TRUE), 150), sep = "\n")
}

test_that("what is said of tables as laboratories have them is what was kept", {
  skip_if_not_installed("readxl")
  skip_if_not_installed("writexl")
  folder <- normalizePath(withr::local_tempdir(), "/")
  made <- new.env()
  sys.source(testthat::test_path("..", "exports", "make-exports.R"), made)
  options_of <- made$make_exports(folder)
  for (file in sort(list.files(folder), method = "radix")) {
    expect_snapshot(do.call(said_of, c(list(file.path(folder, file)), options_of[[file]])))
  }
})

test_that("what is said of the study's tables without their codebooks is what was kept", {
  folder <- normalizePath(withr::local_tempdir(), "/")
  for (file in c("doses", "keeping", "loaves", "scores", "strains", "tasting", "terms", "trials")) {
    file.copy(study_file(paste0(file, ".csv")), folder)
    expect_snapshot(said_of(file.path(folder, paste0(file, ".csv"))))
  }
})
