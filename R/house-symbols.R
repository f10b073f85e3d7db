# Symbols in the order they are given to levels: neighbours differ in outline and
# in filling, so that they are told apart at 1.5 mm.
symbol_names <- c(
  "disc", "triangle", "ring", "square", "wedge", "diamond", "open square", "open triangle"
)

# Dashes in the order they are given to levels: lengths of strokes and gaps in line widths;
# neighbours differ in rhythm.
dash_patterns <- c("solid", "4 2", "1 2 4 2", "1 2", "6 2 2 2", "8 3 1 3")

# "solid", or two, four, six or eight lengths from 1 to 15.
is_dash <- function(text) {
  lengths <- lapply(
    strsplit(text, " ", fixed = TRUE),
    function(words) suppressWarnings(as.numeric(words))
  )
  right <- vapply(
    lengths,
    function(one) {
      length(one) %in% c(2, 4, 6, 8) && !anyNA(one) && all(one >= 1 & one <= 15 & one == round(one))
    },
    NA
  )
  text == "solid" | right
}

level_symbols <- function(kind, symbols = symbol_names, call = rlang::caller_env()) {
  level_marks(kind, symbols, "symbols", call)
}
level_dashes <- function(kind, dashes = dash_patterns, call = rlang::caller_env()) {
  level_marks(kind, dashes, "dashes", call)
}

level_marks <- function(kind, marks, what, call) {
  n <- length(kind$levels)
  # Levels keep the mark of their place in the codebook where there are marks enough.
  position <- kind$colour_place
  if (!is.null(position) && all(position <= length(marks), na.rm = FALSE) && !anyNA(position)) {
    return(marks[position])
  }
  if (n <= length(marks)) return(marks[seq_len(n)])
  abort_nelvat(
    "level",
    c(
      paste0(
        "\"",
        kind$name,
        "\" has ",
        n,
        " levels, more than ",
        what,
        " can tell apart (",
        length(marks),
        ")."
      ),
      i = "Split it over panels instead."
    ),
    call
  )
}
