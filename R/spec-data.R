# The tables of a figure file.

# The tables that blocks use, in the order they stand; an entry may use those before it.
build_tables <- function(document, folder) {
  tables <- list()
  # Images and words need no table.
  if (is.null(document[["data"]])) return(tables)
  entries <- named_list(document[["data"]], "data")
  for (name in used_tables(document)) {
    tables[[name]] <- build_table(entries[[name]], tables, folder, c("data", name))
    tables[[name]]$label <- paste0("data \"", name, "\"")
  }
  tables
}

# Kinds of databases: SQLite files, text that is read piece by piece, PostgreSQL servers.
databases <- c("sqlite", "text", "postgres")
source_keys <- function() {
  c("database", "file", "service", "derive", "keep", names(word_arguments("table_in"))[-1])
}
# In the order of these steps: read, renamed, made long, joined, derived, kept.
build_table <- function(entry, tables, folder, at) {
  if (rlang::is_string(entry)) entry <- list(file = entry)
  if (!is.list(entry)) check_keys(entry, part_keys("table"), at = at)
  if (!is.null(entry[["counts"]])) return(build_counts(entry, tables, at))
  if (!is.null(entry[["correlations"]])) return(build_correlations(entry, tables, at))
  check_keys(entry, part_keys("table"), at = at)
  book <- read_entry(entry, folder, at)
  if (is_source(book)) return(built_source(book, entry, at))
  book <- renamed_columns(book, entry[["rename"]], c(at, "rename"))
  book <- build_long(book, entry[["long"]], c(at, "long"))
  book <- build_joins(book, entry[["join"]], tables, folder, c(at, "join"))
  derive <- build_derive(entry[["derive"]], names(book$data), c(at, "derive"))
  call <- rlang::current_env()
  book <- at_key(c(at, "derive"), derive_columns(book, derive, call))
  if (is.null(entry[["keep"]])) return(book)
  at_key(
    c(at, "keep"),
    keep_rows(book, file_expression(entry[["keep"]], names(book$data), c(at, "keep")), call)
  )
}

read_entry <- function(entry, folder, at) {
  if (!kept_work$tables) return(fresh_entry(entry, folder, at))
  key <- rlang::hash(list(entry, folder))
  known <- kept_work$read[[key]]
  same <- !is.null(known) && identical(known$files, md5_of_files(names(known$files)))
  if (same) {
    for (path in names(known$files)) tell_read(path)
    return(known$value)
  }
  heard <- with_files_read(fresh_entry(entry, folder, at))
  # Of names by a pattern others may come, and a database is asked each time, as what it holds
  # changes unseen.
  if (is_source(heard$value)) kept_work$steps <- FALSE
  if (!length(heard$patterns) && !is_source(heard$value)) {
    kept_work$read[[key]] <- heard[c("value", "files")]
    kept_work$read <- utils::tail(kept_work$read, most_kept_tables)
  }
  heard$value
}

fresh_entry <- function(entry, folder, at) {
  if (
    is.null(entry[["file"]]) == is.null(entry[["files"]]) &&
      !identical(entry[["database"]], "postgres")
  ) {
    abort_figure(at, "A table has one of the keys \"file\" and \"files\".", names(entry))
  }
  words_of <- function(key) {
    if (!is.null(entry[[key]])) {
      vapply(
        as.list(entry[[key]]),
        function(path) beside_file(string_at(path, c(at, key)), folder),
        "",
        USE.NAMES = FALSE
      )
    }
  }
  if (!is.null(entry[["database"]])) {
    at_key(c(at, "database"), check_choice(entry[["database"]], databases, "database", NULL))
    serves <- entry[["database"]] == "postgres"
    place <- c("file", "service")
    check_keys(entry, setdiff(source_keys(), place[2 - serves]), needs = place[1 + serves], at = at)
    sample <- entry[["sample"]]
    said <- list(
      table = entry[["table"]],
      codebook = words_of("codebook"),
      fields = entry_fields(entry[["fields"]], c(at, "fields")),
      sample = if (!is.null(sample)) at_key(c(at, "sample"), sample_of(sample)),
      parted_by = entry[["parted_by"]]
    )
    if (serves) {
      service <- string_at(entry[["service"]], c(at, "service"))
      return(at_key(at, do.call(table_of_service, c(service, said))))
    }
    return(at_key(at, do.call(table_in, c(words_of("file"), said))))
  }
  at_key(
    at,
    read_data(
      words_of("file"),
      codebook = words_of("codebook"),
      sheet = entry[["sheet"]],
      range = entry[["range"]],
      encoding = entry[["encoding"]] %||% "UTF-8",
      zone = entry[["zone"]],
      skip = entry[["skip"]],
      comment = entry[["comment"]],
      names = unlist(entry[["names"]]),
      files = words_of("files"),
      fields = entry_fields(entry[["fields"]], c(at, "fields"))
    )
  )
}

# A table that stays in its database: what is derived and kept is asked for with each question.
built_source <- function(source, entry, at) {
  columns <- names(source$head)
  derive <- build_derive(entry[["derive"]], columns, c(at, "derive"))
  source <- with_derived(source, derive, rlang::quo(NULL), NULL)
  source$data[names(derive)] <- rep(list(rep(NA_real_, nrow(source$data))), length(derive))
  if (is.null(entry[["keep"]])) return(source)
  source$keep <- list(
    file_expression(entry[["keep"]], c(columns, names(derive)), c(at, "keep"))
  )
  source
}

# fields: {rise_mm: {title: Loaf rise, unit: mm}}
entry_fields <- function(fields, at) {
  if (is.null(fields)) return(NULL)
  fields <- named_list(fields, at)
  for (column in names(fields)) {
    check_keys(fields[[column]], setdiff(field_keys(), "name"), at = c(at, column))
  }
  fields
}

# rename: {new: old}
renamed_columns <- function(book, rename, at) {
  if (is.null(rename)) return(book)
  for (new in names(named_list(rename, at))) {
    old <- string_at(rename[[new]], c(at, new))
    at_key(c(at, new), check_column(old, book$data, book$label, NULL))
    if (new %in% names(book$data)) {
      abort_figure(c(at, new), "There is a column of that name already.", new)
    }
    renamed <- match(old, names(book$data))
    names(book$data)[renamed] <- names(book$columns)[renamed] <- new
    names(book$kinds)[names(book$kinds) == old] <- new
  }
  book
}

# Columns by name, or by what their names have in common: {starts_with: day_, except: day_0}.
chosen_columns <- function(chosen, book, at) {
  columns <- names(book$data)
  if (is.list(chosen) && !is.null(names(chosen))) {
    check_keys(
      chosen,
      part_keys("columns"),
      at = at
    )
    is_chosen <- rep(TRUE, length(columns))
    for (test in intersect(c("starts_with", "ends_with"), names(chosen))) {
      f <- list(starts_with = startsWith, ends_with = endsWith)[[test]]
      is_chosen <- is_chosen &
        Reduce(`|`, lapply(unlist(chosen[[test]]), function(text) f(columns, text)))
    }
    if (!is.null(chosen[["contains"]])) {
      is_chosen <- is_chosen & grepl(chosen[["contains"]], columns, fixed = TRUE)
    }
    for (end in intersect(c("from", "to"), names(chosen))) {
      at_key(c(at, end), check_column(chosen[[end]], book$data, book$label, NULL))
      end_column <- match(chosen[[end]], columns)
      is_chosen <- is_chosen &
        (if (end == "from") seq_along(columns) >= end_column else seq_along(columns) <= end_column)
    }
    chosen <- setdiff(columns[is_chosen], unlist(chosen[["except"]]))
    if (!length(chosen)) {
      abort_figure(at, paste0("No column of ", book$label, " is meant."), NULL)
    }
  }
  chosen <- as.character(unlist(chosen))
  for (column in chosen) at_key(at, check_column(column, book$data, book$label, NULL))
  chosen
}

# long: {columns: {starts_with: day_}, prefix: day_, into: {day: {title: Day}, mass: {title: Mass,
# unit: g}}}
build_long <- function(book, long, at) {
  if (is.null(long)) return(book)
  said <- file_values("long_data", long, file_context(list(), book), at, "columns")
  at_key(
    at,
    long_book(book, said[["columns"]], said[["into"]], said[["prefix"]], rlang::current_env())
  )
}

# Kinds by name, as fields say them; of two the second, the values, are numbers unless said
# otherwise.
file_kinds <- function(fields, at) {
  named_list(fields, at)
  for (name in names(fields)) {
    check_keys(fields[[name]] %||% list(), setdiff(field_keys(), "name"), at = c(at, name))
  }
  if (length(fields) == 2 && is.null(fields[[2]]$type)) {
    fields[[2]] <- c(list(type = "number"), as.list(fields[[2]]))
  }
  Map(
    function(field, name) at_key(c(at, name), field_kind(as.list(field))),
    fields,
    names(fields)
  )
}

# join: the name of a table above; {data: name, by: {mine: theirs}, columns: [..]}; {file: ...}
# likewise; or a list of these.
build_joins <- function(book, join, tables, folder, at) {
  if (is.null(join)) return(book)
  if (rlang::is_string(join) || !is.null(names(join))) join <- list(join)
  for (one in join) {
    book <- build_join(
      book,
      if (rlang::is_string(one)) list(data = one) else one,
      tables,
      folder,
      at
    )
  }
  book
}

build_join <- function(book, join, tables, folder, at) {
  check_keys(join, part_keys("join"), at = at)
  if (!is.null(join[["data"]]) && any(reading_keys() %in% names(join))) {
    abort_figure(at, "A join names a table or a file, not both.", names(join))
  }
  if (!is.null(join[["data"]]) && !join[["data"]] %in% names(tables)) {
    abort_figure(
      at,
      "No table of that name stands before this one under `data`.",
      join[["data"]],
      names(tables)
    )
  }
  other <- if (!is.null(join[["data"]])) {
    tables[[join[["data"]]]]
  } else {
    read_entry(join[names(join) %in% reading_keys()], folder, at)
  }
  at_key(
    at,
    join_books(book, other, unlist(join[["by"]]), unlist(join[["columns"]]), rlang::current_env())
  )
}

# counts: {data: loaves, over: [bakery, verdict]}
build_counts <- function(entry, tables, at) {
  check_keys(entry, "counts", at = at)
  at <- c(at, "counts")
  said <- file_values("counts", entry$counts, file_context(tables), at, c("data", "over"))
  at_key(
    at,
    counts_of(said[["data"]], said[["over"]], said[["empty"]] %||% TRUE, rlang::current_env())
  )
}

# correlations: {data: loaves, columns: [rise, volume], method: spearman}
build_correlations <- function(entry, tables, at) {
  check_keys(entry, "correlations", at = at)
  at <- c(at, "correlations")
  said <- file_values("correlations", entry$correlations, file_context(tables), at, "data")
  at_key(at, rlang::inject(correlations(!!!said)))
}

named_table <- function(name, tables, at) {
  name <- string_at(name, at)
  if (!name %in% names(tables)) {
    abort_figure(at, "No table of that name is under `data`.", name, names(tables))
  }
  tables[[name]]
}
