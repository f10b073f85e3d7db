# One table from several files.

# The files that are read: one path, or those that a pattern finds, in the order a person counts.
data_paths <- function(path, files, call) {
  if (is.null(path) == is.null(files)) {
    abort_nelvat(
      "argument",
      c(
        "`read_data()` takes either `path` or `files`.",
        x = if (is.null(path)) "Neither is given." else "Both are given."
      ),
      call
    )
  }
  if (is.null(files)) {
    check_string(path, "path", call = call)
    check_file(path, "data", call)
    return(path)
  }
  if (is.list(files)) files <- unlist(files)
  if (!is.character(files) || anyNA(files) || !length(files)) {
    abort_nelvat(
      "argument",
      c(
        "`files` must be paths or a pattern such as \"plate-*.csv\".",
        x = paste0("Found ", describe_value(files), ".")
      ),
      call
    )
  }
  paths <- unlist(
    lapply(files, function(one) {
      if (!grepl("[*?[]", one)) return(one)
      found <- Sys.glob(one)
      tell_listed(one, found)
      if (length(found)) return(found[order(counting_order(found))])
      abort_nelvat(
        "file",
        c(
          paste0("No file is called as \"", one, "\" says."),
          offer(basename(one), list.files(dirname(one)), "file")
        ),
        call
      )
    })
  )
  for (one in paths) check_file(one, "data", call)
  unique(paths)
}

# "plate-2" before "plate-10": numbers in names are compared as numbers.
counting_order <- function(names) {
  padded <- names
  runs <- gregexpr("[0-9]+", names)
  regmatches(padded, runs) <- lapply(
    regmatches(names, runs),
    function(digits) formatC(digits, width = 15, flag = " ")
  )
  padded
}

# One table of all files, with a column that says which each row is of.
read_tables <- function(paths, several, reading, call) {
  tables <- lapply(paths, function(path) {
    table <- read_table(path, reading, call)
    # Text where a quantity is declared is an error of its own.
    texts <- names(table)[vapply(table, is.character, NA)]
    warn_of_hints(table, c(reading$settled, intersect(texts, reading$declared)), path)
    ask_dates(table, path)
    tell_reading(table, path)
    attributes(table)[c("texts", "told", "asked")] <- NULL
    table
  })
  if (!several) return(tables[[1]])
  units <- attr(tables[[1]], "units")
  columns <- names(tables[[1]])
  for (i in seq_along(tables)) check_like_first(names(tables[[i]]), columns, paths[c(1, i)], call)
  if ("file" %in% columns) {
    abort_nelvat(
      "file",
      c(
        "The column \"file\" says which file a row is of.",
        x = paste0("\"", paths[1], "\" has one of that name.")
      ),
      call
    )
  }
  classes <- vapply(
    tables,
    function(table) paste(vapply(table, function(one) class(one)[1], ""), collapse = " "),
    ""
  )
  if (length(unique(classes)) > 1) tables <- alike_columns(tables, paths, call)
  # Files of one name in several folders are told apart by their folders.
  called <- basename(paths)
  if (anyDuplicated(called)) called <- paths
  file <- rep(sub("[.][^.]*([.]gz)?$", "", called), vapply(tables, nrow, 0L))
  table <- cbind(file = file, do.call(rbind, lapply(tables, function(table) table[columns])))
  errors <- unlist(lapply(tables, attr, "errors"), recursive = FALSE)
  structure(table, units = units, errors = errors[!duplicated(names(errors))])
}

check_like_first <- function(columns, first, paths, call) {
  absent <- setdiff(first, columns)
  more <- setdiff(columns, first)
  if (!length(c(absent, more))) return(invisible())
  abort_nelvat(
    "file",
    c(
      "Files that make one table must have the same columns.",
      x = paste0(
        "\"",
        paths[2],
        "\" ",
        if (length(absent)) paste0("lacks ", quoted(absent)),
        if (length(absent) && length(more)) " and ",
        if (length(more)) paste0("has ", quoted(more)),
        ", unlike \"",
        paths[1],
        "\"."
      )
    ),
    call
  )
}

# Columns that are numbers in some files and text in others, or empty in some, made of one sort.
alike_columns <- function(tables, paths, call) {
  for (column in names(tables[[1]])) {
    sorts <- vapply(tables, function(table) class(table[[column]])[1], "")
    empty <- vapply(tables, function(table) all(is.na(table[[column]])), NA)
    sort <- unique(sorts[!empty])
    if (length(sort) < 2 || all(sort %in% c("integer", "numeric"))) {
      tables <- lapply(tables, function(table) {
        if (all(is.na(table[[column]])) && length(sort) == 1) {
          table[[column]] <- tables[[match(sort, sorts)]][[column]][NA_integer_][
            rep(1, nrow(table))
          ]
        }
        table
      })
      next
    }
    abort_nelvat(
      "file",
      c(
        paste0("Column \"", column, "\" is of unlike sorts in the files."),
        x = paste0(
          "It is ",
          listed(
            paste0(sorts[match(sort, sorts)], " in \"", basename(paths[match(sort, sorts)]), "\"")
          ),
          "."
        )
      ),
      call
    )
  }
  tables
}
