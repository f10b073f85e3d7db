# What a PDF of a plate holds beside the picture, where that is asked for: its scene, which draws it
# again, the data that its marks show, what their columns mean, and a list of all that.

archive_list <- "nelvat-archive.json"

# Bytes by name. scenes: one a page; figure: the file that the list names as the figure.
plate_archive <- function(plate, resolved, scenes, call) {
  if (any(vapply(scenes, function(scene) NROW(scene$pictures) > 0, NA))) {
    abort_nelvat(
      "argument",
      c(
        "`archive = TRUE` cannot hold plots of other packages.",
        i = "Save the data and the code that make them beside the figure."
      ),
      call
    )
  }
  pages <- if (length(scenes) > 1) paste0("-", seq_along(scenes)) else ""
  pictures <- lapply(scenes, function(scene) {
    scene$hash <- about_scene(scene)$hash
    text_bytes(scene_json(scene))
  })
  names(pictures) <- paste0("nelvat-scene", pages, ".json")
  whole <- suppressWarnings(whole_scene(resolved, plate))
  tables <- Filter(is.data.frame, source_tables(resolved, whole, plate))
  names(tables) <- paste0("data/", archive_names(names(tables)), ".csv")
  meant <- codebook_tables(plate)
  names(meant) <- paste0("columns/", archive_names(names(meant)), ".csv", recycle0 = TRUE)
  with_list(c(pictures, lapply(c(tables, meant), csv_bytes)), names(pictures)[1])
}

# Names of files from names of panels and tables, each once.
archive_names <- function(names) {
  plain <- gsub("^-+|-+$", "", gsub("[^A-Za-z0-9]+", "-", names))
  make.unique(ifelse(nzchar(plain), substr(plain, 1, 60), "table"), "-")
}

# Files with the list that says which is the figure, and what each was.
with_list <- function(contents, figure, ...) {
  told <- list(
    nelvat = 1L,
    figure = figure,
    ...,
    files = as.list(names(contents)),
    md5 = as.list(vapply(contents, md5_of, "", USE.NAMES = FALSE))
  )
  text <- jsonlite::toJSON(told, auto_unbox = TRUE, pretty = TRUE)
  c(contents, stats::setNames(list(text_bytes(text)), archive_list))
}

tell_archived <- function(inside) {
  sizes <- vapply(inside, length, 0L)
  rlang::inform(
    c(
      "In the PDF are, for everyone who has it:",
      stats::setNames(
        paste0(names(inside), " (", count_text(ceiling(sizes / 1024)), " kB)"),
        rep("*", length(inside))
      )
    )
  )
}
