# What `ink_contrasts()` takes: its rows of the table of words.

#' @export
word_rows.ink_contrasts <- function(word) {
  list(
    between = between_type(
      says = c(
        'Which groups: `"all"` pairs, `"neighbours"`, one level, against which all others',
        'are held, a list of pairs of levels, such as `list(c("wheat", "rye"))`, or',
        '`"none"`, for an overall test alone.'
      )
    ),
    test = a_choice(
      names(contrast_tests),
      says = c(
        '`"welch"` or `"student"`, t tests with unequal or equal variances; `"rank sum"`,',
        "Wilcoxon's; of the same `subject` in both groups `\"paired\"`, a t test, or",
        "`\"signed rank\"`, Wilcoxon's; `\"tukey\"`, Tukey's honest significant differences,",
        "or against one level `\"dunnett\"`, Dunnett's tests, whose p are adjusted for all",
        "comparisons already."
      )
    ),
    adjust = a_choice(
      stats::p.adjust.methods,
      says = c(
        "How p is adjusted for the number of comparisons of a panel: a method of",
        "[stats::p.adjust()]."
      )
    ),
    show = a_choice(
      c("p", "stars", "difference", "letters"),
      says = c(
        '`"p"`, `"stars"`, the `"difference"` with its 95 % interval, or `"letters"`: groups',
        "that share one do not differ at 0.05."
      )
    ),
    overall = a_choice(
      names(overall_tests),
      or_null = TRUE,
      says = c(
        "A test of all groups of a panel at once, written at its top (of lying groups it is only",
        'told): `"anova"`, one-way;',
        "`\"welch anova\"`, with unequal variances; `\"kruskal\"`, Kruskal and Wallis's;",
        "`NULL` for none."
      )
    ),
    subject = a_column(
      or_null = TRUE,
      says = c(
        "A column: whose value each is, for paired tests. Subjects without both values are",
        "left out of a pair."
      )
    ),
    colour = a_channel(
      says = "A category for this ink alone, whose levels are compared within each category."
    )
  )
}

between_type <- function(says) {
  own_type(
    check_between,
    list(
      anyOf = list(
        list(type = "string"),
        list(type = "array", items = list(type = "array", minItems = 2, maxItems = 2))
      )
    ),
    "\"all\", \"neighbours\", a level, or a list of pairs",
    FALSE,
    says = says
  )
}
