#' Areas over time
#'
#' Amounts of each colour on each other along x, or as shares of their whole: community composition,
#' energy by source. Between its values an area goes straight on.
#'
#' @eval argument_lines("ink_area")
#' @return An ink, for [panel()] with quantities on both axes, or a moment on `x`, and a category on
#'   `colour`; one value for each colour at each x.
#' @details Where a colour has no value at an x that another has, it is taken to be 0 there, and
#'   told.
#' @section Errors: `nelvat_error_argument` for negative amounts, several values of one colour at
#' one x, or an argument of another sort; `nelvat_error_kind` where the panel does not suit the ink.
#' @examples
#' counted <- data.frame(
#'   hour = rep(c(0, 6, 12, 24), 2), microbe = rep(c("yeast", "lactic"), each = 4),
#'   cells = c(2, 5, 9, 12, 1, 4, 12, 30)
#' )
#' plate(panel(counted, x = hour, y = cells, colour = microbe, ink_area("share")), width = 86)
#' @export
ink_area <- function(arrange = "stack", opacity = 1, colour = NULL, ...) {
  said_ink("area", ...)
}

#' @export
word_rows.ink_area <- function(word) {
  list(
    arrange = a_choice(
      c("stack", "share", "overlay"),
      says = c(
        'Amounts on each other (`"stack"`), as `"share"` of their whole at each x, or each from',
        'zero over the others (`"overlay"`).'
      )
    ),
    opacity = a_number(0, 1, says = "Opacity, 0 to 1; areas over each other are lighter."),
    colour = a_channel(says = "A colour, or a category for this ink alone.")
  )
}

#' @export
check_ink.ink_area <- function(ink, panel, call) {
  check_needs(panel, c("x", "y"), "An area", call)
  check_variable_kind(panel$variables$x, "x", c("quantity", "moment"), call, "for areas")
  for (y in panel$variables$y) {
    check_variable_kind(y, "y", "quantity", call, "for areas")
    if (y$transform == "identity") next
    abort_nelvat(
      "argument",
      c(
        "Areas stand on zero, which a transformed axis does not show or stretches.",
        x = paste0("`y` is on a ", y$transform, " axis."),
        i = "`ink_line()` shows values on any axis."
      ),
      call
    )
  }
  colour <- panel$variables$colour
  if (!is.null(colour)) {
    check_variable_kind(colour, "colour", c("category", "ordinal"), call, "for areas")
  }
}

#' @export
replaced_axis.ink_area <- function(ink, direction, variable) {
  if (ink$arrange != "share" || direction != "y") return(variable)
  kind <- changed(
    variable$kind,
    name = paste("Share of", name_in_sentence(variable$kind$name, variable$id)),
    unit = "%"
  )
  kind["show"] <- list(NULL)
  changed(variable, kind = kind)
}

#' @export
train_ink.ink_area <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, c("x", "y", if (!is.null(layer$colour)) "colour"))
  check_amounts(table$y[complete], layer$y)
  group <- layer_groups(layer, complete, ink, table)
  check_one_value(table, group, layer)
  cells <- stack_tables(
    lapply(unique(group$rows$panel), function(id) {
      of_panel <- which(group$rows$panel == id)
      places <- sort(unique(table$x[group$at %in% of_panel]))
      base <- rep(0, length(places))
      amounts <- lapply(of_panel, function(g) {
        rows <- which(group$at == g)
        table$y[rows][match(places, table$x[rows])]
      })
      whole <- Reduce(`+`, lapply(amounts, function(one) ifelse(is.na(one), 0, one)))
      parts <- list()
      # The first level lies on top, as it stands first in the key.
      for (k in rev(seq_along(of_panel))) {
        amount <- ifelse(is.na(amounts[[k]]), 0, amounts[[k]])
        if (ink$arrange == "share") amount <- ifelse(whole > 0, 100 * amount / whole, 0)
        parts[[length(parts) + 1]] <- new_table(
          panel = id,
          series = of_panel[k],
          x = places,
          base = base,
          top = base + amount,
          filled = is.na(amounts[[k]]),
          of_nothing = ink$arrange == "share" & whole == 0,
          .rows = length(places)
        )
        if (ink$arrange != "overlay") base <- base + amount
      }
      stack_tables(parts)
    })
  )
  absent <- sum(cells$filled)
  list(
    table = cells,
    series = group$rows,
    findings = new_findings(
      changed(table_rows(group$rows, cells$series), x = cells$x),
      "area",
      ifelse(cells$filled, 0L, 1L),
      why = ifelse(
        cells$filled,
        "no value here",
        ifelse(cells$of_nothing, "a whole of nothing", NA_character_)
      ),
      centre = cells$top - cells$base,
      base = cells$base
    ),
    extent = extent_by_panel(cells$panel, x0 = cells$x, y0 = 0, y1 = cells$top),
    zero = "y",
    used = complete,
    shows = switch(
      ink$arrange,
      stack = "amounts on each other",
      share = "shares of 100 % at each place",
      overlay = "amounts, each from zero"
    ),
    notes = rbind(
      lone_places(cells, layer),
      if (absent) {
        data.frame(
          column = layer$y$id,
          what = "values that others have there, taken to be 0",
          n = absent
        )
      },
      if (any(cells$of_nothing)) {
        data.frame(
          column = layer$y$id,
          what = "values of a whole of nothing, which has no shares",
          n = sum(cells$of_nothing)
        )
      }
    )
  )
}

# An area of one place has no width.
lone_places <- function(cells, layer) {
  if (!NROW(cells)) return(NULL)
  n <- sum(tapply(cells$x, cells$series, length) == 1)
  if (n) data.frame(column = layer$x$id, what = "areas of one value, which have no width", n = n)
}

check_amounts <- function(values, variable) {
  if (!any(values < 0)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "Areas are of amounts, none of which is below zero.",
      x = paste0(
        "\"",
        variable$id,
        "\" has ",
        counted(sum(values < 0), "negative value"),
        ", such as ",
        number_text_each(min(values)),
        "."
      ),
      i = "`ink_line()` shows values of both signs."
    ),
    call = NULL
  )
}

check_one_value <- function(table, group, layer) {
  cells <- data.frame(at = group$at, x = table$x)[!is.na(group$at), ]
  twice <- which(duplicated(cells))
  if (!length(twice)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "An area has one value at each place.",
      x = paste0(
        counted(length(twice), "place"),
        " of \"",
        layer$x$id,
        "\" ",
        if (length(twice) == 1) "has" else "have",
        " more, such as ",
        said_value_text(layer$x$kind, cells$x[twice[1]]),
        "."
      ),
      i = "Sum them first, or tell the series apart by `colour`."
    ),
    call = NULL
  )
}

#' @export
place_ink.ink_area <- function(ink, trained, site) {
  cells <- trained$table
  looks <- series_looks(trained$series, site)
  x <- site$unit(cells$x, cells$panel, "x")
  low <- site$unit(cells$base, cells$panel, "y")
  high <- site$unit(cells$top, cells$panel, "y")
  around <- unlist(
    lapply(split(seq_len(nrow(cells)), cells$series), function(rows) c(rows, -rev(rows)))
  )
  row <- abs(around)
  list(
    new_marks(
      "areas",
      new_table(
        panel = cells$panel[row],
        area = cells$series[row],
        x = x[row],
        y = ifelse(around > 0, high[row], low[row]),
        fill = looks$colour[cells$series[row]],
        opacity = if (ink$arrange == "overlay") min(ink$opacity, 0.5) else ink$opacity,
        colour = "#FFFFFF",
        weight_pt = 0.25,
        .rows = length(row)
      )
    )
  )
}

#' @export
ink_traits.ink_area <- function(ink) {
  new_traits("swatch", "colour", "groups", on_zero = TRUE, called = "area", parts_rows = FALSE)
}

#' @export
marks_named.ink_area <- function(ink) "areas"
