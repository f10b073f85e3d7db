# Small changes of the code that alter results, one at a time, and whether a test notices:
#   Rscript tools/mutate.R [N = 100] [SEED = 1]
# A change is a sign, a comparison, a constant, or one of min and max swapped, in a statistic, an ink or a
# transform. Prints those that no test noticed. The tests of figures run, not those of files and the command.

arguments <- commandArgs(trailingOnly = TRUE)
n <- as.integer(c(arguments, "100")[1])
seed <- as.integer(c(arguments[-1], "1")[1])
set.seed(seed)

files <- list.files("R", "^(stat|ink|axis-transform|data-running|data-missing)[^/]*[.]R$", full.names = TRUE)
tests <- c(
  "stat-distributions", "stat-centre-error", "stat-fit", "stat-nasty", "inks", "ink-crowding", "scene-labels",
  "stat-distribution", "stat-agreement", "ink-estimate", "ink-contrasts", "block-marginals", "plate-zoom",
  "account-truth", "scene", "account-random"
)
swaps <- c(
  `+` = "-", `-` = "+", `*` = "/", `/` = "*", `<` = ">", `>` = "<", `<=` = "<", `>=` = ">",
  min = "max", max = "min", pmin = "pmax", pmax = "pmin", cumsum = "rev", floor = "ceiling", ceiling = "floor"
)

# Each place where a change can be made: file, line, columns, and what comes in its place.
places_in <- function(file) {
  parsed <- utils::getParseData(parse(file, keep.source = TRUE))
  tokens <- parsed[parsed$terminal, ]
  # What an error says, and defaults of public functions, are not results.
  told <- grepl("abort_nelvat|check_|paste0\\(|^#'", readLines(file)[tokens$line1])
  is_number <- tokens$token == "NUM_CONST" & grepl("^[0-9.]+$", tokens$text)
  changed <- ifelse(is_number, format_changed(tokens$text), swaps[tokens$text])
  unary <- tokens$text == "-" & c("", tokens$text[-nrow(tokens)]) %in% c("(", ",", "=", "<-", "c")
  tokens <- cbind(tokens, changed = changed)[!told & !is.na(changed) & !unary, ]
  data.frame(
    file = rep(file, nrow(tokens)), line = tokens$line1, from = tokens$col1, to = tokens$col2, text = tokens$text,
    changed = tokens$changed
  )
}
format_changed <- function(text) {
  value <- suppressWarnings(as.numeric(text))
  ifelse(value == 0, "1", ifelse(value == round(value) & value < 10, format(value + 1), format(value * 1.25)))
}

all_places <- do.call(rbind, lapply(files, places_in))
chosen <- all_places[sample(nrow(all_places), min(n, nrow(all_places))), ]

work <- tempfile("mutate")
dir.create(work)
invisible(file.copy(c("R", "src", "inst", "tests", "DESCRIPTION", "NAMESPACE"), work, recursive = TRUE))
runner <- file.path(work, "run.R")
writeLines(c(
  "suppressMessages(pkgload::load_all('.', quiet = TRUE, export_all = TRUE, helpers = FALSE))",
  "Sys.setenv(NOT_CRAN = 'true')",
  "for (helper in list.files('tests/testthat', '^helper', full.names = TRUE)) source(helper, chdir = TRUE)",
  "setwd('tests/testthat')",
  "for (name in commandArgs(TRUE)) {",
  "  path <- paste0('test-', name, '.R')",
  "  if (!file.exists(path)) next",
  "  found <- as.data.frame(testthat::test_file(path, reporter = 'silent', load_package = 'none',",
  "    env = new.env(parent = asNamespace('nelvat')), stop_on_failure = FALSE))",
  "  if (sum(found$failed) + sum(found$error) > 0) quit(status = 1)",
  "}"
), runner)
run <- function() {
  old <- setwd(work)
  on.exit(setwd(old))
  system2(file.path(R.home("bin"), "Rscript"), c("run.R", tests), stdout = FALSE, stderr = FALSE, timeout = 600)
}
if (run() != 0) stop("The tests do not pass without a change.")

survived <- chosen[0, ]
for (i in seq_len(nrow(chosen))) {
  one <- chosen[i, ]
  path <- file.path(work, one$file)
  lines <- before <- readLines(path)
  line <- lines[one$line]
  lines[one$line] <- paste0(substr(line, 1, one$from - 1), one$changed, substr(line, one$to + 1, nchar(line)))
  writeLines(lines, path)
  noticed <- run() != 0
  message(i, " of ", nrow(chosen), if (noticed) " noticed" else " not noticed")
  writeLines(before, path)
  if (!noticed) {
    survived <- rbind(survived, one)
    cat(basename(one$file), ":", one$line, ": ", one$text, " as ", one$changed, ": ", trimws(line), "\n", sep = "")
  }
}
cat(nrow(chosen), " changes, seed ", seed, ": ", nrow(chosen) - nrow(survived), " noticed, ", nrow(survived),
    " not\n", sep = "")
