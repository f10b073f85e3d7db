# Random plates against what is true of them, worked out from their tables by R's own functions and
# from the help pages, without the package's code. Run by `make truth N=300 SEED=1`, and with N=300
# among the tests. Prints each plate with something false; the last line is `N checked, N false`.

truth_folder <- function() {
  for (folder in c("tests/truth", "../truth", "../../tests/truth", ".")) {
    if (file.exists(file.path(folder, "compare.R"))) return(folder)
  }
  stop("Run this from the package's root.")
}
truth_files <- c(
  "tables", "inks", "plates", "compare", "figure", "ticks", "wholes", "newer-numbers",
  "newer-places", "newer-beside", "newer", "attached"
)
for (file in truth_files) {
  sys.source(file.path(truth_folder(), paste0(file, ".R")), environment())
}

# One plate: list(seed, checked, false, refused).
judge_seed <- function(seed, with_pdf = seed %% 20 == 0) {
  made <- refused <- NULL
  verdict <- tryCatch(
    suppressMessages(
      suppressWarnings({
        whole <- if (seed %% 5 == 0) judge_whole(seed)
        beside <- if (seed %% 3 == 1) judge_newer(seed) else judge_attached(seed)
        made <- truth_plate(seed)
        verdict <- judge_plate(made, with_pdf)
        list(
          checked = verdict$checked + (whole$checked %||% 0L) + beside$checked,
          false = c(verdict$false, whole$false, beside$false)
        )
      })
    ),
    nelvat_error = function(error) {
      refused <<- rlang::cnd_message(error)
      NULL
    },
    error = function(error) {
      list(checked = 1L, false = paste("an error of R's own:", conditionMessage(error)))
    }
  )
  list(
    seed = seed,
    plate = made$plate,
    checked = verdict$checked %||% 0L,
    false = if (length(verdict$false)) verdict$false,
    refused = refused
  )
}

# A process judges many, so that fonts and code are read once.
judge_seeds <- function(seeds, cores = 1L) {
  judged <- function(seed) judge_seed(seed)[c("seed", "checked", "false", "refused")]
  found <- parallel::mclapply(seeds, judged, mc.cores = cores)
  lost <- !vapply(found, is.list, NA)
  found[lost] <- lapply(
    seeds[lost],
    function(seed) list(seed = seed, checked = 1L, false = "it did not end")
  )
  found
}

# What is false is told as it is found, a hundred plates at a time.
if (sys.nframe() == 0) {
  arguments <- commandArgs(trailingOnly = TRUE)
  n <- as.integer(c(arguments, "300")[1])
  first <- as.integer(c(arguments[-1], "1")[1])
  seeds <- seq(first, length.out = n)
  found <- list()
  for (some in split(seeds, (seq_along(seeds) - 1) %/% 100)) {
    judged_now <- judge_seeds(some, cores = parallel::detectCores())
    for (one in Filter(function(one) length(one$false), judged_now)) {
      cat("plate", one$seed, "\n", paste0("  ", unique(one$false), "\n"), sep = "")
    }
    found <- c(found, judged_now)
    if (length(found) < n) message(length(found), " of ", n, " judged")
  }
  refused <- table(unlist(lapply(found, function(one) substr(sub("\n.*", "", one$refused), 1, 60))))
  for (why in names(refused)) cat(refused[[why]], " refused: ", why, "\n", sep = "")
  statements <- sum(vapply(found, `[[`, 0L, "checked"))
  wrong <- sum(lengths(lapply(found, `[[`, "false")))
  cat(statements, "statements,", wrong, "of them false;", sum(refused), "plates refused\n")
  cat(length(found), "checked,", sum(lengths(lapply(found, `[[`, "false")) > 0), "false\n")
}
