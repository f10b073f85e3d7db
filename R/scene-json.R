#' A scene as JSON
#'
#' @param scene A scene from [as_scene()], or a plate.
#' @param path File to write, or `NULL` to return the JSON as a string.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
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
      unclass(scene),
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
