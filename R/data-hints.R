# What in a column is to be looked at before it is drawn: numbers that stand for no value, words
# that a spreadsheet writes for errors, thousands signs, names that a spreadsheet made dates, rows
# of totals. A draft, the start of a figure and the reading of a table tell the same, each with the
# line that settles it.

words_for_missing <- c(
  "n.d.", "nd", "n/a", "na", "n.a.", "-", "--", ".", "?", "missing", "none", "null", "nan",
  "not measured"
)
spreadsheet_errors <- c(
  "#div/0!", "#n/a", "#value!", "#ref!", "#name?", "#num!", "#null!", "#spill!", "#calc!", "inf!"
)
numbers_for_missing <- c(
  -1, -9, -77, -88, -99, -777, -888, -999, -9999, -99999, -99.9, -99.99, -999.9, -999.99, -9.99,
  -127, -1e30, 99, 999, 9999, 99999, 999.9, 999.99, 9999.99, 1e30
)
# What a probe says when it did not measure, in degrees Celsius, and how far from all else it must
# stand.
probe_failures <- c(85, -127)
probe_apart <- 10

# A hint: what is seen, and the key of a field that settles it, as YAML.
new_hint <- function(seen, line = NULL) list(seen = seen, line = line)

yaml_list <- function(values) {
  paste0("[", paste(vapply(values, yaml_scalar, ""), collapse = ", "), "]")
}

# Hints of one column; found: its levels, where they are known.
column_hints <- function(values, column, found = NULL, error = NULL) {
  if (is.factor(values)) values <- as.character(values)
  hints <- if (is.character(values)) {
    text_hints(values, found %||% text_levels_cpp(values))
  } else if (is.numeric(values)) {
    number_hints(values, column, error)
  }
  Filter(Negate(is.null), hints)
}

missing_hint <- function(codes, values) {
  rows <- which(values %in% codes)
  new_hint(
    paste0(
      "likely missing values: ",
      quoted(codes),
      " (",
      if (length(rows) == 1) "row " else paste0(length(rows), " of them, the first in row "),
      rows[1],
      ")"
    ),
    paste0("missingValues: ", yaml_list(as.character(codes)))
  )
}

# error: what a spreadsheet wrote where NaN was read.
number_hints <- function(values, column, error = NULL) {
  present <- values[is.finite(values)]
  codes <- unique(c(likely_missing(present), failed_probe(present, column)))
  list(
    if (length(codes)) missing_hint(codes, values),
    if (!is.null(error)) missing_hint(error, ifelse(is.nan(values), error, ""))
  )
}

# Hints of all columns of a table that was read.
table_hints <- function(data, texts = NULL) {
  errors <- attr(data, "errors")
  Map(
    function(values, column) column_hints(values, column, texts[[column]], errors[[column]]),
    data,
    names(data)
  )
}

# Codes that stand apart from all other numbers.
likely_missing <- function(present) {
  if (length(unique(present)) < 3) return(NULL)
  for (code in numbers_for_missing[numbers_for_missing %in% present]) {
    others <- present[present != code]
    if (length(others) < 3) next
    apart <- if (code < 0) min(others) - code else code - max(others)
    if (apart > 0 && (code < 0 && min(others) >= 0 || apart > diff(range(others)))) return(code)
  }
  NULL
}

failed_probe <- function(present, column) {
  column_words <- name_words(column)
  warm <- any(grepl(measured_words$temperature, column_words)) ||
    identical(header_meaning(column)$unit, "\u00b0C")
  if (!warm) return(NULL)
  for (code in probe_failures[probe_failures %in% present]) {
    others <- present[present != code]
    if (length(others) < 3) next
    apart <- if (code < 0) min(others) - code else code - max(others)
    if (apart >= max(probe_apart, diff(range(others)) / 2)) return(code)
  }
  NULL
}

text_hints <- function(values, found) {
  texts <- found$levels
  if (!length(texts)) return(NULL)
  small <- tolower(trimws(texts))
  said_missing <- texts[small %in% c(words_for_missing, spreadsheet_errors)]
  if (length(said_missing) == length(texts)) said_missing <- character()
  rest <- setdiff(texts, said_missing)
  is_number <- !is.na(suppressWarnings(as.numeric(rest)))
  list(
    if (length(said_missing)) missing_hint(said_missing, values),
    thousands_hint(rest, is_number),
    numbers_hint(values, rest, is_number, found, length(said_missing) > 0),
    dates_hint(texts)
  )
}

# "1,234" and "1 234": numbers with signs between thousands.
thousands_hint <- function(texts, is_number) {
  for (sign in c(",", "'", "\u2019", " ", "\u00a0", "\u202f", ".")) {
    mark <- if (sign == ".") "[.]" else sign
    grouped <- grepl(paste0("^-?[0-9]{1,3}(", mark, "[0-9]{3})+([.,][0-9]+)?$"), texts)
    # A point between three digits is a decimal point, unless there are two.
    if (sign == ".") grouped <- grouped & lengths(regmatches(texts, gregexpr("[.]", texts))) > 1
    if (any(grouped) && all(grouped | is_number)) {
      return(
        new_hint(
          paste0(
            "numbers with \"",
            sign,
            "\" between thousands, such as ",
            quoted(texts[grouped][1])
          ),
          paste0("type: number, groupChar: ", yaml_scalar(sign))
        )
      )
    }
  }
  NULL
}

# Text of which at least half reads as numbers; a column of numbers alone is meant as text.
numbers_hint <- function(values, rest, is_number, found, has_missing) {
  if (!any(is_number) || all(is_number) || mean(is_number) < 0.5) return(NULL)
  if (any(grepl("^-?[0-9]{1,3}([,' ][0-9]{3})+", rest[!is_number]))) return(NULL)
  text <- which(values %in% rest[!is_number])
  n <- sum(found$n)
  if (length(text) > n / 2) return(NULL)
  odd <- unique(values[text])
  new_hint(
    paste0(
      length(text),
      " of ",
      counted(n, "value"),
      if (length(text) == 1) " is no number" else " are no numbers",
      ", the first ",
      quoted(values[text[1]]),
      " in row ",
      text[1]
    ),
    paste0("missingValues: ", yaml_list(utils::head(odd, 6)))
  )
}

month_shorts <- paste0(
  "jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec|m\u00e4r|mrz|mai|okt|dez|ene|ago|dic|",
  "janv|f\u00e9vr|mars|avr|juin|juil|ao\u00fbt|d\u00e9c"
)

# Names of which a few look like the dates that spreadsheets make of them.
dates_hint <- function(texts) {
  day <- paste0("^([0-9]{1,2}[-. ](", month_shorts, ")|(", month_shorts, ")[-. ][0-9]{1,2})[.]?$")
  dated <- grepl(day, tolower(texts), perl = TRUE)
  if (!any(dated) || all(dated) || mean(dated) > 0.5) return(NULL)
  shown <- texts[dated]
  new_hint(
    paste0("names that a spreadsheet made dates: ", quoted(shown, 4)),
    paste0(
      "categories: [",
      paste0(
        "{value: ",
        vapply(utils::head(shown, 2), yaml_scalar, ""),
        ", label: NAME}",
        collapse = ", "
      ),
      ", ...]"
    )
  )
}

total_words <- c(
  "total", "totals", "sum", "grand total", "all", "overall", "gesamt", "summe", "subtotal", "mean",
  "average"
)

# A row whose name says that it is the sum of those above, and whose numbers are: list(column,
# value), NULL for none.
totals_row <- function(data) {
  numbers <- names(data)[vapply(data, is.numeric, NA)]
  for (column in names(data)[vapply(data, function(one) is.character(one) || is.factor(one), NA)]) {
    values <- as.character(data[[column]])
    found <- which(tolower(trimws(values)) %in% total_words)
    if (length(found) != 1 || nrow(data) < 3) next
    sums <- vapply(
      numbers,
      function(name) {
        others <- data[[name]][-found]
        is_near(data[[name]][found], sum(others, na.rm = TRUE)) ||
          is_near(data[[name]][found], mean(others, na.rm = TRUE))
      },
      NA
    )
    if (length(sums) && mean(sums %in% TRUE) >= 0.5) {
      return(list(column = column, value = values[found], row = found))
    }
  }
  NULL
}

# A column that is the sum of the other quantities, by its name and numbers.
totals_column <- function(data) {
  numbers <- names(data)[vapply(data, is.numeric, NA)]
  for (column in numbers[tolower(numbers) %in% total_words]) {
    others <- data[setdiff(numbers, column)]
    if (length(others) < 2) next
    sums <- rowSums(others, na.rm = TRUE)
    near <- is_near(data[[column]], sums)
    if (any(near, na.rm = TRUE) && all(near, na.rm = TRUE)) return(column)
  }
  NULL
}

is_near <- function(a, b) abs(a - b) <= 1e-6 * (abs(a) + abs(b)) + 1e-9

# Hints of a table by column: texts, each with the line that settles it.
hint_texts <- function(hints) {
  vapply(
    hints,
    function(hint) {
      paste0(hint$seen, if (!is.null(hint$line)) paste0("; settled by `", hint$line, "`"))
    },
    ""
  )
}

# Warns of what is to be looked at in a table that was read, once; settled: columns of which it was
# said.
warn_of_hints <- function(table, settled, path) {
  hints <- table_hints(table, attr(table, "texts"))
  told <- unlist(
    lapply(setdiff(names(table), settled), function(column) {
      found <- hint_texts(hints[[column]])
      if (length(found)) paste0("\"", column, "\": ", found)
    })
  )
  total <- totals_row(table)
  told <- c(
    told,
    if (!is.null(total)) {
      paste0(
        "row ",
        total$row,
        ", ",
        quoted(total$value),
        " in \"",
        total$column,
        "\", is the sum or mean of the others"
      )
    }
  )
  if (!length(told)) return(invisible())
  warn_nelvat(
    "text",
    c(
      paste0("\"", path, "\" is to be looked at before it is drawn:"),
      stats::setNames(utils::head(told, 8), rep("*", min(8, length(told)))),
      if (length(told) > 8) c("*" = paste0("and ", length(told) - 8, " more")),
      i = paste0(
        "Keys of a field of the codebook, or `fields` of the table, settle what they stand for; ",
        "`missingValues: []` keeps all values."
      )
    )
  )
}
