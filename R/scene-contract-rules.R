# What each rule of the contract of inks looks at: NULL where it is kept, else what was seen, in
# words.

broken_findings <- function(layer) {
  found <- layer$trained$findings
  used <- layer$trained$used
  if (is.null(found)) return(NULL)
  is_drawn <- is.na(found$why)
  if (!any(is_drawn) && any(used)) return("it uses rows, and draws nothing of them")
  if (any(found$n < 0 | found$n != round(found$n))) return("an n is no count")
  if (anyDuplicated(found[setdiff(names(found), c("why", "value"))])) {
    return("two findings are the same")
  }
  if (sum(found$n[is_drawn]) > 0 && !any(used)) return("its marks are of rows that it does not use")
  if (inherits(layer$ink, "nelvat_made_ink") && sum(found$n[is_drawn]) != sum(used)) {
    "n do not sum to the rows used"
  }
}

# What the rows of one facet say is what they say alone.
broken_panels <- function(make, seed, plain, ink) {
  of_levels <- function(level) {
    kept <- function(table) table[table$f == level, ]
    tryCatch(
      plain_findings(trained_of(make, contract_book(seed, alter = kept), ink)),
      error = function(error) NULL
    )
  }
  parted <- trained_of(make, contract_book(seed), ink, parted = TRUE)
  found <- plain_findings(parted)
  panels <- sort(unique(found$panel))
  for (i in seq_along(panels)) {
    alone <- of_levels(c("one", "two")[i])
    if (is.null(alone)) next
    numbers <- intersect(c("n", on_value, on_none), intersect(names(alone), names(found)))
    here <- found[found$panel == panels[i], numbers, drop = FALSE]
    sorted <- function(t) as.data.frame(lapply(t, sort, na.last = TRUE))
    if (length(numbers) && !same_findings(sorted(here), sorted(alone[numbers]))) {
      return("a panel of facets says something else than its rows alone")
    }
  }
  NULL
}

# Panels of one measure, of another on a logarithm, and of both.
measure_panels <- list(
  levels = list(
    function(t, ink) panel(t, x = g, y = v, colour = s, ink),
    function(t, ink) panel(t, x = g, y = log10(w), colour = s, ink),
    function(t, ink) facets(panel(t, x = g, y = c(v, log10(w)), colour = s, ink))
  ),
  bare = list(
    function(t, ink) panel(t, x = low, y = v, ink),
    function(t, ink) panel(t, x = low, y = log10(w), ink),
    function(t, ink) facets(panel(t, x = low, y = c(v, log10(w)), ink))
  ),
  y = list(
    function(t, ink) panel(t, y = v, colour = s, ink),
    function(t, ink) panel(t, y = log10(w), colour = s, ink),
    function(t, ink) facets(panel(t, y = c(v, log10(w)), colour = s, ink))
  )
)

# What is said of one of several measures, on whatever axis, is what is said of it alone.
broken_measures <- function(make, seed, plain, ink) {
  book <- contract_book(seed)
  panels <- Find(function(of) identical(make, contract_panels[[of]]), names(measure_panels))
  said_of <- function(make) {
    layers <- tryCatch(trained_of(make, book, ink), nelvat_error = function(error) NULL)
    lapply(layers, function(layer) plain_findings(list(layer)))
  }
  said <- lapply(measure_panels[[panels]], said_of)
  alone <- said[1:2]
  several <- said[[3]]
  if (!length(several) || any(lengths(alone) != 1)) return(NULL)
  for (i in seq_along(alone)) {
    here <- Find(function(found) i %in% found$panel, several)
    numbers <- intersect(c("n", on_value, on_none), names(alone[[i]][[1]]))
    if (!length(numbers)) next
    if (!all(numbers %in% names(here))) return("of one of several measures it says less")
    found <- here[here$panel == i, numbers, drop = FALSE]
    sorted <- function(t) as.data.frame(lapply(t, sort, na.last = TRUE))
    if (!same_findings(sorted(found), sorted(alone[[i]][[1]][numbers]))) {
      return("of one of several measures it says something else than of it alone")
    }
  }
  NULL
}

# Which way an axis runs alters where marks stand, not which there are.
broken_reversed <- function(make, seed, plain, ink) {
  count_of <- function(drawn) {
    # A panel of many rows may have no room for their names.
    scene <- tryCatch(
      suppressMessages(suppressWarnings(as_scene(plate(drawn, width = 120, height = 200)))),
      nelvat_error_labels = function(error) NULL,
      nelvat_error_space = function(error) NULL
    )
    # Cells of the page, such as hexagons, begin at its corner.
    shown <- Filter(function(marks) !marks$primitive %in% c("words", "areas"), scene$marks)
    primitive <- vapply(shown, `[[`, "", "primitive")
    rows <- vapply(shown, function(marks) as.numeric(nrow(marks$table)), 0)
    if (!is.null(scene)) tapply(rows, factor(primitive, sort(unique(primitive))), sum)
  }
  upright <- make(contract_book(seed), ink)
  turned <- lapply(c("x_axis", "y_axis"), function(axis) {
    said <- stats::setNames(list(axis_of(reverse = TRUE)), axis)
    # Levels are put in another order instead.
    tryCatch(rlang::inject(change(upright, !!!said)), nelvat_error = function(error) NULL)
  })
  tried <- c(list(upright), turned[lengths(turned) > 0])
  marks <- Filter(Negate(is.null), lapply(tried, count_of))
  if (length(unique(marks)) > 1) "on a reversed axis there are other marks"
}

broken_unit <- function(make, seed, plain, ink) {
  other <- trained_of(make, contract_book(seed, unit = "mg"), ink)
  a <- plain_findings(plain)
  b <- plain_findings(other)
  numbers <- intersect(intersect(on_value, names(a)), names(b))
  upright <- is.null(plain[[1]]$trained$findings$value) ||
    all(plain[[1]]$trained$findings$value %in% "y")
  if (!length(numbers) || !upright) return(NULL)
  for (name in numbers) {
    if (nrow(a) != nrow(b)) return("in another unit there are other marks")
    if (!same_findings(sort(a[[name]]) * 1000, sort(b[[name]]))) {
      return(paste0("\"", name, "\" is not the same quantity in another unit"))
    }
  }
  NULL
}

broken_lying <- function(make, seed, plain, ink) {
  lying <- trained_of(contract_panels$lying, contract_book(seed), ink)
  a <- plain_findings(plain)
  b <- plain_findings(lying)
  numbers <- intersect(c("n", on_value, on_none), names(a))
  if (!all(numbers %in% names(b)) || nrow(a) != nrow(b)) return("lying down it says other things")
  for (name in numbers) {
    if (!same_findings(sort(a[[name]]), sort(b[[name]]))) {
      return(paste0("\"", name, "\" is another lying down"))
    }
  }
  NULL
}

# Marks of a whole figure: numbers, and the colours of the levels.
broken_marks <- function(make, seed, plain, ink) {
  # A panel of many rows may have no room for their names.
  scene <- tryCatch(
    suppressMessages(
      suppressWarnings(as_scene(plate(make(contract_book(seed), ink), width = 120, height = 200)))
    ),
    nelvat_error_labels = function(error) NULL,
    nelvat_error_space = function(error) NULL
  )
  if (is.null(scene)) return(NULL)
  layers <- Filter(function(marks) marks$layer == 1, scene$marks)
  shown_marks <- Filter(function(layer) NROW(layer$table) > 0, layers)
  found <- plain[[1]]$trained$findings
  drawn_by_marks <- !all(ink_traits(ink)$mark %in% "word")
  if (!length(shown_marks) && drawn_by_marks && !is.null(found) && any(is.na(found$why))) {
    return("it has findings, and draws no mark")
  }
  painted <- unique(
    unlist(lapply(shown_marks, function(layer) layer$table$fill %||% layer$table$colour))
  )
  grouped <- !is.null(plain[[1]]$colour) && length(unique(plain[[1]]$table$colour)) > 1
  shows_colour <- "colour" %in% ink_traits(ink)$shows && inherits(ink, "nelvat_made_ink")
  if (grouped && shows_colour && length(painted) < 2) {
    return("groups of two colours are drawn in one")
  }
  for (layer in shown_marks) {
    places <- layer$table[intersect(c("x", "y", "x0", "x1", "y0", "y1"), names(layer$table))]
    if (any(!is.finite(unlist(lapply(places, function(p) if (is.numeric(p)) p[!is.na(p)]))))) {
      return("a mark stands at no number")
    }
    if (inherits(ink, "nelvat_made_ink") && anyNA(unlist(places))) {
      return("a mark stands at no place")
    }
  }
  NULL
}

broken_arguments <- function(ink, word) {
  rows <- word_arguments(paste0("ink_", ink$ink))
  takes <- setdiff(names(formals(word)), "...")
  if (!setequal(takes, names(rows))) {
    unlike <- c(setdiff(takes, names(rows)), setdiff(names(rows), takes))
    return(paste0("the argument \"", unlike[1], "\" is not both of the word and of its types"))
  }
  silent <- names(Filter(function(type) !nzchar(type$says), rows))
  if (length(silent)) return(paste0("the argument \"", silent[1], "\" has no sentence"))
  if (!"..." %in% names(formals(word))) return("the word has no dots, so that no slip is told")
  slip <- tryCatch(rlang::inject(word(!!!list(colur = "red"))), error = identity)
  if (!inherits(slip, "nelvat_error")) return("a misspelt argument is not refused")
  for (name in names(rows)) {
    type <- rows[[name]]
    wrong <- switch(
      type$kind,
      number = "text",
      flag = "text",
      choice = "no such word",
      text = 3,
      NULL
    )
    if (is.null(wrong)) next
    said <- c(needed_arguments(ink, rows, name), stats::setNames(list(wrong), name))
    answer <- tryCatch(rlang::inject(word(!!!said)), error = identity)
    if (!inherits(answer, "nelvat_error")) {
      return(paste0("a wrong value of \"", name, "\" is not refused"))
    }
  }
  NULL
}

# What a word must be given besides, as the ink was.
needed_arguments <- function(ink, rows, name) {
  given <- lapply(names(rows), function(one) ink$mapped[[one]])
  names(given) <- names(rows)
  given <- Filter(Negate(is.null), given)
  lapply(given[setdiff(names(given), name)], rlang::quo_get_expr)
}
