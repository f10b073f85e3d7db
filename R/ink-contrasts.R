#' Comparisons of groups
#'
#' Brackets over the groups of a category that are compared, with the p of their test, its stars, or
#' letters that groups share which do not differ. Where colours stand side by side, the colours
#' within each category are compared. Lying groups, with the category on y, have them at the right.
#'
#' @eval argument_lines("ink_contrasts")
#' @return An ink, for [panel()]. Its numbers are in [contrast_table()].
#' @details Tests are two-sided and those of R: [stats::t.test()], [stats::wilcox.test()] (exact for
#'   fewer than 50 values without ties), [stats::TukeyHSD()], [stats::oneway.test()],
#'   [stats::kruskal.test()]; Dunnett (1955), Journal of the American Statistical Association 50,
#'   integrated numerically; letters after Piepho (2004), Journal of Computational and
#'   Graphical Statistics 13(2). Values are compared as the axis shows them: on a logarithmic axis
#'   their logarithms. But for paired tests all rows count as independent.
#'   Stars hide how large a difference is and how sure; p, or the interval in [contrast_table()],
#'   says more.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, `nelvat_error_level`
#' for a level that does not exist, `nelvat_error_kind` where the panel has no category and
#' quantity on its axes, `nelvat_error_labels` where the brackets have no room.
#' @examples
#' plate(
#'   panel(
#'     study("loaves"),
#'     x = hydration,
#'     y = rise,
#'     keep = flour == "rye",
#'     ink_box(),
#'     ink_contrasts()
#'   ),
#'   width = 80,
#'   height = 70
#' )
#' @export
ink_contrasts <- function(
  between = "all",
  test = "welch",
  adjust = "holm",
  show = "p",
  overall = NULL,
  subject = NULL,
  colour = NULL,
  ...
) {
  ink <- said_ink("contrasts", ...)
  if (show == "letters" && !identical(ink$between, "all")) {
    abort_nelvat(
      "argument",
      c(
        "Letters tell of all pairs.", x = "`between` names only some.",
        i = "Leave `between` out, or show \"p\"."
      )
    )
  }
  if (identical(ink$between, "none") && is.null(overall)) {
    abort_nelvat(
      "argument",
      c(
        "Nothing would be compared.", x = "`between` is \"none\", and there is no `overall`.",
        i = "Say the test of all groups, such as `overall = \"anova\"`."
      )
    )
  }
  if (
    test == "dunnett" && (
      !rlang::is_string(ink$between) || between %in% c("all", "neighbours", "none")
    )
  ) {
    abort_nelvat(
      "argument",
      c(
        "Dunnett's tests hold all levels against one.", x = "`between` is no level.",
        i = "Say the level, such as `between = \"wheat\"`."
      )
    )
  }
  if (test %in% paired_tests && !is.null(overall)) {
    abort_nelvat(
      "argument",
      c("`overall` takes all rows as independent.", i = "Leave it out beside paired tests.")
    )
  }
  if ((test %in% paired_tests) != !is.null(ink$mapped$subject)) {
    abort_nelvat(
      "argument",
      c(
        if (is.null(ink$mapped$subject)) {
          "A paired test needs `subject`, a column that says whose each value is."
        } else {
          "`subject` is for paired tests."
        },
        i = "Paired tests are \"paired\" and \"signed rank\"."
      )
    )
  }
  ink
}

check_between <- function(between, argument, call) {
  if (rlang::is_string(between)) return(between)
  pairs <- if (is.list(between)) lapply(between, function(pair) as.character(unlist(pair)))
  if (length(pairs) && all(lengths(pairs) == 2) && !anyNA(unlist(pairs))) return(pairs)
  abort_nelvat(
    "argument",
    c(
      paste(
        "`between` must be \"all\", \"neighbours\", a level, or a list of pairs such as",
        "`list(c(\"wheat\", \"rye\"))`."
      ),
      x = paste0("Found ", describe_value(between), ".")
    ),
    call
  )
}

#' @export
check_ink.ink_contrasts <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "Contrasts", call)
  lying <- lies(list(x = panel$variables$x, y = panel$variables$y[[1]]))
  on_slots <- if (lying) panel$variables$y[[1]] else panel$variables$x
  along <- if (lying) "y" else "x"
  check_variable_kind(on_slots, along, c("category", "ordinal"), call, "for contrasts")
  measured <- if (lying) list(panel$variables$x) else panel$variables$y
  for (one in measured) {
    check_variable_kind(one, if (lying) "x" else "y", "quantity", call, "for contrasts")
  }
  coloured <- panel$variables$colour
  if (!is.null(coloured)) {
    check_variable_kind(coloured, "colour", c("category", "ordinal"), call, "for contrasts")
  }
  if (!is.null(ink$overall) && !is.null(coloured) && coloured$id != on_slots$id) {
    abort_nelvat(
      "argument",
      c(
        paste0("`overall` tests the categories on ", along, " at once."),
        x = "Here colours are compared within each of them.",
        i = paste0("Leave `overall` out, or colour by the category on ", along, ".")
      ),
      call
    )
  }
}

#' @export
train_ink.ink_contrasts <- function(ink, layer) {
  slots <- slot_groups(layer, share = bar_share)
  on_slots <- if (slots$lying) layer$y else layer$x
  transform <- axis_transform((if (slots$lying) layer$x else layer$y)$transform)
  values <- transform$forward(slots$table$y)
  parted <- parts_slots(layer, slots$table, on_slots)
  kind <- if (parted) layer$colour$kind else on_slots$kind
  groups <- slots$rows
  groups$level <- if (parted) groups$colour else groups$x
  values[!is.finite(values)] <- NA
  sums <- group_sums(values, slots$at, nrow(groups), parts_of(slots$table))
  rows <- lapply(seq_len(nrow(groups)), function(g) which(slots$at == g & !is.na(values)))
  compared <- function(test, of) {
    if (test %in% tests_of_means) return(table_rows(sums, of))
    lapply(rows[of], function(own) values[own])
  }
  families <- split(
    seq_len(nrow(groups)),
    if (parted) paste(groups$panel, groups$x) else groups$panel
  )
  found <- do.call(
    rbind,
    lapply(families, function(of) {
      of <- of[order(groups$level[of])]
      pairs <- wanted_pairs(ink$between, groups$level[of], kind)
      if (!nrow(pairs)) return(NULL)
      whose <- if (ink$test %in% paired_tests) {
        lapply(rows[of], function(own) slots$table$subject[own])
      }
      check_once_each(whose, ink)
      tested <- contrast_table_of(
        compared(ink$test, of),
        pairs,
        ink$test,
        ink$adjust,
        subjects = whose
      )
      tested[c("first", "second")] <- list(of[tested$first], of[tested$second])
      cbind(panel = groups$panel[of[1]], family = of[1], tested)
    })
  )
  overall <- if (!is.null(ink$overall)) {
    do.call(
      rbind,
      lapply(families, function(of) {
        one <- overall_test(compared(ink$overall, of), ink$overall)
        if (!is.null(one)) cbind(panel = groups$panel[of[1]], one)
      })
    )
  }
  # The family of comparisons is a panel's, but where a test adjusts for its own groups together.
  if (!ink$test %in% joint_tests && NROW(found)) {
    found$adjusted <- stats::ave(
      found$p,
      found$panel,
      FUN = function(p) stats::p.adjust(p, ink$adjust)
    )
  }
  untested <- sum(is.na(found$adjusted))
  # Both ends, as either is the upper one where the axis runs the other way; bars end at zero, too.
  ends <- group_ends(sums, transform, ink$over_means)
  zero <- if (isTRUE(ink$over_zero)) 0 else NA
  groups[c("low", "top")] <- list(
    pmin(ends[[1]], zero, na.rm = TRUE),
    pmax(ends[[2]], zero, na.rm = TRUE)
  )
  found <- found[!is.na(found$adjusted), ]
  list(
    table = groups,
    pairs = found,
    findings = contrast_findings(
      found,
      overall,
      groups,
      kind$level_names,
      parted,
      paired = ink$test %in% paired_tests,
      lying = slots$lying
    ),
    overall = overall,
    lying = slots$lying,
    extent = exchange_axes(
      extent_by_panel(groups$panel, x0 = groups$x, y0 = groups$top),
      slots$lying
    ),
    zero = character(),
    used = slots$complete,
    each = exchange_axes(compared_counts(found, groups, ink), slots$lying),
    shows = paste(
      c(
        if (!identical(ink$between, "none")) {
          contrast_words(
            ink,
            found,
            untested,
            transform$name,
            compared_with(ink, kind),
            slots$lying
          )
        },
        if (!is.null(ink$overall)) overall_words(ink, overall, length(families))
      ),
      collapse = "; "
    )
  )
}

# Paired tests take one value of each subject a group.
check_once_each <- function(whose, ink) {
  twice <- Filter(function(codes) anyDuplicated(stats::na.omit(codes)) > 0, whose)
  if (!length(twice)) return(invisible())
  code <- twice[[1]][duplicated(twice[[1]])][1]
  variable <- ink$variables$subject
  name <- if (has_levels(variable$kind)) {
    plain_text(variable$kind$level_names[code])
  } else {
    number_text_each(code)
  }
  abort_nelvat(
    "argument",
    c(
      "A paired test takes one value of each subject a group.",
      x = paste0("\"", variable$id, "\" ", name, " has several in one group."),
      i = "Is it another column that says whose each value is? Else take means first."
    ),
    call = NULL
  )
}

# The errors of the means that stand beside, where these are all that is shown; else NULL.
#' @export
beside_inks.ink_contrasts <- function(ink, others) {
  others <- Filter(function(one) question_of(one) != "nothing", others)
  of_means <- vapply(
    others,
    function(one) question_of(one) == "moments" && !identical(one$centre, "sum"),
    NA
  )
  errors <- lapply(others, function(one) one$error %||% one$band %||% errors_of("mean")[1])
  changed(
    ink,
    over_means = if (length(others) && all(of_means)) unique(unlist(errors)),
    over_zero = any(vapply(others, function(one) isTRUE(ink_traits(one)$on_zero), NA))
  )
}

# Pairs of the groups present, as their numbers.
wanted_pairs <- function(between, levels, kind) {
  n <- length(levels)
  number <- function(names) {
    level_codes <- match(names, kind$levels)
    level_codes <- ifelse(
      is.na(level_codes),
      match(names, plain_text(kind$level_names)),
      level_codes
    )
    if (anyNA(level_codes)) {
      abort_nelvat(
        "level",
        c(
          "`between` names a level that does not exist.",
          x = paste0("Found \"", names[is.na(level_codes)][1], "\"."),
          offer(names[is.na(level_codes)][1], kind$levels, "level")
        ),
        call = NULL
      )
    }
    match(level_codes, levels)
  }
  if (n < 2 || identical(between, "none")) return(matrix(0L, 0, 2))
  if (identical(between, "all")) return(t(utils::combn(n, 2)))
  if (identical(between, "neighbours")) return(cbind(seq_len(n - 1), seq_len(n)[-1]))
  pairs <- if (is.list(between)) {
    do.call(rbind, lapply(between, number))
  } else {
    cbind(number(between), setdiff(seq_len(n), number(between)))
  }
  pairs[stats::complete.cases(pairs), , drop = FALSE]
}

#' @export
question_of.ink_contrasts <- function(ink) {
  if (all(c(ink$test, ink$overall) %in% tests_of_means)) "moments" else "rows"
}

#' @export
ink_traits.ink_contrasts <- function(ink) {
  new_traits(
    summarises = "spread",
    read_off = FALSE,
    computed = FALSE,
    behind = FALSE,
    called = if (ink$test %in% paired_tests) "pair of groups" else "group"
  )
}

#' @export
marks_named.ink_contrasts <- function(ink) {
  if (identical(ink$between, "none")) return("overall test")
  if (identical(ink$show, "letters")) "letters" else "brackets"
}
