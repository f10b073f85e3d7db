# What is kept while a figure is drawn again and again.

# Switched on by the process that draws so; elsewhere nothing is kept.
kept_work <- new.env(parent = emptyenv())
kept_work$tables <- FALSE # tables that were read, as long as their files are what they were?
kept_work$steps <- FALSE # steps of drawing, as long as all that they are made from is the same?
kept_work$read <- list()
kept_work$made <- list()
most_kept_tables <- 30
most_kept_steps <- 60
most_kept_bytes <- 5e6 # of one step

# The value of `code`, which depends on `from` alone and whose messages nobody misses. What has
# just been read is hashed otherwise than when it was used once, so keeping begins with the second.
kept_step <- function(name, from, code) {
  if (!kept_work$steps) return(code)
  key <- rlang::hash(list(name, from))
  known <- kept_work$made[[key]] %||% list(value = code)
  if (utils::object.size(known$value) > most_kept_bytes) return(known$value)
  # What was used last goes last.
  kept_work$made[[key]] <- NULL
  kept_work$made[[key]] <- known
  kept_work$made <- utils::tail(kept_work$made, most_kept_steps)
  known$value
}
