# What is known of values before anything else is asked of them: how many rows have one, the least
# and the greatest. Asked together, and once.

# values: SQL. A row a value: n (rows that have it), least, greatest, complete (do all rows?), text
# (is the greatest none of numbers?), and rows, how many there are. wanted: as in asked_where();
# parts are of no account.
asked_extents <- function(source, values, wanted, call) {
  hashes <- vapply(
    values,
    function(value) rlang::hash(list("extent", value, as.character(wanted$where))),
    "",
    USE.NAMES = FALSE
  )
  known <- if (!is.null(source$answers)) mget(hashes, source$answers, ifnotfound = list(NULL))
  new <- which(!duplicated(hashes) & !hashes %in% names(Filter(Negate(is.null), known)))
  known[hashes[new]] <- new_extents(source, values[new], wanted, call)
  if (!is.null(source$answers)) for (key in hashes[new]) assign(key, known[[key]], source$answers)
  found <- known[hashes]
  of <- function(part) vapply(found, `[[`, 0, part, USE.NAMES = FALSE)
  new_table(
    n = of("n"),
    least = of("least"),
    greatest = of("greatest"),
    complete = of("n") == of("rows"),
    text = vapply(found, `[[`, NA, "text", USE.NAMES = FALSE),
    rows = of("rows"),
    .rows = length(values)
  )
}

new_extents <- function(source, values, wanted, call) {
  if (!length(values)) return(list())
  k <- seq_along(values)
  measures <- c(
    "COUNT(*)",
    paste0("COUNT(", values, ")"),
    paste0("MIN(", values, ")"),
    paste0("MAX(", values, ")")
  )
  names(measures) <- c("nelvat_rows", paste0("nelvat_", rep(c("n", "a", "b"), each = length(k)), k))
  whole <- changed(wanted, parts = NULL)
  answer <- asked_sums(source, measures, whole, call, "Asking for the ranges")
  if (!is.null(source$answers)) {
    assign(rows_key(wanted), answer$nelvat_rows, source$answers)
  }
  lapply(k, function(i) {
    of <- function(part) answer[[paste0("nelvat_", part, i)]]
    text <- is_text_cell(of("b"))
    ends <- if (text) list(NA_real_, NA_real_) else list(as.numeric(of("a")), as.numeric(of("b")))
    list(
      rows = answer$nelvat_rows,
      n = of("n"),
      least = ends[[1]],
      greatest = ends[[2]],
      text = text
    )
  })
}

# By which it is known how many rows there are.
rows_key <- function(wanted) rlang::hash(list("rows", as.character(wanted$where)))

# Text, or bytes, which stand above numbers.
is_text_cell <- function(value) is.list(value) || is.character(value) && !is.na(value)

# Conditions that rows have all of some values, where there are rows that lack one.
has_values <- function(source, values, wanted, call) {
  complete <- asked_extents(source, values, wanted, call)$complete
  if (all(complete)) NULL else paste(values[!complete], "IS NOT NULL")
}

# SQL by column, once it is known what the numbers among those used hold. SQLite has text in columns
# of numbers, and would take it for 0: it is an error. A server's NaN is missing; columns without
# any are said as they are.
checked_columns <- function(source, columns, named, where, call) {
  expressions <- lapply(c(source$derive, source$keep), rlang::quo_get_expr)
  used <- unique(c(unlist(named), unlist(lapply(expressions, named_columns_of))))
  used <- intersect(used, number_columns(source))
  if (!length(used)) return(columns)
  if (source$engine == "sqlite") {
    odd <- used[asked_extents(source, columns[used], list(), call)$text]
    if (length(odd)) abort_text_among(source, columns[odd[1]], call)
    return(columns)
  }
  plain <- vapply(used, sql_column, "", source, nan = FALSE)
  greatest <- asked_extents(source, plain, list(where = where), call)$greatest
  source_columns(changed(source, without_nan = used[!is.nan(greatest)]), call)
}

# column: SQL by name.
abort_text_among <- function(source, column, call) {
  is_text <- paste0("typeof(", column, ") NOT IN ('integer', 'real', 'null')")
  from <- paste0(" FROM ", source$from, " WHERE ", is_text)
  n <- engine_rows(source, paste0("SELECT COUNT(*) AS n", from), call)$n
  first <- paste0("SELECT CAST(", column, " AS TEXT) AS v", from, " LIMIT 1")
  value <- engine_rows(source, first, call)$v
  abort_nelvat(
    "kind",
    c(
      paste0("Column \"", names(column), "\" of \"", source$label, "\" holds numbers and text."),
      x = paste0(counted(n, "value"), " of it are text, such as ", quoted(value), "."),
      i = paste0(
        "Name it among the missing values: `fields = list(",
        names(column),
        " = list(missingValues = \"",
        value,
        "\"))`."
      )
    ),
    call
  )
}
