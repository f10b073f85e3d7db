#' Phases along an axis
#'
#' What was done, or what went on, from when to when: day and night, treatment on and off. In a
#' panel each phase is a pale ground; in [marginals()] a bar with its name, over one panel or the
#' uppermost of several.
#'
#' @eval argument_lines("ink_phases")
#' @return An ink, for [panel()] or [marginals()], on a quantity or a moment.
#' @details Phases of one name have one shade of grey. What lies beyond the axis is not drawn.
#' @section Errors: `nelvat_error_argument` for a table without these columns, ends that are
#' exchanged or of another sort than the axis, and axes of levels; `nelvat_error_labels` where a
#' name does not fit over its phase.
#' @examples
#' stages <- study("stages")
#' course <- panel(study("probe"), x = time, y = core, ink_phases(stages), ink_line())
#' plate(marginals(course, x = ink_phases(stages)), width = 120, height = 60)
#' @export
ink_phases <- function(data, along = "x", depth = NULL, ...) {
  ink <- said_ink("phases", ...)
  call <- rlang::current_env()
  book <- as_codebook(ink$data, deparsed_label(substitute(data)), call)
  ink$data <- NULL
  changed(ink, phases = check_phases(book, call))
}

#' @export
word_rows.ink_phases <- function(word) {
  list(
    data = a_table(
      says = paste(
        "A table with a row for each phase: the columns `from` and `to` (numbers in the unit of",
        "their axis or their own, dates or times) and `name`."
      )
    ),
    along = a_choice(
      c("x", "y"),
      says = "In a panel, the axis that they are along; in a margin it is that of the margin."
    ),
    depth = a_number(
      1,
      50,
      unit = "mm",
      or_null = TRUE,
      says = "How deep bars and names are in a margin, in mm; `NULL`: what the type needs."
    )
  )
}

# A table with from, to and name as list(from, to: values with `unit` or seconds, name, moment).
check_phases <- function(book, call) {
  for (column in c("from", "to", "name")) {
    check_column(column, book$data, book$label, call, "Phases need it.")
  }
  ends <- lapply(c(from = "from", to = "to"), function(column) {
    kind <- book$columns[[column]]
    if (!kind$kind %in% c("quantity", "moment")) {
      abort_nelvat(
        "argument",
        c(
          paste0("`", column, "` of phases must be numbers, dates or times."),
          x = paste0("It is ", kind_phrase(kind), ".")
        ),
        call
      )
    }
    values <- book$data[[column]]
    if (kind$kind == "moment") moment_seconds(values) else as.numeric(values)
  })
  kinds <- vapply(c("from", "to"), function(column) book$columns[[column]]$kind, "")
  units <- lapply(c("from", "to"), function(column) book$columns[[column]]$unit)
  if (kinds[1] != kinds[2] || !identical(units[[1]], units[[2]])) {
    abort_nelvat(
      "argument",
      c("`from` and `to` of phases must be of one sort and unit.", x = "They are not."),
      call
    )
  }
  wrong <- which(is.na(ends$from) | is.na(ends$to) | ends$from >= ends$to)
  if (length(wrong)) {
    abort_nelvat(
      "argument",
      c(
        "Each phase must begin before it ends.",
        x = paste0("In row ", wrong[1], " it does not, or an end is missing.")
      ),
      call
    )
  }
  name <- as.character(book$data$name)
  kind <- book$columns$name
  if (has_levels(kind)) name <- kind$level_names[match(name, kind$levels)]
  name[is.na(name)] <- ""
  list(
    from = ends$from,
    to = ends$to,
    name = name,
    unit = units[[1]],
    moment = kinds[[1]] == "moment"
  )
}

#' @export
check_ink.ink_phases <- function(ink, panel, call) {
  in_margin <- is.null(panel$variables$x) || is.null(panel$variables$y)
  along <- if (!in_margin) ink$along else if (is.null(panel$variables$y)) "x" else "y"
  check_needs(panel, along, "Phases", call)
  variable <- if (along == "x") panel$variables$x else panel$variables$y[[1]]
  check_variable_kind(variable, along, c("quantity", "moment"), call, "for phases along it")
  phases_on(ink$phases, variable, call)
}

# The ends of phases in the unit of an axis: list(from, to).
phases_on <- function(phases, variable, call = NULL) {
  if (phases$moment != (variable$kind$kind == "moment")) {
    abort_nelvat(
      "argument",
      c(
        paste0("Phases must be of the sort of their axis, \"", variable$id, "\"."),
        x = if (phases$moment) {
          "They are times, the axis is of numbers."
        } else {
          "They are numbers, the axis is of times."
        }
      ),
      call
    )
  }
  ends <- phases[c("from", "to")]
  if (is.null(phases$unit)) return(ends)
  lapply(ends, function(values) {
    in_axis_unit(values, rep(phases$unit, length(values)), variable, "from", call)
  })
}

#' @export
supplied_axis.ink_phases <- function(ink, direction, variables) hidden_axis()

#' @export
train_ink.ink_phases <- function(ink, layer) {
  in_margin <- layer$role == "marginal" || isTRUE(layer$x$supplied) || isTRUE(layer$y$supplied)
  along <- if (in_margin) along_axis(layer) else ink$along
  panels <- panels_in(layer$table$panel)
  ends <- phases_on(ink$phases, layer[[along]])
  names <- unique(ink$phases$name)
  # Phases before or after all rows are not said to be there.
  places <- layer$table[[along]][is.finite(layer$table[[along]])]
  there <- length(places) > 0 & ends$from <= max(places, -Inf) & ends$to >= min(places, Inf)
  told <- setdiff(unique(ink$phases$name[there]), "")
  k <- length(ends$from)
  list(
    table = new_table(
      panel = rep(panels, each = k),
      from = rep(ends$from, length(panels)),
      to = rep(ends$to, length(panels)),
      name = rep(ink$phases$name, length(panels)),
      shade = rep(match(ink$phases$name, names), length(panels)),
      .rows = k * length(panels)
    ),
    along = along,
    in_margin = in_margin,
    n_names = length(names),
    extent = if (in_margin) {
      exchange_axes(extent_by_panel(panels, x0 = NA, y0 = 0, y1 = 1), along == "y")
    },
    fills = if (in_margin) setdiff(c("x", "y"), along),
    zero = character(),
    says = if (length(told)) paste0("phases: ", listed(plain_text(told)))
  )
}

#' @export
place_ink.ink_phases <- function(ink, trained, site) {
  phases <- trained$table
  ends <- lapply(phases[c("from", "to")], function(values) {
    pmin(1, pmax(0, site$unit(values, phases$panel, trained$along)))
  })
  seen <- which(abs(ends$to - ends$from) > 1e-9)
  phases <- table_rows(phases, seen)
  from <- pmin(ends$from, ends$to)[seen]
  to <- pmax(ends$from, ends$to)[seen]
  if (!length(seen)) return(list())
  upright <- trained$along == "y"
  deep_mm <- if (upright) site$panel_w(phases$panel) else site$panel_h(phases$panel)
  share <- if (trained$in_margin) pmin(1, phase_bar_mm / deep_mm) else 1
  step <- if (trained$n_names > 1) (phases$shade - 1) / (trained$n_names - 1) else 0.5
  ground <- new_marks(
    "rects",
    exchange_axes(
      new_table(
        panel = phases$panel,
        x0 = from,
        x1 = to,
        y0 = 0,
        y1 = share,
        fill = site$house$colour$lone,
        opacity = if (trained$in_margin) 0.25 + 0.55 * step else 0.05 + 0.15 * step,
        .rows = length(seen)
      ),
      upright
    )
  )
  if (!trained$in_margin) return(list(under_points(ground)))
  list(ground, phase_names(phases, from, to, share, upright, site))
}

phase_bar_mm <- 1.3

# Names over their bars; each may reach over what is free before and after its phase.
phase_names <- function(phases, from, to, share, upright, site) {
  length_mm <- if (upright) site$panel_h(phases$panel) else site$panel_w(phases$panel)
  size <- site$house$type_pt$base
  wide <- ifelse(nzchar(phases$name), site$text_mm(phases$name, size)$width, 0)
  room <- mapply(
    function(panel, low, high) {
      of_panel <- which(phases$panel == panel)
      before <- max(0, to[of_panel][to[of_panel] <= low + 1e-9])
      after <- min(1, from[of_panel][from[of_panel] >= high - 1e-9])
      min(low - before, after - high) + (high - low)
    },
    phases$panel,
    from,
    to
  ) * length_mm
  tight <- which(wide > room + 0.01)
  if (length(tight)) {
    worst <- tight[which.max(wide[tight] - room[tight])]
    abort_nelvat(
      "labels",
      c(
        "The name of a phase does not fit over it.",
        x = paste0(
          "\"",
          plain_text(phases$name[worst]),
          "\" is ",
          fixed_text(wide[worst], 1),
          " mm wide, its phase ",
          fixed_text((to - from)[worst] * length_mm[worst], 1),
          " mm."
        ),
        i = "Shorten the name, leave it empty, or make the figure wider."
      ),
      call = NULL
    )
  }
  written <- which(nzchar(phases$name))
  middle <- (from + to)[written] / 2
  c(
    new_marks(
      "words",
      new_table(
        panel = phases$panel[written],
        x = if (upright) 1 else middle,
        y = if (upright) middle else 1,
        string = phases$name[written],
        size_pt = size,
        across = 0.5,
        down = if (upright) 1 else 0,
        angle = if (upright) 90 else 0,
        most_mm = Inf,
        colour = site$house$colour$text,
        .rows = length(written)
      )
    ),
    list(role = "phase")
  )
}

#' @export
in_strip.ink_phases <- function(ink, house) {
  if (!is.null(ink$depth)) return(ink)
  high <- house$type_pt$base * mm_per_pt * 1.25
  changed(ink, depth = phase_bar_mm + 0.5 + high)
}

#' @export
ink_traits.ink_phases <- function(ink) note_traits(own_strip = TRUE)
