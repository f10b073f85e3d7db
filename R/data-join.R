#' Join a second table
#'
#' Adds the columns of a second table to the rows of the first that have the same
#' values in the columns both share. Each row of the first stays, once.
#'
#' @eval argument_lines("join_data")
#' @return A [codebook()], with the kinds of both. A warning counts rows that found no
#'   partner, and the facts of figures say so. A column that both tables have and that is not joined
#'   on gets the second table's name behind its own.
#' @section Errors:
#' `nelvat_error_join` where no column is shared, where no row finds a partner, or where rows of
#' `other` are not told apart by the shared columns.
#' @examples
#' bakeries <- data.frame(
#'   bakery = c("harbour", "mill", "station"),
#'   oven = c("deck", "wood", "deck")
#' )
#' join_data(study("loaves"), bakeries)
#' sites <- data.frame(site = c("harbour", "mill", "station"), oven = c("deck", "wood", "deck"))
#' join_data(study("loaves"), sites, by = c(bakery = "site"))
#' @export
join_data <- function(data, other, by = NULL, columns = NULL, ...) {
  check_rest(...)
  call <- rlang::current_env()
  join_books(
    as_codebook(data, deparsed_label(substitute(data)), call),
    as_codebook(other, deparsed_label(substitute(other)), call),
    by,
    columns,
    call
  )
}

join_books <- function(book, other, by, columns, call) {
  by <- join_columns(book, other, by, call)
  key <- row_keys(other$data[unname(by)])
  check_told_apart(key, other, by, call)
  other_row <- match(row_keys(book$data[names(by)]), key, incomparables = NA)
  check_partners(other_row, book, other, by, call)
  added <- added_columns(book, other, by, columns, call)
  table <- book$data
  kinds <- other$columns[unname(added)]
  for (i in seq_along(added)) table[[names(added)[i]]] <- other$data[[added[i]]][other_row]
  names(kinds) <- names(added)
  joined <- new_codebook(
    table,
    c(book$columns, kinds),
    label = book$label,
    call = call,
    document = book$document
  )
  joined$notes <- book$notes
  if (anyNA(other_row)) {
    for (column in names(added)) {
      joined$notes <- add_note(
        joined$notes,
        column,
        "rows without a partner in the joined table",
        sum(is.na(other_row))
      )
    }
  }
  joined
}

# The columns of both that are joined on, as c(mine = "theirs").
join_columns <- function(book, other, by, call) {
  if (is.list(by)) by <- unlist(by)
  by <- by %||% intersect(names(book$data), names(other$data))
  if (!is.character(by) || anyNA(by)) {
    abort_nelvat(
      "argument",
      c(
        "`by` must name columns, such as `c(mine = \"theirs\")`.",
        x = paste0("Found ", describe_value(by), ".")
      ),
      call
    )
  }
  mine <- ifelse(nzchar(rlang::names2(by)), rlang::names2(by), by)
  for (column in mine) check_column(column, book$data, book$label, call, asked_for("by"))
  for (column in by) check_column(column, other$data, other$label, call, asked_for("by"))
  if (!length(by)) {
    abort_nelvat(
      "join",
      c(
        paste0(book$label, " and ", other$label, " share no column to join on."),
        x = paste0(
          "Columns are ",
          quoted(names(book$data)),
          " and ",
          quoted(names(other$data)),
          "."
        ),
        i = "Say which belong together: `by = c(mine = \"theirs\")`."
      ),
      call
    )
  }
  stats::setNames(unname(by), mine)
}

# What rows are told apart by; NA where a column has no value, which is nobody's partner.
row_keys <- function(data) {
  # A whole number is the same in integers and doubles.
  key <- do.call(
    paste,
    c(
      unname(
        lapply(data, function(values) {
          as.character(if (is.integer(values) && !is.object(values)) as.numeric(values) else values)
        })
      ),
      sep = "\r"
    )
  )
  key[Reduce(`|`, lapply(data, is.na), logical(nrow(data)))] <- NA
  key
}

check_told_apart <- function(key, other, by, call) {
  row <- which(duplicated(key) & !is.na(key))[1]
  if (is.na(row)) return(invisible())
  abort_nelvat(
    "join",
    c(
      paste0("Rows of ", other$label, " are not told apart by ", quoted(unname(by)), "."),
      x = paste0(
        "Rows ",
        match(key[row], key),
        " and ",
        row,
        " have the same: ",
        quoted(gsub("\r", ", ", key[row])),
        "."
      )
    ),
    call
  )
}

# No partner for any row is an error, for some a warning; keys of unlike sorts are said.
check_partners <- function(spot, book, other, by, call) {
  if (!anyNA(spot)) return(invisible())
  sorts <- function(data, columns) {
    vapply(
      data[columns],
      function(values) {
        if (is.numeric(values)) {
          "numbers"
        } else if (inherits(values, c("Date", "POSIXct"))) {
          "times"
        } else {
          "text"
        }
      },
      ""
    )
  }
  mine <- sorts(book$data, names(by))
  theirs <- sorts(other$data, unname(by))
  unlike <- which(mine != theirs)
  said <- if (length(unlike)) {
    paste0(
      "\"",
      names(by)[unlike[1]],
      "\" holds ",
      mine[unlike[1]],
      ", \"",
      by[unlike[1]],
      "\" of ",
      other$label,
      " ",
      theirs[unlike[1]],
      "."
    )
  }
  if (all(is.na(spot))) {
    abort_nelvat(
      "join",
      c(
        paste0("No row of ", book$label, " has a partner in ", other$label, "."),
        x = said %||% paste0(
          "\"",
          names(by)[1],
          "\" holds such as ",
          quoted(unique(as.character(book$data[[names(by)[1]]])), 2),
          ", \"",
          by[1],
          "\" of ",
          other$label,
          " such as ",
          quoted(unique(as.character(other$data[[by[1]]])), 2),
          "."
        )
      ),
      call
    )
  }
  warn_nelvat(
    "join",
    c(
      paste0(
        counted(sum(is.na(spot)), "row"),
        " of ",
        book$label,
        " found no partner in ",
        other$label,
        "; the joined columns are missing there."
      ),
      i = said
    )
  )
}

# Columns that are added, as c(new = "theirs").
added_columns <- function(book, other, by, columns, call) {
  if (is.list(columns)) columns <- unlist(columns)
  added <- columns %||% setdiff(names(other$data), unname(by))
  for (column in added) check_column(column, other$data, other$label, call, asked_for("columns"))
  new <- ifelse(nzchar(rlang::names2(added)), rlang::names2(added), added)
  taken <- new %in% names(book$data)
  new[taken] <- paste0(
    new[taken],
    "_",
    gsub("[^A-Za-z0-9]+", "_", sub("^data \"(.*)\"$", "\\1", other$label))
  )
  if (anyDuplicated(c(new, names(book$data)))) {
    abort_nelvat(
      "join",
      c(
        "Joined columns must have names of their own.",
        x = paste0(
          "Twice: ",
          quoted(unique(new[duplicated(c(names(book$data), new))[-seq_along(book$data)]])),
          "."
        ),
        i = "Give them others: `columns = c(new = \"theirs\")`."
      ),
      call
    )
  }
  stats::setNames(unname(added), new)
}
