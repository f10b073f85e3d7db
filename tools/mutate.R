# Small changes of the code that alter results, one at a time, and whether a test notices:
#   Rscript tools/mutate.R [N = 100] [SEED = 1] [WORKERS = 2] [FOLDER]
# A change is a sign, a comparison, a constant, a truth value, a connective, or one of min and max
# or any and all swapped. ROOMS="data axis text" tries those rooms, else all but util. First each
# test runs once, all functions noting that they were called; a change is then tried with the tests
# that call its function, the quickest first. Prints those that no test noticed. A FOLDER keeps
# which test calls what, which takes the longest to find, for the next trial; ONLY="file.R:12" tries
# that line alone, "file.R:12:<" that sign of it, LEAVE="random|deal" leaves out files of tests by
# name.

arguments <- commandArgs(trailingOnly = TRUE)
n <- as.integer(c(arguments, "100")[1])
seed <- as.integer(c(arguments[-1], "1")[1])
workers <- as.integer(c(arguments[-(1:2)], "2")[1])
folder <- c(arguments[-(1:3)], tempdir())[1]
set.seed(seed)

every_room <- setdiff(
  unique(sub("-.*", "", list.files("R", "-.*[.]R$"))),
  c("util", "nelvat")
)
rooms <- strsplit(trimws(Sys.getenv("ROOMS", paste(every_room, collapse = " "))), " +")[[1]]
files <- list.files(
  "R",
  paste0("^(", paste(rooms, collapse = "|"), ")-[^/]*[.]R$"),
  full.names = TRUE
)
swaps <- c(
  `+` = "-", `-` = "+", `*` = "/", `/` = "*", `<` = ">", `>` = "<", `<=` = "<", `>=` = ">",
  min = "max", max = "min", pmin = "pmax", pmax = "pmin", cumsum = "rev", floor = "ceiling",
  ceiling = "floor", any = "all", all = "any", `==` = "!=", `!=` = "==", `&&` = "||", `||` = "&&",
  `&` = "|", `|` = "&", `TRUE` = "FALSE", `FALSE` = "TRUE", is.na = "is.null"
)

# Each place where a change can be made: file, the function it is in, line, columns, and what comes
# in its place.
places_in <- function(file) {
  expressions <- parse(file, keep.source = TRUE)
  parsed <- utils::getParseData(expressions)
  tokens <- parsed[parsed$terminal, ]
  # What an error says, and defaults of public functions, are not results.
  lines <- readLines(file)
  told <- grepl("abort_nelvat|check_|paste0\\(|^#'", lines[tokens$line1]) |
    in_a_message(parsed, tokens)
  is_number <- tokens$token == "NUM_CONST" & grepl("^[0-9.]+$", tokens$text)
  # The 0 of vapply() says only of which type its results are.
  is_number <- is_number &
    !(tokens$text == "0" & grepl("vapply(", readLines(file)[tokens$line1], fixed = TRUE))
  changed <- ifelse(is_number, format_changed(tokens$text), swaps[tokens$text])
  unary <- tokens$text == "-" & c("", tokens$text[-nrow(tokens)]) %in% c("(", ",", "=", "<-", "c")
  tokens <- cbind(tokens, changed = changed)[!told & !is.na(changed) & !unary, ]
  starts <- vapply(attr(expressions, "srcref"), function(one) one[1], 0)
  names <- vapply(
    expressions,
    function(one) {
      if (is.call(one) && identical(one[[1]], quote(`<-`)) && is.name(one[[2]])) {
        as.character(one[[2]])
      } else {
        ""
      }
    },
    ""
  )
  data.frame(
    file = rep(file, nrow(tokens)),
    name = names[findInterval(tokens$line1, starts)],
    line = tokens$line1,
    from = tokens$col1,
    to = tokens$col2,
    text = tokens$text,
    changed = tokens$changed
  )
}
# Within the call that makes an error or a message, on whichever of its lines.
in_a_message <- function(parsed, tokens) {
  says <- parsed[
    parsed$token == "SYMBOL_FUNCTION_CALL" &
      grepl("^(abort_|inform|rlang::inform|warn|check_)", parsed$text),
  ]
  calls <- parsed[parsed$id %in% parsed$parent[parsed$id %in% says$parent], ]
  vapply(
    seq_len(nrow(tokens)),
    function(i) any(tokens$line1[i] >= calls$line1 & tokens$line2[i] <= calls$line2),
    NA
  )
}

format_changed <- function(text) {
  value <- suppressWarnings(as.numeric(text))
  ifelse(
    value == 0,
    "1",
    ifelse(value == round(value) & value < 10, format(value + 1), format(value * 1.25))
  )
}

all_places <- do.call(rbind, lapply(files, places_in))
chosen <- all_places[sample(nrow(all_places), min(n, nrow(all_places))), ]
only <- Sys.getenv("ONLY")
if (nzchar(only)) {
  line <- paste0(basename(all_places$file), ":", all_places$line)
  asked <- strsplit(only, " ")[[1]]
  chosen <- all_places[line %in% asked | paste0(line, ":", all_places$text) %in% asked, ]
}

# The package, with a place to put a changed file of it in a process of its own.
suppressMessages(pkgload::load_all(".", quiet = TRUE, export_all = TRUE, helpers = FALSE))
library(testthat)
# Helpers that end a server with the tests ask for it.
teardown_env <- function() globalenv()
Sys.setenv(NOT_CRAN = "true")
for (helper in list.files("tests/testthat", "^helper", full.names = TRUE)) {
  source(helper, chdir = TRUE)
}
room <- asNamespace("nelvat")
for (name in ls(room, all.names = TRUE)) (get("unlockBinding", baseenv()))(name, room)
sources <- stats::setNames(nm = list.files("R", "[.]R$", full.names = TRUE))
parsed <- lapply(sources, parse, keep.source = FALSE)
methods <- parseNamespaceFile(basename(getwd()), dirname(getwd()))$S3methods
# All files anew, since a list of one may hold a function of another.
put_sources <- function(parsed) {
  # Bindings that a test changed for itself are locked after it.
  for (name in ls(room, all.names = TRUE)) (get("unlockBinding", baseenv()))(name, room)
  # What changes a table of the package's, such as `seen$any <- FALSE`, names nothing new.
  beside <- new.env(parent = room)
  names_one <- function(one) is.call(one) && identical(one[[1]], quote(`<-`)) && is.name(one[[2]])
  for (expressions in parsed) {
    for (one in expressions) eval(one, if (names_one(one)) room else beside)
  }
  put_methods()
  put_exports()
}
# Helpers of tests find exported functions where the package is attached.
put_exports <- function() {
  attached <- as.environment("package:nelvat")
  for (name in intersect(ls(attached), ls(room))) assign(name, get(name, room), attached)
}
put_methods <- function() {
  for (i in seq_len(nrow(methods))) {
    # Methods for packages that are not here wait for them.
    if (!is.na(methods[i, 4]) && !requireNamespace(methods[i, 4], quietly = TRUE)) next
    name <- if (is.na(methods[i, 3])) {
      paste(methods[i, 1], methods[i, 2], sep = ".")
    } else {
      methods[i, 3]
    }
    registerS3method(
      methods[i, 1],
      methods[i, 2],
      get(name, room),
      envir = if (is.na(methods[i, 4])) room else asNamespace(methods[i, 4])
    )
  }
}

# A test of many seconds counts as one that does not notice.
longest_s <- as.numeric(Sys.getenv("LONGEST", "25"))

# Tests: what the sources look like and documents tell nothing of results.
paths <- setdiff(
  list.files("tests/testthat", "^test-.*[.]R$"),
  paste0(
    "test-",
    c("util-lines", "util-names", "util-rooms", "util-places", "docs", "fuzz"),
    ".R"
  )
)
if (nzchar(Sys.getenv("LEAVE"))) {
  paths <- grep(Sys.getenv("LEAVE"), paths, value = TRUE, invert = TRUE)
}
is_test <- function(one) is.call(one) && identical(one[[1]], quote(test_that))
tests_of <- function(path) {
  vapply(
    Filter(is_test, as.list(parse(file.path("tests/testthat", path)))),
    function(one) one[[2]],
    ""
  )
}
# Does one test pass? It runs with what its file says outside of tests.
passes <- function(path, test) {
  withr::local_dir("tests/testthat")
  withr::local_envvar(TESTTHAT = "true", TESTTHAT_PKG = "nelvat", NOT_CRAN = "true")
  local_edition(3)
  beside <- Filter(function(one) !is_test(one) || one[[2]] == test, as.list(parse(path)))
  reporter <- SilentReporter$new()
  # Kept texts are compared, and never kept anew.
  kept <- get("SnapshotReporter", asNamespace("testthat"))$new("_snaps")
  withr::local_options(testthat.snapshotter = kept)
  kept$start_file(path)
  frame <- new.env(parent = room)
  suppressMessages(
    with_reporter(
      MultiReporter$new(reporters = list(reporter, kept)),
      tryCatch(for (one in beside) eval(one, frame), skip = function(condition) NULL)
    )
  )
  seen <- vapply(reporter$expectations(), function(one) class(one)[1], "")
  length(seen) > 0 && !any(seen %in% c("expectation_failure", "expectation_error"))
}

# Which test calls what: each function notes its name.
called <- new.env()
note_calls <- function() {
  for (name in ls(room, all.names = TRUE)) local({
    f <- get(name, room)
    if (typeof(f) != "closure") return()
    body(f) <- bquote({assign(.(name), TRUE, envir = .(called)); .(body(f))})
    assign(name, f, envir = room)
  })
}
calls_of <- function(path) {
  note_calls()
  put_methods()
  put_exports()
  lapply(tests_of(path), function(test) {
    rm(list = ls(called, all.names = TRUE), envir = called)
    seconds <- system.time(passed <- passes(path, test))[["elapsed"]]
    list(
      path = path,
      test = test,
      seconds = seconds,
      called = ls(called, all.names = TRUE),
      passed = passed
    )
  })
}
# Kept for each file of tests as it is now.
kept_of <- function(path, what, find) {
  sum <- unname(tools::md5sum(file.path("tests/testthat", path)))
  kept <- file.path(folder, paste0(path, "-", sum, what, ".rds"))
  if (!file.exists(kept)) saveRDS(find(path), kept)
  readRDS(kept)
}
find_calls <- function(path) kept_of(path, "", calls_of)
tried <- unlist(
  parallel::mclapply(
    paths,
    function(path) {
      found <- parallel::mccollect(parallel::mcparallel(find_calls(path)))[[1]]
      if (is.list(found)) return(found)
      message("cannot be run, left out: ", path, ": ", found[1])
      list()
    },
    mc.cores = workers,
    mc.preschedule = FALSE
  ),
  recursive = FALSE
)
for (one in tried) {
  if (!one$passed) message("does not pass by itself, left out: ", one$path, ": ", one$test)
}
# What only a test of many seconds would notice counts as not noticed.
tried <- Filter(function(one) one$passed && one$seconds < longest_s, tried)
tried <- tried[order(vapply(tried, `[[`, 0, "seconds"))]
message(length(tried), " tests; ", nrow(all_places), " places to change")

# Functions that use a constant, also by way of others.
mentions <- lapply(stats::setNames(nm = ls(room, all.names = TRUE)), function(name) {
  value <- get(name, room)
  if (is.function(value)) all.names(body(value)) else character()
})
for (expressions in parsed) {
  for (one in expressions) {
    if (is.call(one) && identical(one[[1]], quote(`<-`))) {
      mentions[[as.character(one[[2]])[1]]] <- all.names(one[[3]])
    }
  }
}
users_of <- function(name) {
  found <- name
  repeat {
    more <- setdiff(names(mentions)[vapply(mentions, function(of) any(found %in% of), NA)], found)
    constants <- Filter(function(one) !is.function(get0(one, room)), more)
    found <- union(found, more)
    if (!length(constants)) return(found)
  }
}
noticing <- function(one) {
  # A constant has no function of its own.
  functions <- if (is.function(get0(one$name, room))) one$name else users_of(one$name)
  Filter(function(test) any(functions %in% test$called), tried)
}
changed_line <- function(one) {
  line <- readLines(one$file)[one$line]
  paste0(substr(line, 1, one$from - 1), trimws(one$changed), substr(line, one$to + 1, nchar(line)))
}
changed_sources <- function(one) {
  lines <- readLines(one$file)
  lines[one$line] <- changed_line(one)
  replace(parsed, one$file, list(parse(text = lines, keep.source = FALSE)))
}
is_noticed <- function(one, tests) {
  put_sources(changed_sources(one))
  for (test in tests) if (!passes(test$path, test$test)) return(TRUE)
  FALSE
}
# Tests that fail though nothing is changed tell nothing.
unsteady <- unlist(
  parallel::mclapply(
    split(seq_along(tried), vapply(tried, `[[`, "", "path")),
    function(of) {
      failing <- kept_of(tried[[of[1]]]$path, "-failing", function(path) {
        put_sources(parsed)
        tests <- vapply(tried[of], `[[`, "", "test")
        Filter(function(test) !passes(path, test), tests)
      })
      of[vapply(tried[of], `[[`, "", "test") %in% failing]
    },
    mc.cores = workers,
    mc.preschedule = FALSE
  )
)
if (length(unsteady)) tried <- tried[-unsteady]
message(length(unsteady), " tests fail without a change, and are left out")
try_change <- function(i) {
  one <- chosen[i, ]
  tests <- noticing(one)
  # A change that makes a loop endless is noticed, too.
  limit <- 60 + 5 * sum(vapply(tests, `[[`, 0, "seconds"))
  job <- parallel::mcparallel(tryCatch(is_noticed(one, tests), error = function(e) TRUE))
  end <- parallel::mccollect(job, wait = FALSE, timeout = limit)
  if (is.null(end)) {
    tools::pskill(job$pid, tools::SIGKILL)
    parallel::mccollect(job)
  }
  noticed <- !identical(end[[1]], FALSE)
  message(
    i,
    " of ",
    nrow(chosen),
    if (noticed) " noticed" else " NOT",
    ": ",
    basename(one$file),
    " ",
    one$line,
    ": ",
    one$text,
    " as ",
    one$changed,
    " in ",
    trimws(changed_line(one)),
    " (",
    length(tests),
    " tests)"
  )
  noticed
}
noticed <- unlist(
  parallel::mclapply(seq_len(nrow(chosen)), try_change, mc.cores = workers, mc.preschedule = FALSE)
)
survived <- chosen[!noticed, ]
cat(
  sprintf(
    "%s:%d: %s as %s\n",
    basename(survived$file),
    survived$line,
    survived$text,
    survived$changed
  ),
  sep = ""
)
cat(
  nrow(chosen),
  " changes, seed ",
  seed,
  ": ",
  sum(noticed),
  " noticed, ",
  nrow(survived),
  " not\n",
  sep = ""
)
