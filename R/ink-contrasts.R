#' Comparisons of groups
#'
#' Brackets over the groups of a category that are compared, with the p of their test, its stars, or letters
#' that groups share which do not differ. Where colours stand side by side, the colours within each category
#' are compared.
#'
#' @param between Which groups: `"all"` pairs, `"neighbours"`, one level, against which all others are held, or
#'   a list of pairs of levels, such as `list(c("wheat", "rye"))`.
#' @param test `"welch"` or `"student"`, t tests with unequal or equal variances; `"rank sum"`, Wilcoxon's; or
#'   `"tukey"`, Tukey's honest significant differences, whose p are adjusted for all pairs already.
#' @param adjust How p is adjusted for the number of comparisons of a panel: a method of [stats::p.adjust()].
#' @param show `"p"`, `"stars"`, or `"letters"`: groups that share one do not differ at 0.05.
#' @param colour A category for this ink alone, whose levels are compared within each category.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return An ink, for [panel()]. Its numbers are in [contrast_table()].
#' @details Tests are two-sided and those of R: [stats::t.test()], [stats::wilcox.test()] (exact for fewer than
#'   50 values without ties), [stats::TukeyHSD()]; letters after Piepho (2004), Journal of Computational and
#'   Graphical Statistics 13(2). Values are compared as the axis shows them: on a logarithmic axis their
#'   logarithms. All rows count as independent: repeated measures of one subject need a test of their own.
#'   Stars hide how large a difference is and how sure; p, or the interval in [contrast_table()], says more.
#' @section Errors: `nelvat_error_argument` for an argument of another sort, `nelvat_error_level` for a level that does
#' not exist, `nelvat_error_kind` where the panel has no category on x and quantity on y, `nelvat_error_labels` where
#' the brackets have no room.
#' @examples
#' plate(
#'   panel(study("loaves"), x = hydration, y = rise, keep = flour == "rye", ink_box(), ink_contrasts()),
#'   width = 80, height = 70
#' )
#' @export
ink_contrasts <- function(between = "all", test = "welch", adjust = "holm", show = "p", colour = NULL, ...) {
  check_rest(...)
  ink <- new_ink(
    "contrasts", between = check_between(between), test = check_choice(test, names(contrast_tests), "test"),
    adjust = check_choice(adjust, stats::p.adjust.methods, "adjust"),
    show = check_choice(show, c("p", "stars", "letters"), "show")
  )
  if (show == "letters" && !identical(ink$between, "all")) {
    abort_nelvat("argument", c(
      "Letters tell of all pairs.", x = "`between` names only some.", i = "Leave `between` out, or show \"p\"."
    ))
  }
  with_channels(ink, colour = rlang::enquo(colour))
}

check_between <- function(between, call = rlang::caller_env()) {
  if (rlang::is_string(between)) return(between)
  pairs <- if (is.list(between)) lapply(between, function(pair) as.character(unlist(pair)))
  if (length(pairs) && all(lengths(pairs) == 2) && !anyNA(unlist(pairs))) return(pairs)
  abort_nelvat("argument", c(
    paste(
      "`between` must be \"all\", \"neighbours\", a level, or a list of pairs such as",
      "`list(c(\"wheat\", \"rye\"))`."
    ),
    x = paste0("Found ", describe_value(between), ".")
  ), call)
}

#' @export
check_ink.ink_contrasts <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "Contrasts", call)
  check_variable_kind(panel$variables$x, "x", c("category", "ordinal"), call, "for contrasts")
  for (y in panel$variables$y) check_variable_kind(y, "y", "quantity", call, "for contrasts")
}

#' @export
train_ink.ink_contrasts <- function(ink, layer) {
  slots <- slot_groups(layer, share = bar_share)
  transform <- axis_transform(layer$y$transform)
  values <- transform$forward(slots$table$y)
  parted <- !is.null(layer$colour) && layer$colour$id != layer$x$id
  kind <- if (parted) layer$colour$kind else layer$x$kind
  groups <- slots$rows
  groups$level <- if (parted) groups$colour else groups$x
  families <- split(seq_len(nrow(groups)), if (parted) paste(groups$panel, groups$x) else groups$panel)
  found <- do.call(rbind, lapply(families, function(of) {
    of <- of[order(groups$level[of])]
    pairs <- wanted_pairs(ink$between, groups$level[of], kind)
    if (!nrow(pairs)) return(NULL)
    held <- lapply(of, function(g) finite_values(values[which(slots$at == g)]))
    tested <- contrast_table_of(held, pairs, ink$test, ink$adjust)
    tested[c("first", "second")] <- list(of[tested$first], of[tested$second])
    cbind(panel = groups$panel[of[1]], family = of[1], tested)
  }))
  untested <- sum(is.na(found$adjusted))
  # Both ends, as either is the upper one where the axis runs the other way.
  groups[c("low", "top")] <- group_ends(values, slots$at, nrow(groups), transform)
  found <- found[!is.na(found$adjusted), ]
  list(
    table = groups, pairs = found, levels = kind$level_names[groups$level],
    within = if (parted) layer$x$kind$level_names[groups$x],
    extent = extent_by_panel(groups$panel, x0 = groups$x, y0 = groups$top), zero = character(),
    used = slots$complete, shows = contrast_words(ink, found, untested, layer$y$transform)
  )
}

# How far the marks of each group reach: all its values, and its mean with its standard deviation.
group_ends <- function(values, group, n, transform) {
  ends <- vapply(seq_len(n), function(g) {
    v <- finite_values(values[which(group == g)])
    reach <- mean(v) + c(-1, 1) * if (length(v) > 1) stats::sd(v) else 0
    range(v, reach[is.finite(reach)])
  }, numeric(2))
  list(transform$backward(ends[1, ]), transform$backward(ends[2, ]))
}

# Pairs of the groups present, as their numbers.
wanted_pairs <- function(between, levels, kind) {
  n <- length(levels)
  number <- function(names) {
    spot <- match(names, kind$levels)
    spot <- ifelse(is.na(spot), match(names, plain_text(kind$level_names)), spot)
    if (anyNA(spot)) {
      abort_nelvat("level", c(
        "`between` names a level that does not exist.", x = paste0("Found \"", names[is.na(spot)][1], "\"."),
        offer(names[is.na(spot)][1], kind$levels, "level")
      ), call = NULL)
    }
    match(spot, levels)
  }
  if (n < 2) return(matrix(0L, 0, 2))
  if (identical(between, "all")) return(t(utils::combn(n, 2)))
  if (identical(between, "neighbours")) return(cbind(seq_len(n - 1), seq_len(n)[-1]))
  pairs <- if (is.list(between)) do.call(rbind, lapply(between, number)) else {
    cbind(number(between), setdiff(seq_len(n), number(between)))
  }
  pairs[stats::complete.cases(pairs), , drop = FALSE]
}

#' @export
place_ink.ink_contrasts <- function(ink, trained, place) {
  groups <- placed_groups(trained, place)
  needs <- head_needs(ink, trained, place)
  if (any(needs$missing_mm > 0.1, na.rm = TRUE)) abort_no_head(max(needs$missing_mm), NROW(trained$pairs))
  if (ink$show == "letters") return(list(letter_words(groups, trained$pairs, place)))
  pairs <- trained$pairs
  if (is.null(pairs) || !nrow(pairs)) return(list())
  each <- lapply(split(pairs, pairs$panel), function(own) placed_brackets(groups, own, ink, place))
  brackets <- do.call(rbind, each)
  n <- nrow(brackets)
  high <- place$panel_h(brackets$panel)
  colour <- place$house$colour$axis
  y <- brackets$y_mm / high
  leg <- (brackets$y_mm - leg_mm) / high
  list(
    new_marks("segments", new_table(
      panel = rep(brackets$panel, 3), x0 = c(brackets$x0, brackets$x0, brackets$x1),
      x1 = c(brackets$x1, brackets$x0, brackets$x1), y0 = c(y, leg, leg), y1 = c(y, y, y), colour = colour,
      weight_pt = place$house$weight_pt$axis, .rows = 3 * n
    )),
    c(new_marks("words", new_table(
      panel = brackets$panel, x = (brackets$x0 + brackets$x1) / 2, y = y, string = brackets$string,
      size_pt = place$house$type_pt$least, across = 0.5, down = 1, colour = place$house$colour$text, dy_mm = 0.2,
      most_mm = 60, .rows = n
    )), list(role = "value"))
  )
}

leg_mm <- 0.9
bracket_gap_mm <- 1.1

# Where the brackets of one panel stand: above all marks of their span and the brackets within it.
placed_brackets <- function(groups, pairs, ink, place) {
  one_panel <- pairs$panel[1]
  own <- groups[groups$panel == one_panel, ]
  x0 <- pmin(groups$middle[pairs$first], groups$middle[pairs$second])
  x1 <- pmax(groups$middle[pairs$first], groups$middle[pairs$second])
  string <- if (ink$show == "stars") star_text(pairs$adjusted) else {
    sub("^p", "*p*", p_words(pairs$adjusted))
  }
  size <- place$house$type_pt$least
  text_mm <- place$text_mm(gsub("*", "", string, fixed = TRUE), size)
  wide <- text_mm$width / place$panel_w(one_panel)
  left <- pmin(x0, (x0 + x1 - wide) / 2) - 0.003
  right <- pmax(x1, (x0 + x1 + wide) / 2) + 0.003
  y_mm <- rep(NA_real_, nrow(pairs))
  for (k in order(x1 - x0, x0)) {
    under <- own$top_mm[own$middle >= x0[k] - 1e-9 & own$middle <= x1[k] + 1e-9]
    over <- which(!is.na(y_mm) & left < right[k] & right > left[k])
    y_mm[k] <- max(under, y_mm[over] + text_mm$height) + bracket_gap_mm + leg_mm
  }
  data.frame(
    panel = one_panel, x0 = x0, x1 = x1, y_mm = y_mm, string = string, end_mm = y_mm + text_mm$height + 0.3
  )
}

# Millimetres that brackets or letters lack above the marks of each panel, less than 0 where there are more
# than they need; and how high the marks reach.
#' @export
head_needs.ink_contrasts <- function(ink, trained, place) {
  groups <- placed_groups(trained, place)
  ends <- if (ink$show == "letters") {
    data.frame(
      panel = groups$panel,
      end_mm = groups$top_mm + bracket_gap_mm + place$text_mm("a", place$house$type_pt$base)$height
    )
  } else {
    if (!NROW(trained$pairs)) return(NULL)
    do.call(rbind, lapply(split(trained$pairs, trained$pairs$panel), function(own) {
      placed_brackets(groups, own, ink, place)[c("panel", "end_mm")]
    }))
  }
  end_mm <- tapply(ends$end_mm, ends$panel, max)
  id <- as.integer(names(end_mm))
  top_mm <- tapply(groups$top_mm, groups$panel, max)[names(end_mm)]
  data.frame(panel = id, missing_mm = as.numeric(end_mm) - place$panel_h(id), top_mm = as.numeric(top_mm))
}

placed_groups <- function(trained, place) {
  groups <- trained$table
  groups$middle <- place$unit((groups$x0 + groups$x1) / 2, groups$panel, "x")
  upper <- pmax(place$unit(groups$low, groups$panel, "y"), place$unit(groups$top, groups$panel, "y"))
  groups$top_mm <- upper * place$panel_h(groups$panel)
  groups
}

abort_no_head <- function(missing_mm, n) {
  abort_nelvat("labels", c(
    paste0("The brackets of ", counted(n, "comparison"), " have no room in their panel."),
    x = paste0(format(round(missing_mm, 1)), " mm of height are missing."),
    i = "Make the plate higher, compare fewer (`between`), show \"letters\", or leave the axis its own `range`."
  ), call = NULL)
}

letter_words <- function(groups, pairs, place) {
  if (is.null(pairs)) pairs <- data.frame(family = integer())
  groups$string <- NA_character_
  for (of in split(seq_len(nrow(pairs)), pairs$family)) {
    own <- pairs[of, ]
    held <- sort(unique(c(own$first, own$second)))
    held <- held[order(groups$middle[held])]
    groups$string[held] <- shared_letters(
      length(held), cbind(match(own$first, held), match(own$second, held)), own$adjusted < 0.05
    )
  }
  shown <- groups[!is.na(groups$string), ]
  c(new_marks("words", new_table(
    panel = shown$panel, x = shown$middle, y = (shown$top_mm + bracket_gap_mm) / place$panel_h(shown$panel),
    string = shown$string, size_pt = place$house$type_pt$base, across = 0.5, down = 1,
    colour = place$house$colour$text, most_mm = 30, .rows = nrow(shown)
  )), list(role = "value"))
}

star_text <- function(p) {
  as.character(cut(p, c(-Inf, 0.001, 0.01, 0.05, Inf), c("\\*\\*\\*", "\\*\\*", "\\*", "ns"), right = FALSE))
}

# "Welch's t tests, two-sided, p adjusted by Holm's method for 6 comparisons".
contrast_words <- function(ink, pairs, untested, transform) {
  by <- c(
    holm = "by Holm's method", hochberg = "by Hochberg's method", hommel = "by Hommel's method",
    bonferroni = "by Bonferroni's method", BH = "by the method of Benjamini and Hochberg",
    BY = "by the method of Benjamini and Yekutieli", fdr = "by the method of Benjamini and Hochberg"
  )
  each <- if (NROW(pairs)) table(pairs$family) else 0
  compared <- paste0(count_range(as.integer(each)), if (max(each) == 1) " comparison" else " comparisons")
  paste0(
    contrast_tests[[ink$test]], ", two-sided, ",
    if (ink$test == "tukey") "p adjusted for all pairs" else if (ink$adjust == "none" || max(each) < 2) {
      "p not adjusted"
    } else paste("p adjusted", by[[ink$adjust]]),
    " (", compared, if (length(each) > 1) " each", ")",
    if (transform != "identity") ", of the values as the axis shows them",
    if (ink$show == "stars") "; * p < 0.05, ** p < 0.01, *** p < 0.001, ns p \u2265 0.05",
    if (ink$show == "letters") "; groups that share a letter do not differ at 0.05",
    if (untested > 0) paste0("; ", counted(untested, "pair"), " of too few or equal values not tested")
  )
}

#' @export
ink_traits.ink_contrasts <- function(ink) {
  new_traits(summarises = "spread", read_off = FALSE, computed = FALSE, behind = FALSE, called = "group")
}
