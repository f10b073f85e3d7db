# What comparisons say: of whom, of how many values, and what came out.

# Each comparison: of how many values, of which groups, and what came out; then the tests of all
# groups at once. In paired tests n are pairs.
contrast_findings <- function(found, overall, groups, names, parted, paired, lying) {
  level <- function(g) plain_text(names[groups$level[g]])
  pairs <- if (NROW(found)) {
    new_table(
      panel = found$panel,
      x = if (parted) groups$x[found$first] else NA_integer_,
      part = "comparison",
      n = as.integer(found$n_first + if (paired) 0L else found$n_second),
      first = level(found$first),
      second = level(found$second),
      n_first = as.integer(found$n_first),
      n_second = as.integer(found$n_second),
      difference = found$difference,
      difference_low = found$low,
      difference_high = found$high,
      statistic = found$statistic,
      df_groups = NA_real_,
      df = found$df,
      p = found$p,
      adjusted = found$adjusted,
      .rows = nrow(found)
    )
  }
  at_once <- if (NROW(overall)) {
    new_table(
      panel = overall$panel,
      x = NA_integer_,
      part = "overall",
      n = as.integer(overall$n),
      first = "all groups",
      second = NA_character_,
      n_first = as.integer(overall$n),
      n_second = NA_integer_,
      difference = NA_real_,
      difference_low = NA_real_,
      difference_high = NA_real_,
      statistic = overall$statistic,
      df_groups = overall$df_groups,
      df = overall$df,
      p = overall$p,
      adjusted = overall$p,
      .rows = nrow(overall)
    )
  }
  both <- stack_tables(list(pairs, at_once))
  if (is.null(both)) return(NULL)
  numbers <- as.list(both)[setdiff(names(both), c("panel", "x", "part", "n"))]
  do.call(
    new_findings,
    c(list(both, both$part, both$n, value = NA_character_, lying = lying), numbers)
  )
}

# The name of the level that all others are compared with; NULL where pairs are.
compared_with <- function(ink, kind) {
  if (!rlang::is_string(ink$between)) return(NULL)
  code <- match(ink$between, c(kind$levels, plain_text(kind$level_names)))
  if (is.na(code)) return(NULL)
  plain_text(kind$level_names[(code - 1) %% length(kind$levels) + 1])
}

# How many values stand in each group that was compared: in paired tests, of each pair.
compared_counts <- function(found, groups, ink) {
  if (!NROW(found)) return(NULL)
  if (ink$test %in% paired_tests) {
    return(new_table(panel = found$panel, n = found$n_first, .rows = nrow(found)))
  }
  of_group <- c(found$first, found$second)
  n <- c(found$n_first, found$n_second)
  first <- !duplicated(of_group)
  new_table(panel = groups$panel[of_group[first]], x = groups$x[of_group[first]], n = n[first])
}

# How far the marks of each group reach: its mean with the errors shown of it, or, where other marks
# may stand there, with its standard deviation and all its values.
group_ends <- function(sums, transform, errors) {
  ends <- lapply(errors %||% c("sd", "range"), function(error) finished_ends(sums, error))
  reach <- function(end, of) do.call(of, c(list(sums$mean), lapply(ends, `[[`, end), na.rm = TRUE))
  list(transform$backward(reach("lower", pmin)), transform$backward(reach("upper", pmax)))
}
