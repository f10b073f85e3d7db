# A condition on rows in words: "microbe is F. sanfranciscensis or K. humilis and firmness < 12 N".
# Columns have the codebook's names, levels theirs, numbers the unit that they are compared in. What
# has no words here stands as it was written. Names may be marked up; what was written is verbatim.

condition_words <- function(keep, before, columns = list()) {
  local_number_options()
  said <- c(before$condition, words_of_condition(rlang::quo_get_expr(keep), columns))
  # Of two conditions each with an "or" stands for itself.
  open <- length(said) > 1 & grepl(" or |[|]", said) & !grepl("^[(].*[)]$", said)
  paste(ifelse(open, paste0("(", said, ")"), said), collapse = " and ")
}

as_written <- function(expression) {
  said <- gsub("\\s+", " ", paste(deparse(expression, width.cutoff = 500L), collapse = " "))
  verbatim(gsub(" *(%[^% ]*%) *", " \\1 ", said))
}

words_of_condition <- function(expression, columns) {
  inner <- function(part) words_of_condition(part, columns)
  if (rlang::is_call(expression, "(", n = 1)) return(inner(expression[[2]]))
  if (rlang::is_call(expression, c("&", "&&"), n = 2)) {
    parts <- lapply(as.list(expression)[-1], function(part) {
      open <- if (rlang::is_call(part, "(", n = 1)) part[[2]] else part
      if (rlang::is_call(open, c("|", "||"))) paste0("(", inner(open), ")") else inner(open)
    })
    return(paste(parts, collapse = " and "))
  }
  if (rlang::is_call(expression, c("|", "||"), n = 2)) {
    same <- same_column_levels(expression, columns)
    if (!is.null(same)) return(is_one_of(same$column, same$values, columns))
    return(paste(inner(expression[[2]]), "or", inner(expression[[3]])))
  }
  if (rlang::is_call(expression, "!", n = 1)) {
    of <- expression[[2]]
    if (rlang::is_call(of, "(", n = 1)) of <- of[[2]]
    if (rlang::is_call(of, "is.na", n = 1) && is_known_column(of[[2]], columns)) {
      return(paste(column_said(of[[2]], columns), "is known"))
    }
    if (rlang::is_call(of, "%in%", n = 2) && is_known_column(of[[2]], columns)) {
      values <- constants_of(of[[3]])
      if (!is.null(values)) return(is_one_of(of[[2]], values, columns, "is none of"))
    }
    return(as_written(expression))
  }
  if (rlang::is_call(expression, "is.na", n = 1) && is_known_column(expression[[2]], columns)) {
    return(paste(column_said(expression[[2]], columns), "is missing"))
  }
  if (rlang::is_call(expression, "%in%", n = 2) && is_known_column(expression[[2]], columns)) {
    values <- constants_of(expression[[3]])
    if (!is.null(values)) return(is_one_of(expression[[2]], values, columns))
  }
  if (rlang::is_call(expression, names(relation_signs), n = 2)) {
    said <- relation_words(expression, columns)
    if (!is.null(said)) return(said)
  }
  as_written(expression)
}

relation_signs <- c(
  `==` = "=", `!=` = "\u2260", `<` = "<", `>` = ">", `<=` = "\u2264", `>=` = "\u2265"
)
turned_relations <- c(
  `==` = "==", `!=` = "!=", `<` = ">", `>` = "<", `<=` = ">=", `>=` = "<="
)

is_known_column <- function(expression, columns) {
  is.name(expression) && as.character(expression) %in% names(columns)
}

# The values of a constant, or of `c()` of constants; NULL for anything else.
constants_of <- function(expression) {
  if (rlang::is_call(expression, "c")) {
    each <- lapply(as.list(expression)[-1], constants_of)
    return(if (length(each) && all(lengths(each) == 1)) unlist(each))
  }
  if (rlang::is_call(expression, "-", n = 1) && is.numeric(expression[[2]])) {
    return(-expression[[2]])
  }
  if (is.atomic(expression) && length(expression) == 1 && !is.na(expression)) expression
}

# "flour == 'rye' | flour == 'spelt'": list(column, values) where all are of one column.
same_column_levels <- function(expression, columns) {
  if (rlang::is_call(expression, "(", n = 1)) expression <- expression[[2]]
  if (rlang::is_call(expression, c("|", "||"), n = 2)) {
    left <- same_column_levels(expression[[2]], columns)
    right <- same_column_levels(expression[[3]], columns)
    if (is.null(left) || is.null(right) || !identical(left$column, right$column)) return(NULL)
    return(list(column = left$column, values = c(left$values, right$values)))
  }
  if (!rlang::is_call(expression, "==", n = 2)) return(NULL)
  if (!is_known_column(expression[[2]], columns)) return(NULL)
  value <- constants_of(expression[[3]])
  if (!is.null(value)) list(column = expression[[2]], values = value)
}

column_said <- function(column, columns) {
  id <- as.character(column)
  name_in_sentence(columns[[id]]$name %||% verbatim(tidy_name(id)), id)
}

# A value of a column: the name of a level, a number with its unit, a text as it is.
value_said <- function(value, kind) {
  if (has_levels(kind)) {
    name <- kind$level_names[match(as.character(value), kind$levels)]
    return(if (length(name) && !is.na(name)) name else verbatim(as.character(value)))
  }
  if (!is.numeric(value)) return(verbatim(as.character(value)))
  text <- sub("-", "\u2212", format(value, digits = 15))
  unit <- if (identical(kind$kind, "quantity")) kind$unit
  if (is.null(unit) || !nzchar(unit)) text else paste0(text, "\u00a0", unit)
}

is_one_of <- function(column, values, columns, verb = "is") {
  kind <- columns[[as.character(column)]]
  said <- vapply(values, value_said, "", kind, USE.NAMES = FALSE)
  n <- length(said)
  either <- if (n < 2) said else paste(paste(said[-n], collapse = ", "), "or", said[n])
  if (n > 6) either <- paste("one of", n, if (has_levels(kind)) "levels" else "values")
  paste(column_said(column, columns), verb, either)
}

# A comparison of a column with a constant; NULL for others.
relation_words <- function(expression, columns) {
  sign <- as.character(expression[[1]])
  column <- expression[[2]]
  constant <- expression[[3]]
  if (!is_known_column(column, columns) && is_known_column(constant, columns)) {
    column <- expression[[3]]
    constant <- expression[[2]]
    sign <- turned_relations[[sign]]
  }
  value <- constants_of(constant)
  if (!is_known_column(column, columns) || length(value) != 1) return(NULL)
  kind <- columns[[as.character(column)]]
  if (has_levels(kind) && sign %in% c("==", "!=")) {
    return(is_one_of(column, value, columns, if (sign == "==") "is" else "is not"))
  }
  paste(column_said(column, columns), relation_signs[[sign]], value_said(value, kind))
}
