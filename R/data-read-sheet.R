# Spreadsheets and Parquet, by packages that are installed when wanted.

# reading: see read_delimited().
read_sheet <- function(path, reading, call) {
  need_package("readxl", "Reading spreadsheets", call)
  sheets <- tryCatch(readxl::excel_sheets(path), error = function(error) {
    abort_nelvat(
      "file",
      c(paste0("\"", path, "\" cannot be read as a spreadsheet."), x = conditionMessage(error)),
      call
    )
  })
  check_sheet(reading$sheet, sheets, path, call)
  said <- reading$said
  titles <- if (is.null(said$skip) && is.null(said$names)) sheet_title_rows(path, reading) else 0
  head <- sheet_units(path, reading, said$skip %||% titles)
  table <- withCallingHandlers(
    readxl::read_excel(
      path,
      sheet = reading$sheet,
      range = reading$range,
      skip = (said$skip %||% titles) + if (is.null(head)) 0 else 2,
      col_names = said$names %||% head$names %||% TRUE,
      na = reading$missing_values %||% c("", "NA"),
      .name_repair = "minimal",
      guess_max = 1e5,
      progress = FALSE
    ),
    warning = function(warning) invokeRestart("muffleWarning")
  )
  if (!ncol(table)) abort_nelvat("file", c(paste0("The sheet of \"", path, "\" is empty.")), call)
  named <- named_header(ifelse(is.na(names(table)), "", names(table)))
  table <- as.data.frame(
    lapply(table, iso_text_to_moment),
    optional = TRUE,
    stringsAsFactors = FALSE
  )
  names(table) <- named$names
  read <- if (is.character(reading$sheet)) reading$sheet else sheets[reading$sheet %||% 1]
  table <- structure(
    table,
    units = head$units,
    told = c(
      if (length(sheets) > 1 && is.null(reading$sheet)) {
        paste0("the sheet \"", read, "\" was read; others are ", quoted(setdiff(sheets, read)))
      },
      if (titles) paste0(counted(titles, "row"), " above the header passed over"),
      if (length(head$units)) {
        paste0(
          "the row below the header holds units: ",
          listed(paste0("\"", names(head$units), "\" in ", head$units))
        )
      },
      if (length(named$nameless)) {
        paste0("columns without a name are called ", quoted(named$nameless))
      }
    )
  )
  without_repeats(table, named$names, path, call)
}

# Names and units of a sheet with a row of units below its header; NULL for one without.
sheet_units <- function(path, reading, skip) {
  if (!is.null(reading$range) || !is.null(reading$said$names)) return(NULL)
  head <- suppressMessages(
    readxl::read_excel(
      path,
      sheet = reading$sheet,
      skip = skip,
      n_max = 22,
      col_names = FALSE,
      col_types = "text",
      .name_repair = "minimal"
    )
  )
  if (nrow(head) < 3) return(NULL)
  records <- lapply(seq_len(nrow(head)), function(i) {
    cells <- unlist(head[i, ], use.names = FALSE)
    ifelse(is.na(cells), "", cells)
  })
  names <- named_header(trimws(records[[1]]))$names
  units <- units_record(records[-1], names)
  if (!is.null(units)) list(names = names, units = units)
}

check_sheet <- function(sheet, sheets, path, call) {
  if (is.character(sheet) && !sheet %in% sheets) {
    abort_nelvat(
      "file",
      c(paste0("\"", path, "\" has no sheet \"", sheet, "\"."), offer(sheet, sheets, "sheet")),
      call
    )
  }
  if (is.numeric(sheet) && !sheet %in% seq_along(sheets)) {
    abort_nelvat(
      "file",
      c(
        paste0("\"", path, "\" has no sheet ", sheet, "."),
        x = paste0("It has ", counted(length(sheets), "sheet"), ".")
      ),
      call
    )
  }
}

# Rows above the header of a sheet: those with fewer cells than the first that is as wide as what
# follows.
sheet_title_rows <- function(path, reading) {
  if (!is.null(reading$range)) return(0)
  head <- suppressMessages(
    readxl::read_excel(
      path,
      sheet = reading$sheet,
      n_max = 40,
      col_names = FALSE,
      col_types = "text",
      .name_repair = "minimal"
    )
  )
  if (nrow(head) < 2) return(0)
  filled <- rowSums(!is.na(as.matrix(head)))
  wide <- filled >= max(2, stats::median(filled[filled > 0]) - 1)
  if (!any(wide)) 0 else which(wide)[1] - 1
}

# Spreadsheets hold ISO dates as text at times.
iso_text_to_moment <- function(values) {
  if (is.character(values) && any(!is.na(values)) && all(is_iso_moment(values[!is.na(values)]))) {
    return(parse_iso(values, "UTC"))
  }
  if (inherits(values, "POSIXct") && all(as.numeric(values) %% 86400 == 0, na.rm = TRUE)) {
    return(as.Date(values))
  }
  values
}

read_parquet <- function(path, call) {
  need_package("nanoparquet", "Reading Parquet files", call)
  table <- tryCatch(nanoparquet::read_parquet(path), error = function(error) {
    said <- gsub(" @ lib/.*| *\\| *$", "", trimws(conditionMessage(error)))
    abort_nelvat(
      "file",
      c(
        paste0("\"", path, "\" cannot be read as Parquet."),
        x = paste0("Its reader says: ", said, "."),
        i = "Is it whole? A file that was cut off has lost its end, which says what is in it."
      ),
      call
    )
  })
  as.data.frame(table)
}
