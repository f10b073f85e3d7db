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

number_columns <- function(source) {
  names(source$head)[vapply(source$head, is.numeric, NA)]
}
