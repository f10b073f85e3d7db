# The tables of a figure file.

# Tables in the order they stand; an entry may use those before it.
build_tables <- function(data, folder) {
  tables <- list()
  entries <- named_list(data, "data")
  for (name in names(entries)) {
    tables[[name]] <- build_table(entries[[name]], tables, folder, c("data", name))
    tables[[name]]$label <- paste0("data \"", name, "\"")
  }
  tables
}

build_table <- function(entry, tables, folder, at) {
  if (rlang::is_string(entry)) entry <- list(file = entry)
  if (!is.null(entry$counts)) return(build_counts(entry, tables, at))
  if (!is.null(entry$correlations)) return(build_correlations(entry, tables, at))
  check_keys(
    entry, c("file", "codebook", "sheet", "range", "encoding", "zone", "join", "counts", "correlations"),
    needs = "file", at = at
  )
  file <- string_at(entry$file, c(at, "file"))
  described_by <- if (!is.null(entry$codebook)) beside_file(string_at(entry$codebook, c(at, "codebook")), folder)
  book <- at_key(
    at,
    read_data(
      beside_file(file, folder), described_by, entry$sheet, entry$range, entry$encoding %||% "UTF-8", entry$zone
    )
  )
  for (other in unlist(entry$join)) {
    if (!other %in% names(tables)) {
      abort_figure(c(at, "join"), "No table of that name stands before this one under `data`.", other, names(tables))
    }
    book <- at_key(c(at, "join"), join_books(book, tables[[other]], NULL, rlang::current_env()))
  }
  book
}

# counts: {data: loaves, over: [bakery, verdict]}
build_counts <- function(entry, tables, at) {
  check_keys(entry, "counts", at = at)
  at <- c(at, "counts")
  check_keys(entry$counts, c("data", "over", "empty"), needs = c("data", "over"), at = at)
  table <- named_table(entry$counts$data, tables, c(at, "data"))
  columns <- lapply(
    unlist(entry$counts$over), function(column) rlang::expr(.data[[!!string_at(column, c(at, "over"))]])
  )
  at_key(at, rlang::eval_tidy(rlang::call2(counts, table, !!!columns, empty = entry$counts$empty %||% TRUE)))
}

# correlations: {data: loaves, columns: [rise, volume], method: spearman}
build_correlations <- function(entry, tables, at) {
  check_keys(entry, "correlations", at = at)
  at <- c(at, "correlations")
  check_keys(entry$correlations, c("data", "columns", "method", "half"), needs = "data", at = at)
  table <- named_table(entry$correlations$data, tables, c(at, "data"))
  columns <- unlist(entry$correlations$columns)
  chosen <- if (!is.null(columns)) rlang::call2(
    "c", !!!lapply(columns, function(column) rlang::expr(.data[[!!string_at(column, c(at, "columns"))]]))
  )
  at_key(
    at,
    rlang::eval_tidy(
      rlang::call2(
        correlations, table, chosen, method = entry$correlations$method %||% "pearson",
        half = entry$correlations$half %||% FALSE
      )
    )
  )
}

named_table <- function(name, tables, at) {
  name <- string_at(name, at)
  if (!name %in% names(tables)) abort_figure(at, "No table of that name is under `data`.", name, names(tables))
  tables[[name]]
}
