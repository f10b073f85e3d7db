# What estimates ask of their panel and columns.

#' @export
check_ink.ink_estimate <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "Estimates", call)
  for (end in c("low", "high")) {
    check_variable_kind(ink$variables[[end]], end, c("quantity", "moment"), call)
  }
  x <- panel$variables$x
  y <- panel$variables$y[[1]]
  if (has_levels(x$kind) && has_levels(y$kind)) {
    abort_nelvat(
      "kind",
      c(
        "Estimates need a quantity on x or y.",
        x = paste0("`x` and `y` are ", kind_phrase(x$kind), " and ", kind_phrase(y$kind), ".")
      ),
      call
    )
  }
  for (name in ink$pooled) {
    levels <- c(if (has_levels(x$kind)) x$kind$levels, if (has_levels(y$kind)) y$kind$levels)
    shown <- plain_text(
      c(if (has_levels(x$kind)) x$kind$level_names, if (has_levels(y$kind)) y$kind$level_names)
    )
    if (!name %in% c(levels, shown)) {
      abort_nelvat(
        "level",
        c(
          "`pooled` names a level that does not exist.",
          x = paste0("Found \"", name, "\"."),
          offer(name, shown, "level")
        ),
        call
      )
    }
  }
}

check_intervals <- function(points, ink) {
  wrong <- which(points$low > points$high | points$y < points$low | points$y > points$high)
  if (!length(wrong)) return(invisible())
  one <- points[wrong[1], ]
  abort_nelvat(
    "argument",
    c(
      paste0(
        counted(length(wrong), "interval"),
        if (length(wrong) == 1) " does" else " do",
        " not hold the estimate."
      ),
      x = paste0(
        "An estimate of ",
        number_text_each(one$y, 4),
        " has an interval from ",
        number_text_each(one$low, 4),
        " to ",
        number_text_each(one$high, 4),
        "."
      ),
      i = paste0(
        "Are \"",
        ink$variables$low$id,
        "\" and \"",
        ink$variables$high$id,
        "\" ends, in the estimate's unit?"
      )
    ),
    call = NULL
  )
}

check_estimates_apart <- function(points) {
  twice <- duplicated(points[c("panel", "spot", "colour")])
  if (!any(twice)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        counted(sum(twice), "estimate"),
        if (sum(twice) == 1) " stands" else " stand",
        " where another one does."
      ),
      i = "Tell them apart by `colour`, or give each row a level of its own."
    ),
    call = NULL
  )
}
