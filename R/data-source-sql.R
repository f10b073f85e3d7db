# Expressions over columns as a database reads them. What a function means there is told a row a
# function, so that it means what it means in R: of negatives, zero, missing and whole numbers.

# %1, %2, %3: the arguments, each in parentheses.
sql_words <- c(
  `+` = "%1 + %2", `-` = "%1 - %2", `*` = "%1 * %2",
  # Whole numbers are divided as numbers; what R calls infinite is missing there.
  `/` = "(1.0 * %1) / (CASE WHEN %2 <> 0 THEN %2 END)",
  `==` = "%1 = %2", `!=` = "%1 <> %2", `<` = "%1 < %2", `<=` = "%1 <= %2", `>` = "%1 > %2",
  `>=` = "%1 >= %2", `&` = "%1 AND %2", `&&` = "%1 AND %2", `|` = "%1 OR %2", `||` = "%1 OR %2",
  `!` = "NOT %1", `(` = "%1", is.na = "%1 IS NULL", abs = "ABS(%1)",
  ifelse = "CASE WHEN %1 THEN %2 WHEN NOT %1 THEN %3 END"
)
# Those that a database has as functions of mathematics: some end the question where there is no
# answer, so they are not asked there.
above_zero <- "(CASE WHEN %1 > 0 THEN 1.0 * %1 END)"
sql_functions <- c(
  sqrt = "SQRT(CASE WHEN %1 >= 0 THEN 1.0 * %1 END)",
  exp = "EXP(CASE WHEN %1 < 709.78 THEN CASE WHEN %1 > -700 THEN 1.0 * %1 ELSE -700.0 END END)",
  floor = "FLOOR(1.0 * %1)",
  ceiling = "CEIL(1.0 * %1)",
  # LOG is of base 10 in some and natural in others; LOG10 is the same in all.
  log10 = paste0("LOG10", above_zero),
  log = paste0("LOG10", above_zero, " * 2.3025850929940457"),
  log2 = paste0("LOG10", above_zero, " * 3.3219280948873623")
)
# With the sign of the divisor, as R has it.
sql_remainder <- "%1 - %2 * FLOOR((1.0 * %1) / (CASE WHEN %2 <> 0 THEN %2 END))"
sql_whole_part <- "FLOOR((1.0 * %1) / (CASE WHEN %2 <> 0 THEN %2 END))"
sql_power <- paste0(
  "CASE WHEN %1 > 0 OR (%1 = 0 AND %2 >= 0) OR (%1 < 0 AND %2 = FLOOR(1.0 * %2)) ",
  "THEN POWER(1.0 * %1, %2) END"
)

# Axes that a database knows the transforms of; scaled ones and others it does not.
sql_scales <- c(log10 = "log10", log2 = "log2", ln = "log", sqrt = "sqrt")
scaled_sql <- function(value, scale) {
  if (scale == "identity") value else filled_sql(sql_functions[[sql_scales[[scale]]]], value)
}

# columns: SQL by name, of the table's columns and of those derived.
sql_of <- function(expression, columns, source, call) {
  of <- function(one) sql_of(one, columns, source, call)
  if (rlang::is_symbol(expression)) {
    name <- rlang::as_string(expression)
    if (name %in% c("pi", "T", "F")) return(sql_of(get(name), columns, source, call))
    if (!name %in% names(columns)) check_column(name, as.list(columns), source$label, call)
    return(columns[[name]])
  }
  if (is.atomic(expression) && length(expression) == 1) return(sql_value(expression, source))
  name <- if (is.call(expression) && is.symbol(expression[[1]])) rlang::call_name(expression)
  arguments <- as.list(expression)[-1]
  if (identical(name, "-") && length(arguments) == 1) return(paste0("(- ", of(arguments[[1]]), ")"))
  if (identical(name, "+") && length(arguments) == 1) return(of(arguments[[1]]))
  if (identical(name, "^") && length(arguments) == 2) {
    return(filled_sql(sql_power, vapply(arguments, of, "")))
  }
  times <- if (!is.null(name)) times_sql(name, arguments, columns, source, call)
  if (!is.null(times)) return(times)
  if (identical(name, "%in%")) {
    values <- tryCatch(eval(arguments[[2]], baseenv()), error = function(error) NULL)
    if (is.atomic(values) && length(values)) {
      listed_values <- paste(vapply(values, sql_value, "", source), collapse = ", ")
      return(paste0("(COALESCE(", of(arguments[[1]]), " IN (", listed_values, "), FALSE))"))
    }
  }
  if (identical(name, "in_bins")) return(bins_sql(expression, of, source, call))
  pattern <- if (identical(name, "%%")) {
    sql_remainder
  } else if (identical(name, "%/%")) {
    sql_whole_part
  } else if (!is.null(name) && name %in% names(sql_words)) {
    sql_words[[name]]
  } else if (!is.null(name) && name %in% names(sql_functions)) {
    sql_functions[[name]]
  }
  needs <- if (!is.null(pattern)) {
    max(as.integer(regmatches(pattern, gregexpr("(?<=%)[0-9]", pattern, perl = TRUE))[[1]]))
  }
  if (is.null(pattern) || length(arguments) != needs || any(nzchar(rlang::names2(arguments)))) {
    abort_nelvat(
      "engine",
      c(
        paste0("A database cannot be asked for `", rlang::as_label(expression), "`."),
        i = paste0(
          "It knows ",
          listed(
            paste0(
              "`",
              c(
                setdiff(names(sql_words), c("(", "&&", "||")),
                names(sql_functions),
                "^",
                "%%",
                "%/%",
                "%in%",
                "in_bins"
              ),
              "`"
            )
          ),
          ". Draw a sample of the rows, `table_in(sample = sample_of(20000))`, for others."
        )
      ),
      call
    )
  }
  filled_sql(pattern, vapply(arguments, of, ""))
}

filled_sql <- function(pattern, arguments) {
  for (i in seq_along(arguments)) {
    pattern <- gsub(paste0("%", i), paste0("\u0001", i), pattern, fixed = TRUE)
  }
  for (i in seq_along(arguments)) {
    pattern <- gsub(paste0("\u0001", i), arguments[[i]], pattern, fixed = TRUE)
  }
  paste0("(", pattern, ")")
}

sql_value <- function(value, source) {
  if (is.na(value)) return("NULL")
  if (is.logical(value)) return(if (value) "TRUE" else "FALSE")
  if (is.numeric(value)) return(sql_number(value))
  as.character(DBI::dbQuoteLiteral(source$connection, enc2utf8(as.character(value))))
}

# All 17 digits, never a whole number's own arithmetic.
sql_number <- function(value) {
  text <- sprintf("%.17g", value)
  if (grepl("[.e]", text)) text else paste0(text, ".0")
}

sql_name <- function(column, source) {
  as.character(DBI::dbQuoteIdentifier(source$connection, column))
}

# A column of the table, what stands for no value being none. A server's numbers are taken as
# doubles, which R computes with, and its NaN is missing. nan: may it have any?
sql_column <- function(column, source, nan = !column %in% source$without_nan) {
  name <- sql_name(column, source)
  strict <- source$engine == "postgres"
  is_number <- is.numeric(source$head[[column]])
  if (strict && is_number) {
    name <- paste0("CAST(", name, " AS DOUBLE PRECISION)")
    # In a form that one server sends on to another.
    if (nan) name <- paste0("(CASE WHEN ", name, " <> 'NaN' THEN ", name, " END)")
  }
  absent <- source$absent[[column]]
  if (!length(absent)) return(name)
  numbers <- suppressWarnings(as.numeric(absent))
  # A server compares no text with numbers; SQLite holds both in one column.
  values <- c(
    if (!strict || !is_number) vapply(absent, sql_value, "", source),
    if (!strict || is_number) vapply(numbers[is.finite(numbers)], sql_number, "")
  )
  if (!length(values)) return(name)
  paste0(
    "(CASE WHEN ",
    name,
    " IN (",
    paste(values, collapse = ", "),
    ") THEN NULL ELSE ",
    name,
    " END)"
  )
}

# The number of the class, from 0, that a value falls in between edges that rise, each class closed
# on the right: by halves, so that few comparisons are made.
sql_class <- function(value, edges, source) {
  if (source$engine == "postgres" && length(edges)) {
    # How many edges lie below: it counts those that do not lie above, so both are turned round.
    turned <- paste(vapply(rev(-edges), sql_number, ""), collapse = ", ")
    array <- paste0("CAST(ARRAY[", turned, "] AS DOUBLE PRECISION[])")
    return(paste0("(", length(edges), " - WIDTH_BUCKET(-", value, ", ", array, "))"))
  }
  branch <- function(low, high) {
    if (low == high) return(as.character(low))
    middle <- (low + high) %/% 2
    paste0(
      "CASE WHEN ",
      value,
      " <= ",
      sql_number(edges[middle + 1]),
      " THEN ",
      branch(low, middle),
      " ELSE ",
      branch(middle + 1, high),
      " END"
    )
  }
  branch(0, length(edges))
}

# The whole part of what is not below zero, as a class's number.
sql_whole <- function(value, source) {
  if (source$engine == "sqlite") {
    paste0("CAST(", value, " AS INTEGER)")
  } else {
    paste0("CAST(FLOOR(", value, ") AS INTEGER)")
  }
}
