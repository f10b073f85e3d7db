# Brackets, letters and overall tests on the page (see ink-contrasts.R).

#' @export
place_ink.ink_contrasts <- function(ink, trained, site) {
  groups <- placed_groups(trained, site)
  needs <- head_needs(ink, trained, site)
  lying <- trained$lying
  if (any(needs$missing_mm > 0.1, na.rm = TRUE)) {
    abort_no_head(max(needs$missing_mm), NROW(trained$pairs), lying)
  }
  # Beside lying groups is no place that is free of them.
  above <- if (!is.null(trained$overall) && !lying) {
    list(overall_marks(ink, trained$overall, site))
  }
  if (ink$show == "letters") {
    return(c(list(letter_words(groups, trained$pairs, site, lying)), above))
  }
  pairs <- trained$pairs
  if (is.null(pairs) || !nrow(pairs)) return(above %||% list())
  each <- lapply(split(pairs, pairs$panel), function(own) {
    placed_brackets(groups, own, ink, site, lying)
  })
  brackets <- do.call(rbind, each)
  n <- nrow(brackets)
  high <- away_mm(site, brackets$panel, lying)
  colour <- site$house$colour$axis
  y <- brackets$y_mm / high
  leg <- (brackets$y_mm - leg_mm) / high
  c(
    above,
    list(
      new_marks(
        "segments",
        exchange_axes(
          new_table(
            panel = rep(brackets$panel, 3),
            x0 = c(brackets$x0, brackets$x0, brackets$x1),
            x1 = c(brackets$x1, brackets$x0, brackets$x1),
            y0 = c(y, leg, leg),
            y1 = c(y, y, y),
            colour = colour,
            weight_pt = site$house$weight_pt$axis,
            .rows = 3 * n
          ),
          lying
        )
      ),
      c(
        away_words(
          data.frame(
            panel = brackets$panel,
            middle = (brackets$x0 + brackets$x1) / 2,
            away = y,
            string = brackets$string
          ),
          site$house$type_pt$least,
          0.2,
          site,
          lying,
          turned = lying
        ),
        list(role = "value")
      )
    )
  )
}

leg_mm <- 0.9
bracket_gap_mm <- 1.1

# How long panels are in the direction that brackets and letters stand off their groups.
away_mm <- function(site, panel, lying) if (lying) site$panel_w(panel) else site$panel_h(panel)

# Texts over their groups, or to the right of lying ones; turned: reading upwards.
away_words <- function(texts, size_pt, gap_mm, site, lying, turned = FALSE) {
  new_marks(
    "words",
    new_table(
      panel = texts$panel,
      x = if (lying) texts$away else texts$middle,
      y = if (lying) texts$middle else texts$away,
      string = texts$string,
      size_pt = size_pt,
      across = if (lying && !turned) 0 else 0.5,
      down = if (turned) 0 else if (lying) 0.5 else 1,
      angle = if (turned) 90 else 0,
      colour = site$house$colour$text,
      dx_mm = if (lying) gap_mm else 0,
      dy_mm = if (lying) 0 else gap_mm,
      most_mm = 60,
      .rows = nrow(texts)
    )
  )
}

# Where the brackets of one panel stand: above all marks of their span and the brackets within it.
placed_brackets <- function(groups, pairs, ink, site, lying) {
  one_panel <- pairs$panel[1]
  panel_groups <- groups[groups$panel == one_panel, ]
  x0 <- pmin(groups$middle[pairs$first], groups$middle[pairs$second])
  x1 <- pmax(groups$middle[pairs$first], groups$middle[pairs$second])
  string <- switch(
    ink$show,
    stars = star_text(pairs$adjusted),
    difference = difference_text(
      pairs,
      (groups$middle[pairs$second] < groups$middle[pairs$first]) != lying
    ),
    sub("^p", "*p*", p_words(pairs$adjusted))
  )
  size <- site$house$type_pt$least
  text_mm <- site$text_mm(gsub("*", "", string, fixed = TRUE), size)
  wide <- text_mm$width / if (lying) site$panel_h(one_panel) else site$panel_w(one_panel)
  left <- pmin(x0, (x0 + x1 - wide) / 2) - 0.003
  right <- pmax(x1, (x0 + x1 + wide) / 2) + 0.003
  y_mm <- rep(NA_real_, nrow(pairs))
  for (k in order(x1 - x0, x0)) {
    under <- panel_groups$top_mm[
      panel_groups$middle >= x0[k] - 1e-9 & panel_groups$middle <= x1[k] + 1e-9
    ]
    over <- which(!is.na(y_mm) & left < right[k] & right > left[k])
    y_mm[k] <- max(under, y_mm[over] + text_mm$height) + bracket_gap_mm + leg_mm
  }
  data.frame(
    panel = one_panel,
    x0 = x0,
    x1 = x1,
    y_mm = y_mm,
    string = string,
    end_mm = y_mm + text_mm$height + 0.3
  )
}

# Millimetres that brackets or letters lack above the marks of each panel, less than 0 where there
# are more than they need; and how high the marks reach.
#' @export
head_needs.ink_contrasts <- function(ink, trained, site) {
  groups <- placed_groups(trained, site)
  ends <- if (!is.null(trained$overall)) {
    data.frame(panel = groups$panel, end_mm = groups$top_mm + bracket_gap_mm)
  }
  ends <- rbind(
    ends,
    if (ink$show == "letters") {
      data.frame(
        panel = groups$panel,
        end_mm = groups$top_mm + bracket_gap_mm + letters_mm(groups, trained, site)
      )
    } else {
      if (NROW(trained$pairs)) {
        do.call(
          rbind,
          lapply(split(trained$pairs, trained$pairs$panel), function(own) {
            placed_brackets(groups, own, ink, site, trained$lying)[c("panel", "end_mm")]
          })
        )
      }
    }
  )
  if (!NROW(ends)) return(NULL)
  if (!is.null(trained$overall) && !trained$lying) {
    texts <- overall_texts(ink, trained$overall, site)
    ends$end_mm <- ends$end_mm + c(texts$high_mm, 0)[
      match(ends$panel, texts$panel, nomatch = nrow(texts) + 1)
    ]
  }
  end_mm <- tapply(ends$end_mm, ends$panel, max)
  id <- as.integer(names(end_mm))
  top_mm <- tapply(groups$top_mm, groups$panel, max)[names(end_mm)]
  data.frame(
    panel = id,
    missing_mm = as.numeric(end_mm) - away_mm(site, id, trained$lying),
    top_mm = as.numeric(top_mm),
    direction = if (trained$lying) "x" else "y"
  )
}

# What letters take beyond their groups.
letters_mm <- function(groups, trained, site) {
  size <- site$house$type_pt$base
  if (!trained$lying) return(site$text_mm("a", size)$height)
  strings <- group_letters(groups, trained$pairs, TRUE)
  wide <- site$text_mm(ifelse(is.na(strings), "a", strings), size)$width
  max(wide) + beside_mm
}
# A symbol reaches over its place to the side that is read from.
beside_mm <- 0.6

placed_groups <- function(trained, site) {
  groups <- trained$table
  lying <- trained$lying
  ends <- drawn_ends(groups, lying, site)
  groups$middle <- (ends$x0 + ends$x1) / 2
  unit_at <- lying_unit(site, lying, groups$panel)
  upper <- pmax(unit_at(groups$low, "y"), unit_at(groups$top, "y"))
  groups$top_mm <- upper * away_mm(site, groups$panel, lying)
  groups
}

abort_no_head <- function(missing_mm, n, lying = FALSE) {
  abort_nelvat(
    "labels",
    c(
      paste0("The brackets of ", counted(n, "comparison"), " have no room in their panel."),
      x = paste0(
        format(round(missing_mm, 1)),
        " mm of ",
        if (lying) "width" else "height",
        " are missing."
      ),
      i = paste0(
        "Make the plate ",
        if (lying) "wider" else "higher",
        ", compare fewer (`between`), show \"letters\", or leave the axis ",
        "its own `range`."
      )
    ),
    call = NULL
  )
}

# The letters of each group, "" for none shared; NA for groups that nothing compares.
group_letters <- function(groups, pairs, lying) {
  # The first letter is at the left, or at the top.
  if (lying) groups$middle <- -groups$middle
  if (is.null(pairs)) pairs <- data.frame(family = integer())
  groups$string <- rep(NA_character_, nrow(groups))
  for (of in split(seq_len(nrow(pairs)), pairs$family)) {
    family_pairs <- pairs[of, ]
    compared_groups <- sort(unique(c(family_pairs$first, family_pairs$second)))
    compared_groups <- compared_groups[order(groups$middle[compared_groups])]
    groups$string[compared_groups] <- shared_letters(
      length(compared_groups),
      cbind(
        match(family_pairs$first, compared_groups),
        match(family_pairs$second, compared_groups)
      ),
      family_pairs$adjusted < 0.05
    )
  }
  groups$string
}

letter_words <- function(groups, pairs, site, lying) {
  groups$string <- group_letters(groups, pairs, lying)
  groups$away <- (groups$top_mm + bracket_gap_mm) / away_mm(site, groups$panel, lying)
  shown <- groups[!is.na(groups$string), ]
  gap_mm <- if (lying) beside_mm else 0
  c(away_words(shown, site$house$type_pt$base, gap_mm, site, lying), list(role = "value"))
}

# The right group less the left one, or the lower one less the upper, whichever was named first.
difference_text <- function(pairs, turned) {
  with_interval(
    ifelse(turned, -pairs$difference, pairs$difference),
    ifelse(turned, -pairs$high, pairs$low),
    ifelse(turned, -pairs$low, pairs$high),
    interval_digits(pairs$low, pairs$high)
  )
}

star_text <- function(p) {
  as.character(
    cut(p, c(-Inf, 0.001, 0.01, 0.05, Inf), c("\\*\\*\\*", "\\*\\*", "\\*", "ns"), right = FALSE)
  )
}

# "ANOVA: F(3, 136) = 45.2, p < 0.001", at the top of each panel, above its brackets; in two lines
# where one is too wide. Returns panel, string and the height it takes.
overall_texts <- function(ink, overall, site) {
  symbol <- ifelse(
    is.na(overall$df),
    paste0("*H*(", overall$df_groups, ")"),
    paste0("*F*(", overall$df_groups, ", ", vapply(overall$df, number_text_each, "", 3), ")")
  )
  name <- c(anova = "ANOVA:", `welch anova` = "Welch's ANOVA:", kruskal = "Kruskal\u2013Wallis:")[[
    ink$overall
  ]]
  said <- paste0(
    symbol,
    " = ",
    vapply(overall$statistic, number_text_each, "", 3),
    ", ",
    sub("^p", "*p*", p_words(overall$p))
  )
  size <- site$house$type_pt$least
  one <- site$text_mm(paste(name, said), size)
  lines <- ifelse(one$width > site$panel_w(overall$panel) - 1, 2, 1)
  data.frame(
    panel = overall$panel,
    string = paste0(name, ifelse(lines == 2, "\n", " "), said),
    high_mm = one$height + (lines - 1) * size * leading * mm_per_pt + 0.6
  )
}

overall_marks <- function(ink, overall, site) {
  texts <- overall_texts(ink, overall, site)
  c(
    new_marks(
      "words",
      new_table(
        panel = texts$panel,
        x = 0,
        y = 1,
        string = texts$string,
        size_pt = site$house$type_pt$least,
        across = 0,
        down = 0,
        colour = site$house$colour$text,
        dx_mm = 0.6,
        dy_mm = -0.3,
        most_mm = site$panel_w(texts$panel),
        .rows = nrow(texts)
      )
    ),
    list(role = "value")
  )
}
