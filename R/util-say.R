# What is said once a session for the same figure, as a plate is resolved anew for each thing
# that is asked of it. The command starts afresh for each figure, so that each has its own.

said <- new.env(parent = emptyenv())

# Has `text` been said before? From now on it has.
is_said <- function(text) {
  id <- rlang::hash(text)
  before <- exists(id, said, inherits = FALSE)
  assign(id, TRUE, said)
  before
}

forget_said <- function() rm(list = ls(said), envir = said)

warn_once <- function(kind, message) if (!is_said(message)) warn_nelvat(kind, message)

inform_once <- function(message) if (!is_said(message)) rlang::inform(message)
