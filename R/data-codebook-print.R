#' @export
print.nelvat_codebook <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' @export
format.nelvat_codebook <- function(x, ...) {
  local_number_options()
  shown <- rbind(
    c("column", "kind", "name", "unit", "values", "missing"),
    t(
      vapply(
        names(x$columns),
        function(column) {
          kind <- x$columns[[column]]
          described <- describe_values(kind, x$data[[column]])
          c(
            column,
            kind$kind,
            plain_words(kind$name),
            describe_unit(kind),
            described$text,
            if (described$missing) {
              paste0(described$missing, " (", format_share(described$missing / nrow(x$data)), ")")
            } else {
              "0"
            }
          )
        },
        character(6)
      )
    )
  )
  widths <- apply(nchar(shown, "width"), 2, max)
  lines <- apply(
    shown,
    1,
    function(row) {
      trimws(paste0(row, strrep(" ", widths - nchar(row, "width")), collapse = "  "), "right")
    }
  )
  c(
    paste0(
      "Codebook of ",
      x$label,
      ": ",
      counted(nrow(x$data), "row"),
      ", ",
      counted(ncol(x$data), "column")
    ),
    unname(lines)
  )
}

# Text of a name without its markup; what is escaped is no markup.
plain_words <- function(text) gsub("\\\\(.)|[*^~]", "\\1", text, perl = TRUE)

format_share <- function(share) paste0(format(round(100 * share, 1), nsmall = 1), "%")

describe_unit <- function(kind) {
  if (is.null(kind$unit)) return("")
  paste0(
    plain_words(kind$unit),
    if (!is.null(kind$show)) paste0(", shown as ", plain_words(kind$show))
  )
}

# The range, or levels with their counts in order, and how many values are missing.
describe_values <- function(kind, values) {
  if (!has_levels(kind)) {
    ends <- number_range_cpp(values)
    if (ends[3] == length(values)) return(list(text = "all missing", missing = ends[3]))
    range <- ends[1:2]
    attributes(range) <- attributes(values)[
      intersect(names(attributes(values)), c("class", "tzone"))
    ]
    return(list(text = paste(format_ends(range), collapse = " to "), missing = ends[3]))
  }
  if (is.character(values)) {
    found <- text_levels_cpp(values)
    n <- found$n[match(kind$levels, found$levels)]
    n[is.na(n)] <- 0
  } else {
    n <- tabulate(match(as.character(values), kind$levels), length(kind$levels))
  }
  list(
    text = if (sum(n)) describe_levels(kind, n) else "all missing",
    missing = length(values) - sum(n)
  )
}

describe_levels <- function(kind, n, most = 6) {
  text <- paste0(
    plain_words(utils::head(kind$level_names, most)),
    " ",
    utils::head(n, most),
    collapse = ", "
  )
  left <- length(n) - most
  if (left > 0) paste0(text, " and ", counted(left, "level"), " more") else text
}

format_ends <- function(ends) {
  if (inherits(ends, "POSIXct")) return(format(ends, "%Y-%m-%d %H:%M:%S %Z"))
  if (inherits(ends, "Date")) return(format(ends))
  format(ends, trim = TRUE, digits = 6, drop0trailing = TRUE)
}
