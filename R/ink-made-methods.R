# How an ink of another package, which has the methods that made_ink() lists, stands among those of
# this one.

#' @export
check_ink.nelvat_made_ink <- function(ink, panel, call) {
  suits <- suits_of(ink)
  what <- paste0("`ink_", ink$ink, "()`")
  if (is.null(suits$y)) {
    check_one_axis_given(panel, what, call)
  } else if (!("category" %in% suits$x && is_lone_quantity(panel$variables))) {
    check_needs(panel, names(suits), what, call)
  }
  kinds <- function(direction) {
    as_kinds <- suits[[direction]]
    c(as_kinds, if ("category" %in% as_kinds) "ordinal")
  }
  x <- panel$variables$x
  y <- panel$variables$y[[1]]
  colour <- panel$variables$colour
  if (!is.null(colour)) check_variable_kind(colour, "colour", c("category", "ordinal"), call, what)
  lying <- is_turned(suits, x, y)
  turned <- c(x = if (lying) "y" else "x", y = if (lying) "x" else "y")
  for (direction in names(turned)) {
    if (is.null(suits[[direction]])) next
    variables <- panel$variables[[turned[[direction]]]]
    if (turned[[direction]] == "x") variables <- list(variables)
    for (variable in Filter(Negate(is.null), variables)) {
      check_variable_kind(variable, turned[[direction]], kinds(direction), call, what)
    }
  }
}

# A category on y lies down what stands on x; so does y, where the ink has one axis and it is that.
is_turned <- function(suits, x, y) {
  if (is.null(suits$y)) return(is.null(x) || isTRUE(x$supplied))
  if (!"category" %in% suits$x || is.null(x)) return(FALSE)
  is.null(y) || has_levels(y$kind) && !has_levels(x$kind)
}

# A quantity alone stands in one slot; what has one axis is drawn along it.
#' @export
supplied_axis.nelvat_made_ink <- function(ink, direction, variables) {
  suits <- suits_of(ink)
  if (is.null(suits$y)) return(hidden_axis())
  if ("category" %in% suits$x && is_lone_quantity(variables)) lone_slot()
}

# The layer as a method is given it: its category on x.
upright_layer <- function(ink, layer) {
  lying <- is_turned(suits_of(ink), layer$x, layer$y)
  if (!lying) return(list(layer = layer, lying = FALSE))
  turned <- changed(unclass(layer), x = layer$y, y = layer$x)
  turned$table <- exchange_axes(layer$table, TRUE)
  list(layer = turned, lying = TRUE)
}

#' @export
train_ink.nelvat_made_ink <- function(ink, layer) {
  upright <- upright_layer(ink, layer)
  found <- findings_of(ink, upright$layer)
  if (!inherits(found, "nelvat_findings")) {
    abort_made(ink, "findings_of", "made_findings()", found)
  }
  sentence <- sentence_of(ink, upright$layer, found)
  if (!rlang::is_string(sentence)) abort_made(ink, "sentence_of", "one text", sentence)
  row_at <- attr(found, "at")
  marked <- found[is.na(found$why), , drop = FALSE]
  plain <- found
  class(plain) <- setdiff(class(found), "nelvat_findings")
  list(
    table = found,
    lying = upright$lying,
    findings = if (upright$lying) turned_findings(plain) else plain,
    extent = exchange_axes(made_extent(marked, upright$layer), upright$lying),
    zero = character(),
    used = !is.na(row_at) & row_at %in% which(is.na(found$why)),
    shows = sentence,
    error_means = attr(found, "error_means"),
    notes = few_note(layer$y, !is.na(row_at) & !is.na(found$why[row_at]), paste("a", found$part[1]))
  )
}

turned_findings <- function(table) {
  table$value <- ifelse(table$value == "y", "x", table$value)
  exchange_axes(table, TRUE)
}

# Marks ask for room for their numbers, and for their slot.
made_extent <- function(findings, layer) {
  numbers <- unlist(findings[intersect(on_value, names(findings))], use.names = FALSE)
  k <- length(intersect(on_value, names(findings)))
  on_level <- has_levels(layer$x$kind)
  x <- findings$x %||% NA_real_
  half <- if (on_level) bar_share / 2 else 0
  extent_by_panel(
    rep(findings$panel, max(k, 1)),
    x0 = rep(x - half, max(k, 1)),
    x1 = rep(x + half, max(k, 1)),
    y0 = if (k) numbers else NA_real_
  )
}

abort_made <- function(ink, method, wanted, found) {
  abort_nelvat(
    "record",
    c(
      paste0("`", method, ".ink_", ink$ink, "()` must give ", wanted, "."),
      x = paste0("Found ", describe_value(found), ".")
    ),
    call = NULL
  )
}

# Columns that each primitive needs, and those that the package fills in.
mark_needs <- list(
  segments = c("x0", "x1", "y0", "y1"),
  rects = c("x0", "x1", "y0", "y1"),
  points = c("x", "y"),
  lines = c("x", "y", "line")
)

#' @export
place_ink.nelvat_made_ink <- function(ink, trained, site) {
  marks <- marks_of(ink, trained$table, site)
  if (!is.list(marks)) abort_made(ink, "marks_of", "a list of made_marks()", marks)
  lapply(marks, placed_marks, ink, trained, site)
}

placed_marks <- function(marks, ink, trained, site) {
  absent <- if (is.list(marks)) setdiff(mark_needs[[marks$primitive]], names(marks$table))
  if (!is.list(marks) || is.null(marks$primitive) || length(absent)) {
    abort_made(ink, "marks_of", "made_marks() with all their columns", absent %||% marks)
  }
  table <- marks$table
  marked <- is.na(trained$table$why[table$finding])
  table <- table_rows(table, which(marked))
  n <- nrow(table)
  table$panel <- trained$table$panel[table$finding]
  unit_at <- lying_unit(site, trained$lying, table$panel)
  for (column in intersect(c("x", "x0", "x1", "y", "y0", "y1"), names(table))) {
    table[[column]] <- unit_at(table[[column]], substr(column, 1, 1))
  }
  colour <- trained$table$colour[table$finding]
  looks <- list(
    colour = site$colour_of(colour, n),
    weight_pt = site$house$weight_pt$line,
    opacity = 1,
    dash = "solid",
    shape = "disc",
    size_mm = site$house$points$size_mm
  )
  needs <- switch(
    marks$primitive,
    segments = c("colour", "weight_pt"),
    rects = "opacity",
    points = c("colour", "opacity", "shape", "size_mm"),
    lines = c("colour", "weight_pt", "dash", "opacity")
  )
  for (column in needs) table[[column]] <- rep_len(table[[column]] %||% looks[[column]], n)
  if (marks$primitive == "rects") table$fill <- rep_len(table$fill %||% looks$colour, n)
  table$finding <- NULL
  known <- rowSums(is.na(as.data.frame(table[mark_needs[[marks$primitive]]]))) == 0
  new_marks(marks$primitive, exchange_axes(table_rows(table, which(known)), trained$lying))
}

#' @export
ink_traits.nelvat_made_ink <- function(ink) {
  takes <- names(takes_of(ink))
  new_traits(
    key_symbol_of(ink),
    intersect(c("colour", "shape", "dash"), takes),
    summary_of(ink),
    on_zero = FALSE,
    behind = FALSE,
    called = "mark"
  )
}
