# What the words that make one table of another take: their rows of the table of words.

# Columns by their names alone.
column_names <- function(says) a_part("chosen", ref_to("columns"), "columns", FALSE, says = says)

some_table <- function() a_table(says = "A [codebook()] or data frame.")

#' @export
word_rows.counts <- function(word) {
  list(
    data = some_table(),
    over = changed(column_names("Columns to count over."), dots = TRUE),
    empty = a_flag(
      says = "Keep combinations of categories that are not in the data, with `n` 0?"
    )
  )
}

#' @export
word_rows.correlations <- function(word) {
  list(
    data = a_table(
      says = c(
        "A [codebook()], a data frame, or a table that stays in its database, [table_in()], which",
        "is asked for sums (Pearson's only)."
      )
    ),
    columns = some_columns(says = "Columns, as `c(rise, volume)`; `NULL`: all quantities."),
    method = a_choice(
      c("pearson", "spearman", "kendall"),
      says = '`"pearson"`, `"spearman"` or `"kendall"`.'
    ),
    half = a_flag(says = "Only one of each pair, without the diagonal?")
  )
}

#' @export
word_rows.long_data <- function(word) {
  list(
    data = in_calls(some_table()),
    columns = column_names(
      "Columns, by their names or by what these have in common."
    ),
    into = changed(
      a_part(
        "kinds",
        open_map(list(anyOf = list(ref_to("field"), list(type = "null")))),
        "what the new columns mean, by name",
        says = c(
          "Two names with what the new columns mean, the names' first, such as a day and a mass.",
          "Without them the columns are `column` and `value`."
        )
      ),
      dots = TRUE
    ),
    prefix = a_text(
      or_null = TRUE,
      says = "Text at the beginning of the columns' names that is left out of the levels."
    )
  )
}

#' @export
word_rows.join_data <- function(word) {
  list(
    data = in_calls(some_table()),
    other = in_calls(a_table(says = "The second table, likewise.")),
    by = named_columns(
      c(
        "Columns to join on; `c(mine = \"theirs\")` where they are called unlike; `NULL`: all that",
        "both have."
      )
    ),
    columns = named_columns(
      c(
        "Which columns of `other` are added; `c(new = \"theirs\")` gives one another name. `NULL`:",
        "all."
      )
    )
  )
}

# Columns of another table, some by a name of their own.
named_columns <- function(says) {
  schema <- list(anyOf = c(one_or_more(list(type = "string"))$anyOf, list(open_map(text_schema))))
  a_part("values", schema, "columns, or columns by name", says = says)
}

#' @export
word_rows.table_in <- function(word) {
  list(
    connection = in_calls(
      a_part(
        "connection",
        NULL,
        "a connection or a path",
        FALSE,
        says = c(
          "A connection of package DBI (SQLite's and PostgreSQL's are tried), the path of an",
          "SQLite file (opened for reading only), or of a `.csv`, `.tsv` or `.txt` file (also with",
          "`.gz` added), which is read piece by piece into a temporary database."
        )
      )
    ),
    table = a_text(or_null = TRUE, says = "Name of the table or view; not for text files."),
    codebook = in_calls(a_text(or_null = TRUE, says = "Path of a codebook file, or `NULL`.")),
    fields = in_calls(fields_said("What columns mean, besides a codebook: see [read_data()].")),
    sample = in_calls(
      own_type(
        check_sample,
        NULL,
        "`sample_of()`",
        says = "`NULL`, or rows to be drawn in place of all: [sample_of()]."
      )
    ),
    parted_by = a_text(
      or_null = TRUE,
      says = c(
        "Name of the column by which the table is parted over several servers, so that each sums",
        "up its own rows; `NULL` for a table that is in one place."
      )
    )
  )
}

check_sample <- function(value, argument, call) {
  if (inherits(value, "nelvat_sample")) return(value)
  abort_nelvat(
    "argument",
    c(
      paste0("`", argument, "` must be `sample_of()`."),
      x = paste0("Found ", describe_value(value), ".")
    ),
    call
  )
}

fields_said <- function(says) {
  new_type(
    "mapping",
    says,
    or_null = TRUE,
    schema = open_map(ref_to("field")),
    words = "fields of a codebook by column"
  )
}
