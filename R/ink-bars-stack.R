# Bars on each other, and shares of a whole.

# Parts of a whole are not less than nothing.
check_stackable <- function(values, measured, arrange, counting) {
  below <- sum(values < 0, na.rm = TRUE)
  if (counting || !below) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("Bars with `arrange = \"", arrange, "\"` are of values that are not below zero."),
      x = paste0("\"", measured$id, "\" has ", counted(below, "value"), " below zero."),
      i = "Set them side by side: `arrange = \"side\"`."
    ),
    call = NULL
  )
}

# Bars on each other, the first level lowest; shares are of each slot's whole.
stack_bars <- function(bars, share) {
  bars <- table_rows(bars, order(bars$panel, bars$x, bars$colour))
  slot <- match_rows(bars[c("panel", "x")], rep(TRUE, nrow(bars)))$at
  if (share) {
    bars$centre <- 100 * bars$centre / stats::ave(bars$centre, slot, FUN = sum)
  }
  top <- stats::ave(bars$centre, slot, FUN = cumsum)
  bars$base <- top - bars$centre
  bars$length <- bars$centre
  bars$centre <- top
  bars
}

# Of shares the axis is a share, not what they are of.
#' @export
replaced_axis.ink_bars <- function(ink, direction, variable) {
  measured <- variable$kind$kind == "quantity" && !isTRUE(variable$supplied)
  if (ink$arrange != "share" || !measured || is.numeric(ink$width)) return(variable)
  kind <- changed(
    variable$kind,
    name = paste("Share of", name_in_sentence(variable$kind$name, variable$id)),
    unit = "%"
  )
  kind["show"] <- list(NULL)
  changed(variable, kind = kind)
}
