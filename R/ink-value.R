#' A value in figures
#'
#' Writes the correlation of two quantities in the middle of the panel, with its interval;
#' for each level of colour where there is one, in its colour.
#'
#' @eval argument_lines("ink_value")
#' @return An ink, for [panel()] and [every_pair()].
#' @details The correlation is that of the values as the axes show them: on a logarithmic
#'   axis of the logarithms. What does not fit the panel at the house's least size of type
#'   is left out: first n, then the interval. Sources: Fisher (1921), Metron 1, for the
#'   interval of Pearson's r, as in [stats::cor.test()]; Bonett and Wright (2000),
#'   Psychometrika 65, for Spearman's; Fieller, Hartley and Pearson (1957), Biometrika 44,
#'   for Kendall's.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#' when the plate is resolved, `nelvat_error_kind` or `nelvat_error_argument` where the panel does
#' not suit the ink.
#' @examples
#' plate(every_pair(study("loaves"), c(rise, volume, firmness), above = ink_value()), width = 100)
#' @export
ink_value <- function(
  value = "r",
  method = "pearson",
  interval = 0.95,
  n = FALSE,
  size = NULL,
  colour = NULL,
  ...
) {
  said_ink("value", ...)
}

#' @export
word_rows.ink_value <- function(word) {
  list(
    value = a_choice("r", says = '`"r"`: a correlation.'),
    method = a_choice(
      names(correlation_methods),
      says = '`"pearson"`, `"spearman"` or `"kendall"`.'
    ),
    interval = a_number(
      0.5,
      0.9999,
      or_null = TRUE,
      says = "Level of the confidence interval, or `NULL` for none."
    ),
    n = a_flag(says = "Write the number of rows behind it?"),
    size = pt_size(says = "Size of type in points; `NULL`: the house's base."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_value <- function(ink, panel, call) check_two_quantities(panel, "A correlation", call)

#' @export
train_ink.ink_value <- function(ink, layer) {
  table <- layer$table
  if (is_ramp(layer$colour)) table$colour <- NULL
  columns <- c("panel", intersect(c("colour", "group"), names(table)))
  complete <- complete_rows(table, c("x", "y", columns))
  group <- match_rows(table[columns], complete)
  x <- axis_transform(layer$x$transform)$forward(table$x)
  y <- axis_transform(layer$y$transform)$forward(table$y)
  found <- lapply(seq_len(nrow(group$rows)), function(g) {
    rows <- which(group$at == g)
    correlation_interval(x[rows], y[rows], ink$method, ink$interval %||% 0.95)
  })
  number_of <- function(name) vapply(found, function(one) as.numeric(one[[name]]), 0)
  values <- group$rows
  values[c("r", "lower", "upper", "n")] <- list(
    number_of("r"),
    number_of("lower"),
    number_of("upper"),
    number_of("n")
  )
  why <- ifelse(
    is.na(values$r),
    ifelse(values$n < 3, "too few values", "all values equal"),
    NA_character_
  )
  findings <- new_findings(
    group$rows,
    "correlation",
    values$n,
    r = values$r,
    r_lower = values$lower,
    r_upper = values$upper,
    why = why,
    value = NA_character_
  )
  made <- which(is.na(why))
  values <- table_rows(values, made)
  name <- c(
    pearson = "Pearson's correlation", spearman = "Spearman's rank correlation",
    kendall = "Kendall's tau"
  )[[ink$method]]
  list(
    table = values[order(values$panel, values$colour %||% rep(0, nrow(values))), ],
    findings = findings,
    extent = NULL,
    zero = character(),
    used = complete & group$at %in% made,
    notes = few_note(layer$y, complete & !group$at %in% made, "a correlation"),
    shows = paste0(
      name,
      if (!is.null(ink$interval)) paste0(" with its ", format(100 * ink$interval), " % interval")
    )
  )
}

#' @export
place_ink.ink_value <- function(ink, trained, site) {
  values <- trained$table
  of_panels <- lapply(split(seq_len(nrow(values)), values$panel), function(of) values[of, ])
  if (!length(of_panels)) return(list())
  fitted <- fit_values(of_panels, ink, site)
  value_words <- stack_tables(
    Map(
      function(one, fit) {
        high <- fit$size * leading * mm_per_pt * fit$lines
        n <- nrow(one)
        new_table(
          panel = one$panel,
          x = 0.5,
          y = 0.5,
          string = fit$strings,
          size_pt = fit$size,
          across = 0.5,
          down = 0.5,
          colour = if (is.null(one$colour)) {
            site$house$colour$text
          } else {
            legible(site$colour_of(one$colour, n))
          },
          dy_mm = -(seq_len(n) - (n + 1) / 2) * high,
          .rows = n
        )
      },
      of_panels,
      fitted
    )
  )
  list(c(new_marks("words", value_words), list(role = "value")))
}

# The fullest wording that fits all panels, at the base size or the least; one for all, so that none
# seems to say more than another. A list(strings, size, lines) for each panel.
fit_values <- function(of_panels, ink, site) {
  sizes <- ink$size %||% c(site$house$type_pt$base, site$house$type_pt$least)
  wordings <- list(
    c(interval = !is.null(ink$interval), n = ink$n),
    c(interval = !is.null(ink$interval), n = FALSE),
    c(interval = FALSE, n = FALSE)
  )
  for (wording in unique(wordings)) {
    for (size in sizes) {
      for (breaks in c(FALSE, TRUE)) {
        fitted <- lapply(of_panels, function(values) {
          strings <- value_strings(values, ink$method, wording, breaks)
          lines <- max(lengths(strsplit(strings, "\n")))
          wide <- max(site$text_mm(unlist(strsplit(strings, "\n")), size)$width)
          high <- lines * nrow(values) * leading * size * mm_per_pt
          list(
            strings = strings,
            size = size,
            lines = lines,
            roomy = wide <= site$panel_w(values$panel[1]) && high <= site$panel_h(values$panel[1])
          )
        })
        if (all(vapply(fitted, `[[`, NA, "roomy"))) return(fitted)
      }
    }
  }
  fitted
}

# "r = 0.83 (0.79 to 0.87)", or in lines under each other.
value_strings <- function(values, method, wording, breaks) {
  two <- function(x) fixed_text(x, 2)
  # Rounded, 0.996 would be a perfect 1.00.
  near <- !is.na(values$r) & abs(values$r) >= 0.995 & abs(values$r) < 1
  shown <- ifelse(near, ifelse(values$r > 0, "> 0.99", "< \u22120.99"), paste("=", two(values$r)))
  text <- paste(correlation_methods[[method]], shown)
  interval <- paste0(two(values$lower), " to ", two(values$upper))
  if (wording[["interval"]]) {
    text <- paste0(
      text,
      ifelse(
        is.na(values$lower),
        "",
        if (breaks) paste0("\n", interval) else paste0(" (", interval, ")")
      )
    )
  }
  if (wording[["n"]]) {
    text <- paste0(
      text,
      if (breaks) "\n" else "; ",
      "*n* = ",
      format(values$n, big.mark = "\u2009", trim = TRUE)
    )
  }
  ifelse(is.na(values$r), paste0(correlation_methods[[method]], " \u2013"), text)
}

#' @export
ink_traits.ink_value <- function(ink) new_traits("word", "colour", "spread", read_off = FALSE)

#' @export
marks_named.ink_value <- function(ink) "numbers"
