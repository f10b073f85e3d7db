# Comma- and tab-separated text: laid out as data-read-layout.R finds it, its cells read by
# data.table's reader.

# reading: list(encoding, zone, missing_values, as_text, said); see read_data().
read_delimited <- function(path, reading, call) {
  plain <- plain_text_file(path, reading, call)
  if (plain != path) on.exit(unlink(plain))
  layout <- text_layout(plain, path, reading$said, call)
  called <- layout$names
  # Columns of the same name are told apart until it is seen whether they hold the same.
  layout$names <- make.unique(called, "\u0001")
  reading$as_text <- layout$names[called %in% reading$as_text]
  table <- read_cells(plain, path, layout, reading, call)
  long <- long_identifiers(table, plain, layout, reading)
  if (length(long)) {
    table[names(long)] <- long
    told <- paste0("identifiers of more digits than numbers hold are text: ", quoted(names(long)))
    layout$told <- c(layout$told, told)
  }
  errors <- spreadsheet_cells(table, plain, layout)
  if (!is.null(reading$zone)) table <- place_in_zone(table, plain, layout, reading$zone)
  table <- told_table(finished_columns(table, reading, call), path, layout$told)
  structure(without_repeats(table, called, path, call), units = layout$units, errors = errors)
}

# The reader takes "#DIV/0!" and the like for NaN. By column, the first such text.
spreadsheet_cells <- function(table, plain, layout) {
  has_nan <- which(vapply(table, function(values) is.double(values) && any(is.nan(values)), NA))
  if (!length(has_nan)) return(NULL)
  texts <- text_cells(plain, layout, unname(has_nan))
  found <- lapply(texts, function(text) {
    text[tolower(text) %in% spreadsheet_errors][1]
  })
  names(found) <- names(table)[has_nan]
  Filter(Negate(is.na), found)
}

# Columns as they are written.
text_cells <- function(plain, layout, columns) {
  data.table::fread(
    plain,
    skip = layout$start - 1,
    header = FALSE,
    sep = layout$separator,
    colClasses = "character",
    select = columns,
    na.strings = NULL,
    data.table = FALSE,
    blank.lines.skip = length(layout$names) > 1,
    showProgress = FALSE
  )
}

# A file as it is read: plain, in UTF-8, without comments.
plain_text_file <- function(path, reading, call) {
  plain <- if (grepl("[.]gz$", path)) gunzipped(path, call) else path
  check_is_text(path, readBin(plain, "raw", 64), call)
  converted <- !reading$encoding %in% c("UTF-8", "utf-8", "UTF8")
  comment <- reading$said$comment
  bytes <- readBin(plain, "raw", 4)
  if (
    !converted && length(bytes) > 1 && (
      all(bytes[1:2] == c(0xff, 0xfe)) || all(bytes[1:2] == c(0xfe, 0xff))
    )
  ) {
    abort_encoding(
      path,
      "data",
      "It begins as UTF-16 does.",
      call,
      i = "Say `encoding = \"UTF-16\"`."
    )
  }
  if (!converted && is.null(comment)) return(plain)
  bytes <- file_bytes(plain)
  if (converted) bytes <- in_utf8(bytes, reading$encoding, path, call)
  if (!is.null(comment)) bytes <- without_comments(bytes, comment)
  made <- tempfile(fileext = ".txt")
  writeBin(bytes, made)
  if (plain != path) unlink(plain)
  made
}

in_utf8 <- function(bytes, encoding, path, call) {
  text <- tryCatch(
    iconv(list(bytes), encoding, "UTF-8", toRaw = TRUE)[[1]],
    error = function(error) NULL
  )
  if (is.null(text)) {
    abort_nelvat(
      "encoding",
      c(
        paste0("The data file \"", path, "\" cannot be read in the encoding \"", encoding, "\"."),
        i = paste0(
          "Known names are those of `iconvlist()`, such as \"latin1\", \"windows-1252\", ",
          "\"UTF-16\"."
        )
      ),
      call
    )
  }
  text
}

# Lines that begin with the mark are made blank, so that the others keep their numbers.
without_comments <- function(bytes, mark) {
  lines <- byte_lines(bytes)
  lines[startsWith(trimws(lines, "left"), mark)] <- ""
  text_bytes(lines)
}

read_cells <- function(plain, path, layout, reading, call) {
  if (!is.finite(layout$start)) {
    none <- stats::setNames(lapply(layout$names, function(name) logical()), layout$names)
    return(as.data.frame(none, optional = TRUE))
  }
  warned <- FALSE
  table <- withCallingHandlers(
    tryCatch(parsed_cells(plain, layout, reading), error = function(error) {
      check_even_rows(plain, path, layout, call)
      NULL
    }),
    warning = function(warning) {
      warned <<- TRUE
      invokeRestart("muffleWarning")
    }
  )
  if (is.null(table)) return(split_cells(plain, layout, reading))
  # A row a line is all of them; quoted line breaks and blank lines are counted one by one.
  all_read <- !warned && length(table) == length(layout$names) &&
    count_lines_cpp(enc2native(plain)) == layout$start - 1 + nrow(table)
  if (!all_read && (check_even_rows(plain, path, layout, call) != nrow(table) || warned)) {
    return(split_cells(plain, layout, reading))
  }
  with_iso_times(stats::setNames(table, layout$names), plain, layout, reading)
}

parsed_cells <- function(plain, layout, reading, ...) {
  table <- data.table::fread(
    plain,
    skip = layout$start - 1,
    header = FALSE,
    sep = layout$separator,
    dec = layout$decimal,
    na.strings = reading$missing_values %||% c("", "NA"),
    encoding = "UTF-8",
    integer64 = "double",
    blank.lines.skip = length(layout$names) > 1,
    data.table = FALSE,
    showProgress = FALSE,
    keepLeadingZeros = is.null(list(...)$select),
    colClasses = list(
      character = if (is.null(list(...)$select)) which(layout$names %in% reading$as_text)
    ),
    ...
  )
  # Dates are R's own, which are no whole numbers of another class.
  is_date <- vapply(table, inherits, NA, "IDate")
  table[is_date] <- lapply(table[is_date], function(days) as.Date(as.numeric(days), "1970-01-01"))
  table
}

# The reader that keeps leading zeros leaves dates and times as text: those columns are read by
# themselves.
with_iso_times <- function(table, plain, layout, reading) {
  first <- vapply(
    table,
    function(values) if (is.character(values)) values[!is.na(values)][1] else NA_character_,
    ""
  )
  timed <- which(
    !is.na(first) & nchar(first) >= 10 & is_iso_moment(first) & !layout$names %in% reading$as_text
  )
  if (length(timed)) {
    table[timed] <- suppressWarnings(parsed_cells(plain, layout, reading, select = unname(timed)))
  }
  # It knows times with seconds only.
  for (column in timed[vapply(table[timed], is.character, NA)]) {
    values <- table[[column]]
    if (!all(is_iso_moment(values) | is.na(values))) next
    times <- parse_iso(values, "UTC")
    if (identical(is.na(times), is.na(values))) table[[column]] <- times
  }
  table
}

# Each row has as many fields as there are names; returns how many rows there are.
check_even_rows <- function(plain, path, layout, call) {
  found <- count_fields_cpp(file_bytes(plain), layout$separator, layout$start)
  n <- length(layout$names)
  wrong <- which(found$fields != n & found$fields > 0)
  if (length(wrong)) {
    abort_uneven(path, found$line[wrong[1]], found$fields[wrong[1]], layout$header_line, n, call)
  }
  found$records
}

# What the fast reader takes for a slip, such as a quoted field with both a separator and a line
# break in it, is split record by record.
split_cells <- function(plain, layout, reading) {
  found <- split_records_cpp(file_bytes(plain), layout$separator, .Machine$integer.max, TRUE)
  rows <- found$fields[found$line >= layout$start & lengths(found$fields) > 0]
  table <- lapply(seq_along(layout$names), function(i) {
    values <- trimws(vapply(rows, `[`, "", i))
    values[values %in% (reading$missing_values %||% c("", "NA"))] <- NA
    if (layout$names[i] %in% reading$as_text || any(grepl("^[-+]?0[0-9]", values))) return(values)
    if (any(!is.na(values)) && all(is_iso_moment(values[!is.na(values)]))) {
      return(parse_iso(values, "UTC"))
    }
    utils::type.convert(values, as.is = TRUE, na.strings = character(), dec = layout$decimal)
  })
  as.data.frame(stats::setNames(table, layout$names), optional = TRUE, stringsAsFactors = FALSE)
}

# Columns of whole numbers written in more digits than numbers hold, as text.
long_identifiers <- function(table, plain, layout, reading) {
  long <- which(vapply(table, has_lost_digits, NA))
  if (!length(long)) return(NULL)
  texts <- data.table::fread(
    plain,
    skip = layout$start - 1,
    header = FALSE,
    sep = layout$separator,
    colClasses = "character",
    select = unname(long),
    na.strings = reading$missing_values %||% c("", "NA"),
    data.table = FALSE,
    blank.lines.skip = length(layout$names) > 1,
    showProgress = FALSE
  )
  names(texts) <- names(long)
  texts[vapply(texts, function(text) any(grepl("^[-+]?[0-9]{16,}$", text)), NA)]
}

# Whole numbers that a double cannot tell from their neighbours.
has_lost_digits <- function(column) {
  is.double(column) && !is.object(column) && any(
    abs(column) > 2^53 & column == round(column),
    na.rm = TRUE
  )
}

# Times without an offset were read as UTC; where another zone is declared, their
# clock reading is placed in it.
place_in_zone <- function(table, plain, layout, zone) {
  times <- names(table)[vapply(table, inherits, NA, "POSIXct")]
  if (!length(times)) return(table)
  sample <- data.table::fread(
    plain,
    skip = layout$start - 1,
    header = FALSE,
    sep = layout$separator,
    nrows = 100,
    colClasses = "character",
    select = match(times, layout$names),
    na.strings = "",
    data.table = FALSE
  )
  for (i in seq_along(times)) {
    text <- sample[[i]]
    column <- times[i]
    bare <- !grepl("(Z|[+-][0-9]{2}:?[0-9]{2})$", text[!is.na(text)][1])
    table[[column]] <- if (bare) {
      as.POSIXct(
        format(table[[column]], "%Y-%m-%d %H:%M:%OS6", tz = "UTC"),
        tz = zone,
        format = "%Y-%m-%d %H:%M:%OS"
      )
    } else {
      structure(table[[column]], tzone = zone)
    }
  }
  table
}

# Columns as they are meant: doubled quotes one, missing values missing, dates dates. The levels of
# columns of text are kept, as they are asked for again.
finished_columns <- function(table, reading, call) {
  texts <- list()
  for (column in names(table)) {
    values <- plain_column(table[[column]])
    if (is.character(values)) {
      found <- text_levels_cpp(values)
      check_cells_utf8(found$levels, column, reading, call)
      if (any(grepl("\"\"", found$levels, fixed = TRUE, useBytes = TRUE))) {
        values <- gsub("\"\"", "\"", values, fixed = TRUE)
        found <- text_levels_cpp(values)
      }
      if (any(found$levels %in% reading$missing_values)) {
        values <- without_missing(values, reading$missing_values, column %in% reading$as_text)
        found <- if (is.character(values)) text_levels_cpp(values)
      }
      texts[[column]] <- found
    }
    table[[column]] <- values
  }
  structure(table, texts = texts)
}

check_cells_utf8 <- function(levels, column, reading, call) {
  wrong <- which(!validUTF8(levels))
  if (!length(wrong)) return(invisible())
  abort_nelvat(
    "encoding",
    c(
      paste0("Column \"", column, "\" is not in UTF-8."),
      x = paste0("It holds \"", iconv(levels[wrong[1]], "latin1", "UTF-8"), "\", read as Latin-1."),
      i = "Say `encoding = \"latin1\"`, or what else it is, when reading the file."
    ),
    call
  )
}

plain_column <- function(values) {
  if (inherits(values, "IDate")) return(structure(as.numeric(values), class = "Date"))
  values
}

# The reader takes quoted texts as they are; what names a missing value is one.
without_missing <- function(values, missing_values, stays_text) {
  values[values %in% missing_values] <- NA
  stays_text <- stays_text || any(grepl("^[-+]?0[0-9]", values))
  if (stays_text) values else utils::type.convert(values, as.is = TRUE, na.strings = character())
}

# A gzipped file written out plain, a megabyte at a time.
gunzipped <- function(path, call) {
  plain <- tempfile(fileext = ".txt")
  written <- tryCatch(written_plain(path, plain), error = identity, warning = identity)
  check_gzip_whole(path, if (is.numeric(written)) written else -1, call)
  plain
}

# How many bytes there are of it.
written_plain <- function(path, plain) {
  from <- gzfile(path, "rb")
  to <- file(plain, "wb")
  on.exit({
    close(from)
    close(to)
  })
  n <- 0
  while (length(piece <- readBin(from, "raw", 2^20))) {
    writeBin(piece, to)
    n <- n + length(piece)
  }
  n
}
