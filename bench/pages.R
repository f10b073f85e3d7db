# How pages come out: the measures of layout over all examples, the paper's figures and 300 random
# figures. No times, so that it may run beside other work: Rscript bench/pages.R

suppressMessages(library(nelvat))
source("tools/all-scenes.R")
every <- all_scenes()
drawn <- Filter(Negate(is.character), every)
random <- startsWith(names(drawn), "random")

# Between an axis's name and the tick text nearest to it, in mm; NA where it stands by none.
around_mm <- 20
name_gaps <- function(scene) {
  texts <- scene$texts
  ticks <- texts[texts$role == "tick", ]
  names <- texts[texts$role == "axis title", ]
  vapply(
    seq_len(nrow(names)),
    function(i) {
      one <- names[i, ]
      lying <- abs(one$angle) < 45
      # A short name may stand between two ticks of its axis.
      beside <- if (lying) {
        ticks$x1 > one$x0 - around_mm & ticks$x0 < one$x1 + around_mm
      } else {
        ticks$y1 > one$y0 - around_mm & ticks$y0 < one$y1 + around_mm
      }
      gap <- if (lying) one$y0 - ticks$y1[beside] else ticks$x0[beside] - one$x1
      gap <- gap[gap > -0.01]
      if (length(gap)) min(gap) else NA_real_
    },
    0
  )
}

# Of even number axes: direction, length in mm, how many ticks are drawn.
number_ticks <- function(scene) {
  axes <- Filter(
    function(axis) {
      axis$quantity && is.null(axis$moment) && !axis$slots && axis$transform == "identity" &&
        !axis$hidden
    },
    scene$axes
  )
  do.call(
    rbind,
    lapply(axes, function(axis) {
      panel <- scene$panels[match(axis$panels, scene$panels$id), ][1, ]
      data.frame(
        direction = axis$direction,
        length_mm = if (axis$direction == "x") panel$w else panel$h,
        n = length(axis$breaks)
      )
    })
  )
}

share <- function(x) paste0(round(100 * mean(x)), " %")
for (set in c("examples and paper", "random figures")) {
  scenes <- drawn[random == (set == "random figures")]
  empty <- vapply(scenes, nelvat:::empty_share, 0)
  gaps <- unlist(lapply(scenes, name_gaps))
  gaps <- gaps[!is.na(gaps)]
  ticks <- do.call(rbind, lapply(scenes, number_ticks))
  long <- ticks[which(ticks$length_mm >= 15), ]
  cat(
    "\n",
    set,
    ": ",
    length(scenes),
    "\n",
    "  empty page: median ",
    round(100 * stats::median(empty)),
    " %, most ",
    round(100 * max(empty)),
    " % (",
    names(scenes)[which.max(empty)],
    "), over 40 %: ",
    sum(empty > 0.4),
    "\n",
    "  name of an axis from its ticks' text: ",
    length(gaps),
    " names, median ",
    round(stats::median(gaps), 2),
    " mm, within 1.6 mm ",
    share(gaps <= 1.6),
    ", within 3.1 mm ",
    share(gaps <= 3.1),
    "\n",
    "  number axes of 15 mm or more: ",
    nrow(long),
    ", with 3 ticks or more ",
    share(long$n >= 3),
    "; mm a tick, median: x ",
    round(stats::median((long$length_mm / long$n)[long$direction == "x"]), 1),
    ", y ",
    round(stats::median((long$length_mm / long$n)[long$direction == "y"]), 1),
    "\n",
    sep = ""
  )
}
refused <- names(every)[vapply(every, is.character, NA)]
cat("\nrefused: ", length(refused), " of ", length(every), "\n", sep = "")
