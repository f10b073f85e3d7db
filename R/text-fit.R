# Fitting the tick text of one axis: all of it gets one treatment, that of least cost of
# those in which no two texts touch. A treatment costs what it takes from reading (the
# table below) and the room it takes from the plot area; a text only ever moves down the
# table, so that layout and fitting together come to an end.

treatment_costs <- c(
  "as is" = 0,
  "two lines" = 1,
  "three lines" = 2,
  "four lines" = 3,
  "thinned" = 4, # numbers and times only
  "more lines" = 5, # up to eight
  "tilted" = 6,
  "tilted in lines" = 7,
  "upright" = 8,
  "upright in lines" = 9,
  "a little smaller" = 9.5, # half way to the least size, in up to four lines
  "smaller" = 10, # at the least size, in up to four lines
  "with leaders" = 11, # names apart from each other, with lines to their ticks
  "a little smaller and upright" = 12,
  "a little smaller and upright in lines" = 12.5,
  "smaller and upright" = 13,
  "smaller and upright in lines" = 14,
  "smaller with leaders" = 15,
  "broken" = 1000 # long words broken, at the least size: where nothing else fits
)
tick_treatments <- names(treatment_costs)

# Cost of each millimetre of depth beyond one line: under a plot area, and beside it, where it
# weighs more the narrower the plot area is.
depth_costs <- c(x = 0.4, y = 0.1)
depth_weights <- c(0.25, 4) # the least and the most

weight_of_depth <- function(direction, depth_most_mm, wide_mm) {
  if (direction == "x") return(1)
  min(max(depth_most_mm / wide_mm, depth_weights[1]), depth_weights[2])
}

# What an axis can be told to do; it takes the cheapest of these.
label_treatments <- list(
  "as is" = "as is",
  wrap = c(
    "as is", "two lines", "three lines", "four lines", "more lines", "a little smaller", "smaller",
    "broken"
  ),
  tilt = c("tilted", "tilted in lines"),
  upright = grep("upright", names(treatment_costs), value = TRUE),
  leaders = c("with leaders", "smaller with leaders")
)
text_clearance_mm <- 0.8 # least room between neighbouring tick texts
tilt_degrees <- 40

# at_mm: positions along the axis; length_mm: of the axis; texts: measured words, one
# a break; may_thin: numbers and times may lose every second text, names never (FALSE); of evenly
# spaced numbers the multiples of their step that they are;
# treatments: those to try, as numbers; type: list(base, least, font, wide_mm), sizes in points, and
# the width of the plot area beside a y axis;
# depth_most_mm: the room across the axis (for a y axis, the widest column of text).
# Returns list(treatment, angle, size_pt, kept: which breaks keep their text, laid:
# set lines of those, depth_mm: room across the axis, reach_before, reach_after: how
# far each text reaches along the axis from its place, moved: how far from there it is set), or NULL
# where nothing fits.
fit_tick_text <- function(
  direction,
  at_mm,
  length_mm,
  texts,
  may_thin,
  treatments,
  type,
  depth_most_mm = 45
) {
  if (!length(texts)) {
    return(
      c(
        list(treatment = treatments[1]),
        tick_fit(0, type$base, integer(), list(), 0, numeric(), numeric())
      )
    )
  }
  # Numbers are led only where that is asked for.
  led <- grepl("leaders", tick_treatments[treatments])
  if (!isFALSE(may_thin) && !all(led)) treatments <- treatments[!led]
  weight <- weight_of_depth(direction, depth_most_mm, type$wide_mm %||% depth_most_mm)
  sizes_pt <- type[c("base", "least")]
  axis <- list(at_mm, length_mm, texts, may_thin, sizes_pt)
  # Axes of the same names and length, such as those of many like panels, are fitted once a figure.
  key <- rlang::hash(list(direction, axis, treatments, weight, depth_most_mm))
  known_of(type$font, paste0("ticks: ", key), function(new) {
    list(list(cheapest_fit(direction, axis, treatments, weight, type$font, depth_most_mm)))
  })[[1]][[1]]
}

# axis: list(at_mm, length_mm, texts, may_thin, sizes_pt), as `fit_tick_text()` has them.
cheapest_fit <- function(direction, axis, treatments, weight, font, depth_most_mm) {
  try_fit <- if (direction == "x") fit_below else fit_beside
  sizes_pt <- axis[[5]]
  least <- list(cost = Inf)
  for (treatment in treatments) {
    if (treatment_costs[[treatment]] >= least$cost) break
    fit <- do.call(try_fit, c(tick_treatments[treatment], axis, list(font, depth_most_mm)))
    if (is.null(fit)) next
    line_mm <- if (direction == "x") text_height_mm(1, sizes_pt$base, font) else 0
    cost <- treatment_costs[[treatment]] +
      weight * depth_costs[[direction]] * max(0, fit$depth_mm - line_mm)
    if (cost < least$cost) least <- list(cost = cost, fit = c(list(treatment = treatment), fit))
  }
  least$fit
}

# The treatments that an axis may have, by number. from: the first to try; labels: what the axis
# was told to do; lost: those that no longer fitted in an earlier round, never tried again.
allowed_treatments <- function(from = 1L, labels = NULL, lost = integer()) {
  allowed <- if (is.null(labels)) tick_treatments else label_treatments[[labels]]
  found <- setdiff(which(tick_treatments %in% allowed & seq_along(tick_treatments) >= from), lost)
  if (length(found)) found else integer()
}

# Tick text below (or above) a horizontal axis.
fit_below <- function(treatment, at_mm, length_mm, texts, may_thin, sizes_pt, font, depth_most_mm) {
  size <- treated_size(treatment, sizes_pt)
  kept <- kept_texts(treatment, at_mm, texts, may_thin, size, font)
  if (is.null(kept)) return(NULL)
  centres_mm <- at_mm[kept]
  if (grepl("leaders", treatment)) {
    return(
      fit_with_leaders(90, centres_mm, length_mm, texts[kept], kept, size, font, depth_most_mm)
    )
  }
  angle <- if (startsWith(treatment, "tilted")) {
    tilt_degrees
  } else if (grepl("upright", treatment)) {
    90
  } else {
    0
  }
  lines <- treated_lines(treatment)
  if (angle == 0) {
    laid <- lay_level(texts[kept], centres_mm, length_mm, size, font, lines, treatment == "broken")
    if (is.null(laid)) return(NULL)
    reach_before <- reach_after <- widest_mm(laid) / 2
    height <- text_height_mm(max(vapply(laid, `[[`, 0L, "n_lines")), size, font)
  } else {
    turn <- angle * pi / 180
    # Turned texts hang from their tick by their end; they clear each other when
    # their parallel lines are a text's height apart.
    apart <- if (length(centres_mm) > 1) min(diff(sort(centres_mm))) * sin(turn) else Inf
    laid <- lay_turned(texts[kept], apart, depth_most_mm / sin(turn), size, font, lines)
    if (is.null(laid)) return(NULL)
    long <- widest_mm(laid)
    thick <- text_height_mm(max(vapply(laid, `[[`, 0L, "n_lines")), size, font)
    reach_before <- long * cos(turn) + thick * sin(turn) / 2
    reach_after <- rep(thick * sin(turn) / 2, length(long))
    height <- max(long * sin(turn) + thick * cos(turn))
    return(tick_fit(angle, size, kept, laid, height, reach_before, reach_after))
  }
  tick_fit(angle, size, kept, laid, height, reach_before, reach_after)
}

treated_size <- function(treatment, sizes_pt) {
  if (startsWith(treatment, "a little smaller")) return((sizes_pt$base + sizes_pt$least) / 2)
  if (treatment == "broken" || startsWith(treatment, "smaller")) sizes_pt$least else sizes_pt$base
}

treated_lines <- function(treatment) {
  if (grepl("in lines", treatment)) return(3L)
  switch(
    treatment,
    `two lines` = 2L,
    `three lines` = 3L,
    `four lines` =,
    `a little smaller` =,
    smaller =,
    broken = 4L,
    `more lines` = 8L,
    1L
  )
}

# Turned text: where it may have lines, as many as there is room for, so that it reaches least far
# down.
lay_turned <- function(texts, apart_mm, most_mm, size, font, lines) {
  for (n in lines:1) {
    if (text_height_mm(n, size, font) > apart_mm) next
    laid <- narrowest_lines(texts, most_mm, size, font, n)
    if (!is.null(laid)) return(laid)
  }
  NULL
}

# Texts in up to `n` lines of the least length that takes all of them, to half a millimetre.
narrowest_lines <- function(texts, most_mm, size, font, n) {
  set <- function(room) lapply(texts, set_lines, size, font, room, n)
  fit <- function(laid) all(vapply(laid, `[[`, NA, "fits"))
  least <- set(most_mm)
  if (!fit(least)) return(NULL)
  if (n == 1L) return(least)
  widest <- min(most_mm, max(widest_mm(least)))
  ends <- c(0, widest)
  while (diff(ends) > 0.5) {
    room <- mean(ends)
    ends[1 + all_fit(texts, size, room, n)] <- room
  }
  if (ends[2] == widest) return(least)
  laid <- set(ends[2])
  if (fit(laid)) laid else least
}

# Whether each text has room in `n` lines of so many mm, before any is set in them.
all_fit <- function(texts, size, room_mm, n) {
  room <- room_mm / (size * mm_per_pt)
  for (text in texts) if (lines_filled(text, room) > n) return(FALSE)
  TRUE
}

# Level text in up to `lines` lines. Each text is first given its own slot; a long
# one beside short ones may then reach over, up to `most_reach` slots, or what its longest word
# takes.
lay_level <- function(texts, at, length_mm, size, font, lines, break_words) {
  slot <- if (length(at) > 1) min(diff(sort(at))) else length_mm
  rooms <- if (lines == 1L) {
    Inf
  } else {
    pmax(slot * c(1, 1.15, 1.3, 1.5, most_reach) - text_clearance_mm, 1)
  }
  wordy <- if (lines > 1L && !break_words) {
    longest_words(texts) * size * mm_per_pt
  } else {
    rep(0, length(texts))
  }
  for (room in rooms) {
    room_each <- pmax(room, ifelse(wordy <= slot * most_reach, wordy + 1e-6, 0))
    if (lines > 1L && !break_words && !all_fit(texts, size, max(room_each), lines)) next
    laid <- Map(
      function(text, most) set_lines(text, size, font, most, lines, break_words),
      texts,
      room_each
    )
    if (lines > 1 && !all(vapply(laid, `[[`, NA, "fits"))) next
    half <- widest_mm(laid) / 2
    if (!texts_touch(at, half, half)) return(laid)
  }
  NULL
}

most_reach <- 1.75

# The width of the longest stretch of each text that no line may part, in type sizes.
longest_words <- function(texts) {
  vapply(
    texts,
    function(text) {
      if (!is.null(text$parts)) return(max(longest_words(text$parts)))
      max(0, text$unit_width)
    },
    0
  )
}

widest_mm <- function(laid) vapply(laid, function(one) max(one$widths_mm), 0)

# Tick text beside a vertical axis: lines run across, so they are thinned, wrapped
# or made smaller, never turned.
fit_beside <- function(
  treatment,
  at_mm,
  length_mm,
  texts,
  may_thin,
  sizes_pt,
  font,
  depth_most_mm
) {
  if (grepl("tilted|upright", treatment)) return(NULL)
  size <- treated_size(treatment, sizes_pt)
  kept <- kept_texts(treatment, at_mm, texts, may_thin, size, font)
  if (is.null(kept)) return(NULL)
  if (grepl("leaders", treatment)) {
    return(
      fit_with_leaders(0, at_mm[kept], length_mm, texts[kept], kept, size, font, depth_most_mm)
    )
  }
  # Where lone lines touch, more of them do.
  lone <- rep(text_height_mm(1, size, font) / 2, length(kept))
  if (texts_touch(at_mm[kept], lone, lone, clearance = 0)) return(NULL)
  lines <- treated_lines(treatment)
  laid <- if (treatment == "broken") {
    lapply(texts[kept], set_lines, size, font, depth_most_mm, lines, TRUE)
  } else {
    narrowest_lines(texts[kept], depth_most_mm, size, font, lines)
  }
  if (is.null(laid) || !all(vapply(laid, `[[`, NA, "fits"))) return(NULL)
  reach <- vapply(laid, function(one) text_height_mm(one$n_lines, size, font), 0) / 2
  if (texts_touch(at_mm[kept], reach, reach, clearance = 0)) return(NULL)
  depth <- max(0, widest_mm(laid))
  tick_fit(0, size, kept, laid, depth, reach, reach)
}

# Which texts a treatment keeps; only "thinned" drops any, and only where it may: every second,
# third ..., so that of numbers those stay that are multiples of two, three ... steps, of times the
# first.
kept_texts <- function(treatment, at_mm, texts, may_thin, size, font) {
  all_kept <- seq_along(texts)
  if (treatment != "thinned") return(all_kept)
  if (isFALSE(may_thin) || length(texts) < 4) return(NULL)
  width <- widest_mm(lapply(texts, set_lines, size, font))
  for (step in 2:ceiling(length(texts) / 2)) {
    kept <- if (is.logical(may_thin)) {
      all_kept[seq(1, length(texts), by = step)]
    } else {
      which(may_thin %% step == 0)
    }
    if (length(kept) < 2) next
    if (!texts_touch(at_mm[kept], width[kept] / 2, width[kept] / 2)) return(kept)
  }
  NULL
}

texts_touch <- function(at, reach_before, reach_after, clearance = text_clearance_mm) {
  if (length(at) < 2) return(FALSE)
  order <- order(at)
  n <- length(at)
  any(diff(at[order]) < reach_after[order][-n] + reach_before[order][-1] + clearance - 1e-9)
}

tick_fit <- function(angle, size, kept, laid, depth_mm, reach_before, reach_after) {
  list(
    angle = angle,
    size_pt = size,
    kept = kept,
    laid = laid,
    depth_mm = depth_mm,
    reach_before = reach_before,
    reach_after = reach_after,
    moved = rep(0, length(kept))
  )
}

# How far the tick text of an axis of `length_mm` reaches beyond its two ends.
tick_overhang <- function(fit, length_mm) {
  centres_mm <- fit$unit[fit$kept] * length_mm
  c(
    before = max(0, fit$reach_before - centres_mm),
    after = max(0, centres_mm + fit$reach_after - length_mm)
  )
}
