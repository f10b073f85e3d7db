# Questions sent to a database, their answers, and what it says where it has none.

abort_engine <- function(what, error, call) {
  said <- trimws(conditionMessage(error))
  # As servers say that somebody, or a limit of time, ended a question, and as its driver and SQLite
  # say that it was interrupted here.
  stopped <- grepl("canceling statement due to|(^|: )interrupted[.]?$", said, ignore.case = TRUE)
  abort_nelvat(
    "engine",
    c(
      paste0(what, if (stopped) " was stopped." else " did not succeed."),
      x = paste0("The database says: ", sub("[.]$", "", said), "."),
      i = "Nothing was written."
    ),
    call
  )
}

# The answer to a question, a data frame; counts as doubles.
engine_rows <- function(source, question, call, what = "Asking the database") {
  if (!DBI::dbIsValid(source$connection)) {
    abort_nelvat(
      "engine",
      c(
        paste0("The connection to \"", source$label, "\" is closed."),
        i = "Open it again, and make the table anew with `table_in()`."
      ),
      call
    )
  }
  id <- rlang::hash(question)
  if (!is.null(source$answers[[id]])) return(source$answers[[id]])
  answer <- tryCatch(
    withCallingHandlers(
      told_meanwhile(source, what, DBI::dbGetQuery(source$connection, question)),
      # A column whose first values are missing is told of; its values are read.
      # A column of numbers and text, or of two sorts of numbers, would be read as one of them.
      warning = function(warning) {
        if (grepl("mixed type", conditionMessage(warning))) stop(conditionMessage(warning))
        invokeRestart("muffleWarning")
      }
    ),
    error = function(error) abort_engine(what, error, call)
  )
  answer[] <- lapply(answer, function(values) {
    if (inherits(values, "integer64") || is.integer(values)) as.numeric(values)
    else if (is.character(values)) enc2utf8(values)
    else values
  })
  # What was asked is known, as long as the table has as many rows.
  if (!is.null(source$answers) && nrow(answer) <= most_known) assign(id, answer, source$answers)
  answer
}

# While questions take long, each is told on the terminal before it is asked, and wiped away after.
# Those of one figure follow each other at once.
questions <- new.env(parent = emptyenv())
questions$ended <- -Inf
told_meanwhile <- function(source, what, code) {
  now <- proc.time()[["elapsed"]]
  if (now - questions$ended > pause_between_figures) questions$began <- now
  tells <- now - questions$began > quick_answers && is_watched()
  line <- paste0(source$label, ": ", lower_first(what), " (", round(now - questions$began), " s)")
  if (tells) cat("\r", line, sep = "", file = stderr())
  on.exit({
    if (tells) cat("\r", strrep(" ", nchar(line)), "\r", sep = "", file = stderr())
    questions$ended <- proc.time()[["elapsed"]]
  })
  code
}
pause_between_figures <- 2 # s
quick_answers <- 0.5 # s, after which all questions of a figure will have taken over 2
is_watched <- function() isatty(stderr())

most_known <- 20000 # rows of an answer that is kept

# Forgets what was asked of a table that has changed since: by its number of rows, and what an
# SQLite file says of changes by others and by this connection. Others do not say: they are asked
# again for each panel.
refreshed_source <- function(source, call) {
  if (source$engine != "sqlite") {
    rm(list = ls(source$answers), envir = source$answers)
    return(source)
  }
  plain <- changed(source, answers = NULL)
  questions <- c(
    paste0("SELECT COUNT(*) AS n FROM ", source$from),
    "PRAGMA data_version",
    "SELECT total_changes() AS n"
  )
  state <- lapply(questions, function(question) {
    engine_rows(plain, question, call, "Asking whether it has changed")[[1]]
  })
  if (!identical(source$answers[["state"]], state)) {
    rm(list = ls(source$answers), envir = source$answers)
    assign("state", state, source$answers)
  }
  source
}
