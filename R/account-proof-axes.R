# Rules of axes: named, with units, of one range, and bars from zero.

shown_axes <- function(scene) {
  Filter(
    function(axis) !axis$hidden && any(axis$id %in% c(scene$panels$x_shown, scene$panels$y_shown)),
    scene$axes
  )
}

axis_place <- function(axis) paste0(axis$direction, " axis of ", axis$variable)

prove_titles <- function(scene, plate) {
  axes <- Filter(function(axis) length(axis$drawn_at) > 0, shown_axes(scene))
  if (!length(axes)) return(list())
  # A heading over the panel, or a name on the diagonal, names the axis as well.
  nameless <- vapply(
    axes,
    function(axis) {
      headed <- any(!is.na(scene$panels$heading[scene$panels$id %in% axis$panels]))
      isTRUE(axis$quantity) && !nzchar(axis$title) && !headed && !isTRUE(axis$zoomed) &&
        !isTRUE(axis$named)
    },
    NA
  )
  offending(
    "axes named",
    nameless,
    "all",
    c("all", counted(sum(nameless), "axis", "axes")),
    "bad",
    vapply(axes, axis_place, ""),
    "Name the variable in the codebook, or with `axis_of(title = )`."
  )
}

prove_units <- function(scene, plate) {
  axes <- Filter(
    function(axis) length(axis$drawn_at) > 0 && isTRUE(axis$quantity) && nzchar(axis$title),
    shown_axes(scene)
  )
  unitless <- vapply(axes, function(axis) !grepl("\\(.+\\)|%", axis$title), NA)
  if (!length(axes)) return(list())
  offending(
    "units given",
    unitless,
    "for each quantity",
    c("all", counted(sum(unitless), "axis", "axes")),
    "look",
    vapply(axes, axis_place, ""),
    paste0(
      "Give the unit in the codebook: `quantity(\"Mass\", unit = \"g\")`; a number without one ",
      "needs none."
    )
  )
}

prove_ranges <- function(scene, plate) {
  axes <- Filter(function(axis) isTRUE(axis$quantity) && !isTRUE(axis$zoomed), shown_axes(scene))
  key <- vapply(axes, function(axis) paste(axis$direction, axis$variable, axis$transform), "")
  unlike <- vapply(
    unique(key),
    function(one) {
      ranges <- lapply(axes[key == one], `[[`, "range")
      length(ranges) > 1 &&
        max(
          vapply(ranges, function(range) max(abs(range - ranges[[1]])), 0)
        ) > 1e-9 * max(abs(ranges[[1]]))
    },
    NA
  )
  if (!length(axes)) return(list())
  of_variable <- axes[match(unique(key), key)]
  found <- offending(
    "same variable, same range",
    unlike,
    "one range",
    c("one range", counted(sum(unlike), "variable")),
    "look",
    vapply(of_variable, axis_place, ""),
    "Share the axis: `range_per = \"block\"` in `facets()`, `share_axis()` on the plate."
  )
  variables <- unique(vapply(of_variable[unlike], `[[`, "", "variable"))
  lapply(found, changed, variables = variables)
}

prove_zero <- function(scene, plate) {
  bars <- Filter(function(layer) isTRUE(layer$on_zero) && layer$primitive == "rects", scene$marks)
  panels <- unique(unlist(lapply(bars, function(layer) layer$table$panel)))
  if (!length(panels)) return(list())
  panel_rows <- match(panels, scene$panels$id)
  cut <- vapply(
    panel_rows,
    function(i) {
      axes <- scene$axes[c(scene$panels$x_axis[i], scene$panels$y_axis[i])]
      grounded <- Filter(function(axis) isTRUE(axis$grounded), axes)
      any(
        vapply(
          grounded,
          function(axis) {
            axis$transform == "identity" && (min(axis$range) > 1e-9 || max(axis$range) < -1e-9)
          },
          NA
        )
      )
    },
    NA
  )
  offending(
    "bars from zero",
    cut,
    "all",
    c("all", counted(sum(cut), "panel")),
    "bad",
    panel_names(scene, scene$panels[panel_rows, ]),
    "Leave the range of the axis to the bars.",
    panel_boxes(scene$panels[panel_rows, ])
  )
}

# An axis that is read off has two numbers at least.
prove_ticks <- function(scene, plate) {
  axes <- Filter(
    function(axis) length(axis$drawn_at) > 0 && !axis$slots && !axis$bare,
    shown_axes(scene)
  )
  if (!length(axes)) return(list())
  few <- vapply(axes, function(axis) length(axis$kept) < 2, NA)
  offending(
    "ticks on each axis",
    few,
    "two or more",
    c("two or more", counted(sum(few), "axis", "axes")),
    "look",
    vapply(axes, axis_place, ""),
    "Say `axis_of(every = )` or `axis_of(breaks = )`, or give the panel more room."
  )
}

# Tick text that had to be made smaller, or whose words were broken.
prove_crowded <- function(scene, plate) {
  axes <- Filter(
    function(axis) length(axis$drawn_at) > 0 && length(axis$kept) > 0,
    shown_axes(scene)
  )
  if (!length(axes)) return(list())
  crowded <- vapply(
    axes,
    function(axis) {
      axis$size_pt < plate$house$type_pt$base - 0.01 || grepl("smaller|broken", axis$treatment)
    },
    NA
  )
  treatment <- unique(vapply(axes[crowded], `[[`, "", "treatment"))
  offending(
    "room for tick text",
    crowded,
    "at its size, no word broken",
    c("at its size", paste0(counted(sum(crowded), "axis", "axes"), ": ", listed(treatment))),
    "look",
    vapply(axes, axis_place, ""),
    "Make the plate wider, put the names on `y`, or shorten them in the codebook."
  )
}

# One variable in unlike units on one plate.
prove_one_unit <- function(scene, plate) {
  axes <- Filter(function(axis) isTRUE(axis$quantity) && nzchar(axis$name), shown_axes(scene))
  if (!length(axes)) return(list())
  unit_pattern <- " \\(([^()]*)\\)$"
  key <- vapply(axes, function(axis) paste(axis$variable, sub(unit_pattern, "", axis$name)), "")
  names <- vapply(axes, `[[`, "", "name")
  unlike <- vapply(key, function(one) length(unique(names[key == one])) > 1, NA)
  offending(
    "one unit for a variable",
    unlike,
    "one",
    c("one each", listed(unique(names[unlike]))),
    "look",
    vapply(axes, axis_place, ""),
    "Show it in one unit everywhere: `quantity(unit = , show = )`."
  )
}

most_brackets <- 10 # of a panel, that a reader takes in

# More comparisons than a reader takes in.
prove_brackets <- function(scene, plate) {
  compared <- scene$contrasts[!scene$contrasts$show %in% c("letters", "overall"), ]
  if (is.null(compared) || !nrow(compared)) return(list())
  n <- table(compared$panel)
  offending(
    "brackets of a panel",
    n > most_brackets,
    paste("at most", most_brackets),
    c(paste(max(n), "at most"), paste(max(n), "in a panel")),
    "look",
    paste("panel", names(n)),
    paste0(
      "Show letters that groups share (`show = \"letters\"`), or compare with one level only ",
      "(`between`)."
    )
  )
}
