#' @export
print.nelvat_codebook <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' @export
format.nelvat_codebook <- function(x, ...) {
  shown <- rbind(
    c("column", "kind", "name", "unit", "values", "missing"),
    t(vapply(names(x$columns), function(column) {
      kind <- x$columns[[column]]
      values <- x$data[[column]]
      missing <- sum(is.na(values))
      c(column, kind$kind, plain_words(kind$name), describe_unit(kind), describe_values(kind, values),
        if (missing) paste0(missing, " (", format_share(missing / length(values)), ")") else "0")
    }, character(6)))
  )
  widths <- apply(nchar(shown, "width"), 2, max)
  lines <- apply(shown, 1, function(row) trimws(paste0(row, strrep(" ", widths - nchar(row, "width")), collapse = "  "), "right"))
  c(paste0("Codebook of ", x$label, ": ", counted(nrow(x$data), "row"), ", ", counted(ncol(x$data), "column")), unname(lines))
}

plain_words <- function(text) gsub("[*^~]", "", text)

format_share <- function(share) paste0(format(round(100 * share, 1), nsmall = 1), "%")

describe_unit <- function(kind) {
  if (is.null(kind$unit)) return("")
  paste0(plain_words(kind$unit), if (!is.null(kind$show)) paste0(", shown as ", plain_words(kind$show)))
}

# Range, or levels with their counts in order.
describe_values <- function(kind, values, most = 6) {
  if (all(is.na(values))) return("all missing")
  if (!has_levels(kind)) return(paste(format_ends(range(values, na.rm = TRUE)), collapse = " to "))
  n <- tabulate(match(as.character(values), kind$levels), length(kind$levels))
  text <- paste0(plain_words(utils::head(kind$level_names, most)), " ", utils::head(n, most), collapse = ", ")
  left <- length(n) - most
  if (left > 0) paste0(text, " and ", counted(left, "level"), " more") else text
}

format_ends <- function(ends) {
  if (inherits(ends, "POSIXct")) return(format(ends, "%Y-%m-%d %H:%M:%S %Z"))
  if (inherits(ends, "Date")) return(format(ends))
  format(ends, trim = TRUE, digits = 6, drop0trailing = TRUE)
}
