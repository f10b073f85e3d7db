# Conversion of units, by udunits (package units). A unit is written as papers write it: inline
# markup ("umol m^-2^ s^-1^"), typed or raised exponents (m², s⁻¹), a slash. What counts things,
# such as CFU or cells, converts to itself only. Units that papers name otherwise than udunits does,
# or that it means otherwise, are told here; their values are of BIPM (2019), "The International
# System of Units", 9th edition, and of the thermochemical calorie.

unit_names <- c(
  "\u00b0C" = "degC", "\u00b0F" = "degF", "\u00b0" = "degree", "\u03a9" = "ohm", "\u2126" = "ohm",
  "\u2030" = "0.001",
  mph = "(mile/hour)", rpm = "(1/min)", cal = "(4.184 J)", M = "(mol/L)",
  Da = "(1.66053906660e-27 kg)", l = "L",
  wk = "week", weeks = "week", days = "day", hours = "hour", mins = "min", secs = "s",
  months = "month", years = "year",
  gal = "(3.785411784 L)", mpg = "(1.609344 km / (3.785411784 L))", bpm = "(1/min)",
  mAh = "(0.001 A hour)", Ah = "(A hour)"
)

# What counts things that are measured by their effect or their number, and bears prefixes: base
# pairs, units of enzyme, international units. kb and Mb are of base pairs.
counted_units <- c("bp", "U", "IU", "cfu", "CFU", "pfu", "PFU")
base_pairs <- c(kb = 1e3, Mb = 1e6, Gb = 1e9)

# A counted unit with its prefix: list(word, factor); NULL for another symbol.
counted_unit <- function(symbol) {
  if (symbol %in% names(base_pairs)) return(list(word = "bp", factor = base_pairs[[symbol]]))
  if (symbol %in% counted_units) return(list(word = symbol, factor = 1))
  for (prefix in names(unit_prefixes)) {
    rest <- substring(symbol, nchar(prefix) + 1)
    if (startsWith(symbol, prefix) && rest %in% counted_units) {
      return(list(word = rest, factor = 10^unit_prefixes[[prefix]]))
    }
  }
  NULL
}
prefixed_names <- c("M", "Da", "cal", "\u03a9", "\u2126")

unit_prefixes <- c(
  Y = 24, Z = 21, E = 18, P = 15, T = 12, G = 9, M = 6, k = 3, h = 2, da = 1, d = -1, c = -2,
  m = -3, u = -6,
  "\u00b5" = -6, "\u03bc" = -6, n = -9, p = -12, f = -15, a = -18
)

# From `from` to `to`: list(factor, offset) with shown = value * factor + offset.
unit_conversion <- function(from, to, call = rlang::caller_env()) {
  if (is.null(from)) {
    abort_nelvat(
      "unit",
      c(
        "`show` needs the `unit` that the data are in.", x = "`unit` is not given.",
        i = "A share of one has the unit \"\": `quantity(unit = \"\", show = \"%\")`."
      ),
      call
    )
  }
  a <- parsed_unit(from, call)
  b <- parsed_unit(to, call)
  ends <- if (identical(a$counted, b$counted)) {
    tryCatch(in_unit(c(0, 1, 2), a$text, b$text), error = function(error) NULL)
  }
  if (is.null(ends)) {
    abort_nelvat(
      "unit",
      c(
        paste0("\"", from, "\" cannot be shown as \"", to, "\"."),
        x = "They measure different things.",
        unknown_units(c(from, to))
      ),
      call
    )
  }
  # Decibels and their kin are logarithms: no factor brings them to another unit.
  scaled <- all(is.finite(ends)) && abs(ends[3] - 2 * ends[2] + ends[1]) <= 1e-9 * max(abs(ends))
  if (scaled) return(list(factor = ends[2] - ends[1], offset = ends[1]))
  abort_nelvat(
    "unit",
    c(
      paste0("\"", from, "\" cannot be shown as \"", to, "\"."),
      x = "One of them is a logarithm of the other; it is no multiple of it.",
      i = "Derive it, such as `derive = c(power = 10^(level / 10))`."
    ),
    call
  )
}

# Names of common units, of which a misspelt one is likely meant.
common_units <- c(
  "second", "minute", "hour", "day", "week", "month", "year", "metre", "meter", "gram", "litre",
  "liter", "mole", "kelvin", "pascal", "joule", "watt", "volt", "ampere", "hertz", "newton",
  "calorie", "inch", "foot", "mile", "pound", "ounce", "gallon", "degree", "percent"
)

# Words among units that nobody knows, with the nearest that is known.
unknown_units <- function(units) {
  symbols <- unlist(lapply(units, function(unit) unit_parts(unit)$symbol))
  unknown <- Filter(
    function(symbol) is.na(known_unit(symbol)) && is.null(counted_unit(symbol)),
    symbols
  )
  near <- lapply(unknown, nearest_name, c(common_units, names(unit_names)))
  said <- Map(
    function(symbol, name) {
      if (!is.null(name)) paste0("\"", symbol, "\" is no unit; did you mean \"", name, "\"?")
    },
    unknown,
    near
  )
  text <- unlist(said, use.names = FALSE)
  if (length(text)) stats::setNames(text, rep("i", length(text)))
}

# Numbers of one unit in another, both as udunits reads them.
in_unit <- function(values, from, to) {
  values <- units::set_units(values, from, mode = "standard", force_single_symbol = TRUE)
  as.numeric(units::set_units(values, to, mode = "standard", force_single_symbol = TRUE))
}

# A unit as udunits reads it, and what it counts: words such as CFU with their exponents.
parsed_unit <- function(unit, call) {
  parts <- unit_parts(unit)
  counted_words <- character()
  known <- vapply(parts$symbol, known_unit, "", USE.NAMES = FALSE)
  for (i in seq_along(known)) {
    counted <- counted_unit(parts$symbol[i])
    if (is.null(counted)) next
    counted_words <- c(counted_words, paste0(counted$word, "^", parts$exponent[i]))
    known[i] <- format(counted$factor, digits = 15, scientific = TRUE)
  }
  for (i in which(is.na(known))) {
    if (!grepl("^([[:alpha:]]{3,}|[A-Z]{2})$", parts$symbol[i])) {
      abort_nelvat(
        "unit",
        c(
          paste0("The unit \"", unit, "\" cannot be converted."),
          x = paste0("\"", parts$symbol[i], "\" is not known."),
          i = "It can be shown as it is: leave `show` out."
        ),
        call
      )
    }
    counted_words <- c(counted_words, paste0(parts$symbol[i], "^", parts$exponent[i]))
    known[i] <- "1"
  }
  text <- paste0("(", known, ")^", parts$exponent, collapse = " ")
  list(text = if (length(known)) text else "1", counted = sort(counted_words))
}

# The name by which udunits knows a symbol, NA for none.
known_unit <- function(symbol) {
  if (symbol %in% names(unit_names)) return(unit_names[[symbol]])
  if (grepl("^[0-9.]+$", symbol)) return(symbol)
  for (prefix in names(unit_prefixes)) {
    rest <- substring(symbol, nchar(prefix) + 1)
    if (startsWith(symbol, prefix) && rest %in% prefixed_names) {
      return(paste0("1e", unit_prefixes[[prefix]], " ", unit_names[[rest]]))
    }
  }
  if (units::ud_are_convertible(symbol, symbol)) symbol else NA_character_
}

raised_digits <- c(
  "\u2070" = "0", "\u00b9" = "1", "\u00b2" = "2", "\u00b3" = "3", "\u2074" = "4", "\u2075" = "5",
  "\u2076" = "6",
  "\u2077" = "7", "\u2078" = "8", "\u2079" = "9", "\u207b" = "-", "\u2212" = "-"
)

# Symbols and exponents of the parts; what follows a slash counts below it.
unit_parts <- function(unit) {
  text <- enc2utf8(unit)
  for (raised in names(raised_digits)) {
    text <- gsub(raised, raised_digits[[raised]], text, fixed = TRUE)
  }
  text <- gsub("\\^(-?[0-9]+)\\^?", "^\\1 ", text)
  text <- gsub("[*\u00b7\u22c5\u00d7]", " ", gsub("**", "^", text, fixed = TRUE))
  below <- FALSE
  symbol <- character()
  exponent <- numeric()
  for (piece in regmatches(text, gregexpr("/|[^ /]+", text))[[1]]) {
    if (piece == "/") {
      below <- TRUE
      next
    }
    power <- regmatches(piece, regexpr("(\\^-?|(?<=[^0-9.eE])-?)[0-9]+$", piece, perl = TRUE))
    if (!length(power) || identical(power, piece)) power <- ""
    symbol <- c(symbol, substr(piece, 1, nchar(piece) - nchar(power)))
    exponent <- c(
      exponent,
      (if (nzchar(power)) as.numeric(sub("^", "", power, fixed = TRUE)) else 1) * if (below) {
        -1
      } else {
        1
      }
    )
  }
  list(symbol = symbol, exponent = exponent)
}

# Values of a quantity in the unit that is shown.
shown_values <- function(values, kind) {
  if (is.null(kind$show)) return(values)
  conversion <- unit_conversion(kind$unit, kind$show)
  values * conversion$factor + conversion$offset
}

# The unit that the axis of a variable shows; NULL where it has none.
unit_of_variable <- function(variable) {
  if (is.null(variable) || variable$supplied || variable$kind$kind != "quantity") return(NULL)
  unit <- variable$kind$show %||% variable$kind$unit
  if (!is.null(unit) && nzchar(unit) && !isTRUE(variable$kind$hidden)) unit
}
