# What is kept while a figure is drawn again and again.

# Switched on by the process that draws so; elsewhere nothing is kept.
kept_work <- new.env(parent = emptyenv())
kept_work$tables <- FALSE # tables that were read, as long as their files are what they were?
kept_work$steps <- FALSE # steps of drawing, as long as all that they are made from is the same?
kept_work$read <- list()
kept_work$made <- new.env(parent = emptyenv()) # values of steps, by hash
kept_work$older <- new.env(parent = emptyenv()) # those of before, until they are used again
kept_work$bytes <- 0 # of what was made

most_kept_tables <- 30
most_kept_step <- 5e6 # bytes, of one step
most_kept_bytes <- 1e8

# The value of `code`, which depends on `from` alone and whose messages nobody misses. What has
# just been read is hashed otherwise than when it was used once, so keeping begins with the second.
kept_step <- function(name, from, code) {
  if (!kept_work$steps) return(code)
  key <- rlang::hash(list(name, from))
  known <- kept_work$made[[key]]
  if (!is.null(known)) return(known$value)
  known <- kept_work$older[[key]] %||% list(value = code)
  bytes <- as.numeric(utils::object.size(known$value))
  if (bytes > most_kept_step) return(known$value)
  # What was not used since this was half full goes.
  if (kept_work$bytes > most_kept_bytes / 2) {
    kept_work$older <- kept_work$made
    kept_work$made <- new.env(parent = emptyenv())
    kept_work$bytes <- 0
  }
  assign(key, known, envir = kept_work$made)
  kept_work$bytes <- kept_work$bytes + bytes
  known$value
}
