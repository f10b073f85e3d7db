# Where each key and each entry of a list stands in a YAML file. The parser of YAML gives values
# without their lines, so the text is read once more for these alone, and only when an error asks.

# list(place, line): places as keys and numbers of entries on the way, and the line of each. lines:
# the text of the file. Reads what figure, house and codebook files are written in: mappings and
# lists by indentation or in braces, quoted and plain texts, texts of several lines, comments.
# Of a file that is no one's writing, by its length or depth, only the beginning is read.
yaml_places <- function(lines) {
  lines <- utils::head(lines, 5000L)
  long <- nchar(lines, "bytes") > 5000L
  if (any(long)) lines <- utils::head(lines, which(long)[1] - 1L)
  text <- new.env()
  text$lines <- lines
  text$places <- list()
  text$at <- integer()
  open <- list()
  line <- 1L
  while (line <= length(lines)) {
    content <- uncommented(lines[line])
    indent <- attr(regexpr("^ *", content), "match.length")
    if (!nzchar(trimws(content)) || grepl("^(---|%|\\.\\.\\.)", content)) {
      line <- line + 1L
      next
    }
    found <- block_line(text, open, content, indent, line)
    open <- found$open
    line <- found$line
  }
  list(place = text$places, line = text$at)
}

deepest_place <- 40L

keep_place <- function(text, place, line) {
  k <- length(text$at) + 1L
  text$places[[k]] <- place
  text$at[k] <- line
}

# A comment begins with a number sign after a blank, outside of quotes.
uncommented <- function(line) {
  if (!grepl("#", line, fixed = TRUE)) return(line)
  sub(
    "^((?:[^\"'#]|\"(?:[^\"\\\\]|\\\\.)*\"|'[^']*'|(?<=\\S)#)*?)(?:(?:^|\\s)#.*)$",
    "\\1",
    line,
    perl = TRUE
  )
}

key_pattern <- paste0(
  "^(\"(?:[^\"\\\\]|\\\\.)*\"|'[^']*'|",
  "[^\\s\\[\\]{},\"'#&*!|>%@`-][^#]*?|-[^\\s#][^#]*?)\\s*:(?=\\s|$)"
)

# One line of mappings and lists that indentation tells apart. open: what is open, a list of
# list(indent, is_list, place); returns it with the next line.
block_line <- function(text, open, content, indent, line) {
  rest <- substring(content, indent + 1)
  repeat {
    is_item <- grepl("^-(\\s|$)", rest)
    key <- if (!is_item) regmatches(rest, regexpr(key_pattern, rest, perl = TRUE))
    if (!is_item && !length(key)) break
    # What is deeper is closed; a list may stand at the indentation of its key.
    open <- Filter(
      function(one) {
        one$indent < indent || one$indent == indent && (one$is_list == is_item || !one$is_list)
      },
      open
    )
    last <- if (length(open)) open[[length(open)]]
    same <- !is.null(last) && last$indent == indent && last$is_list == is_item
    parent <- if (same) last$parent else c(last$parent, last$key)
    if (length(parent) > deepest_place) return(list(open = open, line = line + 1L))
    name <- if (is_item) {
      as.character(if (same) as.integer(last$key) + 1L else 1L)
    } else {
      unquoted(trimws(sub(":$", "", key)))
    }
    here <- list(indent = indent, is_list = is_item, parent = parent, key = name)
    if (same) open[[length(open)]] <- here else open <- c(open, list(here))
    keep_place(text, c(parent, name), line)
    taken <- if (is_item) attr(regexpr("^-\\s*", rest), "match.length") else nchar(key)
    rest <- substring(rest, taken + 1)
    blanks <- attr(regexpr("^\\s*", rest), "match.length")
    rest <- substring(rest, blanks + 1)
    indent <- indent + taken + blanks
    if (!is_item || !nzchar(rest)) break
  }
  if (!length(open)) return(list(open = open, line = line + 1L))
  last <- open[[length(open)]]
  rest <- sub("^[&!][^ ]+ *", "", rest)
  place <- c(last$parent, last$key)
  if (grepl("^[|>]", rest)) {
    return(list(open = open, line = after_text(text$lines, line, last$indent)))
  }
  if (grepl("^[\\[{\"']", rest)) {
    from <- regexpr(rest, text$lines[line], fixed = TRUE)
    end <- flow_value(text, place, c(line, as.integer(from)))
    return(list(open = open, line = end[1] + 1L))
  }
  list(open = open, line = line + 1L)
}

unquoted <- function(key) sub("^([\"'])(.*)\\1$", "\\2", key)

# The line after a text of several lines, which is indented deeper than its key.
after_text <- function(lines, line, indent) {
  line <- line + 1L
  while (
    line <= length(lines) &&
      (!nzchar(trimws(lines[line])) || attr(regexpr("^ *", lines[line]), "match.length") > indent)
  ) line <- line + 1L
  line
}

# A value in braces, brackets or quotes, or a plain one within them; from: c(line, column). Returns
# where it ends.
flow_value <- function(text, place, from) {
  from <- next_sign(text, from)
  sign <- sign_at(text, from)
  if (is.null(sign)) return(from)
  if (length(place) > deepest_place) return(c(length(text$lines) + 1L, 1L))
  if (sign %in% c("\"", "'")) return(after_quote(text, from, sign))
  if (!sign %in% c("{", "[")) return(after_plain(text, from))
  closing <- c("{" = "}", "[" = "]")[[sign]]
  cursor <- c(from[1], from[2] + 1L)
  entry <- 0L
  repeat {
    cursor <- next_sign(text, cursor)
    now <- sign_at(text, cursor)
    if (is.null(now) || now == closing) return(c(cursor[1], cursor[2] + 1L))
    if (now == ",") {
      cursor[2] <- cursor[2] + 1L
      next
    }
    began <- cursor
    if (closing == "]") {
      entry <- entry + 1L
      keep_place(text, c(place, entry), cursor[1])
      cursor <- flow_value(text, c(place, entry), cursor)
    } else {
      cursor <- if (now %in% c("\"", "'")) {
        after_quote(text, cursor, now)
      } else {
        after_plain(text, cursor)
      }
      key <- unquoted(trimws(substring(text$lines[began[1]], began[2], cursor[2] - 1L)))
      keep_place(text, c(place, key), began[1])
      cursor <- next_sign(text, cursor)
      if (identical(sign_at(text, cursor), ":")) {
        cursor <- flow_value(text, c(place, key), c(cursor[1], cursor[2] + 1L))
      }
    }
    # What cannot be read must not hold up the rest.
    if (identical(cursor, began)) cursor[2] <- cursor[2] + 1L
  }
}

# The next place that is no blank and no comment; beyond the last line there is none.
next_sign <- function(text, cursor) {
  while (cursor[1] <= length(text$lines)) {
    rest <- substring(text$lines[cursor[1]], cursor[2])
    blanks <- attr(regexpr("^\\s*", rest), "match.length")
    rest <- substring(rest, blanks + 1)
    if (nzchar(rest) && !startsWith(rest, "#")) return(c(cursor[1], cursor[2] + blanks))
    cursor <- c(cursor[1] + 1L, 1L)
  }
  cursor
}
sign_at <- function(text, cursor) {
  if (cursor[1] <= length(text$lines)) substr(text$lines[cursor[1]], cursor[2], cursor[2])
}

after_quote <- function(text, cursor, sign) {
  pattern <- if (sign == "\"") "^(?:[^\"\\\\]|\\\\.)*\"" else "^(?:[^']|'')*'"
  cursor[2] <- cursor[2] + 1L
  while (cursor[1] <= length(text$lines)) {
    found <- regexpr(pattern, substring(text$lines[cursor[1]], cursor[2]), perl = TRUE)
    if (found > 0) return(c(cursor[1], cursor[2] + attr(found, "match.length")))
    cursor <- c(cursor[1] + 1L, 1L)
  }
  cursor
}

# A plain text ends at a comma, a bracket or brace, or a colon before a blank.
after_plain <- function(text, cursor) {
  rest <- substring(text$lines[cursor[1]], cursor[2])
  c(
    cursor[1],
    cursor[2] + attr(regexpr("^(?:[^,\\[\\]{}:]|:(?!\\s|$))*", rest, perl = TRUE), "match.length")
  )
}
