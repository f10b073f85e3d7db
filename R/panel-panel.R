#' One panel: a table, what stands on its axes, and what is drawn
#'
#' Columns are named bare (`x = flour`) or through the pronoun
#' (`x = .data[["flour"]]`). Several columns for `y`, as `c(rise, volume)`, make
#' one panel for each of them in [facets()].
#'
#' @param data A [codebook()] or a data frame.
#' @param ... Inks, such as [ink_bars()], or lists of inks, drawn in this order.
#' @param x,y Columns on the axes. Bars and points also run across when the
#'   category stands on `y`.
#' @param colour,shape Categories told apart by colour or by symbol.
#' @return A panel: a list with class `nelvat_panel`.
#' @section Errors:
#' `nelvat_error_column` for a column that is not there, `nelvat_error_kind` for a
#' column whose kind does not suit, `nelvat_error_argument` for anything else.
#' @examples
#' panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars())
#' @export
panel <- function(data, ..., x = NULL, y = NULL, colour = NULL, shape = NULL) {
  call <- rlang::current_env()
  check_stray(...names(), c("data", panel_channels), "panel", call)
  channels <- list(
    x = rlang::enquo(x), y = rlang::enquo(y), colour = rlang::enquo(colour), shape = rlang::enquo(shape)
  )
  new_panel(data, channels, list(...), call)
}

panel_channels <- c("x", "y", "colour", "shape")

# channels: quosures by channel; inks: what the dots held.
new_panel <- function(data, channels, inks, call) {
  book <- as_codebook(data, call = call)
  inks <- check_inks(inks, call)
  if (!nrow(book$data)) {
    abort_nelvat("data", c(paste0("There is nothing to draw in ", book$label, "."), x = "It has no rows."), call)
  }
  given <- channels[!vapply(channels, rlang::quo_is_null, NA)]
  variables <- lapply(stats::setNames(nm = names(given)), function(channel) {
    resolve <- if (channel == "y") resolve_variables else resolve_variable
    resolve(given[[channel]], book, channel, call)
  })
  check_channels(variables, call)
  design <- structure(list(label = book$label, book = book, variables = variables, n = nrow(book$data), inks = inks), class = "nelvat_panel")
  for (ink in inks) check_ink(ink, design, call)
  design
}

check_inks <- function(inks, call) {
  inks <- unlist(lapply(inks, function(ink) if (is_ink(ink)) list(ink) else if (is.list(ink)) ink else list(ink)), recursive = FALSE)
  wrong <- Filter(Negate(is_ink), inks)
  if (length(wrong) || !length(inks)) {
    abort_nelvat("argument", c(
      "A panel needs inks, such as `ink_bars()` or `ink_points()`.",
      x = if (length(wrong)) paste0("Found ", describe_value(wrong[[1]]), ".") else "Found none."
    ), call)
  }
  inks
}

check_channels <- function(variables, call) {
  for (channel in intersect(c("colour", "shape"), names(variables))) {
    check_variable_kind(variables[[channel]], channel, c("category", "ordinal"), call)
  }
}

# Stops where a variable is of a kind that its channel cannot show.
check_variable_kind <- function(variable, channel, kinds, call, why = NULL) {
  if (variable$kind$kind %in% kinds) return(invisible())
  wanted <- c(quantity = "a quantity", category = "a category", ordinal = "an ordinal", moment = "a moment")[kinds]
  abort_nelvat("kind", c(
    paste0("`", channel, "` must be ", paste(wanted, collapse = " or "), if (!is.null(why)) paste0(" ", why), "."),
    x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), "."),
    i = "`codebook()` says what kind a column is."
  ), call)
}

#' @export
print.nelvat_panel <- function(x, ...) {
  shown <- vapply(names(x$variables), function(channel) {
    variables <- x$variables[[channel]]
    ids <- if (channel == "y") vapply(variables, `[[`, "", "id") else variables$id
    paste0(channel, " = ", paste(ids, collapse = ", "))
  }, "")
  cat("Panel of ", x$label, " (", counted(x$n, "row"), "): ", paste(shown, collapse = "; "), "\n",
      "Inks: ", paste(vapply(x$inks, `[[`, "", "ink"), collapse = ", "), "\n", sep = "")
  invisible(x)
}
