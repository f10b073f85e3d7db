# A matrix of pairs of a table that stays in its database: each pair is asked for, and each column
# of the diagonal, and the answers stand in one table of which each row is of one cell. Its book
# has, besides what asked_book() gives:
#   cell    of each row, as pair_cell() names it;
#   breaks  by column, edges of the diagonal's bins;
#   lacking  by column, how many of its values are missing;
#   n_rows  how many rows of the table there are.

asked_matrix <- function(source, quosures, parts, settings, call) {
  keep <- quosures$keep
  source <- with_derived(refreshed_source(source, call), settings$derive, keep, call)
  columns <- source_columns(source, call)
  kept_where <- source_where(source, columns, call)
  head <- answered_head(source)
  head$columns <- head$columns[names(columns)]
  across <- pair_variables(quosures$columns, head, "columns", call)
  down <- if (rlang::quo_is_null(quosures$rows)) {
    across
  } else {
    pair_variables(quosures$rows, head, "rows", call)
  }
  said_inks <- unlist(lapply(unname(parts), listed_inks), recursive = FALSE)
  of_ink <- lapply(said_inks, `[[`, "mapped")
  of_channels <- lapply(
    c(quosures[c("colour", "shape", "within")], unlist(of_ink, recursive = FALSE)),
    quo_columns,
    columns,
    source,
    call
  )
  ids <- unique(vapply(c(across, down), function(one) one$id, ""))
  computed <- setdiff(ids, names(columns))
  named <- unique(c(intersect(ids, names(columns)), unlist(of_channels)))
  columns <- checked_columns(source, columns, named, kept_where, call)
  wanted <- list(where = kept_where)
  if (identical(settings$missing, "complete")) {
    known <- paste(columns[intersect(ids, names(columns))], "IS NOT NULL")
    wanted$where <- c(kept_where, known)
  }
  n <- asked_count(source, wanted, call)
  kept <- kept_words(source, asked_count(source, list(where = kept_where), call), call)
  if (n <= most_fetched || !is.null(source$sample)) {
    named <- unique(
      c(named, unlist(lapply(quosures[c("columns", "rows")], quo_columns, columns, source, call)))
    )
    return(changed(fetched_book(source, columns[named], wanted, n, call), kept = kept))
  }
  if (length(computed)) {
    abort_question(source, n, paste0("A matrix of ", computed[1], ", which is computed,"), call)
  }
  check_asked_once(c(across, down), call)
  with_levels <- Find(function(one) has_levels(one$kind), c(across, down))
  if (!is.null(with_levels)) {
    what <- paste0("A matrix of pairs with \"", with_levels$id, "\", which has levels,")
    abort_question(source, n, what, call)
  }
  inks <- asked_pair_inks(parts, n, length(of_channels$colour) > 0)
  wanted <- changed(wanted, parts = columns[unique(unlist(of_channels))], values = columns)
  answers <- c(
    pair_answers(source, across, down, inks, wanted, n, call),
    alone_answers(source, across, down, inks$diagonal, wanted, n, call)
  )
  of_all <- unique(c(ids, unlist(of_channels)))
  lacking <- paste0("COUNT(*) - COUNT(", columns[of_all], ")")
  names(lacking) <- paste0("nelvat_", seq_along(of_all))
  lacking <- asked_sums(
    source,
    lacking,
    list(where = kept_where),
    call,
    "Counting missing values"
  )
  changed(
    stacked_book(source, answers, ids),
    asked = "matrix",
    lacking = stats::setNames(as.numeric(unlist(lacking[1, ])), of_all),
    n_rows = n,
    kept = kept
  )
}

# The inks of each part as lists, with those that stand where nothing is said.
asked_pair_inks <- function(parts, n, grouped) {
  said <- function(part, default) {
    listed_inks(if (part %in% names(parts)) parts[[part]] else default)
  }
  list(
    above = said("above", NULL),
    below = said("below", default_pair_ink(n)$ink),
    diagonal = said("diagonal", if (grouped) ink_density() else ink_histogram())
  )
}

# An answer is of a column on one scale.
check_asked_once <- function(variables, call) {
  scales <- split(
    vapply(variables, function(one) one$transform, ""),
    vapply(variables, function(one) one$id, "")
  )
  twice <- names(scales)[lengths(lapply(scales, unique)) > 1]
  if (!length(twice)) return(invisible())
  abort_nelvat(
    "engine",
    c(
      paste0("\"", twice[1], "\" stands in the matrix on two scales."),
      x = "A table in a database is asked for a column on one.",
      i = "Derive a column of the other, such as `derive = list(power = log10(level))`."
    ),
    call
  )
}

listed_inks <- function(part) if (is_ink(part)) list(part) else Filter(is_ink, as.list(part))

pair_cell <- function(a, b) {
  ifelse(a == b, a, paste(pmin(a, b), pmax(a, b), sep = "\r"))
}

# The answer of each two columns that meet above or below the diagonal.
pair_answers <- function(source, across, down, inks, wanted, n, call) {
  off <- Filter(is_ink, c(inks$above, inks$below))
  questions <- setdiff(vapply(off, question_of, ""), "nothing")
  if (!length(questions)) return(NULL)
  if (!all(questions %in% c("pairs", "cells"))) {
    odd <- off[[which(!vapply(off, question_of, "") %in% c("pairs", "cells", "nothing"))[1]]]
    abort_question(source, n, paste0("`ink_", odd$ink, "()` in a matrix of pairs"), call)
  }
  wanted <- changed(wanted, products = "pairs" %in% questions)
  met <- list()
  for (y in down) {
    for (x in across) {
      cell <- pair_cell(x$id, y$id)
      if (x$id == y$id || !is.null(met[[cell]])) next
      one <- changed(wanted, scales = pair_scales(list(x, y), questions, call))
      ask <- if ("cells" %in% questions) asked_cells else asked_pairs
      met[[cell]] <- ask(source, x$id, y$id, one, call)
    }
  }
  met
}

# The answer of each column alone, for the diagonal.
alone_answers <- function(source, across, down, inks, wanted, n, call) {
  inks <- Filter(function(ink) question_of(ink) != "nothing", Filter(is_ink, inks))
  if (!length(inks)) return(NULL)
  question <- one_question(inks, source, n, call)
  if (!question %in% c("bins", "classes")) {
    what <- paste0("`ink_", inks[[1]]$ink, "()` on the diagonal")
    abort_question(source, n, what, call)
  }
  met <- list()
  ids <- vapply(down, function(one) one$id, "")
  for (x in across) {
    if (!x$id %in% ids || !is.null(met[[x$id]])) next
    scales <- pair_scales(list(x), question, call)
    one <- changed(wanted, scales = scales)
    met[[x$id]] <- if (question == "bins") {
      binned_answer(source, x$id, wanted$values[[x$id]], one, inks, call)
    } else {
      forward <- axis_transform(scales[[x$id]] %||% "identity")$forward
      asked_classes(source, x$id, changed(one, forward = forward), call)
    }
  }
  met
}

# The transforms of columns, by their names.
pair_scales <- function(variables, questions, call) {
  scales <- list()
  for (one in variables) {
    if (one$transform == "identity") next
    if (!one$transform %in% names(sql_scales) || "pairs" %in% questions) {
      abort_nelvat(
        "engine",
        c(
          paste0("\"", one$id, "\" cannot be asked for on a ", one$transform, " axis."),
          x = paste0("What its inks ask for is ", listed(unique(questions)), "."),
          i = "Derive a column of it, such as `derive = list(power = log10(level))`."
        ),
        call
      )
    }
    scales[[one$id]] <- one$transform
  }
  scales
}

# Of rows of each place those that were asked for its cell.
rows_of_pairs <- function(block, rows, places) {
  if (is.null(block$asked)) return(rows)
  ids <- function(variables) vapply(variables, function(one) one$id, "")
  cell <- pair_cell(ids(block$variables)[places$j], ids(block$row_variables)[places$i])
  Map(function(some, one) some[block$asked$cell[some] == one], rows, cell)
}

counted_rows <- function(block, rows) {
  if (is.null(block$asked)) return(lengths(rows))
  vapply(rows, function(some) sum(block$asked$times[some]), 0)
}

# The sums of the rows of some cells, in the order of `rows`.
cell_weights <- function(block, cells, at, diagonal) {
  if (is.null(block$asked)) return(NULL)
  parts <- Map(
    function(i, j, rows) {
      y <- if (!diagonal) list(block$row_variables[[i]])
      columns <- row_weights(list(x = block$variables[[j]], y = y), rows)
      # Of cells that are counted nothing but their number is known.
      columns[vapply(columns, function(one) !all(is.na(one)), NA)]
    },
    cells$areas$i[at],
    cells$areas$j[at],
    cells$rows[at]
  )
  names <- unique(unlist(lapply(parts, names)))
  lapply(stats::setNames(nm = names), function(name) {
    unlist(
      Map(
        function(part, rows) part[[name]] %||% rep(NA_real_, length(rows)),
        parts,
        cells$rows[at]
      )
    )
  })
}
