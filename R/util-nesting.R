# Documents that would not end: YAML that nests, or that multiplies by anchors, without measure.
# Both are told from the text, before it is read: what reads it would fill the memory or the stack.

deepest_nesting <- 60
most_repeated <- 2e5 # words, after anchors are replaced by what they stand for

largest_document <- 8e6 # bytes

check_measure <- function(text, path, what, call) {
  if (nchar(text, "bytes") > largest_document) {
    abort_nelvat(
      what,
      c(
        paste0("\"", path, "\" is too large for a ", what, " file."),
        x = paste0(
          "It has ",
          round(nchar(text, "bytes") / 1e6),
          " MB, of ",
          largest_document / 1e6,
          " at most."
        )
      ),
      call
    )
  }
  lines <- unquoted_lines(text)
  deep <- nesting_depth(lines)
  if (length(deep) && max(deep) > deepest_nesting) {
    abort_measure(
      path,
      what,
      paste0("Line ", which.max(deep > deepest_nesting), ": more than ", deepest_nesting, " deep."),
      call
    )
  }
  repeated <- repeated_words(lines)
  if (repeated$n > most_repeated) {
    abort_measure(
      path,
      what,
      paste0(
        "Line ",
        repeated$line,
        ": its anchors stand for more than ",
        format(most_repeated, big.mark = ",", scientific = FALSE),
        " words."
      ),
      call
    )
  }
}

abort_measure <- function(path, what, found, call) {
  abort_nelvat(
    what,
    c(
      paste0("\"", path, "\" is nested or repeated beyond measure."),
      x = found,
      i = "Say it flatter: name blocks under `blocks`, and tables under `data`."
    ),
    call
  )
}

# Lines without comments and without what stands in quotes.
unquoted_lines <- function(text) {
  lines <- text_lines(text)
  odd <- grepl("[\"'#]", lines)
  lines[odd] <- gsub("\"(?:[^\"\\\\]|\\\\.)*+\"|'[^']*+'", "q", lines[odd], perl = TRUE)
  lines[odd] <- sub("(^|\\s)#.*$", "", lines[odd], perl = TRUE)
  lines
}

# How deep the deepest place of each line is: brackets that are open, and blocks that its indent
# stands in.
nesting_depth <- function(lines) {
  brackets <- bracket_depth(lines)
  first <- as.integer(regexpr("[^ ]", lines))
  # "- - - x" opens a list in a list in a list.
  dashes <- numeric(length(lines))
  listed <- grep("- +-", lines)
  dashes[listed] <- lengths(
    regmatches(lines[listed], gregexpr("(?<=[ ])-(?= )|^-(?= )", lines[listed], perl = TRUE))
  )
  open <- numeric()
  block <- numeric(length(lines))
  for (i in which(first > 0 & brackets$before == 0)) {
    open <- c(open[open < first[i]], first[i])
    block[i] <- length(open) + dashes[i]
    if (block[i] > deepest_nesting) break
  }
  pmax(block, brackets$deepest + block)
}

# Of each line: how many brackets are open before it, and at most within it.
bracket_depth <- function(lines) {
  bracketed <- grep("[][{}]", lines)
  letters <- regmatches(lines[bracketed], gregexpr("[][{}]", lines[bracketed]))
  of_line <- rep(bracketed, lengths(letters))
  step <- ifelse(unlist(letters) %in% c("[", "{"), 1, -1)
  depth <- cumsum(as.numeric(step))
  deepest <- numeric(length(lines))
  before <- numeric(length(lines))
  if (length(depth)) {
    deepest[unique(of_line)] <- as.numeric(tapply(depth, of_line, max))
    last <- as.numeric(tapply(depth, of_line, function(values) values[length(values)]))
    after <- stats::approx(
      c(0, unique(of_line)),
      c(0, last),
      seq_along(lines),
      method = "constant",
      rule = 2
    )$y
    before <- c(0, after[-length(after)])
  }
  list(before = before, deepest = deepest)
}

# How many words a document has with each alias replaced by what its anchor stands for, and the line
# at which there are too many. An anchor holds at most what stands before its first alias.
repeated_words <- function(lines) {
  none <- list(n = 0, line = 0)
  if (!any(grepl("(^|[\\s\\[{,:-])\\*[^\\s,\\]}]", lines, perl = TRUE))) return(none)
  tokens <- regmatches(lines, gregexpr("[^\\s,\\[\\]{}]+", lines, perl = TRUE))
  of_line <- rep(seq_along(lines), lengths(tokens))
  tokens <- unlist(tokens)
  is_anchor <- grepl("^&.", tokens)
  is_alias <- grepl("^\\*.", tokens)
  begun <- list()
  size <- list()
  total <- 0
  for (i in seq_along(tokens)) {
    name <- substring(tokens[i], 2)
    if (is_anchor[i]) {
      begun[[name]] <- total
      size[[name]] <- NULL
    } else if (is_alias[i] && !is.null(begun[[name]])) {
      if (is.null(size[[name]])) size[[name]] <- total - begun[[name]]
      total <- total + size[[name]]
    } else {
      total <- total + 1
    }
    if (total > most_repeated) return(list(n = total, line = of_line[i]))
  }
  list(n = total, line = 0)
}
