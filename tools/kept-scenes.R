# Saves the scenes of all examples, the paper and 300 random figures as JSON, or compares those
# of now with those saved before, so that a change of the middle is seen to change nothing:
#   Rscript tools/kept-scenes.R save FOLDER
#   Rscript tools/kept-scenes.R compare FOLDER
# Compared are the parts of the page: panels, axes, marks, rules, texts, keys, to 1e-6.

suppressMessages(library(nelvat))
arguments <- commandArgs(trailingOnly = TRUE)
folder <- arguments[2]
dir.create(folder, recursive = TRUE, showWarnings = FALSE)
source("tools/all-scenes.R")

# The numbers of the page, in a form that does not hang on how tables are ordered inside.
page_of <- function(scene) {
  if (is.character(scene)) return(scene)
  plain <- function(table) if (is.null(table)) NULL else as.list(as.data.frame(table))
  panels <- scene$panels[c("row", "column", "x", "y", "w", "h")]
  list(
    page = scene$page,
    panels = plain(panels),
    axes = lapply(
      scene$axes,
      function(axis) axis[c("range", "breaks", "text", "treatment", "size_pt")]
    ),
    marks = lapply(scene$marks, function(layer) {
      table <- layer$table
      # Names of columns may change; their contents may not.
      names(table)[names(table) %in% c("alpha", "opacity")] <- "opacity"
      names(table)[names(table) %in% c("panel", "area_id")] <- "panel"
      c(list(primitive = layer$primitive), plain(table[order(names(table))]))
    }),
    rules = plain(scene$rules[c("role", "x0", "y0", "x1", "y1", "weight_pt", "colour")]),
    texts = plain(scene$texts[c("role", "string", "size_pt", "angle", "x0", "y0", "x1", "y1")]),
    keys = plain(scene$keys[setdiff(names(scene$keys), "glyph")])
  )
}

pages <- lapply(all_scenes(), page_of)
file <- file.path(folder, "scenes.rds")
if (arguments[1] == "save") {
  saveRDS(pages, file)
  json <- lapply(pages, jsonlite::toJSON, auto_unbox = TRUE, digits = 8, na = "null")
  writeLines(
    paste0(names(json), "\t", vapply(json, rlang::hash, "")),
    file.path(folder, "hashes.txt")
  )
  cat(length(pages), "scenes saved\n")
} else {
  before <- readRDS(file)
  unlike <- Filter(
    function(name) !isTRUE(all.equal(before[[name]], pages[[name]], tolerance = 1e-6)),
    names(before)
  )
  for (name in utils::head(unlike, 12)) {
    told <- all.equal(before[[name]], pages[[name]], tolerance = 1e-6)
    cat(name, ":", utils::head(told, 4), sep = "\n  ")
  }
  cat(length(before) - length(unlike), "scenes alike,", length(unlike), "unlike\n")
  quit(save = "no", status = length(unlike) > 0)
}
