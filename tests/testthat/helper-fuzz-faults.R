# Faults of the system while a figure is written, and two runs at once while data change. Files must
# be whole, of one version of the data, and a run afterwards must bring all to rest.

has_strace <- function() nzchar(Sys.which("strace"))

fault_versions <- lapply(
  c(1, 4, 9),
  function(k) c("f,v", paste0(c("p,", "q,", "p,", "q,"), k * 1:4))
)
fault_figure <- c(
  "nelvat: 1",
  "data: {a: a.csv}",
  "blocks: {b: {panel: {data: a, x: f, y: v, ink: bars}}}",
  "plate: {place: b, width: 80, height: 60, save: [one.pdf, one.png]}"
)
fault_outputs <- c("one.pdf", "one.png")

# The bytes of both files for each version of the data, worked out once.
fault_expected <- local({
  known <- NULL
  function() {
    if (is.null(known)) {
      known <<- lapply(fault_versions, function(lines) {
        folder <- fault_folder(lines)
        on.exit(unlink(folder, recursive = TRUE))
        fault_run(folder)
        fault_read(folder)
      })
    }
    known
  }
})

fault_folder <- function(lines) {
  folder <- tempfile("faults")
  dir.create(folder)
  writeLines(lines, file.path(folder, "a.csv"))
  writeLines(fault_figure, file.path(folder, "one.yaml"))
  folder
}

fault_read <- function(folder) {
  lapply(file.path(folder, fault_outputs), function(path) {
    if (file.exists(path)) readBin(path, "raw", file.size(path))
  })
}

# Runs the command in a folder, `before` it what it runs under: list(status, complained).
fault_run <- function(folder, before = NULL, seconds = 120) {
  complained <- tempfile()
  on.exit(unlink(complained))
  command <- shQuote(system.file("bin", "nelvat", package = "nelvat"))
  status <- system2(
    "sh",
    c("-c", shQuote(paste("cd", shQuote(folder), "&&", before, "sh", command, "draw --dpi 72 ."))),
    stdout = FALSE,
    stderr = complained,
    timeout = seconds
  )
  list(
    status = status,
    complained = paste(readLines(complained, warn = FALSE), collapse = "\n")
  )
}

# NULL, or what is wrong after a run that data of some versions were there for.
fault_left <- function(folder, versions) {
  found <- fault_read(folder)
  for (i in seq_along(found)) {
    sound <- lapply(fault_expected()[versions], `[[`, i)
    if (!is.null(found[[i]]) && !any(vapply(sound, identical, NA, found[[i]]))) {
      return(paste(fault_outputs[i], "is none of what could be written"))
    }
  }
}

# NULL, or what is wrong once a run without any fault was made.
fault_rest <- function(folder, version) {
  again <- fault_run(folder)
  if (again$status != 0) return(paste("the run afterwards ended with", again$complained))
  if (!identical(fault_read(folder), fault_expected()[[version]])) {
    return("the run afterwards wrote something else")
  }
  if (!grepl("1 unchanged", fault_run(folder)$complained)) return("it comes to no rest")
}

fault_errors <- list(
  write = c("ENOSPC", "EIO", "EDQUOT"),
  openat = c("EACCES", "EMFILE", "EROFS"),
  rename = c("EACCES", "EXDEV", "ENOSPC"),
  mkdir = c("ENOSPC", "EROFS", "EACCES"),
  unlink = c("EACCES", "EBUSY"),
  read = "EIO",
  close = "EIO"
)

# How often a sound run makes each system call, counted once.
fault_counts <- local({
  known <- NULL
  function() {
    if (is.null(known)) {
      folder <- fault_folder(fault_versions[[1]])
      log <- tempfile()
      on.exit(unlink(c(folder, log), recursive = TRUE))
      calls <- paste(names(fault_errors), collapse = ",")
      fault_run(folder, paste0("strace -f -qq -o ", shQuote(log), " -e trace=", calls))
      name <- sub("^[0-9]+ +([a-z]+)[(].*$", "\\1", readLines(log, warn = FALSE))
      known <<- c(table(factor(name, names(fault_errors))))
    }
    known
  }
})

# A file of R's own library that cannot be opened or loaded is told by R itself.
is_of_library <- function(complained) {
  quoted <- regmatches(complained, gregexpr("(?<=')/[^']+(?=')", complained, perl = TRUE))[[1]]
  any(vapply(c(R.home(), .libPaths(), .Library), function(at) any(startsWith(quoted, at)), NA))
}

# One system call of a run fails, or the process is killed at it: late in the run, when figures are
# drawn and written, not while R itself starts.
fault_case <- function(seed) {
  set.seed(seed)
  name <- sample(names(fault_errors), 1)
  at <- max(1, round(fault_counts()[[name]] * stats::runif(1, 0.6, 1)))
  kills <- stats::runif(1) < 0.3
  error <- sample(fault_errors[[name]], 1)
  how <- if (kills) "signal=KILL" else paste0("error=", error)
  folder <- fault_folder(fault_versions[[1]])
  on.exit(unlink(folder, recursive = TRUE))
  if (seed %% 2) {
    fault_run(folder)
    writeLines(fault_versions[[2]], file.path(folder, "a.csv"))
  }
  now <- if (seed %% 2) 2 else 1
  under <- paste0("strace -f -qq -o /dev/null -e trace=", name, " -e inject=", name, ":", how)
  done <- fault_run(folder, paste0(under, ":when=", at))
  bare <- grepl("Execution halted|caught segfault", done$complained)
  wrong <- if (!kills && bare && !is_of_library(done$complained)) {
    paste("it ended with", done$complained)
  } else if (done$status == 0 && !identical(fault_read(folder), fault_expected()[[now]])) {
    "it said that all was well, and wrote something else"
  }
  wrong <- wrong %||% fault_left(folder, seq_len(now)) %||% fault_rest(folder, now)
  if (!is.null(wrong)) paste0(name, " ", how, " at ", at, ": ", wrong)
}

# Two runs at once in one folder, while its table is replaced.
twin_case <- function(seed) {
  set.seed(seed)
  folder <- fault_folder(fault_versions[[1]])
  on.exit(unlink(folder, recursive = TRUE))
  runs <- lapply(1:2, function(k) {
    Sys.sleep(stats::runif(1, 0, 0.5))
    callr::r_bg(function(run, folder) run(folder), list(fault_run, folder), package = FALSE)
  })
  for (version in sample(2:3)) {
    Sys.sleep(stats::runif(1, 0.2, 2.5))
    writeLines(fault_versions[[version]], file.path(folder, "next.csv"))
    file.rename(file.path(folder, "next.csv"), file.path(folder, "a.csv"))
  }
  for (run in runs) run$wait(120000)
  ends <- lapply(runs, function(run) run$get_result())
  bad <- Filter(function(end) end$status != 0, ends)
  wrong <- if (length(bad)) paste("a run ended with", bad[[1]]$complained)
  wrong %||% fault_left(folder, 1:3) %||% fault_rest(folder, version)
}
