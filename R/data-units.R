# Conversion of units. A unit is a product of parts, each a prefix, a symbol and an
# exponent: "umol m^-2^ s^-1^", "mmol/g", "kg m^2^". The table holds SI base and
# derived units and those that papers of the life sciences use; factors are to SI.
# Source: BIPM (2019), "The International System of Units", 9th edition.

unit_prefixes <- c(Y = 24, Z = 21, E = 18, P = 15, T = 12, G = 9, M = 6, k = 3, h = 2, da = 1, d = -1, c = -2, m = -3,
                   u = -6, "\u00b5" = -6, "\u03bc" = -6, n = -9, p = -12, f = -15, a = -18)

# dimension: exponents of metre, kilogram, second, ampere, kelvin, mole, and of
# things counted (CFU, cells), which convert only to themselves.
known_units <- function() {
  unit <- function(factor, m = 0, kg = 0, s = 0, A = 0, K = 0, mol = 0, prefixed = TRUE, offset = 0) {
    list(
      factor = factor, dimension = c(m = m, kg = kg, s = s, A = A, K = K, mol = mol), prefixed = prefixed,
      offset = offset
    )
  }
  list(
    m = unit(1, m = 1), g = unit(1e-3, kg = 1), s = unit(1, s = 1), A = unit(1, A = 1), K = unit(1, K = 1),
    mol = unit(1, mol = 1),
    L = unit(1e-3, m = 3), l = unit(1e-3, m = 3), t = unit(1e3, kg = 1, prefixed = FALSE),
    Da = unit(1.66053906660e-27, kg = 1),
    Hz = unit(1, s = -1), N = unit(1, m = 1, kg = 1, s = -2), Pa = unit(1, m = -1, kg = 1, s = -2),
    bar = unit(1e5, m = -1, kg = 1, s = -2),
    J = unit(1, m = 2, kg = 1, s = -2), W = unit(1, m = 2, kg = 1, s = -3), V = unit(1, m = 2, kg = 1, s = -3, A = -1),
    C = unit(1, s = 1, A = 1), M = unit(1e3, m = -3, mol = 1), cal = unit(4.184, m = 2, kg = 1, s = -2),
    eV = unit(1.602176634e-19, m = 2, kg = 1, s = -2),
    min = unit(60, s = 1, prefixed = FALSE), h = unit(3600, s = 1, prefixed = FALSE),
    d = unit(86400, s = 1, prefixed = FALSE),
    ha = unit(1e4, m = 2, prefixed = FALSE), `%` = unit(1e-2, prefixed = FALSE),
    "\u2030" = unit(1e-3, prefixed = FALSE),
    ppm = unit(1e-6, prefixed = FALSE), ppb = unit(1e-9, prefixed = FALSE), `1` = unit(1, prefixed = FALSE),
    "\u00b0C" = unit(1, K = 1, prefixed = FALSE, offset = 273.15),
    "\u00b0F" = unit(5 / 9, K = 1, prefixed = FALSE, offset = 459.67 * 5 / 9)
  )
}

# From `from` to `to`: list(factor, offset) with shown = value * factor + offset.
unit_conversion <- function(from, to, call = rlang::caller_env()) {
  if (is.null(from)) {
    abort_nelvat("unit", c("`show` needs the `unit` that the data are in.", x = "`unit` is not given."), call)
  }
  a <- parse_unit(from, call)
  b <- parse_unit(to, call)
  if (!identical(a$dimension[order(names(a$dimension))], b$dimension[order(names(b$dimension))])) {
    abort_nelvat("unit", c(
      paste0("\"", from, "\" cannot be shown as \"", to, "\"."),
      x = "They measure different things."
    ), call)
  }
  list(factor = a$factor / b$factor, offset = (a$offset - b$offset) / b$factor)
}

parse_unit <- function(unit, call) {
  parts <- unit_parts(unit)
  known <- known_units()
  total <- list(factor = 1, dimension = numeric(), offset = 0)
  for (i in seq_along(parts$symbol)) {
    one <- find_unit(parts$symbol[i], known, unit, call)
    total$factor <- total$factor * one$factor^parts$exponent[i]
    total$dimension <- add_dimensions(total$dimension, one$dimension * parts$exponent[i])
    if (length(parts$symbol) == 1 && parts$exponent[i] == 1) total$offset <- one$offset
  }
  total$dimension <- total$dimension[total$dimension != 0]
  total
}

# Symbols and exponents of the parts; what follows a slash counts below it.
unit_parts <- function(unit) {
  text <- gsub("\u2212", "-", gsub("[\\^*\u00b7]", " ", gsub("\\^(-?[\u22120-9]+)\\^", "\\1 ", unit)))
  below <- FALSE
  symbol <- character()
  exponent <- numeric()
  for (piece in regmatches(text, gregexpr("/|[^ /]+", text))[[1]]) {
    if (piece == "/") {
      below <- TRUE
      next
    }
    power <- regmatches(piece, regexpr("-?[0-9]+$", piece))
    alone <- length(power) && identical(power, piece)
    symbol <- c(symbol, if (length(power) && !alone) substr(piece, 1, nchar(piece) - nchar(power)) else piece)
    exponent <- c(exponent, (if (length(power) && !alone) as.numeric(power) else 1) * if (below) -1 else 1)
  }
  list(symbol = symbol, exponent = exponent)
}

find_unit <- function(symbol, known, unit, call) {
  if (!is.null(known[[symbol]])) return(known[[symbol]])
  for (prefix in names(unit_prefixes)) {
    rest <- substring(symbol, nchar(prefix) + 1)
    if (startsWith(symbol, prefix) && nzchar(rest) && !is.null(known[[rest]]) && known[[rest]]$prefixed) {
      found <- known[[rest]]
      found$factor <- found$factor * 10^unit_prefixes[[prefix]]
      return(found)
    }
  }
  # Words such as CFU or cells count themselves.
  if (grepl("^[[:alpha:]]{3,}$", symbol)) {
    return(list(factor = 1, dimension = stats::setNames(1, paste0("counted:", symbol)), offset = 0))
  }
  abort_nelvat("unit", c(
    paste0("The unit \"", unit, "\" cannot be converted."), x = paste0("\"", symbol, "\" is not known."),
    offer(symbol, names(known), "unit")
  ), call)
}

add_dimensions <- function(a, b) {
  all_names <- union(names(a), names(b))
  of <- function(x) ifelse(is.na(x[all_names]), 0, x[all_names])
  stats::setNames(of(a) + of(b), all_names)
}

# Values of a quantity in the unit that is shown.
shown_values <- function(values, kind) {
  if (is.null(kind$show)) return(values)
  conversion <- unit_conversion(kind$unit, kind$show)
  values * conversion$factor + conversion$offset
}
