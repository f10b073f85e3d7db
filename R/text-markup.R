# Inline markup: a subset of Pandoc Markdown. `*italic*`, `**bold**`, `^super^`,
# `~sub~`; a backslash before one of `* ^ ~ \` takes its meaning away. A mark that
# is never closed, or that encloses nothing, stands for itself.

script_scale <- 0.7 # size of super- and subscripts against their line
super_rise <- 0.36 # baseline shifts, in the line's type size
sub_rise <- -0.16

# Returns the runs of one string: string, bold, italic, script (0, 1 super, -1 sub).
markup_runs <- function(text) {
  text <- printable(text)
  if (!grepl(markup_signs, text)) {
    return(new_table(string = text, bold = FALSE, italic = FALSE, script = 0L, .rows = 1L))
  }
  pieces <- markup_pieces(text)
  open <- closed_marks(pieces)
  bold <- italic <- FALSE
  script <- 0L
  runs <- list()
  for (i in seq_along(pieces$string)) {
    string <- pieces$string[i]
    if (!open[i]) {
      runs[[length(runs) + 1]] <- new_table(
        string = string,
        bold = bold,
        italic = italic,
        script = script,
        .rows = 1L
      )
    } else if (string == "**") {
      bold <- !bold
    } else if (string == "*") {
      italic <- !italic
    } else {
      script <- if (script != 0) 0L else if (string == "^") 1L else -1L
    }
  }
  merge_runs(
    stack_tables(runs) %||% new_table(
      string = "",
      bold = FALSE,
      italic = FALSE,
      script = 0L,
      .rows = 1L
    )
  )
}

# Splits into marks, escaped characters and plain text.
markup_pieces <- function(text) {
  found <- regmatches(text, gregexpr("\\\\[*^~\\\\]|\\*\\*|[*^~]|[^*^~\\\\]+|\\\\", text))[[1]]
  escaped <- grepl("^\\\\[*^~\\\\]$", found)
  list(
    string = ifelse(escaped, substring(found, 2), found),
    mark = !escaped & found %in% c("**", "*", "^", "~")
  )
}

# Marks count only in pairs with something between; super- and subscripts hold no
# space, as in Pandoc.
closed_marks <- function(pieces) {
  is_paired <- rep(FALSE, length(pieces$string))
  for (mark in c("**", "*", "^", "~")) {
    mark_rows <- which(pieces$mark & pieces$string == mark)
    while (length(mark_rows) >= 2) {
      between <- pieces$string[seq(mark_rows[1], mark_rows[2])][
        -c(1, mark_rows[2] - mark_rows[1] + 1)
      ]
      holds <- length(between) > 0 && !(mark %in% c("^", "~") && any(grepl("\\s", between)))
      if (holds) is_paired[mark_rows[1:2]] <- TRUE
      mark_rows <- mark_rows[-seq_len(if (holds) 2 else 1)]
    }
  }
  is_paired
}

merge_runs <- function(runs) {
  style <- paste(runs$bold, runs$italic, runs$script)
  stretch <- cumsum(c(TRUE, style[-1] != style[-length(style)]))
  first <- !duplicated(stretch)
  strings <- vapply(split(runs$string, stretch), paste, "", collapse = "")
  new_table(
    string = unname(strings),
    bold = runs$bold[first],
    italic = runs$italic[first],
    script = runs$script[first]
  )
}

# The words without their markup; powers and indices as the characters that mean them, so that
# 10^9^ does not read 109.
plain_text <- function(text) {
  plain <- printable(unname(as.character(text)))
  marked <- which(grepl(markup_signs, plain))
  plain[marked] <- vapply(
    plain[marked],
    function(one) {
      runs <- markup_runs(one)
      paste(
        ifelse(runs$script == 0, runs$string, raised_text(runs$string, runs$script)),
        collapse = ""
      )
    },
    ""
  )
  without_soft(plain)
}
markup_signs <- "[*^~\\\\]"

raised_from <- "0123456789+-\u2212=()n"
raised_to <- list(
  paste0(
    "\u2070\u00b9\u00b2\u00b3\u2074\u2075\u2076\u2077\u2078",
    "\u2079\u207a\u207b\u207b\u207c\u207d\u207e\u207f"
  ),
  paste0(
    "\u2080\u2081\u2082\u2083\u2084\u2085\u2086\u2087\u2088",
    "\u2089\u208a\u208b\u208b\u208c\u208d\u208e\u2099"
  )
)

# What has no such characters keeps a mark before it.
raised_text <- function(strings, script) {
  known <- strsplit(raised_from, "")[[1]]
  mapply(
    function(string, script) {
      letters <- strsplit(string, "")[[1]]
      if (!all(letters %in% known)) return(paste0(if (script > 0) "^" else "_", string))
      paste(
        strsplit(raised_to[[if (script > 0) 1 else 2]], "")[[1]][match(letters, known)],
        collapse = ""
      )
    },
    strings,
    script
  )
}

plain_heading <- function(text) ifelse(is.na(text), NA_character_, plain_text(text))

# The name of a variable in the middle of a sentence, without markup.
said_name <- function(variable, with_unit = FALSE) {
  kind <- variable$kind
  name_in_sentence(plain_text(if (with_unit) kind_title(kind) else kind$name), variable$id)
}
