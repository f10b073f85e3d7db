#' A scene from JSON
#'
#' The way back from [scene_json()]: the same tables, to be measured or drawn with [as_grob()].
#' Pictures of other packages are not in a scene; where they stood, nothing is drawn.
#'
#' @param path The path of a file, or the JSON itself.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A scene, as [as_scene()] gives it.
#' @section Errors: `nelvat_error_file` for a file that is not there, is no JSON, or holds no scene.
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' read_scene(scene_json(fig))
#' @export
read_scene <- function(path, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_string(path, "path")
  is_text <- grepl("^\\s*\\{", path)
  if (!is_text && !file.exists(path)) {
    abort_nelvat("file", paste0("The file \"", path, "\" does not exist."), call)
  }
  what <- if (is_text) "The text" else paste0("\"", path, "\"")
  text <- if (is_text) path else rawToChar(file_bytes(path))
  Encoding(text) <- "UTF-8"
  parsed <- tryCatch(
    jsonlite::fromJSON(text, simplifyDataFrame = FALSE),
    error = function(error) {
      abort_nelvat("file", c(paste0(what, " is no JSON."), x = conditionMessage(error)), call)
    }
  )
  lacking <- setdiff(c("page", "panels", "axes", "marks", "texts"), names(parsed))
  if (!is.list(parsed) || length(lacking)) {
    abort_nelvat(
      "file",
      c(paste0(what, " holds no scene."), x = paste0("It lacks ", quoted(lacking), ".")),
      call
    )
  }
  version <- parsed[["nelvat_scene"]] %||% 1
  if (!isTRUE(version == 1)) {
    abort_nelvat(
      "file",
      c(
        paste0(what, " is a scene of version ", format(version), "."),
        x = "This Nelvat reads version 1."
      ),
      call
    )
  }
  parts <- stats::setNames(nm = setdiff(names(parsed), "nelvat_scene"))
  structure(lapply(parts, scene_part, parsed), class = "nelvat_scene")
}

# What of a scene is no table.
scene_records <- c(
  "page", "font", "numbers", "names", "title", "hash", "letters", "notes", "layout", "axes", "marks"
)

scene_part <- function(name, parsed) {
  part <- parsed[[name]]
  if (name == "marks") return(lapply(part, read_marks))
  if (name == "notes") return(as.character(part))
  if (name %in% scene_records || is.null(part)) return(part)
  read_table_columns(part)
}

read_marks <- function(layer) changed(layer, table = read_table_columns(layer$table))

# JSON has no missing value of a type: a column of nothing else is logical.
read_table_columns <- function(columns) {
  do.call(new_table, lapply(columns, function(column) if (is.null(column)) NA else column))
}
