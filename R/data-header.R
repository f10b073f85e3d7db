# Names and units that a column's own name holds: "Weight (lb)", "Mass, g", "Length/mm", "temp_C",
# "mg_per_kg". A single letter is a unit only after a word for what it measures: "temp_C" is in
# degrees, "vitamin_C" is not.

# What is measured in a unit whose symbol could be any letter: words that begin a name in it.
measured_words <- list(
  time = "^(t|time|elapsed|duration|delay|dt|lag|age|period|incubation|interval)$",
  temperature = "temp|^(t|oven|dew|chamber|core|crust|crumb|air|water|soil)$",
  length = "len|height|width|depth|diam|radius|thick|altitude|elevation|size|rise|gap|dist",
  mass = "mass|weight|wt|dose|load|yield|biomass",
  concentration = "conc|dose|dosage|level|inhibitor|agonist",
  volume = "vol|volume|titre|titer",
  electric = "volt|potential|bias|current|ampl|signal|energy",
  force = "force|load|peak"
)

# Unit by the ending it is written as, and what it must be of (NULL: of anything).
ending_units <- local({
  of <- function(units, what = NULL, endings = units) {
    Map(function(unit, ending) list(unit = unit, of = what, ending = ending), units, endings)
  }
  rows <- c(
    of(c("s", "h", "d"), "time"),
    of(c("ms", "min", "hours", "days", "weeks", "months", "years", "mins", "secs", "hrs"), NULL),
    of("h", NULL, "hr"),
    of(c("\u00b0C", "K", "\u00b0F"), "temperature", c("C", "K", "F")),
    of(
      c("\u00b0C", "\u00b0C", "\u00b0C", "\u00b0F"),
      NULL,
      c("degC", "celsius", "Celsius", "degF")
    ),
    of("m", "length"),
    of(c("mm", "cm", "km", "nm")),
    of(
      c("\u00b5m", "\u00b5g", "\u00b5L", "\u00b5M", "\u00b5mol"),
      NULL,
      c("um", "ug", "uL", "uM", "umol")
    ),
    of("\u00b5L", NULL, "ul"),
    of("g", "mass"),
    of(c("kg", "mg", "ng", "pg", "lb", "mL", "dL", "mol", "mmol", "nmol", "pmol")),
    of(c("mL", "L"), c("volume"), c("ml", "l")),
    of("L", "volume"),
    of("M", "concentration"),
    of(c("mM", "nM", "pM")),
    of(c("V", "A", "J"), "electric"),
    of("N", "force"),
    of(c("Pa", "kPa", "MPa", "hPa", "mbar", "mV", "mA", "kJ", "kW", "Hz", "kHz", "MHz", "GHz")),
    of(c("ppm", "ppb", "rpm", "bp", "kb", "CFU", "cfu", "IU", "mmHg", "dB", "kDa")),
    of(c("%", "%", "%"), NULL, c("pct", "percent", "perc"))
  )
  unname(rows)
})

# The unit that an ending of a name is, after what stands before it; NULL where it is none.
ending_unit <- function(ending, stem) {
  stem_words <- strsplit(tolower(stem), "[._ -]+")[[1]]
  for (row in ending_units) {
    if (!identical(row$ending, ending)) next
    if (is.null(row$of)) return(row$unit)
    if (any(vapply(measured_words[row$of], function(p) any(grepl(p, stem_words)), NA))) {
      return(row$unit)
    }
  }
  NULL
}

# Does a text read as a unit that is known?
is_unit_text <- function(text) {
  text <- trimws(text)
  if (!nzchar(text) || nchar(text) > 20 || is_number_text(text)) return(FALSE)
  parts <- tryCatch(unit_parts(text), error = function(error) NULL)
  if (is.null(parts) || !length(parts$symbol)) return(FALSE)
  all(
    vapply(
      parts$symbol,
      function(one) !is.na(known_unit(one)) || !is.null(counted_unit(one)),
      NA
    )
  )
}

per_pattern <- "^(?:(.*)[._ ])?([A-Za-z\u00b5%]+)[._ ]per[._ ]([A-Za-z]+[0-9]?)$"

# list(name, unit): what a column's name says; unit NULL where it says none, name NULL where the
# name is a unit alone.
header_meaning <- function(column) {
  text <- trimws(gsub("\u00a0", " ", column, fixed = TRUE))
  said <- function(name, unit) {
    list(name = if (nzchar(trimws(name))) trimws(name), unit = unit)
  }
  # In brackets, anything that stands for a unit is taken.
  pieces <- regmatches(
    text,
    regexec("^(.*[^ ]) *[(\\[]([^()\\[\\]]{1,20})[])]$", text, perl = TRUE)
  )
  if (length(pieces[[1]])) return(said(pieces[[1]][2], pieces[[1]][3]))
  pieces <- regmatches(text, regexec("^(.*[^ ]),? +in ([^ ,]+)$|^(.*[^ ]), *([^,]+)$", text))[[1]]
  if (length(pieces)) {
    name <- paste0(pieces[2], pieces[4])
    unit <- paste0(pieces[3], pieces[5])
    if (is_unit_text(unit)) return(said(name, unit))
  }
  pieces <- regmatches(text, regexec("^([^/]*[^/ ]) */ *([^/ ]+(/[^/ ]+)?)$", text))[[1]]
  # "Length/mm" is a quantity over its unit; "km/h" is a unit, and so "speed/km/h".
  if (length(pieces) && is_unit_text(pieces[3]) && !is_unit_text(text)) {
    return(said(pieces[2], pieces[3]))
  }
  pieces <- regmatches(text, regexec(per_pattern, text, perl = TRUE))[[1]]
  if (length(pieces)) {
    unit <- paste0(spelt_unit(pieces[3]), "/", spelt_unit(pieces[4]))
    if (is_unit_text(unit)) return(said(pieces[2], unit))
  }
  pieces <- regmatches(text, regexec("^(.*[^._ -])[._ -]+([A-Za-z%\u00b5\u00b0]+)$", text))[[1]]
  unit <- if (length(pieces)) ending_unit(pieces[3], pieces[2])
  if (is.null(unit)) list(name = text, unit = NULL) else said(pieces[2], unit)
}

# "uL" as it is printed.
spelt_unit <- function(symbol) sub("^u(?=[A-Za-z])", "\u00b5", symbol, perl = TRUE)

# What a whole name is short for.
short_names <- c(
  temp = "Temperature", conc = "Concentration", wt = "Weight", vol = "Volume", len = "Length",
  resp = "Response", abs = "Absorbance", alt = "Altitude", lat = "Latitude", lon = "Longitude",
  long = "Longitude", trt = "Treatment", treat = "Treatment", rep = "Replicate"
)

# The name of an axis, as a column's own name has it; of a unit alone, what is in such a unit.
header_title <- function(column) {
  meaning <- header_meaning(column)
  if (!is.null(meaning$name)) {
    whole <- short_names[tolower(sub("[.]$", "", meaning$name))]
    return(if (is.na(whole)) tidy_name(meaning$name) else unname(whole))
  }
  below <- sub("^.*/", "", meaning$unit)
  if (grepl("g$", below)) "Content" else if (grepl("[lLM]$|m3$", below)) "Concentration" else "Rate"
}
