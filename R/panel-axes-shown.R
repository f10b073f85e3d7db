# What stands on the axes of a panel once its inks have had their say, such as residuals in place of
# a column.

# Inks of one panel stand on the same axes: one that shows something else on them, such as
# residuals, stands with others of its sort, or with marks at places that are said.
check_one_axis <- function(inks, variables, call) {
  shows <- Filter(function(ink) ink_traits(ink)$summarises != "nothing", inks)
  for (y in variables$y) {
    shown <- lapply(shows, function(ink) replaced_axis(ink, "y", y)$kind)
    if (length(unique(shown)) < 2) next
    first_axis <- shows[[which(!vapply(shown, identical, NA, y$kind))[1]]]
    other <- shows[[
      which(!vapply(shown, identical, NA, replaced_axis(first_axis, "y", y)$kind))[1]
    ]]
    abort_nelvat(
      "argument",
      c(
        paste0("`ink_", first_axis$ink, "()` and `ink_", other$ink, "()` have no axis in common."),
        x = paste0("`ink_", first_axis$ink, "()` changes what the y axis shows."),
        i = "Draw them in panels of their own, beside each other on a plate."
      ),
      call
    )
  }
}

# A panel whose axes show what its inks make of them; an ink that shows values of its own on y is
# told the variable that stood there, as `fitted`.
with_replaced_axes <- function(design) {
  before <- design$variables$y
  for (k in seq_along(design$inks)) {
    ink <- design$inks[[k]]
    of_y <- lapply(before, function(y) replaced_axis(ink, "y", y))
    if (of_y[[1]]$id != before[[1]]$id) {
      design$inks[[k]] <- changed(ink, fitted = without_values(before[[1]]))
    }
    if (!identical(of_y, before)) design$variables$y <- of_y
    design$variables$x <- replaced_axis(ink, "x", design$variables$x)
  }
  design
}

# The ink that shows values of its own on the y axis of a panel, NULL for none.
replaced_ink <- function(design) Find(function(ink) !is.null(ink$fitted), design$inks)
