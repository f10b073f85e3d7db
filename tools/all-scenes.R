# The scenes of all examples, the paper and 300 random figures, by name; the class of the error
# where one is refused.

source("tests/testthat/helper-random.R")

example_scenes <- function(script) {
  environment <- new.env()
  for (one in as.list(parse(script))) {
    if (!identical(one[[1]], as.name("for")) && !grepl("folder", deparse(one)[1])) {
      suppressWarnings(eval(one, environment))
    }
  }
  # Pages of the fields are blocks by name.
  figures <- environment$plates
  blocks <- c(environment$panels, unlist(unname(environment$pages), recursive = FALSE))
  if (is.null(figures)) figures <- lapply(blocks, plate, width = 80, height = 60)
  lapply(
    figures,
    function(figure) {
      tryCatch(suppressWarnings(as_scene(figure)), nelvat_error = function(error) class(error)[1])
    }
  )
}

all_scenes <- function() {
  scripts <- list.files("inst/examples", "[.]R$", full.names = TRUE)
  found <- unlist(
    lapply(scripts, function(script) {
      scenes <- example_scenes(script)
      named <- if (is.null(names(scenes))) seq_along(scenes) else names(scenes)
      names(scenes) <- paste(sub("[.]R$", "", basename(script)), named)
      scenes
    }),
    recursive = FALSE
  )
  for (file in list.files("inst/paper", "figure.*yaml$", full.names = TRUE)) {
    found[[basename(file)]] <- suppressWarnings(as_scene(read_figure(file)$plate))
  }
  for (seed in seq_len(300)) {
    found[[paste("random", seed)]] <- tryCatch(
      suppressWarnings(suppressMessages(random_scene(seed))),
      nelvat_error = function(error) class(error)[1]
    )
  }
  found
}
