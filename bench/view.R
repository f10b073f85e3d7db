# Time from a file's change to its new picture in the page to look at figures, as the server has it,
# and to all that is said of it: six figures of the paper, the median of five saves each. Run:
#   Rscript bench/view.R

suppressMessages(library(nelvat))
folder <- file.path(tempdir(), "paper")
dir.create(folder)
invisible(
  file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder)
)
look <- nelvat:::new_looking(folder, NULL, NULL)
state <- look$state
until <- function(holds) while (!holds()) nelvat:::serve_look(state, 1)
until(function() length(state$shown) == length(state$paths) && is.null(state$job))
for (path in state$paths) {
  key <- paste0(path, "#1#")
  state$wanted <- key
  times <- vapply(
    1:5,
    function(i) {
      until(function() is.null(state$job))
      version <- state$shown[[key]]$version
      Sys.setFileTime(path, Sys.time())
      start <- Sys.time()
      until(function() state$shown[[key]]$version > version)
      picture <- as.numeric(Sys.time() - start, units = "secs")
      until(function() identical(state$shown[[key]]$detail, state$shown[[key]]$version))
      c(picture, as.numeric(Sys.time() - start, units = "secs"))
    },
    numeric(2)
  )
  cat(
    sprintf(
      "%s: picture %.2f s, all that is said %.2f s\n",
      basename(path),
      stats::median(times[1, ]),
      stats::median(times[2, ])
    )
  )
}
nelvat:::end_looking(state)
