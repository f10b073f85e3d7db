# Questions sent to a database, their answers, and what it says where it has none.

abort_engine <- function(what, error, call) {
  abort_nelvat(
    "engine",
    c(
      paste0(what, " did not succeed."),
      x = paste0("The database says: ", trimws(conditionMessage(error)), "."),
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
      DBI::dbGetQuery(source$connection, question),
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
