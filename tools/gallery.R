# The figures of tools/gallery-figures.R: read, drawn to docs/screenshots/, and set over their code
# in docs/gallery.md.

# list(name, caption, code), one a figure. The last value of the code is its plate.
gallery_figures <- function(path = file.path("tools", "gallery-figures.R")) {
  lines <- readLines(path, encoding = "UTF-8")
  starts <- grep("^# name: ", lines)
  Map(
    function(from, to) {
      list(
        name = sub("^# name: ", "", lines[from]),
        caption = sub("^# ", "", lines[from + 1]),
        code = trimws(paste(lines[(from + 2):to], collapse = "\n"))
      )
    },
    starts,
    c(starts[-1] - 1, length(lines))
  )
}

# What is drawn by other means, and the command or call for it.
gallery_others <- list(
  list(
    "inks",
    "One panel of each ink",
    "r",
    "source(system.file(\"examples\", \"inks.R\", package = \"nelvat\"))"
  ),
  list(
    "proof",
    "A bad figure with what its proof found",
    "sh",
    "nelvat proof --picture proof.png bad.yaml"
  ),
  list(
    "report",
    "The report of a figure, as a browser shows it",
    "sh",
    "nelvat report figure-2.yaml"
  ),
  list(
    "colours",
    "The category colours as five kinds of eyes see them",
    "r",
    "house(\"plain\")$palette"
  )
)

gallery_entry <- function(name, caption, language, code) {
  c(
    paste("##", caption),
    "",
    paste0("![", caption, "](screenshots/", name, ".png)"),
    "",
    paste0("```", language),
    code,
    "```",
    ""
  )
}

gallery_page <- function() {
  figures <- gallery_figures()
  c(
    "# Gallery",
    "",
    "Made by `Rscript tools/screenshots.R` from `tools/gallery-figures.R`. All data are made up.",
    "",
    "```r",
    "library(nelvat)",
    "```",
    "",
    unlist(lapply(figures, function(one) gallery_entry(one$name, one$caption, "r", one$code))),
    utils::head(unlist(lapply(gallery_others, function(one) do.call(gallery_entry, one))), -1)
  )
}
