#' Answers on a scale of agreement
#'
#' For each question on `y` a bar of the shares of each answer, parted at the middle of the scale:
#' what disagrees runs to the left, what agrees to the right, and a middle answer stands half on
#' each side, or aside.
#'
#' @eval argument_lines("ink_answers")
#' @return An ink, for [panel()] with a category on `y` and the answers, in their order, on
#'   `colour`.
#' @details Shares are of the answers to each question that are not missing. Source of the form:
#'   Heiberger and Robbins (2014), Journal of Statistical Software 57(5).
#' @section Errors: `nelvat_error_argument` for an argument of another sort or a panel with `x`;
#' `nelvat_error_kind` where answers are no ordinal or category.
#' @examples
#' asked <- data.frame(
#'   question = rep(c("The crust is crisp", "The crumb is moist"), each = 5),
#'   answer = factor(
#'     c("no", "no", "partly", "yes", "yes", "no", "partly", "yes", "yes", "yes"),
#'     c("no", "partly", "yes"),
#'     ordered = TRUE
#'   )
#' )
#' plate(panel(asked, y = question, colour = answer, ink_answers()), width = 86, height = 45)
#' @export
ink_answers <- function(middle = "halved", shares = TRUE, colour = NULL, ...) {
  said_ink("answers", ...)
}

#' @export
word_rows.ink_answers <- function(word) {
  list(
    middle = a_choice(
      c("halved", "aside"),
      says = c(
        'Of a scale with a middle answer: half of it on each side (`"halved"`), or by itself at',
        'the right end (`"aside"`).'
      )
    ),
    shares = a_flag(says = "Write each share, in %, where it has room?"),
    colour = a_channel(says = "A category for this ink alone.")
  )
}

#' @export
check_ink.ink_answers <- function(ink, panel, call) {
  check_needs(panel, "y", "A bar of answers", call)
  for (y in panel$variables$y) {
    check_variable_kind(y, "y", c("category", "ordinal"), call, "for bars of answers")
  }
  if (!is.null(panel$variables$x)) {
    abort_nelvat("argument", c("Bars of answers have no `x`.", x = "The panel has one."), call)
  }
  colour <- panel$variables$colour
  if (is.null(colour)) {
    abort_nelvat(
      "argument",
      c("Answers stand on `colour`.", x = "`colour` is not given."),
      call
    )
  }
  check_variable_kind(colour, "colour", c("category", "ordinal"), call, "for answers")
  if (colour$kind$kind == "category" && is.null(colour$kind$order)) {
    abort_nelvat(
      "argument",
      c(
        "Answers stand in the order of their scale, which is not said.",
        x = paste0(
          "\"",
          colour$id,
          "\" is a category of ",
          quoted(plain_text(colour$kind$level_names), 5),
          "."
        ),
        i = paste0(
          "Say it, such as `colour = ordinal(",
          colour$id,
          ", order = c(\"no\", \"yes\"))`."
        )
      ),
      call
    )
  }
}

#' @export
supplied_axis.ink_answers <- function(ink, direction, variables) {
  new_kind("quantity", name = "Share of answers", unit = "%", mirrored = TRUE)
}

#' @export
train_ink.ink_answers <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("y", "colour"))
  k <- length(layer$colour$kind$levels)
  cell <- match_rows(table[c("panel", "y", "colour")], complete)
  n <- tabulate(cell$at, nrow(cell$rows))
  bars <- changed(as.data.frame(cell$rows), n = n)
  bars$share <- 100 * n / stats::ave(n, bars$panel, bars$y, FUN = sum)
  bars <- do.call(
    rbind,
    lapply(split(bars, paste(bars$panel, bars$y)), parted_answers, k, ink$middle)
  )
  bars$y0 <- bars$y - bar_share / 2
  bars$y1 <- bars$y + bar_share / 2
  findings <- bars[
    order(
      match(
        paste(bars$panel, bars$y, bars$colour),
        do.call(paste, cell$rows[c("panel", "y", "colour")])
      )
    ),
  ]
  list(
    table = bars,
    findings = new_findings(
      as_table(findings[c("panel", "y", "colour")]),
      "answer",
      findings$n,
      share = findings$share,
      from = findings$x0,
      to = findings$x1,
      value = "x"
    ),
    extent = extent_by_panel(
      bars$panel,
      x0 = bars$x0,
      x1 = bars$x1,
      y0 = bars$y0,
      y1 = bars$y1
    ),
    zero = character(),
    used = complete,
    shows = paste0(
      "shares of answers, parted at the middle of the scale",
      if (k %% 2 == 1) {
        if (ink$middle == "halved") {
          ", the middle answer half on each side"
        } else {
          ", the middle answer at the right end"
        }
      }
    )
  )
}

as_table <- function(frame) do.call(new_table, c(as.list(frame), list(.rows = nrow(frame))))

# Where the answers of one question stand, from the middle of a scale of `k`.
parted_answers <- function(bars, k, middle) {
  bars <- bars[order(bars$colour), ]
  half <- (k + 1) / 2
  is_middle <- bars$colour == half
  below <- bars$colour < half
  neutral <- sum(bars$share[is_middle])
  start <- -sum(bars$share[below]) - if (middle == "halved") neutral / 2 else 0
  along <- if (middle == "aside") c(which(!is_middle), which(is_middle)) else seq_len(nrow(bars))
  ends <- start + cumsum(bars$share[along])
  bars$x0[along] <- ends - bars$share[along]
  bars$x1[along] <- ends
  # Aside it stands off the rest, at one place for all questions.
  if (middle == "aside") {
    bars$x0[is_middle] <- aside_from
    bars$x1[is_middle] <- aside_from + bars$share[is_middle]
  }
  bars
}

aside_from <- 105 # %, beyond what any question's answers can reach

#' @export
place_ink.ink_answers <- function(ink, trained, site) {
  bars <- trained$table
  x0 <- site$unit(bars$x0, bars$panel, "x")
  x1 <- site$unit(bars$x1, bars$panel, "x")
  y0 <- site$unit(bars$y0, bars$panel, "y")
  y1 <- site$unit(bars$y1, bars$panel, "y")
  fill <- site$colour_of(bars$colour, nrow(bars))
  marks <- list(
    new_marks(
      "rects",
      new_table(
        panel = bars$panel,
        x0 = x0,
        x1 = x1,
        y0 = y0,
        y1 = y1,
        fill = fill,
        opacity = 1,
        colour = "#FFFFFF",
        weight_pt = 0.25,
        .rows = nrow(bars)
      )
    )
  )
  if (!ink$shares) return(marks)
  text <- number_text_each(round(bars$share), 3)
  size <- site$house$type_pt$least
  room <- site$text_mm(text, size)
  has_room <- abs(x1 - x0) * site$panel_w(bars$panel) > room$width + 0.8 &
    abs(y1 - y0) * site$panel_h(bars$panel) > room$height
  shown <- which(has_room & round(bars$share) > 0)
  c(
    marks,
    list(
      c(
        new_marks(
          "words",
          new_table(
            panel = bars$panel[shown],
            x = ((x0 + x1) / 2)[shown],
            y = ((y0 + y1) / 2)[shown],
            string = text[shown],
            size_pt = size,
            across = 0.5,
            down = 0.5,
            colour = site$contrast(fill[shown]),
            most_mm = 30,
            .rows = length(shown)
          )
        ),
        list(role = "value")
      )
    )
  )
}

#' @export
ink_traits.ink_answers <- function(ink) {
  new_traits("swatch", "colour", "counts", called = "answer", behind = FALSE)
}

#' @export
marks_named.ink_answers <- function(ink) "bars"
