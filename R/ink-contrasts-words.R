# What a legend says of comparisons.

# families: in how many panels it was asked for.
overall_words <- function(ink, overall, families) {
  untested <- families - NROW(overall)
  left <- if (untested > 0) {
    paste(counted(untested, "panel"), "of too few or equal values not tested")
  }
  if (is.null(overall)) return(paste0(overall_tests[[ink$overall]], " of all groups: ", left))
  text <- ifelse(
    is.na(overall$df),
    paste0("H(", overall$df_groups, ")"),
    paste0("F(", overall$df_groups, ", ", vapply(overall$df, number_text_each, "", 3), ")")
  )
  paste0(
    overall_tests[[ink$overall]],
    " of all groups: ",
    paste(
      c(
        paste0(
          text,
          " = ",
          vapply(overall$statistic, number_text_each, "", 3),
          ", ",
          p_words(overall$p)
        ),
        left
      ),
      collapse = "; "
    )
  )
}

# "Welch's t tests, two-sided, p adjusted by Holm's method for 6 comparisons".
contrast_words <- function(ink, pairs, untested, transform, against = NULL, lying = FALSE) {
  by <- c(
    holm = "by Holm's method", hochberg = "by Hochberg's method", hommel = "by Hommel's method",
    bonferroni = "by Bonferroni's method", BH = "by the method of Benjamini and Hochberg",
    BY = "by the method of Benjamini and Yekutieli", fdr = "by the method of Benjamini and Hochberg"
  )
  # A panel's comparisons are a family, but for tests that take their groups together.
  is_joint <- ink$test %in% joint_tests
  each <- if (NROW(pairs)) table(if (is_joint) pairs$family else pairs$panel) else 0
  if (!sum(each)) {
    return(
      paste0(
        contrast_tests[[ink$test]],
        ": no two groups to compare",
        if (untested > 0) paste0(" (", counted(untested, "pair"), " of too few or equal values)")
      )
    )
  }
  compared <- paste0(
    count_range(as.integer(each)),
    if (max(each) == 1) " comparison" else " comparisons"
  )
  paste0(
    contrast_tests[[ink$test]],
    if (!is.null(against)) paste(" against", against),
    ", two-sided, ",
    if (ink$test == "dunnett") {
      "p adjusted for all comparisons with it"
    } else if (ink$test == "tukey") {
      "p adjusted for all pairs"
    } else if (ink$adjust == "none" || max(each) < 2) {
      "p not adjusted"
    } else {
      paste("p adjusted", by[[ink$adjust]])
    },
    " (",
    compared,
    if (length(each) > 1) " each",
    ")",
    if (transform != "identity") ", of the values as the axis shows them",
    if (any(pairs$approximate)) {
      paste0(
        ", p by the normal approximation",
        if (!all(pairs$approximate)) paste0(" in ", sum(pairs$approximate)),
        " (values are tied or no difference, or 50 and more)"
      )
    },
    if (ink$show == "difference") {
      paste(
        "; shown are the",
        if (ink$test %in% c("rank sum", "signed rank")) "shift" else "difference of means",
        if (lying) {
          "of the lower group to the upper one,"
        } else {
          "of the right group to the left one,"
        },
        "and its",
        if (ink$test %in% joint_tests) {
          "simultaneous 95 % interval"
        } else {
          "95 % interval, not adjusted"
        }
      )
    },
    if (ink$show == "stars") "; * p < 0.05, ** p < 0.01, *** p < 0.001, ns p \u2265 0.05",
    if (ink$show == "letters") "; groups that share a letter do not differ at 0.05",
    if (untested > 0) {
      paste0("; ", counted(untested, "pair"), " of too few or equal values not tested")
    }
  )
}
