# The columns of a table that stays in its database: what they are there, those derived, what is
# kept.

# SQL by column: the table's own, and those derived, each of those before it.
source_columns <- function(source, call) {
  columns <- vapply(names(source$head), sql_column, "", source)
  for (name in names(source$derive)) {
    expression <- rlang::quo_get_expr(source$derive[[name]])
    columns[[name]] <- sql_of(
      in_scope(source$derive[[name]], names(columns)),
      columns,
      source,
      call
    )
  }
  columns
}

# An expression in which what is no column has its value.
in_scope <- function(quo, columns) {
  scope <- rlang::quo_get_env(quo)
  replaced <- function(one) {
    if (is.symbol(one)) {
      name <- as.character(one)
      if (name %in% columns || !nzchar(name)) return(one)
      value <- get0(name, scope, mode = "numeric") %||% get0(name, scope, mode = "character") %||%
        get0(name, scope, mode = "logical")
      return(if (is.null(value)) one else value)
    }
    if (!is.call(one)) return(one)
    as.call(c(one[[1]], lapply(as.list(one)[-1], replaced)))
  }
  replaced(rlang::quo_get_expr(quo))
}

source_where <- function(source, columns, call) {
  vapply(
    source$keep,
    function(quo) sql_of(in_scope(quo, names(columns)), columns, source, call),
    ""
  )
}

# The kind of a column, from what was said and from the first rows.
source_kind <- function(source, column) {
  source$kinds[[column]] %||% guess_kind(
    source$head[[column]] %||% binned_head(source, column) %||% numeric()
  )
}

# SQLite holds text in columns of numbers, and would take it for 0.
check_cells_of_numbers <- function(source, columns, named, call) {
  if (source$engine != "sqlite") return(invisible())
  expressions <- lapply(c(source$derive, source$keep), rlang::quo_get_expr)
  used <- unique(c(unlist(named), unlist(lapply(expressions, named_columns_of))))
  used <- intersect(used, number_columns(source))
  if (!length(used)) return(invisible())
  question <- paste0(
    "SELECT ",
    paste0(
      "SUM(typeof(",
      columns[used],
      ") = 'text') AS ",
      vapply(used, sql_name, "", source),
      collapse = ", "
    ),
    " FROM ",
    source$from
  )
  texts <- unlist(engine_rows(source, question, call, "Looking for text among numbers"))
  odd <- used[which(texts > 0)]
  if (!length(odd)) return(invisible())
  first <- paste0(
    "SELECT ",
    columns[[odd[1]]],
    " AS v FROM ",
    source$from,
    " WHERE typeof(",
    columns[[odd[1]]],
    ") = 'text' LIMIT 1"
  )
  value <- engine_rows(source, first, call)$v
  abort_nelvat(
    "kind",
    c(
      paste0("Column \"", odd[1], "\" of \"", source$label, "\" holds numbers and text."),
      x = paste0(
        counted(texts[[match(odd[1], used)]], "value"),
        " of it are text, such as ",
        quoted(value),
        "."
      ),
      i = paste0(
        "Name it among the missing values: `fields = list(",
        odd[1],
        " = list(missingValues = \"",
        value,
        "\"))`."
      )
    ),
    call
  )
}

number_columns <- function(source) {
  names(source$head)[vapply(source$head, is.numeric, NA)]
}
