# Shares a length out over tracks. A track is a plot area with what stands before
# and after it; decorations take what they need, plot areas share the rest by
# weight, over what millimetres each was promised.
#
# before_mm, after_mm, weight: one a track; gap_mm: between tracks, one or one for each
# gap; start_mm: where the first begins; total_mm: the length for all of them; fixed_mm:
# what each track has before the rest is shared.
# Returns the plot areas' start and length in mm.
solve_tracks <- function(start_mm, total_mm, before_mm, after_mm, weight, gap_mm, fixed_mm = 0) {
  n <- length(weight)
  gaps <- rep_len(gap_mm, max(n - 1, 0))
  rest <- total_mm - sum(before_mm) - sum(after_mm) - sum(gaps) - sum(rep_len(fixed_mm, n))
  length_mm <- fixed_mm + if (sum(weight) > 0) rest * weight / sum(weight) else 0 * weight
  steps <- before_mm + length_mm + after_mm + c(gaps, 0)
  list(start_mm = start_mm + c(0, cumsum(steps)[-n]) + before_mm, length_mm = length_mm)
}

# label: NULL, or what to call the block where the plate has several; share: of the page's length
# that the block has, so that a page that is longer gives it as much more.
check_least_lengths <- function(length_mm, least_mm, along, page_mm, label, share, call) {
  missing <- sum(pmax(0, least_mm - length_mm))
  if (missing <= 1e-6) return(invisible())
  side <- if (along == "width") "wide" else "high"
  abort_nelvat(
    "space",
    along = along,
    missing_mm = missing,
    message = c(
      paste0(
        "The plate is too small for ",
        if (is.null(label)) "its panels" else paste0("the panels of ", label),
        ": ",
        format(round(ceiling(missing * 10) / 10, 1)),
        " mm of ",
        along,
        " are missing."
      ),
      x = paste0(
        "At ",
        format(page_mm),
        " mm, the smallest of ",
        counted(length(length_mm), "panel"),
        " would be ",
        if (min(length_mm) > 0) {
          paste(format(round(min(length_mm), 1)), "mm", side)
        } else {
          "left with nothing"
        },
        "; the least is ",
        format(least_mm),
        " mm."
      ),
      i = paste0(
        if (missing / share < 4 * page_mm) {
          paste0(
            "Make the plate at least ",
            format(ceiling(page_mm + missing / share)),
            " mm ",
            side,
            ", or put"
          )
        } else {
          "Put"
        },
        " fewer panels ",
        if (along == "width") "in a row." else "under each other."
      )
    ),
    call = call
  )
}

grid_tracks <- function(tracks, start_mm, total_mm, before, after, gap_mm) {
  n <- nrow(tracks)
  solve_tracks(
    start_mm,
    total_mm,
    rep_len(before, n),
    rep_len(after, n),
    tracks$share,
    gap_mm,
    tracks$mm
  )
}

region_of <- function(place, columns, rows) {
  list(
    x = columns$start_mm[place$x0],
    w = columns$start_mm[place$x1] + columns$length_mm[place$x1] - columns$start_mm[place$x0],
    y = rows$start_mm[place$y0],
    h = rows$start_mm[place$y1] + rows$length_mm[place$y1] - rows$start_mm[place$y0]
  )
}

track_span <- function(track, at) {
  track$start_mm[max(at)] + track$length_mm[max(at)] - track$start_mm[min(at)]
}
