#' Inks of another package
#'
#' What an ink of your own is made of. An ink is a word, `ink_lollipop()`, that calls `made_ink()`,
#' and a method of its class for each generic below; figure files, facets, matrices, marginals,
#' keys, legends, source data, proof and the page to look at then know it as they know the built-in
#' ones. `check_ink_contract()` tries it.
#'
#' @param name Name of the ink, without `ink_`: its word is `ink_<name>()`, its class `ink_<name>`.
#' @param ... What the word was given in its dots, to be refused with the nearest right name.
#' @param ink The ink: a list with what its arguments say.
#' @param layer The rows that it draws: a list with `table` (`panel`, a whole number; `x` and `y`,
#'   numbers in the unit shown, or codes of levels; `colour`, `shape`, `dash`, `group`, codes, where
#'   they are mapped; a column for each `takes_column()`), and `x`, `y`, `colour`, what stands
#'   there: lists with `id`, the column, and `kind`. Where the category stands on `y`, x and y come
#'   exchanged, and are exchanged back by the package.
#' @param findings What `findings_of()` gave: a data frame, a row a mark.
#' @param site Where marks stand: a list with `colour_of(codes, n)`, the colours of levels, and
#'   `house`, the house style (`weight_pt`, `points`, `colour`).
#' @details The family of generics:
#' * `takes_of(ink)`: arguments of the word by name, each a type: `takes_number()`,
#'   `takes_choice()`, `takes_flag()`, `takes_text()`, `takes_column()`, `takes_channel()`.
#' * `suits_of(ink)`: what may stand on the axes: a list with `x` and `y`, each of `"category"`,
#'   `"quantity"`, `"moment"`. With a category on `x` the ink also takes a quantity alone, in one
#'   slot; with `x` alone in the list it is drawn along one axis, from 0 to 1 of the other.
#' * `findings_of(ink, layer)`: [made_findings()].
#' * `marks_of(ink, findings, site)`: a list of [made_marks()].
#' * `key_symbol_of(ink)`: how a key shows it, `"swatch"`, `"symbol"` or `"line"`.
#' * `summary_of(ink)`: what stands behind a mark, `"values"` (a row), `"groups"` (a centre of
#'   several), `"spread"` (a distribution) or `"counts"`.
#' * `sentence_of(ink, layer, findings)`: what its marks show, as a legend says it, without a full
#'   stop: `"medians with stems from zero"`.
#' @return `made_ink()`: an ink. Generics: as said above.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_record` where a method gives what it must not.
#' @examples
#' ink_lollipop <- function(weight = 1, colour = NULL, ...) made_ink("lollipop", ...)
#' takes_of.ink_lollipop <- function(ink) {
#'   list(
#'     weight = takes_number(0.1, 5, says = "Line weight in points."),
#'     colour = takes_channel(says = "A colour, or a category.")
#'   )
#' }
#' suits_of.ink_lollipop <- function(ink) list(x = "category", y = "quantity")
#' findings_of.ink_lollipop <- function(ink, layer) {
#'   parts <- parts_of_layer(layer)
#'   middle <- tapply(layer$table$y, factor(parts$at, seq_len(nrow(parts$groups))), median)
#'   made_findings(parts, "lollipop", centre = middle, base = 0)
#' }
#' marks_of.ink_lollipop <- function(ink, findings, site) {
#'   place <- place_of(findings)
#'   list(
#'     made_marks("segments", findings, x0 = place, x1 = place, y0 = findings$base,
#'       y1 = findings$centre, weight_pt = ink$weight),
#'     made_marks("points", findings, x = place, y = findings$centre, size_mm = 2)
#'   )
#' }
#' sentence_of.ink_lollipop <- function(ink, layer, findings) "medians with stems from zero"
#' plate(panel(study("loaves"), x = flour, y = rise, ink_lollipop()), width = 86, height = 60)
#' @export
made_ink <- function(name, ...) {
  call <- rlang::caller_env()
  check_needed(made_ink, "made_ink", rlang::current_env())
  check_string(name, "name")
  known_methods(name, call)
  ink <- said_ink(name, ..., call = call)
  class(ink) <- c(paste0("ink_", name), "nelvat_made_ink", "nelvat_ink")
  ink
}

#' @rdname made_ink
#' @export
suits_of <- function(ink) UseMethod("suits_of")
#' @rdname made_ink
#' @export
findings_of <- function(ink, layer) UseMethod("findings_of")
#' @rdname made_ink
#' @export
marks_of <- function(ink, findings, site) UseMethod("marks_of")
#' @rdname made_ink
#' @export
key_symbol_of <- function(ink) UseMethod("key_symbol_of")
#' @rdname made_ink
#' @export
summary_of <- function(ink) UseMethod("summary_of")
#' @rdname made_ink
#' @export
sentence_of <- function(ink, layer, findings) UseMethod("sentence_of")

# Methods that are written beside the word, in no package, are found as those of a package are.
known_methods <- function(name, frame) {
  for (generic in ink_generics) {
    method <- get0(paste0(generic, ".ink_", name), frame, mode = "function")
    if (!is.null(method) && !isNamespace(environment(method))) {
      registerS3method(generic, paste0("ink_", name), method, topenv())
    }
  }
}
ink_generics <- c(
  "takes_of", "suits_of", "findings_of", "marks_of", "key_symbol_of", "summary_of", "sentence_of"
)

abort_no_method <- function(generic, ink) {
  abort_nelvat(
    "record",
    c(
      paste0("`ink_", ink$ink, "()` has no method for `", generic, "()`."),
      i = paste0("Write `", generic, ".ink_", ink$ink, "()`: see `?made_ink`.")
    ),
    call = NULL
  )
}
#' @export
findings_of.default <- function(ink, layer) abort_no_method("findings_of", ink)
#' @export
marks_of.default <- function(ink, findings, site) abort_no_method("marks_of", ink)
#' @export
sentence_of.default <- function(ink, layer, findings) abort_no_method("sentence_of", ink)

#' @export
takes_of.default <- function(ink) list(colour = takes_channel(says = "A colour, or a category."))
#' @export
suits_of.default <- function(ink) {
  list(x = c("category", "quantity", "moment"), y = c("quantity", "moment"))
}
#' @export
key_symbol_of.default <- function(ink) "symbol"
#' @export
summary_of.default <- function(ink) "groups"

#' Types of the arguments of an ink
#'
#' Rows of the table of words, for `takes_of()` of an ink of your own: from them follow the checks
#' of calls, the keys of figure files and their schema.
#'
#' @param least,most Limits of a number.
#' @param whole Must it be a whole number?
#' @param choices Words, of which it is one.
#' @param says A sentence or two: what the argument is.
#' @param or_null May it be `NULL`?
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A type.
#' @section Errors: None of its own: types are checked as they are used.
#' @examples
#' takes_number(0, 1, says = "How see-through it is.")
#' @name takes
NULL

#' @rdname takes
#' @export
takes_number <- function(
  least = -Inf,
  most = Inf,
  whole = FALSE,
  says = "",
  or_null = FALSE,
  ...
) {
  check_rest(...)
  a_number(least, most, whole, or_null = or_null, says = says)
}
#' @rdname takes
#' @export
takes_choice <- function(choices, says = "", or_null = FALSE, ...) {
  check_rest(...)
  check_needed(takes_choice, "takes_choice", rlang::current_env())
  a_choice(choices, or_null, says)
}
#' @rdname takes
#' @export
takes_flag <- function(says = "", ...) {
  check_rest(...)
  a_flag(says = says)
}
#' @rdname takes
#' @export
takes_text <- function(says = "", or_null = FALSE, ...) {
  check_rest(...)
  a_text(or_null, says)
}
#' @rdname takes
#' @export
takes_column <- function(says = "", or_null = FALSE, ...) {
  check_rest(...)
  a_column(or_null, says = says)
}
#' @rdname takes
#' @export
takes_channel <- function(says = "", ...) {
  check_rest(...)
  a_channel(says = says)
}

#' What the marks of an ink say
#'
#' For methods of `findings_of()` and `marks_of()`: see [made_ink()].
#'
#' @param layer What `findings_of()` is given.
#' @param by What parts the rows into marks: of `"x"`, `"colour"`, `"shape"`, `"dash"`, `"group"`;
#'   those that are not mapped part nothing. The panel always does.
#' @param parts What `parts_of_layer()` gave: `groups`, a data frame with a row for each mark, and
#'   `at`, the row of `groups` that each row of the layer is of, `NA` where a value is missing.
#' @param part What one mark is called, such as `"bar"`.
#' @param ... Numbers of each mark, in data units: of `centre`, `lower`, `upper`, `base`, `q1`,
#'   `median`, `q3`, `low`, `high`, `from`, `to`; or on no axis: `density`, `share`, `estimate`,
#'   `estimate_low`, `estimate_high`, `p`, and others that [source_data()] knows.
#' @param why `NA` where a mark is drawn, else why it is not, in words.
#' @param error_means What `lower` and `upper` mean, in words, or `NULL`.
#' @param findings A table of findings.
#' @param primitive `"segments"` (`x0`, `x1`, `y0`, `y1`, `weight_pt`), `"rects"` (`x0`, `x1`, `y0`,
#'   `y1`), `"points"` (`x`, `y`, `size_mm`, `shape`) or `"lines"` (`x`, `y`, `line`: which line
#'   each row is of, `weight_pt`).
#' @return `parts_of_layer()`: a list of `at` and `groups`. `made_findings()`: a data frame with the
#'   class `nelvat_findings`. `place_of()`: where on x the marks stand, those of one level beside
#'   each other by colour. `made_marks()`: marks.
#' @section Errors: `nelvat_error_record` for numbers of other names or lengths.
#' @seealso [made_ink()], which has an example.
#' @examples
#' # See made_ink().
#' @export
made_findings <- function(parts, part, ..., why = NA_character_, error_means = NULL) {
  check_needed(made_findings, "made_findings", rlang::current_env())
  k <- nrow(parts$groups)
  numbers <- lapply(list(...), function(values) rep_len(as.vector(values), k))
  unknown <- setdiff(names(numbers), c(on_value, on_none))
  if (length(unknown) || !all(rlang::have_name(numbers))) {
    abort_nelvat(
      "record",
      c(
        "Numbers of findings have names that source data know.",
        x = paste0("Found \"", unknown[1], "\"."),
        i = paste0("They are ", quoted(c(on_value, on_none), 40), ".")
      ),
      rlang::caller_env()
    )
  }
  table <- do.call(
    new_findings,
    c(
      list(parts$groups, part, tabulate(parts$at, k), why = why),
      numbers
    )
  )
  structure(
    table,
    at = parts$at,
    places = parts$places,
    error_means = error_means,
    class = c("nelvat_findings", class(table))
  )
}

#' @rdname made_findings
#' @export
parts_of_layer <- function(layer, by = c("x", "colour", "shape", "dash", "group"), ...) {
  check_rest(...)
  check_needed(parts_of_layer, "parts_of_layer", rlang::current_env())
  table <- layer$table
  columns <- c("panel", intersect(by, names(table)))
  if (is_ramp(layer$colour)) columns <- setdiff(columns, "colour")
  axes <- Filter(function(axis) !isTRUE(layer[[axis]]$supplied), c("x", "y"))
  known <- complete_rows(table, c(axes, columns))
  found <- match_rows(table[columns], known)
  groups <- ordered_parts(found)
  parted <- has_levels(layer$x$kind) && parts_slots(layer, table, layer$x)
  c(groups, list(places = if (parted) length(layer$colour$kind$levels) else 1L))
}

# In the order of their codes, so that the order of rows alters nothing.
ordered_parts <- function(found) {
  order <- do.call(order, unname(as.list(found$rows)))
  list(at = match(found$at, order), groups = table_rows(found$rows, order))
}

#' @rdname made_findings
#' @export
place_of <- function(findings, ...) {
  check_rest(...)
  check_needed(place_of, "place_of", rlang::current_env())
  places <- attr(findings, "places") %||% 1L
  ends <- bar_places(findings$colour %||% rep(NA_integer_, nrow(findings)), places)
  findings$x + (ends$from + ends$to) / 2
}

#' @rdname made_findings
#' @export
made_marks <- function(primitive, findings, ...) {
  call <- rlang::caller_env()
  check_needed(made_marks, "made_marks", rlang::current_env())
  check_choice(primitive, c("segments", "rects", "points", "lines"), "primitive", call)
  columns <- list(...)
  rows <- columns$rows %||% seq_len(nrow(findings))
  columns$rows <- NULL
  lengths <- lengths(columns)
  if (!all(lengths %in% c(1, length(rows)))) {
    abort_nelvat(
      "record",
      c(
        "Columns of marks have a value for each finding.",
        x = paste0(
          "\"",
          names(columns)[!lengths %in% c(1, length(rows))][1],
          "\" has ",
          lengths[!lengths %in% c(1, length(rows))][1],
          ", there are ",
          length(rows),
          "."
        )
      ),
      call
    )
  }
  list(
    primitive = primitive,
    table = do.call(
      new_table,
      c(list(finding = rows), lapply(columns, rep_len, length(rows)), list(.rows = length(rows)))
    )
  )
}
