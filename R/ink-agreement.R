#' Agreement of two measurements
#'
#' The difference of two measurements of the same thing against their mean, with the bias, the
#' limits of agreement and their 95 % intervals.
#'
#' @eval argument_lines("ink_agreement")
#' @return An ink, for [panel()] without `x` and `y`. Its numbers are in [fits()].
#' @details Source: Bland and Altman (1999), Statistical Methods in Medical Research 8. Rows count
#'   as independent, and differences as of one spread over the range.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or a panel with `x` or
#' `y`; `nelvat_error_kind` where a column is no quantity; `nelvat_error_unit` where their units
#' differ.
#' @examples
#' twice <- data.frame(meter = c(4.1, 4.3, 3.9, 4.6, 4.2), paper = c(4.0, 4.4, 3.7, 4.5, 4.3))
#' plate(panel(twice, ink_agreement(meter, paper)), width = 80, height = 60)
#' @export
ink_agreement <- function(
  first,
  second,
  level = 0.95,
  intervals = TRUE,
  size = NULL,
  colour = NULL,
  ...
) {
  ink <- said_ink("agreement", ...)
  ink$model <- "agreement"
  ink
}

#' @export
word_rows.ink_agreement <- function(word) {
  list(
    first = a_column(
      says = c(
        "Columns: the two measurements, in one unit. The difference is `first` less",
        "`second`."
      )
    ),
    second = a_column(
      says = c(
        "Columns: the two measurements, in one unit. The difference is `first` less",
        "`second`."
      )
    ),
    level = a_number(0.5, 0.9999, says = "Share of the differences that the limits are to hold."),
    intervals = a_flag(says = "Draw the intervals of bias and limits as bands?"),
    size = mm_size(says = "Diameter of the symbols in mm; `NULL` for the house's."),
    colour = a_channel(
      says = c(
        "A colour, or a category shown by colour in this ink alone; the limits are those of",
        "all."
      )
    )
  )
}

# Inks that bring both axes have none of the panel's.
check_brings_axes <- function(panel, what, call) {
  given <- intersect(c("x", "y"), names(panel$variables))
  if (!length(given)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste(what, "brings both axes."),
      x = paste0("The panel has `", given[1], "`."),
      i = "Name the columns in the ink."
    ),
    call
  )
}

#' @export
check_ink.ink_agreement <- function(ink, panel, call) {
  check_brings_axes(panel, "Agreement", call)
  for (of in c("first", "second")) check_variable_kind(ink$variables[[of]], of, "quantity", call)
  units <- lapply(ink$variables[c("first", "second")], function(variable) variable$kind$unit)
  if (!identical(units[[1]], units[[2]])) {
    abort_nelvat(
      "unit",
      c(
        "Two measurements must be in one unit.",
        x = paste0(
          "They are in ",
          units[[1]] %||% "no unit",
          " and ",
          units[[2]] %||% "no unit",
          "."
        )
      ),
      call
    )
  }
}

#' @export
supplied_axis.ink_agreement <- function(ink, direction, variables) {
  both <- ink$variables[c("first", "second")]
  names <- vapply(both, function(one) name_in_sentence(one$kind$name, one$id), "")
  name <- if (direction == "x") paste("Mean of", paste(names, collapse = " and ")) else {
    paste0("Difference, ", paste(names, collapse = " \u2212 "))
  }
  new_kind("quantity", name = name, unit = both[[1]]$kind$unit)
}

#' @export
train_ink.ink_agreement <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("first", "second", "colour"))
  panels <- panels_in(table$panel)
  found <- lapply(panels, function(id) {
    rows <- which(complete & table$panel == id)
    agreement(table$first[rows], table$second[rows], ink$level)
  })
  points <- stack_tables(
    lapply(seq_along(panels), function(k) {
      if (is.null(found[[k]])) return(NULL)
      panel_rows <- table_rows(table, which(complete & table$panel == panels[k]))
      changed(panel_rows, x = found[[k]]$mean, y = found[[k]]$difference)
    })
  )
  made <- which(!vapply(found, is.null, NA))
  told <- lapply(
    found,
    function(one) {
      if (!is.null(one)) {
        list(coefficients = one$coefficients, r2 = NA_real_, p = NA_real_, n = one$n)
      }
    }
  )
  ends <- unlist(
    lapply(found[made], function(one) range(one$coefficients[c("low", "high")], one$difference))
  )
  list(
    table = points,
    findings = agreement_findings(found, panels, complete, table),
    traces = if (!is.null(points)) {
      new_table(
        finding = 3L * match(points$panel, panels) - 2L,
        x = points$x,
        y = points$y,
        .rows = nrow(points)
      )
    },
    series = new_table(panel = panels, .rows = length(panels)),
    fits = told,
    fit_findings = 3L * seq_along(panels) - 2L,
    extent = if (!is.null(points)) {
      extent_by_panel(
        c(points$panel, rep(panels[made], each = 2)),
        x0 = c(points$x, rep(NA, 2 * length(made))),
        y0 = c(points$y, ends)
      )
    },
    zero = character(),
    used = complete & table$panel %in% panels[made],
    notes = few_note(
      ink$variables$first,
      complete & !table$panel %in% panels[made],
      "an agreement"
    ),
    shows = paste0(
      "difference against mean, line at the bias, dashed lines at the limits that hold ",
      format(100 * ink$level),
      " % of the differences",
      if (ink$intervals) ", bands at their 95 % intervals",
      if (length(made) == 1) paste0(" (", listed(agreement_text(found[[made]]$coefficients)), ")")
    )
  )
}

# "bias 0.2 (0.1 to 0.3)"
agreement_text <- function(table) {
  digits <- max(interval_digits(table$low, table$high))
  paste(table$term, with_interval(table$estimate, table$low, table$high, digits))
}

# The bias and both limits of each panel.
agreement_findings <- function(found, panels, complete, table) {
  n <- vapply(panels, function(id) sum(complete & table$panel == id), 0L)
  number <- function(name) {
    unlist(
      lapply(found, function(one) if (is.null(one)) rep(NA_real_, 3) else one$coefficients[[name]])
    )
  }
  new_findings(
    new_table(panel = rep(panels, each = 3)),
    "agreement",
    rep(n, each = 3),
    term = rep(c("bias", "lower limit", "upper limit"), length(panels)),
    centre = number("estimate"),
    lower = number("low"),
    upper = number("high"),
    why = rep(ifelse(vapply(found, is.null, NA), "too few values", NA), each = 3)
  )
}

#' @export
place_ink.ink_agreement <- function(ink, trained, site) {
  points <- trained$table
  if (is.null(points)) return(list())
  lines <- do.call(
    rbind,
    lapply(which(!vapply(trained$fits, is.null, NA)), function(k) {
      data.frame(panel = trained$series$panel[k], trained$fits[[k]]$coefficients)
    })
  )
  unit_at <- function(values) site$unit(values, lines$panel, "y")
  n <- nrow(lines)
  bands <- if (ink$intervals && all(is.finite(lines$low))) {
    list(
      new_marks(
        "areas",
        new_table(
          panel = rep(lines$panel, each = 4),
          area = rep(seq_len(n), each = 4),
          x = rep(c(0, 1, 1, 0), n),
          y = as.vector(
            rbind(unit_at(lines$low), unit_at(lines$low), unit_at(lines$high), unit_at(lines$high))
          ),
          fill = site$house$colour$lone,
          opacity = band_opacity,
          colour = NA_character_,
          weight_pt = 0,
          .rows = 4 * n
        )
      )
    )
  }
  c(
    bands,
    list(
      new_marks(
        "lines",
        new_table(
          panel = rep(lines$panel, each = 2),
          line = rep(seq_len(n), each = 2),
          x = rep(c(0, 1), n),
          y = rep(unit_at(lines$estimate), each = 2),
          colour = site$house$colour$axis,
          weight_pt = site$house$weight_pt$line,
          dash = rep(ifelse(lines$term == "bias", "solid", "4 2"), each = 2),
          opacity = 1,
          .rows = 2 * n
        )
      ),
      new_marks(
        "points",
        new_table(
          panel = points$panel,
          x = site$unit(points$x, points$panel, "x"),
          y = site$unit(points$y, points$panel, "y"),
          colour = site$colour_of(points$colour, nrow(points)),
          opacity = 1,
          shape = "disc",
          size_mm = ink$size %||% crowded_size(points$panel, site),
          .rows = nrow(points)
        )
      )
    )
  )
}

#' @export
ink_traits.ink_agreement <- function(ink) {
  new_traits("symbol", "colour", "spread", behind = FALSE, parts_rows = FALSE)
}

#' @export
marks_named.ink_agreement <- function(ink) "points and lines"
