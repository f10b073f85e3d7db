#' Nelvat: multi-panel figures for journals
#'
#' A scientist says what each variable means once ([codebook()]), what each
#' panel shows in one line ([panel()] with inks), and where panels go
#' ([facets()], [plate()]). [save_plate()] writes the figure at its exact size.
#'
#' @keywords internal
#' @useDynLib nelvat, .registration = TRUE
#' @importFrom Rcpp evalCpp
#' @importFrom rlang .data
"_PACKAGE"
