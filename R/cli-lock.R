# Two runs on one folder take turns in writing: a folder `.nelvat/lock` is there while one writes,
# made by mkdir, which only one can do (POSIX). A lock whose process is gone is taken over.

lock_wait_s <- 600
lock_step_s <- 0.1
young_lock_s <- 2

with_lock <- function(folder, code) {
  lock <- file.path(folder, "lock")
  take_lock(lock)
  on.exit(unlink(lock, recursive = TRUE))
  code
}

take_lock <- function(lock) {
  waited <- 0
  while (!dir.create(lock, showWarnings = FALSE)) {
    if (!dir.exists(dirname(lock)) || file.access(dirname(lock), 2) != 0) return(invisible())
    if (is_stale(lock)) unlink(lock, recursive = TRUE)
    if (waited == 0) {
      inform_once(paste0("Another run writes in \"", dirname(dirname(lock)), "\"; waiting for it."))
    }
    if (waited > lock_wait_s) {
      abort_nelvat(
        "file",
        c(
          paste0(
            "Another run has held \"",
            dirname(dirname(lock)),
            "\" for ",
            lock_wait_s / 60,
            " minutes."
          ),
          i = paste0("If none is running, remove \"", lock, "\".")
        ),
        call = NULL
      )
    }
    Sys.sleep(lock_step_s)
    waited <- waited + lock_step_s
  }
  writeLines(as.character(Sys.getpid()), file.path(lock, "pid"))
}

# A lock without a process that lives; one just made may not have written its number yet. What
# stands in its place but is no folder of ours is no lock.
is_stale <- function(lock) {
  pid <- tryCatch(
    suppressWarnings(readLines(file.path(lock, "pid"))),
    error = function(error) character()
  )
  number <- suppressWarnings(as.integer(pid[1]))
  if (!length(pid) || is.na(number) || number <= 0) {
    age_s <- as.numeric(difftime(Sys.time(), file.mtime(lock), units = "secs"))
    # Also where the clock stood elsewhere when it was made.
    return(!isTRUE(abs(age_s) <= young_lock_s))
  }
  !isTRUE(tools::pskill(number, 0L))
}
