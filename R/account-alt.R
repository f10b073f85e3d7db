#' @rdname legend_text
#' @export
alt_text <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  describe_scene(described_scene(plate))
}

describe_scene <- function(scene) {
  blocks <- read_blocks(scene)
  n <- sum(!scene$panels$role %in% c("marginal", "words"))
  parts <- vapply(
    blocks,
    function(block) {
      letters <- block_letters(scene, block)
      paste0(
        if (length(letters)) paste0(range_text(letters), ": "),
        sub("[.]$", "", begun(legend_shows(scene, block))),
        legend_trend(scene, block),
        "."
      )
    },
    ""
  )
  paste(c(paste0("Figure of ", counted(n, "panel"), "."), parts), collapse = " ")
}

# A correlation that is all but one, and not one, is not written as one.
correlation_text <- function(r) paste0(if (r < 0) "-", sub("^> ", "over ", share_text(abs(r))))

# Whether points rise or fall together, for who cannot see them.
legend_trend <- function(scene, block) {
  ids <- scene$panels$id[scene$panels$block == block & scene$panels$role != "marginal"]
  if (length(ids) != 1) return("")
  panel_row <- match(ids, scene$panels$id)
  numbers <- vapply(
    scene$axes[c(scene$panels$x_axis[panel_row], scene$panels$y_axis[panel_row])],
    function(axis) isTRUE(axis$quantity),
    NA
  )
  layer <- Find(
    function(layer) {
      layer$primitive == "points" && identical(layer$summarises, "values") && any(
        layer$table$panel %in% ids
      )
    },
    scene$marks
  )
  if (is.null(layer) || !all(numbers)) return("")
  inside <- layer$table[layer$table$panel == ids, ]
  inside <- inside[inside$x >= 0 & inside$x <= 1 & inside$y >= 0 & inside$y <= 1, ]
  if (nrow(inside) < 5 || stats::sd(inside$x) == 0 || stats::sd(inside$y) == 0) return("")
  # Which way an axis runs is no matter of the values.
  turned <- vapply(
    scene$axes[c(scene$panels$x_axis[panel_row], scene$panels$y_axis[panel_row])],
    `[[`,
    NA,
    "turned"
  )
  r <- stats::cor(inside$x, inside$y) * (-1)^sum(turned)
  if (is.na(r) || abs(r) < 0.3) return("; no clear trend")
  paste0(
    "; y ",
    if (r > 0) "rises" else "falls",
    " with x (correlation ",
    sub("-", "\u2212", correlation_text(r)),
    ")"
  )
}
