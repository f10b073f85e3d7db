# nelvat draw --watch: draws again what changed, until the user ends it.

watch_every_s <- 0.5

# rounds: for tests.
watch_figures <- function(paths, options, rounds = Inf) {
  writeLines("nelvat: watching; Ctrl-C ends", stderr())
  state <- watched_state(paths)
  while (rounds > 0) {
    Sys.sleep(watch_every_s)
    now <- watched_state(paths)
    changed <- names(now)[!mapply(identical, now, state[names(now)])]
    for (path in changed) guarded(draw_figure_file(path, options), path)
    # What drawing changed itself is no reason to draw again.
    state <- if (length(changed)) watched_state(paths) else now
    rounds <- rounds - 1
  }
}

# When each figure file's inputs were last written, and which of its outputs are there.
watched_state <- function(paths) {
  figures <- tryCatch(listed_figures(paths)$path, nelvat_error = function(error) character())
  lapply(stats::setNames(nm = figures), function(path) {
    known <- known_record(path)
    inputs <- unique(
      c(
        path,
        names(known$read),
        folder_house(dirname(path)),
        Sys.glob(as.character(names(known$patterns)))
      )
    )
    list(inputs, file.mtime(inputs), file.exists(as.character(known$written)))
  })
}
