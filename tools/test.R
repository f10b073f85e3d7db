# Runs the tests on the installed package, files beside each other on all cores:
#   Rscript tools/test.R                 all of them
#   FILES=ink-bars Rscript tools/test.R  those that stand beside R/ink-bars.R; several are parted by
#                                        spaces, and each may be the beginning of a name
# Prints what failed or was skipped, the ten slowest tests, and last the count.

Sys.setenv(
  TESTTHAT_MAX_FAILS = "Inf",
  NOT_CRAN = "true",
  TESTTHAT = "true",
  TESTTHAT_IS_CHECKING = ""
)
suppressMessages({
  library(testthat)
  library(nelvat)
})
folder <- "tests/testthat"
cores <- max(1L, parallel::detectCores(), na.rm = TRUE)
cores <- as.integer(Sys.getenv("NELVAT_CORES", cores))

# Which files -----------------------------------------------------------------------

# Files that are named so, or begin so; of a source without tests of its own name those of the
# nearest: for scene-layout-rows those of scene-layout, else of scene.
files_beside <- function(name, files) {
  words <- strsplit(sub("[.]R$", "", sub("^(R/|test-)", "", name)), "-", fixed = TRUE)[[1]]
  for (n in rev(seq_along(words))) {
    found <- grep(
      paste0("^test-", paste(words[seq_len(n)], collapse = "-"), "[-.]"),
      files,
      value = TRUE
    )
    if (length(found)) return(found)
  }
  stop("No tests stand beside \"", name, "\".", call. = FALSE)
}

all_files <- list.files(folder, "^test-.*[.]R$")
asked <- strsplit(trimws(Sys.getenv("FILES")), " +")[[1]]
files <- if (length(asked)) unique(unlist(lapply(asked, files_beside, all_files))) else all_files

# The longest begin first, so that no core waits for one at the end.
times_path <- ".make/test-seconds.rds"
known <- if (file.exists(times_path)) readRDS(times_path) else numeric()
guess <- file.size(file.path(folder, files)) / 1000
seconds <- ifelse(files %in% names(known), known[files], guess)
files <- files[order(-seconds)]

# Running ---------------------------------------------------------------------------

# What each file would load and measure for itself is there once, before they part.
warm_up <- function() {
  figure <- plate(
    panel(study("loaves"), x = rise, y = volume, colour = flour, ink_points(), ink_fit())
  )
  for (ending in c(".pdf", ".png")) {
    path <- tempfile(fileext = ending)
    save_plate(figure, path, dpi = 72)
    unlink(path)
  }
  proof(figure)
  read_figure(system.file("paper", "figure-1.yaml", package = "nelvat"))
}

run_file <- function(file) {
  began <- proc.time()[["elapsed"]]
  results <- utils::capture.output(
    found <- test_file(
      file.path(folder, file),
      reporter = "silent",
      package = "nelvat",
      load_package = "none",
      stop_on_failure = FALSE
    )
  )
  list(
    file = file,
    seconds = proc.time()[["elapsed"]] - began,
    tests = lapply(found, facts_of_test),
    said = results
  )
}

facts_of_test <- function(one) {
  outcomes <- vapply(one$results, function(result) class(result)[1], "")
  told <- !outcomes %in% "expectation_success"
  list(
    test = one$test,
    seconds = one$real,
    passed = sum(outcomes == "expectation_success"),
    failed = sum(outcomes %in% c("expectation_failure", "expectation_error")),
    skipped = sum(outcomes == "expectation_skip"),
    told = vapply(one$results[told], told_result, "")
  )
}

told_result <- function(result) {
  line <- result$srcref[1]
  place <- if (length(line) && !is.na(line)) paste0("line ", line, ", ") else ""
  paste0(place, sub("expectation_", "", class(result)[1]), ": ", conditionMessage(result))
}

if (length(files) > 1) invisible(suppressMessages(suppressWarnings(warm_up())))
# What a test runs once is not worth compiling; the package is compiled.
invisible(compiler::enableJIT(0))
ran <- parallel::mclapply(files, run_file, mc.cores = cores, mc.preschedule = FALSE)
names(ran) <- files

# Telling ---------------------------------------------------------------------------

lost <- !vapply(ran, is.list, NA)
for (file in files[lost]) cat(file, "ended: ", paste(format(ran[[file]]), collapse = " "), "\n")
ran <- ran[!lost]
tests <- unlist(lapply(ran, `[[`, "tests"), recursive = FALSE)
of_file <- rep(names(ran), lengths(lapply(ran, `[[`, "tests")))
total <- function(field) sum(vapply(tests, function(one) as.integer(one[[field]]), 0L))

for (i in seq_along(tests)) {
  if (!length(tests[[i]]$told)) next
  cat(of_file[i], ": ", tests[[i]]$test, "\n", sep = "")
  cat(paste0("  ", gsub("\n", "\n  ", tests[[i]]$told)), sep = "\n")
}
dir.create(".make", showWarnings = FALSE)
known[names(ran)] <- vapply(ran, `[[`, 0, "seconds")
saveRDS(known, times_path)

took <- vapply(tests, `[[`, 0, "seconds")
slowest <- utils::head(order(-took), 10)
cat("The slowest tests:\n")
cat(
  sprintf(
    "  %5.1f s  %s: %s\n",
    took[slowest],
    of_file[slowest],
    vapply(tests, `[[`, "", "test")[slowest]
  ),
  sep = ""
)
skipped <- total("skipped")
failed <- total("failed") + sum(lost)
passed <- total("passed")
if (skipped > 0) cat(skipped, "skipped; the messages above say why\n")
cat(passed, " passed, ", failed, " failed\n", sep = "")
quit(save = "no", status = if (failed > 0 || passed == 0) 1 else 0)
