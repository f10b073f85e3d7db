# Comma- and tab-separated text, by data.table's reader.

read_delimited <- function(path, encoding, zone, missing_values, as_text, call) {
  plain <- if (grepl("[.]gz$", path)) gunzipped(path) else path
  if (plain != path) on.exit(unlink(plain))
  header <- names(read_quietly(plain, path, call, nrows = 0))
  check_column_names(header, path, call)
  table <- read_quietly(
    plain, path, call, na.strings = missing_values %||% c("", "NA"), encoding = if (encoding == "latin1") "Latin-1" else "UTF-8",
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

# Rows of unlike length are an error: data.table warns and stops reading there.
read_quietly <- function(plain, path, call, ...) {
  withCallingHandlers(
    tryCatch(
      data.table::fread(plain, ..., data.table = FALSE, showProgress = FALSE, header = TRUE, check.names = FALSE),
      error = function(error) {
        if (inherits(error, "nelvat_error")) stop(error)
        abort_nelvat("file", c(paste0("\"", path, "\" cannot be read as a table."), x = conditionMessage(error)), call)
      }
    ),
    warning = function(warning) {
      text <- conditionMessage(warning)
      if (grepl("Stopped early|Discarded single-line footer|Detected [0-9]+ column names but", text)) abort_unlike_rows(text, path, call)
      invokeRestart("muffleWarning")
    }
  )
}

abort_unlike_rows <- function(text, path, call) {
  number <- function(before) sub(paste0(".*", before, " ([0-9]+).*"), "\\1", text)
  abort_nelvat("file", c(
    paste0("Rows of \"", path, "\" have unlike numbers of columns."),
    x = if (grepl("Stopped early", text)) {
      paste0("Line ", number("line"), " has ", number("found"), " where ", number("Expected"), " are expected.")
    } else if (grepl("footer", text)) {
      paste0("The last line has fewer: ", sub(".*<<(.*)>>.*", "\\1", text), ".")
    } else {
      paste0("The header names ", number("Detected"), "; the rows have ", number("data has"), ".")
    },
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
    table[[column]] <- if (bare) as.POSIXct(format(table[[column]], "%Y-%m-%d %H:%M:%OS6", tz = "UTC"), tz = zone, format = "%Y-%m-%d %H:%M:%OS")
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
