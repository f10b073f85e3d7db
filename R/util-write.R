# Files change whole or not at all. What is to be written is made as bytes first; they are
# put into a file beside their target, closed, read back, and only then renamed over it.
# Several files of one figure change together: where one cannot, all stay as they were.

write_whole <- function(path, bytes, call = rlang::caller_env()) {
  write_together(path, list(bytes), call)
  invisible(path)
}

# paths: of unlike files; contents: a list of raw vectors, one for each.
write_together <- function(paths, contents, call = rlang::caller_env()) {
  targets <- vapply(paths, writable_target, "", call = call, USE.NAMES = FALSE)
  twice <- duplicated(normalizePath(targets, mustWork = FALSE))
  targets <- targets[!twice]
  contents <- contents[!twice]
  lapply(targets, remove_leftovers)
  aside <- vapply(targets, aside_path, "", USE.NAMES = FALSE)
  on.exit(unlink(aside))
  for (i in seq_along(targets)) write_aside(aside[i], contents[[i]], targets[i], call)
  rename_all(aside, targets, call)
  invisible(paths)
}

# Where to write -------------------------------------------------------------------

# The file that a path leads to: that at the end of symbolic links.
writable_target <- function(path, call) {
  target <- link_target(path)
  check_folder(target, call)
  kind <- file_kind_cpp(target)
  if (!kind %in% c("file", "none")) {
    abort_nelvat(
      "file",
      c(paste0("\"", path, "\" cannot be written."), x = paste0("It is a ", kind, ", not a file.")),
      call
    )
  }
  target
}

link_target <- function(path) {
  for (step in 1:40) {
    to <- Sys.readlink(path)
    if (is.na(to) || !nzchar(to)) return(path)
    path <- if (grepl("^(/|[A-Za-z]:)", to)) to else file.path(dirname(path), to)
  }
  path
}

check_folder <- function(path, call = rlang::caller_env()) {
  folder <- dirname(path)
  if (dir.exists(folder)) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0("The folder of \"", path, "\" does not exist."),
      x = paste0("Not found: \"", folder, "\"."),
      i = "Make the folder first, or name another one."
    ),
    call
  )
}

# Written aside by this process: named after the target and the process, so that what a
# killed one left is known as such.
aside_path <- function(target) {
  tempfile(paste0(aside_prefix(target), Sys.getpid(), "-"), dirname(target))
}

aside_prefix <- function(target) paste0(".nelvat-", basename(target), "~")

remove_leftovers <- function(target) {
  siblings <- list.files(dirname(target), all.files = TRUE, no.. = TRUE)
  left <- siblings[startsWith(siblings, aside_prefix(target))]
  if (!length(left)) return(invisible())
  process <- suppressWarnings(
    as.integer(sub("-.*$", "", substring(left, nchar(aside_prefix(target)) + 1)))
  )
  unlink(file.path(dirname(target), left[!is_running(process)]))
}

# Signal 0 asks only whether a process is there; Windows has no such signal, so there what
# is a day old counts as left.
is_running <- function(process) {
  if (.Platform$OS.type == "windows") return(rep(TRUE, length(process)))
  !is.na(process) & (process == Sys.getpid() | tools::pskill(process, 0))
}

# Writing --------------------------------------------------------------------------

write_aside <- function(aside, bytes, target, call) {
  trouble <- character()
  tryCatch(
    withCallingHandlers(put_bytes(aside, bytes), warning = function(warning) {
      trouble <<- c(trouble, conditionMessage(warning))
      invokeRestart("muffleWarning")
    }),
    error = function(error) trouble <<- c(trouble, conditionMessage(error))
  )
  arrived <- if (file.exists(aside)) file.size(aside) else NA
  if (
    identical(as.numeric(arrived), as.numeric(length(bytes))) && identical(take_bytes(aside), bytes)
  ) {
    return(invisible())
  }
  abort_unwritten(
    target,
    if (length(trouble)) {
      trouble[1]
    } else if (is.na(arrived)) {
      "No file could be made there."
    } else {
      paste0(
        "Only ",
        format(arrived, big.mark = ","),
        " of ",
        counted(length(bytes), "byte"),
        " arrived."
      )
    },
    call
  )
}

put_bytes <- function(path, bytes) {
  connection <- file(path, "wb")
  open <- TRUE
  on.exit(if (open) close(connection))
  writeBin(bytes, connection)
  open <- FALSE
  close(connection)
}

take_bytes <- function(path) file_bytes(path)

abort_unwritten <- function(target, cause, call) {
  abort_nelvat(
    "file",
    c(
      paste0(
        "\"",
        target,
        "\" could not be written",
        if (file.exists(target)) "; it is as it was",
        "."
      ),
      x = gsub("\\s+", " ", cause),
      i = "Is the folder writable, and is there room on the disk?"
    ),
    call
  )
}

# Renaming -------------------------------------------------------------------------

# One rename is whole by itself. Of several, the old files are kept until all new ones
# stand in their places, and are put back where one does not get there.
rename_all <- function(aside, targets, call) {
  for (i in which(file.exists(targets))) {
    Sys.chmod(aside[i], file.info(targets[i])$mode, use_umask = FALSE)
  }
  kept <- if (length(targets) > 1) kept_aside(targets, call) else NA
  on.exit(unlink(kept[!is.na(kept)]))
  for (i in seq_along(targets)) {
    if (suppressWarnings(move_file(aside[i], targets[i]))) next
    for (k in seq_len(i - 1)) {
      if (is.na(kept[k])) unlink(targets[k]) else move_file(kept[k], targets[k])
    }
    abort_unwritten(targets[i], "The new file could not be given its name.", call)
  }
}

# The old file under a second name, NA where there is none; a copy where the disk has no
# second names.
kept_aside <- function(targets, call) {
  kept <- rep(NA_character_, length(targets))
  for (i in which(file.exists(targets))) {
    kept[i] <- aside_path(targets[i])
    if (suppressWarnings(file.link(targets[i], kept[i]))) next
    if (file.copy(targets[i], kept[i]) && file.size(kept[i]) == file.size(targets[i])) next
    unlink(kept[!is.na(kept)])
    abort_unwritten(
      targets[i],
      "The old file could not be kept until the new ones are in place.",
      call
    )
  }
  kept
}

move_file <- function(from, to) file.rename(from, to)
