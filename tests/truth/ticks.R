# What is read off: each tick text against the place of the value that it names, in every panel that
# relies on it.

tick_slack_mm <- 0.01

# A number as it is written on an axis; NA for other text.
number_named <- function(text) {
  plain <- gsub("[\u00a0\u202f\u2009 ,]", "", gsub("\u2212", "-", text))
  power <- regmatches(plain, regexec("^(?:([0-9.]+)\u00d7)?10\\^(-?[0-9]+)\\^$", plain))[[1]]
  if (length(power)) {
    factor <- if (nzchar(power[2])) as.numeric(power[2]) else 1
    return(factor * 10^as.numeric(power[3]))
  }
  suppressWarnings(as.numeric(plain))
}

# The string of a text with what is set small after it as its power.
raised <- function(scene, text) {
  runs <- scene$runs[scene$runs$text == text$id, ]
  small <- runs$size_pt < text$size_pt - 0.01
  paste(ifelse(small, paste0("^", runs$string, "^"), runs$string), collapse = "")
}

# Where a value stands along an area's axis, in mm of the page.
place_of_value <- function(area, axis, direction, value) {
  forward <- switch(
    axis$transform,
    identity = identity,
    log10 = log10,
    log2 = log2,
    ln = log,
    sqrt = sqrt,
    function(value) NA_real_
  )
  share <- (forward(value) - axis$range[1]) / diff(axis$range)
  if (direction == "x") area$x + share * area$w else area$y + (1 - share) * area$h
}

# The area whose tick text is read for one of a direction: its own, else the nearest below it (or
# left of it) that has some.
bearer_of <- function(area, areas, bears, direction) {
  if (bears[match(area$id, areas$id)]) return(area)
  middle <- if (direction == "x") area$x + area$w / 2 else area$y + area$h / 2
  from <- if (direction == "x") areas$x else areas$y
  long <- if (direction == "x") areas$w else areas$h
  off <- if (direction == "x") areas$y - area$y else area$x - areas$x
  likely <- which(bears & off > 0.01 & from < middle & from + long > middle)
  if (length(likely)) areas[likely[which.min(off[likely])], ]
}

judge_ticks <- function(verdict, scene) {
  texts <- scene$texts[scene$texts$role == "tick", ]
  areas <- scene$panels[scene$panels$role %in% c("panel", "zoom", "inset"), ]
  for (direction in c("x", "y")) {
    middle <- if (direction == "x") (texts$x0 + texts$x1) / 2 else (texts$y0 + texts$y1) / 2
    of_direction <- function(id, level = TRUE) {
      area <- areas[areas$id == id, ]
      which(
        texts$panel == id & (!level | abs(texts$angle) < 1) &
          if (direction == "x") texts$y0 > area$y + area$h else texts$x1 < area$x
      )
    }
    # What is tilted is not read, but it is there.
    bears <- vapply(areas$id, function(id) length(of_direction(id, FALSE)) > 0, NA)
    for (i in seq_len(nrow(areas))) {
      area <- areas[i, ]
      axis <- scene$axes[[area[[paste0(direction, "_axis")]]]]
      if (
        !length(axis$text) || axis$hidden || axis$slots || !is.null(axis$moment) ||
          is.na(area[[paste0(direction, "_shown")]])
      ) {
        next
      }
      bearer <- bearer_of(area, areas, bears, direction)
      if (is.null(bearer)) next
      for (row in of_direction(bearer$id)) {
        value <- number_named(raised(scene, texts[row, ]))
        wanted <- place_of_value(area, axis, direction, value)
        if (is.na(wanted)) next
        holds(
          verdict,
          abs(middle[row] - wanted) <= tick_slack_mm,
          direction,
          " axis of panel ",
          area$id,
          ": ",
          texts$string[row],
          " stands ",
          round(middle[row] - wanted, 3),
          " mm off"
        )
      }
    }
  }
}
