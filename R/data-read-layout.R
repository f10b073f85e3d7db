# How a text file is laid out: which line is the header, what stands above it, what parts the
# fields, and what a decimal mark is. Found by counting the fields of the first records, before
# anything is read, so that no row is taken for a header or left out without a word.

# What is looked at; the rest must be as the head is, or is an error with its line.
head_bytes <- 2^18
most_records <- 400

# plain: path of the text as it is read; path: as the user named it; said: list(skip, comment,
# names), NULL where nothing was said. Returns list(separator, decimal, start: the line that the
# rows begin at, header_line, names, told: what was found, in words).
text_layout <- function(plain, path, said, call) {
  whole <- file.size(plain) <= head_bytes
  head <- readBin(plain, "raw", head_bytes)
  if (length(head) > 2 && identical(head[1:3], as.raw(c(0xef, 0xbb, 0xbf)))) head <- head[-(1:3)]
  if (any(head == 0)) {
    abort_encoding(path, "data", "It holds bytes of 0, as files that are no text do.", call)
  }
  check_head_utf8(head, path, call)
  separators <- if (grepl("[.]tsv([.]gz)?$", path)) "\t" else c(",", "\t", ";", "|")
  found <- lapply(separators, function(separator) {
    without_skipped(
      changed(split_records_cpp(head, separator, most_records, whole), separator = separator),
      said
    )
  })
  width <- lapply(found, table_width)
  best <- which.max(
    vapply(width, function(one) if (one$width > 1) one$share + one$width * 1e-3 else 0.5, 0)
  )
  found <- found[[best]]
  if (!length(found$fields)) {
    abort_nelvat(
      "file",
      c(
        paste0("The data file \"", path, "\" holds no table."),
        x = "All its lines are blank or comments."
      ),
      call
    )
  }
  finished_layout(
    header_record(found, width[[best]]$width, path, said, call),
    found,
    said,
    path,
    call
  )
}

# The header and what stands above it are text that can be told.
check_head_utf8 <- function(head, path, call) {
  ends <- which(head == as.raw(10L))
  cut <- if (length(ends)) head[seq_len(max(ends))] else head
  if (validUTF8(rawToChar(cut))) return(invisible())
  lines <- split_records_cpp(cut, "\t", .Machine$integer.max, FALSE)
  wrong <- which(!vapply(lines$fields, function(fields) all(validUTF8(fields)), NA))
  if (!length(wrong)) return(invisible())
  shown <- iconv(paste(lines$fields[[wrong[1]]], collapse = " "), "latin1", "UTF-8")
  abort_encoding(
    path,
    "data",
    paste0(
      "Line ",
      lines$line[wrong[1]],
      " is not: ",
      substr(shown, 1, 60),
      " (shown as Latin-1)."
    ),
    call,
    i = "Say `encoding = \"latin1\"`, or what else it is, when reading the file."
  )
}

# Records below the lines to skip, without comments: those that were said, or those above the header
# that begin with "#".
without_skipped <- function(found, said) {
  first <- vapply(found$fields, function(fields) if (length(fields)) fields[1] else "", "")
  above <- found$line <= (said$skip %||% 0)
  commented <- startsWith(trimws(first), said$comment %||% "#")
  if (is.null(said$comment)) commented <- commented & cumsum(!commented & nzchar(first)) == 0
  kept <- !above & !commented & lengths(found$fields) > 0
  list(
    line = found$line[kept],
    fields = found$fields[kept],
    separator = found$separator,
    comments = sum(commented & !above)
  )
}

# The number of fields that most records have, and the share of them that has it.
table_width <- function(found) {
  n <- lengths(found$fields)
  if (!length(n)) return(list(width = 0, share = 0))
  most <- table(n)
  list(
    width = as.integer(names(most)[max(which(most == max(most)))]),
    share = max(most) / length(n)
  )
}

# Which record is the header: list(at, row_names, titles). A line above it with other fields is a
# title; a header with one name less than the rows has a column of row names; anything else uneven
# is an error.
header_record <- function(found, width, path, said, call) {
  if (!is.null(said$names)) return(list(at = 0L, row_names = FALSE, titles = character()))
  n <- lengths(found$fields)
  first <- if (is.null(said$skip)) below_padded_titles(found$fields, match(width, n), width) else 1L
  row_names <- FALSE
  if (
    is.null(said$skip) && first > 1 && n[first - 1] == width - 1 && names_rows(found$fields, first)
  ) {
    first <- first - 1L
    row_names <- TRUE
  } else if (!is.null(said$skip) && length(n) > 1 && n[1] == width - 1) {
    row_names <- TRUE
  } else if (first > 1 && !is_header(found$fields[[first]])) {
    abort_uneven(path, found$line[first], width, found$line[first - 1], n[first - 1], call)
  }
  list(
    at = first,
    row_names = row_names,
    titles = vapply(found$fields[seq_len(first - 1)], paste, "", collapse = " ")
  )
}

# Titles that a spreadsheet padded with separators to the width of the table: lines of one cell
# above one of several names.
below_padded_titles <- function(fields, first, width) {
  filled <- function(i) sum(nzchar(trimws(fields[[i]])))
  is_title <- function(i) filled(i) == 1 && nzchar(trimws(fields[[i]][1]))
  header_at <- first
  while (header_at < length(fields) && is_title(header_at)) header_at <- header_at + 1L
  if (header_at == first || lengths(fields[header_at]) != width || filled(header_at) < 2) {
    return(first)
  }
  below <- unlist(fields[-seq_len(header_at)])
  if (is_header(fields[[header_at]]) && any(is_number_text(below))) header_at else first
}

number_pattern <- "^\\s*[-+]?([0-9]+([.,][0-9]*)?|[.,][0-9]+)([eE][-+]?[0-9]+)?\\s*$"
is_number_text <- function(text) grepl(number_pattern, text)

# Does a record read as names: no number among them, and none twice?
is_header <- function(fields) {
  named <- trimws(fields)
  named <- named[nzchar(named)]
  length(named) > 0 && !any(is_number_text(named)) && !anyDuplicated(named)
}

# Does the record above `first`, of one field less, name all its columns but that of row names? Not
# where `first` itself reads as names over numbers.
names_rows <- function(fields, first) {
  above <- fields[[first - 1]]
  if (!is_header(above) || !all(nzchar(trimws(above)))) return(FALSE)
  if (!is_header(fields[[first]])) return(TRUE)
  below <- fields[-seq_len(first)]
  below <- below[lengths(below) == length(fields[[first]])]
  length(above) > 1 && !any(vapply(below, function(row) any(is_number_text(row)), NA))
}

abort_uneven <- function(path, line, n, header_line, n_header, call) {
  abort_nelvat(
    "file",
    c(
      paste0("Rows of \"", path, "\" have unlike numbers of columns."),
      x = paste0(
        "Line ",
        line,
        " has ",
        n,
        " where the header, line ",
        header_line,
        ", has ",
        n_header,
        "."
      ),
      i = paste(
        paste0(
          "Mend the file: each row needs a value, or nothing, between each two separators. `skip` ",
          "passes over lines"
        ),
        "above the header."
      )
    ),
    call
  )
}

finished_layout <- function(header, found, said, path, call) {
  given <- if (header$at > 0) trimws(found$fields[[header$at]]) else said$names
  check_header(given, header, found, said, path, call)
  rows <- found$line[found$line > (if (header$at > 0) found$line[header$at] else 0)]
  names <- named_header(c(if (header$row_names) "", given))
  units <- if (header$at > 0) units_record(found$fields[-seq_len(header$at)], names$names)
  if (!is.null(units)) rows <- rows[-1]
  layout <- list(
    separator = found$separator,
    names = names$names,
    nameless = names$nameless,
    units = units,
    header_line = if (header$at > 0) found$line[header$at] else found$line[1],
    start = if (length(rows)) rows[1] else Inf
  )
  layout$decimal <- decimal_mark(layout, found)
  changed(layout, told = layout_told(layout, header, found, said))
}

# Names that are numbers, all of them, are the first row of a table without a header.
check_header <- function(given, header, found, said, path, call) {
  if (!is.null(said$names)) {
    n <- length(found$fields[[1]])
    if (length(given) != n) {
      abort_nelvat(
        "argument",
        c(
          paste0("`names` must name each column of \"", path, "\"."),
          x = paste0(
            "There are ",
            counted(length(given), "name"),
            " for ",
            counted(n, "column"),
            "."
          )
        ),
        call
      )
    }
    return(invisible())
  }
  named <- given[nzchar(given)]
  if (length(named) && !all(is_number_text(named))) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0(
        "\"",
        path,
        "\" has no header: its first row, line ",
        found$line[header$at],
        ", holds no name."
      ),
      x = paste0("Found ", quoted(given, 4), "."),
      i = "Add a line of names above it, or say them: `names`."
    ),
    call
  )
}

# A first column without a name is called "row", others by their place.
named_header <- function(given) {
  nameless <- which(!nzchar(given))
  made <- ifelse(nameless == 1, "row", paste0("column_", nameless))
  taken <- made %in% given
  made[taken] <- paste0(made[taken], "_", nameless[taken])
  list(names = replace(given, nameless, made), nameless = made)
}

# Units by column, where the first record below the header holds them: text only, over columns of
# numbers, each a unit that is known, in brackets or nothing; NULL where it does not.
units_record <- function(records, names) {
  if (length(records) < 2 || length(records[[1]]) != length(names)) return(NULL)
  cells <- trimws(records[[1]])
  below <- Filter(function(row) length(row) == length(names), records[-1])
  if (!length(below)) return(NULL)
  numeric <- vapply(
    seq_along(names),
    function(i) {
      column <- trimws(vapply(utils::head(below, 20), `[`, "", i))
      column <- column[nzchar(column)]
      length(column) > 0 && mean(is_number_text(column)) >= 0.5
    },
    NA
  )
  bracketed <- grepl("^[[(].{0,20}[])]$", cells)
  bare <- gsub("^[[(]|[])]$", "", cells)
  none <- !nzchar(bare) | bare %in% c("-", "--", "1")
  unit <- !none & (bracketed | vapply(bare, is_unit_text, NA))
  right <- sum(unit & numeric) >= max(1, sum(numeric) / 2) && all((none | unit)[numeric]) &&
    all((none | bracketed)[!numeric])
  if (right) stats::setNames(bare[unit], names[unit])
}

# A comma, where fields are not parted by commas, numbers with one are there and none with a point.
decimal_mark <- function(layout, found) {
  if (layout$separator == ",") return(".")
  cells <- unlist(utils::head(found$fields[found$line >= layout$start], 100))
  numbers <- cells[is_number_text(cells)]
  if (any(grepl(",", numbers, fixed = TRUE)) && !any(grepl(".", numbers, fixed = TRUE))) {
    ","
  } else {
    "."
  }
}

# What was found of a layout that nobody had said, in words.
layout_told <- function(layout, header, found, said) {
  titles <- if (is.null(said$skip)) header$titles
  comments <- if (is.null(said$comment)) found$comments else 0
  c(
    if (length(titles)) {
      paste0(counted(length(titles), "line"), " above the header passed over: ", quoted(titles, 2))
    },
    if (comments) paste0(counted(comments, "line"), " with \"#\" at the beginning passed over"),
    if (header$row_names) {
      "rows have one field more than the header: the first holds the rows' names, called \"row\""
    },
    if (length(layout$nameless) && !header$row_names) {
      paste0("columns without a name are called ", quoted(layout$nameless))
    },
    if (length(layout$units)) {
      paste0(
        "line ",
        layout$header_line + 1,
        " holds units: ",
        listed(paste0("\"", names(layout$units), "\" in ", layout$units))
      )
    },
    if (layout$decimal == ",") "a comma is the decimal mark"
  )
}
