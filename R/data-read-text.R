# Comma- and tab-separated text, by data.table's reader.

read_delimited <- function(path, encoding, zone, missing_values, as_text, call) {
  plain <- if (grepl("[.]gz$", path)) gunzipped(path) else path
  if (plain != path) on.exit(unlink(plain))
  header <- names(read_quietly(plain, path, call, nrows = 0))
  check_column_names(header, path, call)
  table <- read_quietly(
    plain, path, call, na.strings = missing_values %||% c("", "NA"),
    encoding = if (encoding == "latin1") "Latin-1" else "UTF-8",
    colClasses = list(character = intersect(as_text, header)), sep = if (grepl("[.]tsv", path)) "\t" else "auto"
  )
  if (!is.null(zone)) table <- place_in_zone(table, plain, path, zone, call)
  texts <- list()
  for (column in names(table)) {
    values <- plain_column(table[[column]], encoding)
    if (is.character(values)) {
      found <- text_levels_cpp(values)
      if (any(found$levels %in% missing_values)) {
        values <- without_missing(values, missing_values)
        found <- if (is.character(values)) text_levels_cpp(values)
      }
      texts[[column]] <- found
    }
    table[[column]] <- values
  }
  structure(table, texts = texts)
}

# Rows of unlike length are an error: data.table warns and stops reading there. What it warns
# of is told in the language of the session, so the fields are counted here instead.
read_quietly <- function(plain, path, call, ...) {
  warned <- FALSE
  table <- withCallingHandlers(
    tryCatch(
      data.table::fread(plain, ..., data.table = FALSE, showProgress = FALSE, header = TRUE, check.names = FALSE),
      error = function(error) {
        abort_nelvat("file", c(paste0("\"", path, "\" cannot be read as a table."), x = conditionMessage(error)), call)
      }
    ),
    warning = function(warning) {
      warned <<- TRUE
      invokeRestart("muffleWarning")
    }
  )
  if (warned) check_even_rows(plain, path, names(table), call)
  table
}

# Each row has as many fields as the header.
check_even_rows <- function(plain, path, header, call) {
  bytes <- file_bytes(plain)
  counted_by <- lapply(c(",", "\t", ";", "|", " "), function(separator) count_fields_cpp(bytes, separator))
  first <- vapply(counted_by, function(found) found$fields[1], 0)
  found <- counted_by[[if (length(header) %in% first) match(length(header), first) else which.max(first)]]
  wrong <- which(found$fields != found$fields[1])
  if (!length(wrong)) return(invisible())
  abort_nelvat("file", c(
    paste0("Rows of \"", path, "\" have unlike numbers of columns."),
    x = paste0(
      "Line ", found$line[wrong[1]], " has ", found$fields[wrong[1]], " where the header has ", found$fields[1], "."
    ),
    i = "Mend the file: each row needs a value, or nothing, between each two separators."
  ), call)
}

# Times without an offset were read as UTC; where another zone is declared, their
# clock reading is placed in it.
place_in_zone <- function(table, plain, path, zone, call) {
  times <- names(table)[vapply(table, inherits, NA, "POSIXct")]
  if (!length(times)) return(table)
  sample <- read_quietly(plain, path, call, nrows = 100, colClasses = "character", select = times, na.strings = "")
  for (column in times) {
    text <- sample[[column]]
    bare <- !grepl("(Z|[+-][0-9]{2}:?[0-9]{2})$", text[!is.na(text)][1])
    table[[column]] <- if (bare) as.POSIXct(
      format(table[[column]], "%Y-%m-%d %H:%M:%OS6", tz = "UTC"), tz = zone, format = "%Y-%m-%d %H:%M:%OS"
    )
    else structure(table[[column]], tzone = zone)
  }
  table
}

plain_column <- function(values, encoding) {
  if (inherits(values, "IDate")) return(structure(as.numeric(values), class = "Date"))
  if (inherits(values, "integer64")) return(as.numeric(values))
  if (is.character(values) && encoding == "latin1") return(enc2utf8(values))
  values
}

# The reader takes quoted texts as they are; what names a missing value is one.
without_missing <- function(values, missing_values) {
  values[values %in% missing_values] <- NA
  utils::type.convert(values, as.is = TRUE, na.strings = character())
}

# A gzipped file written out plain, a megabyte at a time.
gunzipped <- function(path) {
  plain <- tempfile(fileext = ".txt")
  from <- gzfile(path, "rb")
  to <- file(plain, "wb")
  on.exit({
    close(from)
    close(to)
  })
  while (length(piece <- readBin(from, "raw", 2^20))) writeBin(piece, to)
  plain
}
