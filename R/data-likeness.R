#' An order by likeness
#'
#' Puts levels beside those whose values are most alike, by the tree that joins the nearest first:
#' the order of rows and columns of a heat map, whose tree [ink_tree()] draws.
#'
#' @param value A quantity of the same table, bare: what the levels are compared by.
#' @param over A column, bare, that tells apart what each level has a value of, such as the other
#'   axis of a heat map. Several values of one level and place are averaged.
#' @param distance Between two levels, over the places where both have a value: `"euclidean"`,
#'   `"manhattan"` (sum of differences), or `"correlation"` (1 less Pearson's correlation).
#' @param linkage Between groups of levels: `"average"`, `"complete"`, `"single"` or `"ward"`.
#' @param groups Cut the tree into so many groups, with gaps between them on heat maps and strips;
#'   `NULL`: none.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An order rule, for the `order` of [category()], [ordinal()] and [panel()].
#' @details The tree is that of [stats::hclust()], with Ward's criterion as `"ward.D2"`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or more groups than
#'   levels; `nelvat_error_kind` where the value is no quantity; `nelvat_error_data` for levels that
#'   have no value in common, or, of correlations, all values equal.
#' @examples
#' strains <- study("strains")
#' panel(
#'   strains,
#'   x = medium,
#'   y = strain,
#'   colour = growth,
#'   order = list(
#'     strain = by_likeness(growth, medium, groups = 3),
#'     medium = by_likeness(growth, strain)
#'   ),
#'   ink_tiles()
#' )
#' @export
by_likeness <- function(
  value,
  over,
  distance = "euclidean",
  linkage = "average",
  groups = NULL,
  ...
) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(by_likeness, "by_likeness", call)
  new_order(
    "likeness",
    column = rlang::enquo(value),
    over = rlang::enquo(over),
    distance = check_choice(distance, likeness_distances, "distance"),
    linkage = check_choice(linkage, likeness_linkages, "linkage"),
    groups = if (!is.null(groups)) check_number(groups, "groups", 1, 1000, TRUE)
  )
}

# The tree of levels that are there: list(levels, merge, height, order, size, distance, linkage,
# groups: that of each level in order).
tree_of_levels <- function(rule, present, values, data, column, call) {
  profiles <- level_profiles(rule, present, values, data, column, call)
  n <- length(present)
  if (n < 2) {
    tree <- list(merge = matrix(0L, 0, 2), height = numeric(), order = seq_len(n), size = numeric())
  } else {
    distances <- profile_distances(profiles, rule$distance)
    check_distances(distances, profiles, rule$distance, present, column, call)
    tree <- likeness_tree(distances, rule$linkage)
  }
  if (!is.null(rule$groups) && rule$groups > n) {
    abort_nelvat(
      "argument",
      c(
        "`groups` must be at most the number of levels.",
        x = paste0("Found ", rule$groups, ", and \"", column, "\" has ", counted(n, "level"), ".")
      ),
      call
    )
  }
  c(
    list(levels = present[tree$order]),
    tree,
    rule[c("distance", "linkage")],
    list(groups = if (!is.null(rule$groups) && n > 1) tree_groups(tree, rule$groups))
  )
}

# A matrix, a row a level, a column a place: the mean of the values there, NA for none.
level_profiles <- function(rule, present, values, data, column, call) {
  book <- list(data = data, label = "the table")
  argument <- paste0("order of ", column)
  numbers <- evaluate_column(rule$column, book, argument, call)
  if (!is.numeric(numbers)) {
    abort_nelvat(
      "kind",
      c(
        paste0("The order of \"", column, "\" needs a quantity that levels are compared by."),
        x = paste0("Column \"", rlang::as_label(rule$column), "\" holds no numbers.")
      ),
      call
    )
  }
  places <- as.character(evaluate_column(rule$over, book, argument, call))
  known <- is.finite(numbers) & !is.na(values) & !is.na(places)
  level <- match(as.character(values[known]), present)
  columns <- unique(places[known])
  cell <- level + (match(places[known], columns) - 1) * length(present)
  profiles <- matrix(NA_real_, length(present), length(columns))
  if (max(tabulate(cell), 0) < 2) {
    profiles[cell] <- numbers[known]
    return(profiles)
  }
  sums <- rowsum(cbind(numbers[known], 1), cell, reorder = FALSE)
  profiles[unique(cell)] <- sums[, 1] / sums[, 2]
  profiles
}

check_distances <- function(distances, profiles, distance, present, column, call) {
  if (!anyNA(distances)) return(invisible())
  between <- as.matrix(distances)
  pair <- which(is.na(between), arr.ind = TRUE)[1, ]
  alone <- which(rowSums(is.na(between)) >= nrow(between) - 1)
  i <- if (length(alone)) alone[1] else pair[[1]]
  constant <- distance == "correlation" && length(unique(stats::na.omit(profiles[i, ]))) < 2
  abort_nelvat(
    "data",
    c(
      paste0("The levels of \"", column, "\" cannot be put in order by likeness."),
      x = if (constant) {
        paste0("All values of \"", present[i], "\" are equal, so it has no correlation.")
      } else {
        paste0(
          "\"",
          present[i],
          "\" and \"",
          present[pair[pair != i][1]],
          "\" have no value at one place."
        )
      },
      i = "Keep rows without it, or take another distance."
    ),
    call
  )
}
