# Is there time for all that can be tried?
at_length <- function() nzchar(Sys.getenv("ALL")) || identical(Sys.getenv("CI"), "true")

# The first of so many tries: all of them where there is time, else fewer.
tries <- function(all, few) seq_len(if (at_length()) all else few)
