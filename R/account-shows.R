# What a block shows, in words: its variables, the levels its panels stand for, or the part of
# another that it enlarges. Read from areas and axes.

# "loaf rise (mm) against flour, for each of starter hydration (60%, 80% and 100%)"
legend_shows <- function(scene, block) {
  areas <- scene$panels[scene$panels$block == block & scene$panels$role != "marginal", ]
  about <- unique(stats::na.omit(scene$about$says[scene$about$block == block]))
  what <- if (areas$role[1] %in% c("zoom", "inset")) {
    enlargement_phrase(scene, areas)
  } else if (areas$role[1] == "picture") {
    "an image"
  } else if (any(areas$role == "diagonal") || is_matrix(areas)) {
    pairs_phrase(scene, areas)
  } else {
    axes_phrase(scene, areas, block)
  }
  # What says more of the same stands for it.
  if (length(about) && !is.null(what) && startsWith(about[1], paste0(what, " "))) {
    what <- about[1]
    about <- about[-1]
  }
  # Marks without axes say themselves what they are of.
  if (is.null(what)) {
    what <- c(about, "a picture")[1]
    about <- about[-1]
  }
  paste0(
    what,
    split_phrase(scene, block),
    if (length(about)) paste0("; ", paste(about, collapse = "; "))
  )
}

# The phrases of the axes in one direction, each once.
axis_phrases <- function(scene, index) {
  unique(Filter(nzchar, vapply(unique(index), function(i) axis_phrase(scene$axes[[i]]), "")))
}

axes_phrase <- function(scene, areas, block) {
  y <- axis_phrases(scene, areas$y_axis)
  x <- axis_phrases(scene, areas$x_axis)
  shade <- shade_phrase(scene, block)
  if (!is.null(shade)) {
    return(paste0(shade, if (length(c(x, y))) paste0(" by ", listed(unique(c(x, y))))))
  }
  if (length(y) && length(x)) {
    levels_on <- function(index) all(vapply(scene$axes[unique(index)], `[[`, NA, "slots"))
    if (levels_on(areas$x_axis)) return(paste(listed(y), "by", listed(x)))
    if (levels_on(areas$y_axis)) return(paste(listed(x), "by", listed(y)))
    return(paste(listed(y), "against", listed(x)))
  }
  if (length(c(x, y))) return(listed(c(y, x)))
}

# Of cells shaded by a quantity, such as a heat map, what the shade is.
shade_phrase <- function(scene, block) {
  shaded <- scene$shades[scene$shades$block == block, ]
  if (!is.null(shaded) && nrow(shaded)) shaded$name[1]
}

axis_phrase <- function(axis) {
  if (!nzchar(axis$name) || isTRUE(axis$hidden) && !axis$quantity) return("")
  paste0(name_in_sentence(axis$name, axis$variable), scale_phrase(axis$transform))
}

# Pairs ---------------------------------------------------------------------------------

is_matrix <- function(areas) {
  length(unique(areas$x_variable)) > 1 && length(unique(areas$y_variable)) > 1
}

# "each pair of a, b and c", where all are shown; else "each of a and b against each of c and d", or
# the pairs one by one.
pairs_phrase <- function(scene, areas) {
  off <- areas[areas$role != "diagonal", ]
  name <- function(axis) {
    axis_phrase(scene$axes[[axis]])
  }
  x <- vapply(off$x_axis, name, "")
  y <- vapply(off$y_axis, name, "")
  alone_names <- vapply(areas$x_axis[areas$role == "diagonal"], name, "")
  alone <- if (length(alone_names)) {
    paste0(", with each of ", listed(unique(alone_names)), " alone on the diagonal")
  }
  pairs <- unique(mapply(function(a, b) paste(sort(c(a, b)), collapse = "\r"), x, y))
  # In the order of the matrix.
  all <- intersect(c(alone_names, x, y), c(x, y))
  if (length(alone_names) && setequal(alone_names, all)) alone <- ", each alone on the diagonal"
  if (length(pairs) == choose(length(all), 2)) return(paste0("each pair of ", listed(all), alone))
  crossed <- !any(x %in% y) && length(pairs) == length(unique(x)) * length(unique(y))
  if (crossed) {
    each <- function(names) paste0(if (length(names) > 1) "each of ", listed(names))
    return(paste0(each(unique(y)), " against ", each(unique(x)), alone))
  }
  once <- !duplicated(mapply(function(a, b) paste(sort(c(a, b)), collapse = "\r"), x, y))
  paste0(listed(paste(y, "against", x)[once]), alone)
}

# Levels ----------------------------------------------------------------------------------

# ", for each of flour (Wheat and Rye) and bakery (North and South)"
split_phrase <- function(scene, block) {
  splits <- scene$splits[scene$splits$block == block, ]
  if (is.null(splits) || !nrow(splits)) return("")
  levels_by_name <- split(splits$level, factor(splits$name, unique(splits$name)))
  each <- vapply(
    names(levels_by_name),
    function(name) {
      levels <- levels_by_name[[name]]
      if (length(levels) > most_listed) return(paste(length(levels), "levels of", name))
      paste0(name, in_brackets(listed(levels)))
    },
    ""
  )
  paste0(", for each ", if (any(lengths(levels_by_name) > most_listed)) "of ", listed(each))
}

# Enlargements ------------------------------------------------------------------------------

# "enlargement of the part of a from 40 to 60 mm of loaf rise"
enlargement_phrase <- function(scene, areas) {
  host <- scene$panels[match(areas$host[1], scene$panels$id), ]
  letter <- block_letters(scene, host$block)
  ends <- vapply(
    c("x", "y"),
    function(direction) {
      shown <- scene$axes[[areas[[paste0(direction, "_axis")]][1]]]
      whole <- scene$axes[[host[[paste0(direction, "_axis")]]]]
      slack <- 1e-9 * abs(diff(whole$range))
      same <- shown$slots || all(abs(shown$range - whole$range) < slack)
      if (same || !nzchar(shown$name)) return("")
      paste0(
        name_in_sentence(shown$name, shown$variable),
        " from ",
        paste(end_texts(shown), collapse = " to ")
      )
    },
    ""
  )
  ends <- ends[nzchar(ends)]
  paste0(
    if (areas$role[1] == "inset") "inset: ",
    "enlargement of the outlined part",
    if (length(letter)) paste(" of", letter[1]),
    if (length(ends)) paste0(" (", paste(ends, collapse = ", "), ")")
  )
}

# The ends of an axis as its data are written.
end_texts <- function(axis) {
  ends <- sort(axis_transform(axis$transform)$backward(axis$range))
  if (is.null(axis$moment)) return(number_text_each(ends, 4))
  # To a hundredth of the axis.
  step <- diff(ends) / 100
  fine <- if (step > 60) 60 else 10^min(0, ceiling(log10(step)))
  time_said(round(ends / fine) * fine, axis$moment)
}
