# What each column of a table is for: told by its name, its values, and how they go with the other
# columns. A draft of a codebook takes its kinds from here, and a draft of a figure its form.

# Roles: empty, constant, repeated, moment, time, subject, identifier, replicate, event, place,
# answer, code, dose, group, name, measured.
roles_with_levels <- c(
  "empty", "subject", "identifier", "replicate", "answer", "code", "group", "name"
)

most_group_levels <- 12 # more are names
most_code_levels <- 5 # whole numbers of so few values are codes
most_dose_levels <- 8 # as often as each other: set by whoever made the experiment

# Words of a column's name, small and without its unit.
name_words <- function(column) {
  name <- header_meaning(column)$name %||% column
  parted <- gsub("([a-z]{2})([A-Z])", "\\1 \\2", name)
  strsplit(tolower(trimws(parted)), "[^[:alnum:]]+")[[1]]
}

role_words <- list(
  time = paste0(
    "^(time|times|t|day|days|hour|hours|hr|hrs|mins|minute|minutes|week|weeks|month|months|",
    "year|years|yr|sec|secs|second|seconds|elapsed|cycle|generation|age|zeit|tag|datum|",
    "visit|.*time)$"
  ),
  subject = paste0(
    "^(subject|subjects|animal|patient|participant|person|child|mouse|rat|chick|plant|tree|jar|",
    "plot|individual|indiv|taster|donor|volunteer|colony|wafer|dog|cat|cow|pig|bird|fish|rail|",
    "worker|operator|observer|judge|seed|respondent)$"
  ),
  identifier = paste0(
    "^(id|ids|nr|no|num|index|row|rownames|obs|observation|sample|specimen|barcode|well|accession|",
    "seqn|seqno|case|record|name|code|label|uid|key)$"
  ),
  replicate = "^(rep|reps|replicate|replicates|repeat|run|batch|block|rep[0-9]|wiederholung)$",
  event = paste0(
    "^(event|.*status|.*stat|dead|death|died|censored|cens|delta|fail|failed|failure|relapse|",
    "infect|outcome|stale)$"
  ),
  dose = "^(dose|dosage|conc|concentration|level|treatment|ld|logdose)$"
)

is_called <- function(fact, role) any(grepl(role_words[[role]], fact$words))

# What the rules look at in a column.
column_fact <- function(values, column, at) {
  present <- values[!is.na(values)]
  n <- length(present)
  distinct <- length(unique(present))
  number <- is.numeric(values)
  each <- if (distinct > 0 && distinct <= 200) tabulate(match(present, unique(present)))
  list(
    column = column,
    words = name_words(column),
    at = at,
    present = present,
    n = n,
    distinct = distinct,
    is_number = number,
    is_whole = number && n > 0 && all(is.finite(present) & present == round(present)),
    # Each value about as often as the others, and more than once.
    is_balanced = length(each) > 1 && min(each) > 1 && max(each) <= 3 * min(each),
    unit = header_meaning(column)$unit
  )
}

# Rules in turn: what the first that fits gives, list(role, why); each is asked of the fact of a
# column and of all facts.
role_rules <- list(
  empty = function(fact, facts) if (fact$n == 0) "no value is there",
  repeated = function(fact, facts) {
    before <- Find(
      function(other) other$at < fact$at && same_values(other$present, fact$present) && fact$n > 1,
      facts
    )
    if (!is.null(before)) paste0("the same values as \"", before$column, "\"")
  },
  constant = function(fact, facts) if (fact$distinct == 1) "one value only",
  moment = function(fact, facts) {
    if (!inherits(fact$present, c("Date", "POSIXct"))) return(NULL)
    if (inherits(fact$present, "Date")) {
      "dates in ISO 8601"
    } else if (is_of_day(fact$present)) {
      "times of day"
    } else {
      "times in ISO 8601"
    }
  },
  event = function(fact, facts) {
    of_two <- fact$distinct == 2 &&
      (is.logical(fact$present) || fact$is_whole && all(fact$present %in% 0:2))
    if (of_two && is_called(fact, "event")) "two values: happened or not"
  },
  answer = function(fact, facts) {
    if (!is_answer(fact)) return(NULL)
    alike <- Filter(is_answer, facts)
    if (length(alike) >= 3) "whole numbers of a scale, as in the columns beside it"
  },
  replicate = function(fact, facts) {
    texts <- fact$distinct > 1 && !fact$is_number && fact$distinct < fact$n &&
      all(grepl("^(r|rep|repl|replicate|run|repeat)[ ._-]?[0-9]+$", tolower(fact$present)))
    few <- is_called(fact, "replicate") && fact$distinct < fact$n &&
      (!fact$is_number || fact$is_whole && fact$distinct <= 24)
    if (texts || few) "counts replicates"
  },
  subject = function(fact, facts) {
    if (!is_label(fact) || fact$distinct < 3 || fact$distinct == fact$n) return(NULL)
    named <- is_called(fact, "subject") || any(c("id", "ids") %in% fact$words) ||
      is_called(fact, "identifier") && fact$is_number
    if (named && fact$n >= 2 * fact$distinct) return("each is there several times: subjects")
    if (fact$is_number && !fact$is_balanced || fact$distinct <= 6) return(NULL)
    if (is_called(fact, "time") || is_called(fact, "dose")) return(NULL)
    followed <- Find(function(other) follows(fact, other), facts)
    if (!is.null(followed)) paste0("each is there once a value of \"", followed$column, "\"")
  },
  identifier = function(fact, facts) {
    if (!is_label(fact) || fact$distinct < fact$n || fact$n < 3) return(NULL)
    if (is_called(fact, "time") || is_called(fact, "dose") || !is.null(fact$unit)) return(NULL)
    if (!fact$is_number && fact$n > most_group_levels) return("each value is there once")
    counts_up <- fact$is_number && fact$n > 10 && all(diff(sort(fact$present)) == 1)
    named <- is_called(fact, "identifier") || is_called(fact, "subject")
    if (counts_up && (named || identical(fact$words, "x") && fact$at == 1)) {
      return("counts up by one: an identifier")
    }
    if (named && (!fact$is_number || fact$at == 1)) "each value is there once"
  },
  time = function(fact, facts) {
    said <- fact$is_number && (is_called(fact, "time") || is_time_unit(fact$unit))
    if (!said || fact$distinct < 3) return(NULL)
    # Times that stand in no order are durations, which were measured.
    runs <- fact$n > 1 && mean(diff(as.numeric(fact$present)) > 0) >= 0.8
    if (fact$is_balanced || runs && !identical(fact$words, "age")) "a time, by its name"
  },
  place = function(fact, facts) {
    pairs <- list(
      c("lon", "lat"),
      c("long", "lat"),
      c("longitude", "latitude"),
      c("easting", "northing")
    )
    if (!fact$is_number) return(NULL)
    all_words <- unlist(lapply(facts, function(one) if (one$is_number) one$words))
    for (pair in pairs) {
      if (any(fact$words %in% pair) && all(pair %in% all_words)) return("a coordinate, by its name")
    }
  },
  dose = function(fact, facts) {
    if (!fact$is_number || fact$distinct < 3 || !fact$is_balanced) return(NULL)
    named <- is_called(fact, "dose") && fact$distinct <= 24
    if (named && (!is.null(fact$unit) || !fact$is_whole || max(fact$present) > 10)) {
      return("set by the experiment, by its name")
    }
    set <- fact$distinct <= most_dose_levels &&
      (!fact$is_whole || !is.null(fact$unit) || max(abs(fact$present)) >= 10)
    if (set) "few values, each as often: set by the experiment"
  },
  code = function(fact, facts) {
    if (
      fact$is_whole && fact$distinct > 1 && fact$distinct <= most_code_levels &&
        fact$distinct <= fact$n / 3 && all(abs(fact$present) < 100) && is.null(fact$unit)
    ) {
      paste0("whole numbers of only ", counted(fact$distinct, "value"))
    }
  },
  group = function(fact, facts) {
    if (fact$is_number || fact$distinct > most_group_levels) return(NULL)
    if (is.logical(fact$present)) {
      "true or false"
    } else {
      paste0("text of ", counted(fact$distinct, "value"))
    }
  },
  name = function(fact, facts) {
    if (!fact$is_number) paste0("text of ", counted(fact$distinct, "value"))
  },
  measured = function(fact, facts) if (fact$is_whole) "whole numbers" else "numbers"
)

same_values <- function(a, b) {
  length(a) == length(b) && identical(a, b)
}

# Could stand for one thing: text, or whole numbers without a unit.
is_label <- function(fact) (!fact$is_number || fact$is_whole) && is.null(fact$unit) &&
  !inherits(fact$present, c("Date", "POSIXct")) && !is.logical(fact$present)

is_answer <- function(fact) {
  fact$is_whole && fact$n >= 5 && fact$distinct >= 4 && is.null(fact$unit) &&
    all(fact$present %in% 0:7) && !is_called(fact, "time") &&
    !is_called(fact, "replicate") && !is_called(fact, "dose")
}

is_time_unit <- function(unit) {
  !is.null(unit) && unit %in% c("s", "ms", "min", "h", "d", "days", "hours", "weeks", "mins")
}

# Is each level of one column there at most once a value of another, which is a time?
follows <- function(fact, other) {
  if (other$at == fact$at || other$n != fact$n) return(FALSE)
  timed <- inherits(other$present, c("Date", "POSIXct")) ||
    other$is_number && (is_called(other, "time") || is_time_unit(other$unit))
  timed && other$distinct >= 3 && fact$n >= 3 * fact$distinct &&
    !anyDuplicated(data.frame(as.character(fact$present), as.numeric(other$present)))
}

# Roles by column: list(role, why, unit, fact).
column_roles <- function(data) {
  facts <- unname(
    Map(
      function(values, column, at) column_fact(plain_labels(values), column, at),
      data,
      names(data),
      seq_along(data)
    )
  )
  # Tables of very many columns are of one sort; their columns are not compared with each other.
  stats::setNames(
    lapply(facts, function(fact) {
      for (role in names(role_rules)) {
        why <- role_rules[[role]](fact, if (length(facts) > 60) facts[seq_len(60)] else facts)
        if (!is.null(why)) break
      }
      list(role = role, why = why, unit = if (fact$is_number) fact$unit, fact = fact)
    }),
    names(data)
  )
}

plain_labels <- function(values) if (is.factor(values)) as.character(values) else values

# Quantities whose names differ by a number, or a word of sides, at their end: the same thing
# measured again and again. list(stem, columns) each.
wide_runs <- function(roles) {
  columns <- names(roles)[vapply(roles, function(one) one$role %in% c("measured", "answer"), NA)]
  pattern <- "^(.*?)[ ._-]?([0-9]+)$"
  numbered <- columns[grepl(pattern, columns)]
  stems <- sub(pattern, "\\1", numbered, perl = TRUE)
  runs <- split(numbered, factor(stems, unique(stems)))
  runs <- Filter(
    function(run) {
      length(run) >= 3 && all(diff(as.numeric(sub(pattern, "\\2", run, perl = TRUE))) > 0)
    },
    runs
  )
  Map(function(run, stem) list(stem = stem, columns = run), runs, names(runs))
}

# Two columns of before and after.
before_after <- list(
  c("before", "after"),
  c("pre", "post"),
  c("baseline", "followup"),
  c("start", "end"),
  c("vorher", "nachher")
)
paired_columns <- function(roles) {
  columns <- names(roles)[vapply(roles, `[[`, "", "role") == "measured"]
  their_words <- lapply(columns, name_words)
  for (pair in before_after) {
    found <- lapply(
      pair,
      function(word) columns[vapply(their_words, function(one) word %in% one, NA)]
    )
    if (all(lengths(found) == 1)) return(list(columns = unlist(found), words = pair))
  }
  NULL
}
