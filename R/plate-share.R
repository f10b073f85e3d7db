#' Axes shared by all panels of a plate
#'
#' @param ... Names of variables: all axes of one direction that show any of them have one
#'   range, wherever they stand.
#' @return A setting for the `share` of [plate()].
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits.
#' @examples
#' share_axis("rise", "volume")
#' @export
share_axis <- function(...) {
  variables <- c(...)
  if (is.character(variables) && length(variables)) return(share_axis_of(variables))
  abort_nelvat(
    "argument",
    c(
      "`share_axis()` takes names of variables.",
      x = paste0("Found ", describe_value(variables), ".")
    )
  )
}

share_axis_of <- function(variables) structure(list(variables = variables), class = "nelvat_share")
