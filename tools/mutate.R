# Small changes of the code that alter results, one at a time, and whether a test notices:
#   Rscript tools/mutate.R [N = 100] [SEED = 1] [WORKERS = 2] [FOLDER]
# A change is a sign, a comparison, a constant, or one of min and max swapped, in a statistic, an ink or a
# transform. First all files of tests run once, each function noting that it was called; a change is then
# tried with the files that call its function, the quickest first. Prints those that no test noticed. A FOLDER
# keeps which test calls what, which takes the longest to find, for the next trial.

arguments <- commandArgs(trailingOnly = TRUE)
n <- as.integer(c(arguments, "100")[1])
seed <- as.integer(c(arguments[-1], "1")[1])
workers <- as.integer(c(arguments[-(1:2)], "2")[1])
map <- file.path(c(arguments[-(1:3)], tempdir())[1], "called.rds")
set.seed(seed)

files <- list.files("R", "^(stat|ink|axis-transform|data-running|data-missing)[^/]*[.]R$", full.names = TRUE)
swaps <- c(
  `+` = "-", `-` = "+", `*` = "/", `/` = "*", `<` = ">", `>` = "<", `<=` = "<", `>=` = ">",
  min = "max", max = "min", pmin = "pmax", pmax = "pmin", cumsum = "rev", floor = "ceiling", ceiling = "floor"
)

# Each place where a change can be made: file, the function it is in, line, columns, and what comes in its place.
places_in <- function(file) {
  expressions <- parse(file, keep.source = TRUE)
  parsed <- utils::getParseData(expressions)
  tokens <- parsed[parsed$terminal, ]
  # What an error says, and defaults of public functions, are not results.
  told <- grepl("abort_nelvat|check_|paste0\\(|^#'", readLines(file)[tokens$line1])
  is_number <- tokens$token == "NUM_CONST" & grepl("^[0-9.]+$", tokens$text)
  changed <- ifelse(is_number, format_changed(tokens$text), swaps[tokens$text])
  unary <- tokens$text == "-" & c("", tokens$text[-nrow(tokens)]) %in% c("(", ",", "=", "<-", "c")
  tokens <- cbind(tokens, changed = changed)[!told & !is.na(changed) & !unary, ]
  starts <- vapply(attr(expressions, "srcref"), function(one) one[1], 0)
  names <- vapply(expressions, function(one) {
    if (is.call(one) && identical(one[[1]], quote(`<-`)) && is.call(one[[3]]) &&
      identical(one[[3]][[1]], quote(`function`))) as.character(one[[2]]) else ""
  }, "")
  data.frame(
    file = rep(file, nrow(tokens)), name = names[findInterval(tokens$line1, starts)], line = tokens$line1,
    from = tokens$col1, to = tokens$col2, text = tokens$text,
    changed = tokens$changed
  )
}
format_changed <- function(text) {
  value <- suppressWarnings(as.numeric(text))
  ifelse(value == 0, "1", ifelse(value == round(value) & value < 10, format(value + 1), format(value * 1.25)))
}

all_places <- do.call(rbind, lapply(files, places_in))
chosen <- all_places[sample(nrow(all_places), min(n, nrow(all_places))), ]

# A copy of the package to change, one for each worker.
copy_of <- function(name) {
  work <- file.path(tempdir(), name)
  dir.create(work)
  invisible(file.copy(c("R", "src", "inst", "tests", "man", "DESCRIPTION", "NAMESPACE"), work, recursive = TRUE, copy.date = TRUE))
  writeLines(runner, file.path(work, "run.R"))
  work
}
runner <- c(
  "suppressMessages(pkgload::load_all('.', quiet = TRUE, export_all = TRUE, helpers = FALSE))",
  "Sys.setenv(NOT_CRAN = 'true')",
  "for (helper in list.files('tests/testthat', '^helper', full.names = TRUE)) source(helper, chdir = TRUE)",
  "setwd('tests/testthat')",
  "for (path in commandArgs(TRUE)) {",
  "  found <- as.data.frame(testthat::test_file(path, reporter = 'silent', package = 'nelvat', load_package = 'none',",
  "    env = new.env(parent = asNamespace('nelvat')), stop_on_failure = FALSE))",
  "  if (sum(found$failed) + sum(found$error) > 0) quit(status = 1)",
  "}"
)
run <- function(work, paths, timeout = 0) {
  system2("sh", c("-c", shQuote(paste("cd", work, "&& exec Rscript run.R", paste(paths, collapse = " ")))),
    stdout = FALSE, stderr = FALSE, timeout = timeout)
}

# The last file of the package: each function notes its name when it is called.
notes <- c(
  "called_ <- new.env()",
  "for (name_ in ls(environment())) local({",
  "  f <- get(name_)",
  "  if (typeof(f) != 'closure') return()",
  "  body(f) <- bquote({assign(.(name_), TRUE, envir = called_); .(body(f))})",
  "  assign(name_, f, envir = topenv())",
  "})",
  "reg.finalizer(called_, function(e) writeLines(ls(e), Sys.getenv('NELVAT_CALLED')), onexit = TRUE)"
)
# Tests of what the sources look like, of documents and of the command tell nothing of results.
paths <- setdiff(
  list.files("tests/testthat", "^test-.*[.]R$"),
  paste0("test-", c("util-lines", "util-names", "util-rooms", "util-places", "docs", "cli", "cli-draw"), ".R")
)
find_calls <- function() {
  noted <- copy_of("noted")
  writeLines(notes, file.path(noted, "R", "zzz-called.R"))
  message("Which test calls what: ", length(paths), " files")
  parallel::mclapply(paths, function(path) {
    to <- file.path(tempdir(), paste0(path, ".called"))
    seconds <- system.time(status <- system2("sh", c("-c", shQuote(paste0(
      "cd ", noted, " && NELVAT_CALLED=", to, " exec Rscript run.R ", path
    ))), stdout = FALSE, stderr = FALSE))[["elapsed"]]
    list(path = path, seconds = seconds, called = if (file.exists(to)) readLines(to), passed = status == 0)
  }, mc.cores = workers, mc.preschedule = FALSE)
}
if (!file.exists(map)) saveRDS(find_calls(), map)
tried <- readRDS(map)
for (one in tried) if (!one$passed) message("does not pass without a change, left out: ", one$path)
tried <- Filter(function(one) one$passed, tried)
tried <- tried[order(vapply(tried, `[[`, 0, "seconds"))]

works <- vapply(paste0("work", seq_len(workers)), copy_of, "")
try_change <- function(i) {
  work <- works[[(i - 1) %% workers + 1]]
  one <- chosen[i, ]
  callers <- Filter(function(test) one$name == "" || one$name %in% test$called, tried)
  path <- file.path(work, one$file)
  lines <- before <- readLines(path)
  line <- lines[one$line]
  lines[one$line] <- paste0(substr(line, 1, one$from - 1), one$changed, substr(line, one$to + 1, nchar(line)))
  writeLines(lines, path)
  on.exit(writeLines(before, path))
  noticed <- length(callers) > 0 && run(work, vapply(callers, `[[`, "", "path"), timeout = 1200) != 0
  message(i, " of ", nrow(chosen), if (noticed) " noticed" else paste(
    " NOT:", basename(one$file), one$line, one$text, "as", one$changed, "in", trimws(line)
  ), " (", length(callers), " files of tests)")
  noticed
}
noticed <- unlist(parallel::mclapply(seq_len(workers), function(worker) {
  own <- seq(worker, nrow(chosen), by = workers)
  stats::setNames(vapply(own, try_change, NA), own)
}, mc.cores = workers))
noticed <- noticed[order(as.integer(names(noticed)))]
survived <- chosen[!noticed, ]
cat(sprintf("%s:%d: %s as %s\n", basename(survived$file), survived$line, survived$text, survived$changed), sep = "")
cat(nrow(chosen), " changes, seed ", seed, ": ", sum(noticed), " noticed, ", nrow(survived), " not\n", sep = "")
