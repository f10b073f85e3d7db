# Breaking text into lines. Lines break at spaces (which vanish), after hyphens and
# after slashes. Of all ways to break into the fewest lines that fit, the one with
# the narrowest widest line is taken.

# Text cut into words and measured once, whatever size it is set at later.
# Returns list(words, unit_width, gap, line): `words` has a row for each stretch of one style with
# string, bold, italic, script, unit (stretches that may not be parted share one),
# space (does one follow?) and width; `unit_width` and `gap` are of each unit and after it, `line`
# all of it in one line (see joined_line), which is what most texts are set in; widths in type
# sizes. A line feed in the text begins a new line always: its parts are measured apart.
measure_words <- function(text, font, bold = FALSE) {
  if (grepl("\n", text, fixed = TRUE)) {
    return(list(parts = lapply(strsplit(text, "\n", fixed = TRUE)[[1]], measure_words, font, bold)))
  }
  measure_texts(text, font, bold)[[1]]
}

# Several texts at once, which is faster; each is measured once a figure.
measure_texts <- function(texts, font, bold = FALSE) {
  parted <- grepl("\n", texts, fixed = TRUE)
  measured <- vector("list", length(texts))
  measured[!parted] <- known_of(
    font,
    paste0(if (bold) "words, bold: " else "words: ", texts[!parted]),
    function(new) {
      measure_lines(texts[!parted][new], font, bold)
    }
  )
  measured[parted] <- lapply(texts[parted], measure_words, font, bold)
  measured
}

measure_lines <- function(texts, font, bold) {
  text_pieces <- lapply(texts, text_words, bold)
  if (length(font$scripts)) text_pieces <- lapply(text_pieces, part_scripts, font)
  n <- vapply(text_pieces, nrow, 0L)
  widths <- if (length(text_pieces)) run_widths(stack_tables(text_pieces), font)
  before <- cumsum(n) - n
  Map(
    function(one, from, k) {
      one$width <- widths[from + seq_len(k)]
      in_units(one, font$space[[1 + bold]], font)
    },
    text_pieces,
    before,
    n
  )
}

in_units <- function(words, space, font) {
  measured <- list(
    words = words,
    space = space,
    unit_width = as.numeric(rowsum(words$width, words$unit)),
    gap = space * as.numeric(rowsum(as.integer(words$space), words$unit))
  )
  c(measured, list(line = joined_lines(words, rep(1L, nrow(words)), space, font)))
}

# Runs of words on lines, with the start `x` of each on its line, in type sizes.
joined_lines <- function(words, line, space, font) {
  runs <- join_words(words, line, font)
  runs$x <- run_starts(runs, space)
  runs
}

# Values that `keys` stand for in what the font knows already; those of new ones from make(which are
# new).
known_of <- function(font, keys, make) {
  if (is.null(font$known)) return(make(seq_along(keys)))
  # Names of what is known are of ASCII, as not every locale has others.
  odd <- grepl("[^ -~]", keys)
  keys[odd] <- vapply(keys[odd], function(key) paste(charToRaw(enc2utf8(key)), collapse = ""), "")
  # A name has at most 10,000 bytes.
  long <- nchar(keys, "bytes") > 9000
  keys[long] <- vapply(keys[long], rlang::hash, "")
  found <- mget(keys, font$known, ifnotfound = list(NULL))
  new <- which(!duplicated(keys) & vapply(found, is.null, NA))
  if (length(new)) {
    found[new] <- make(new)
    for (i in new) assign(keys[i], found[[i]], font$known)
    found <- found[match(keys, keys)]
  }
  unname(found)
}

# Width of texts on one line each, in parts of the type size.
one_line_width <- function(texts, font) {
  as.numeric(
    known_of(font, paste0("line: ", texts), function(new) {
      lapply(texts[new], function(text) max(set_text(text, 1 / mm_per_pt, font)$widths_mm))
    })
  )
}

# Sets measured words in lines within `most_mm`.
# Returns list(runs: line, string, bold, italic, script, x_mm, width_mm;
# widths_mm: of each line; n_lines; size_pt; fits). `x_mm` is the start of a run
# within its line. `fits` says that no line is wider than `most_mm` and there are
# no more than `most_lines`.
set_lines <- function(
  measured,
  size_pt,
  font,
  most_mm = Inf,
  most_lines = 1L,
  break_words = FALSE,
  break_least = 3L
) {
  if (!is.null(measured$parts)) {
    return(
      set_parts(measured$parts, size_pt, font, most_mm, most_lines, break_words, break_least)
    )
  }
  em_mm <- size_pt * mm_per_pt
  # What is set in begins further on in all its lines.
  in_mm <- (measured$indent_em %||% 0) * em_mm
  most_mm <- most_mm - in_mm
  n <- length(measured$unit_width)
  is_level <- (sum(measured$unit_width) + sum(measured$gap[-n])) * em_mm <= most_mm + 1e-9
  runs <- if (is_level || most_lines == 1L && !break_words) {
    measured$line
  } else {
    if (break_words) {
      measured <- in_units(
        break_wide_words(measured$words, most_mm / em_mm, font, break_least),
        measured$space,
        font
      )
    }
    line <- fewest_lines(measured$unit_width * em_mm, measured$gap * em_mm, most_mm, most_lines)
    joined_lines(measured$words, line[measured$words$unit], measured$space, font)
  }
  runs <- new_table(
    line = runs$line,
    string = without_soft(runs$string),
    bold = runs$bold,
    italic = runs$italic,
    script = runs$script,
    x_mm = in_mm + runs$x * em_mm,
    width_mm = runs$width * em_mm
  )
  widths <- if (nrow(runs) == 1L) {
    runs$x_mm + runs$width_mm
  } else {
    as.numeric(tapply(runs$x_mm + runs$width_mm, runs$line, max))
  }
  list(
    runs = runs,
    widths_mm = widths,
    n_lines = length(widths),
    size_pt = size_pt,
    fits = all(widths <= most_mm + in_mm + 1e-9) && length(widths) <= most_lines
  )
}

# A measured text, set in by so many of its sizes.
set_in <- function(measured, em) {
  if (is.null(measured$parts)) return(changed(measured, indent_em = em))
  changed(measured, parts = lapply(measured$parts, set_in, em))
}

# Parts of a text one under the other, each in as many lines as are allowed.
set_parts <- function(parts, size_pt, font, most_mm, most_lines, break_words, break_least) {
  laid <- lapply(parts, set_lines, size_pt, font, most_mm, most_lines, break_words, break_least)
  n_lines <- vapply(laid, `[[`, 0L, "n_lines")
  runs <- stack_tables(
    Map(
      function(one, before) {
        one$runs$line <- one$runs$line + before
        one$runs
      },
      laid,
      cumsum(c(0L, n_lines[-length(n_lines)]))
    )
  )
  list(
    runs = runs,
    widths_mm = unlist(lapply(laid, `[[`, "widths_mm")),
    n_lines = sum(n_lines),
    size_pt = size_pt,
    fits = all(vapply(laid, `[[`, NA, "fits"))
  )
}

# Lines within `most_mm` whatever it takes: words too long for a line are broken, in as many
# lines as that needs, between any two letters where three have no room.
set_within <- function(measured, size_pt, font, most_mm, most_lines) {
  is_narrow <- function(laid) max(laid$widths_mm) <= most_mm + 1e-9
  laid <- set_lines(measured, size_pt, font, most_mm, most_lines)
  if (is_narrow(laid)) return(laid)
  laid <- set_lines(measured, size_pt, font, most_mm, max(20L, most_lines), break_words = TRUE)
  if (is_narrow(laid)) return(laid)
  set_lines(
    measured,
    size_pt,
    font,
    most_mm,
    max(20L, most_lines),
    break_words = TRUE,
    break_least = 1L
  )
}

most_note_lines <- 200L

# Measures and sets one string.
set_text <- function(text, size_pt, font, most_mm = Inf, most_lines = 1L, bold = FALSE) {
  set_lines(measure_words(text, font, bold), size_pt, font, most_mm, most_lines)
}

text_height_mm <- function(n_lines, size_pt, font) {
  ((n_lines - 1) * leading + font$ascent + font$descent) * size_pt * mm_per_pt
}

# Words --------------------------------------------------------------------------

# Where a line may break: at spaces, hyphens and slashes as we say; within writing that has none,
# such as ideographs, kana and Thai, as Unicode does (UAX 14, by the dictionaries of ICU).
breaks_inside <- paste0(
  "[\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u2e80-\u9fff",
  "\uac00-\ud7af\uf900-\ufaff\uff00-\uffef]"
)

text_words <- function(text, bold) {
  text <- printable(text)
  if (!grepl(paste0("[] \t\n*^~\\\\/\u2010\u2013-]|", breaks_inside), text)) {
    return(
      new_table(
        string = text,
        bold = bold,
        italic = FALSE,
        script = 0L,
        unit = 1L,
        space = FALSE,
        .rows = 1L
      )
    )
  }
  runs <- markup_runs(gsub("[\t\n ]+", " ", trimws(text)))
  parts <- regmatches(
    runs$string,
    gregexpr("[^ /\u2010\u2013-]*[/\u2010\u2013-]+|[^ /\u2010\u2013-]+| ", runs$string)
  )
  parts[lengths(parts) == 0] <- ""
  pieces <- lapply(unlist(parts), word_pieces)
  run <- rep(rep(seq_along(parts), lengths(parts)), lengths(pieces))
  part <- as.character(unlist(pieces))
  within <- unlist(lapply(lengths(pieces), function(n) seq_len(n) < n))
  is_space <- part == " "
  ends_unit <- is_space | within | grepl("[^/\u2010\u2013-][/\u2010\u2013-]+$", part)
  # A range of numbers is not parted.
  before_number <- grepl("^[0-9]", c(utils::tail(part, -1L), ""))
  ends_unit <- ends_unit & !(grepl("[0-9][\u2010\u2013-]$", part) & before_number)
  unit <- cumsum(c(TRUE, utils::head(ends_unit, -1L)))
  piece_table <- new_table(
    string = part,
    bold = runs$bold[run] | bold,
    italic = runs$italic[run],
    script = runs$script[run],
    unit = unit,
    space = c(utils::tail(is_space, -1L), FALSE),
    .rows = length(part)
  )
  renumber_units(table_rows(piece_table, which(!is_space)))
}

# A word in the pieces that may stand on lines of their own.
word_pieces <- function(word) {
  if (!grepl(breaks_inside, word)) return(word)
  stringi::stri_split_boundaries(word, type = "line")[[1]]
}

renumber_units <- function(words) {
  words$unit <- match(words$unit, unique(words$unit))
  words
}

break_wide_words <- function(words, most_em, font, least) {
  pieces <- lapply(seq_len(nrow(words)), function(i) {
    word <- table_rows(words, i)
    if (word$width <= most_em) word else break_word(word, most_em, font, least)
  })
  renumber_units(stack_tables(pieces))
}

# One word in pieces of at most `most_em`, with hyphens: parted at soft hyphens, where it has some
# that serve, else with `least` letters at least on each side.
break_word <- function(word, most_em, font, least) {
  as_runs <- function(strings) {
    new_table(
      string = strings,
      bold = word$bold,
      italic = word$italic,
      script = word$script,
      .rows = length(strings)
    )
  }
  wide <- function(strings) run_widths(as_runs(strings), font)
  hyphened <- function(strings) ifelse(grepl("[-/]$", strings), strings, paste0(strings, "-"))
  letters <- strsplit(word$string, "")[[1]]
  soft <- which(letters == soft_hyphen)
  strings <- character()
  from <- 1
  repeat {
    rest <- paste(letters[from:length(letters)], collapse = "")
    left <- nchar(without_soft(rest))
    if (wide(rest) <= most_em || left < 2 * least) break
    ends <- seq(from, length(letters) - 1)
    starts <- hyphened(
      vapply(ends, function(to) paste(letters[from:to], collapse = ""), "")
    )
    narrow <- wide(starts) <= most_em
    inside <- nchar(without_soft(sub("-$", "", starts)))
    allowed <- inside >= least & left - inside >= least & letters[ends] != soft_hyphen
    at_soft <- which(narrow & allowed & letters[ends + 1] == soft_hyphen)
    taken <- if (length(at_soft)) max(at_soft) else max(which(allowed)[1], which(narrow & allowed))
    strings <- c(strings, starts[taken])
    from <- ends[taken] + 1
  }
  strings <- c(strings, rest)
  runs <- as_runs(strings)
  last <- seq_along(strings) == length(strings)
  new_table(
    string = strings,
    bold = word$bold,
    italic = word$italic,
    script = word$script,
    unit = word$unit + seq_along(strings) / (length(strings) + 1),
    space = word$space & last,
    width = run_widths(runs, font),
    .rows = length(strings)
  )
}

# Lines --------------------------------------------------------------------------
