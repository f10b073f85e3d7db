#' A scene as JSON
#'
#' @param scene A scene from [as_scene()], or a plate.
#' @param path File to write, or `NULL` to return the JSON as a string.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @details An open form for other programs, version 1 (its key `nelvat_scene`), told by the JSON
#'   Schema `system.file("schema", "scene.schema.json", package = "nelvat")`. Tables are objects of
#'   columns, each an array; lengths are millimetres from the upper left corner of the page, marks 0
#'   to 1 of their panel from its lower left. Keys may be added within a version; none is removed or
#'   altered.
#' @return The JSON text, or `path`, invisibly.
#' @section Errors: `nelvat_error_argument` for what is no scene; `nelvat_error_file` where the file
#' cannot be written.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' substr(scene_json(fig), 1, 60)
#' @export
scene_json <- function(scene, path = NULL, ...) {
  check_rest(...)
  local_number_options()
  if (inherits(scene, "nelvat_plate")) scene <- as_scene(scene)
  if (!inherits(scene, "nelvat_scene")) {
    abort_nelvat(
      "argument",
      c("`scene` must be a scene or a plate.", x = paste0("Found ", describe_value(scene), "."))
    )
  }
  text <- as.character(
    jsonlite::toJSON(
      boxed_tables(c(list(nelvat_scene = 1L), unclass(scene))),
      dataframe = "columns",
      auto_unbox = TRUE,
      digits = 9,
      na = "null",
      null = "null"
    )
  )
  if (is.null(path)) return(text)
  check_string(path, "path")
  write_whole(path, text_bytes(text))
}

# Tables as lists of columns that stay arrays, of one row, too.
boxed_tables <- function(x) {
  if (is.data.frame(x)) {
    return(
      lapply(as.list(x), function(column) {
        if (is.list(column)) lapply(unname(column), boxed_tables) else I(column)
      })
    )
  }
  if (is.list(x)) lapply(x, boxed_tables) else x
}

#' @export
print.nelvat_scene <- function(x, ...) {
  cat(
    "Scene of ",
    x$page$width_mm,
    " x ",
    x$page$height_mm,
    " mm: ",
    counted(nrow(x$panels), "panel"),
    ", ",
    counted(length(x$axes), "axis", "axes"),
    ", ",
    counted(nrow(x$texts), "text"),
    " in ",
    x$font$family,
    ", ",
    counted(sum(vapply(x$marks, function(layer) nrow(layer$table), 0L)), "mark"),
    "\n",
    sep = ""
  )
  invisible(x)
}
