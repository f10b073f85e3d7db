# Writes docs/legends.md: twenty figures with their legends, methods and alternative texts, as they
# are made: Rscript tools/legends.R
suppressMessages(library(nelvat))
source(file.path("tests", "testthat", "helper-examples.R"))
plates <- unlist(
  lapply(c("facets", "pairs-and-joint", "plates"), function(file) {
    found <- example_plates(file)
    stats::setNames(found, paste(file, names(found)))
  }),
  recursive = FALSE
)
shown <- plates[unique(round(seq(1, length(plates), length.out = 20)))]
quiet <- function(code) suppressMessages(suppressWarnings(code))
section <- function(name) {
  scene <- quiet(as_scene(shown[[name]]))
  c(
    paste("##", name),
    "",
    quiet(legend_text(scene, "markdown")),
    "",
    paste("*Short.*", quiet(legend_text(scene, "markdown", "short"))),
    "",
    "*Checklist.*",
    "",
    quiet(legend_text(scene, "markdown", "checklist")),
    "",
    paste("*Methods.*", quiet(methods_text(scene, "markdown"))),
    "",
    paste("*Alternative text.*", quiet(alt_text(scene))),
    "",
    paste("*In full.*", quiet(alt_text(scene, "full"))),
    ""
  )
}
writeLines(
  enc2utf8(
    c(
      "# Legends as they are drafted",
      "",
      paste(
        "Twenty figures of the examples with their legends in three lengths, the paragraph on",
        "statistics and the alternative texts. Made by `Rscript tools/legends.R`."
      ),
      "",
      unlist(lapply(names(shown), section))
    )
  ),
  file.path("docs", "legends.md"),
  useBytes = TRUE
)
