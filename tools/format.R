# Brings code into the house's form, by R's own parse data:
#   Rscript tools/format.R [FILE ...]          all of R, tests, tools, bench and inst where none is
#   named Rscript tools/format.R --check [FILE ...]  prints what is not in it; status 1 where
#   anything is
#
# The form: a call that needs more than one line has one argument a line and its bracket closed on
# a line of its own; a last argument that is a function or a block may begin beside the others, and
# constants in c() may fill lines. No line passes 100 columns. What one line does not hold, after
# `if`, `else`, `for` or `function`, stands in braces. Expressions that are in form stay as they
# are. The parse trees before and after are the same but for such braces, or nothing is written.

widest <- 100L

# Parse data ----------------------------------------------------------------------

read_code <- function(path) {
  lines <- readLines(path, encoding = "UTF-8", warn = FALSE)
  code_of(lines)
}

code_of <- function(lines) {
  parsed <- utils::getParseData(parse(text = lines, keep.source = TRUE, encoding = "UTF-8"))
  if (is.null(parsed)) parsed <- empty_parse_data
  parsed <- parsed[order(parsed$line1, parsed$col1, -parsed$line2, -parsed$col2), ]
  # Comments outside of expressions have the negative number of the one that they precede.
  parsed$parent[parsed$parent < 0] <- 0
  n <- nrow(parsed)
  at <- match(parsed$parent, parsed$id, nomatch = 0L)
  inner <- split(seq_len(n), factor(at, 0:n))
  list(
    lines = lines,
    token = parsed$token,
    from = Map(c, parsed$line1, parsed$col1),
    to = Map(c, parsed$line2, parsed$col2),
    children = unname(inner[-1]),
    top = inner[[1]],
    comments = parsed[parsed$token == "COMMENT", c("line1", "col1")],
    blocks = parsed[parsed$token == "'{'", c("line1", "col1")]
  )
}
empty_parse_data <- data.frame(
  line1 = integer(),
  col1 = integer(),
  line2 = integer(),
  col2 = integer(),
  id = integer(),
  parent = integer(),
  token = character(),
  terminal = logical(),
  text = character()
)

children_of <- function(code, id) code$children[[id]]
token_of <- function(code, id) code$token[[id]]
tokens_of <- function(code, ids) code$token[ids]
first_line <- function(code, id) code$from[[id]][1]
last_line <- function(code, id) code$to[[id]][1]

# The source of a node, line by line, as it stands.
source_of <- function(code, id) source_between(code, code$from[[id]], code$to[[id]])
source_between <- function(code, from, to) {
  if (from[1] == to[1]) return(substr(code$lines[from[1]], from[2], to[2]))
  lines <- code$lines[from[1]:to[1]]
  lines[1] <- substring(lines[1], from[2])
  lines[length(lines)] <- substr(lines[length(lines)], 1, to[2])
  lines
}

is_within <- function(code, id, places) {
  from <- code$from[[id]]
  to <- code$to[[id]]
  after <- places$line1 > from[1] | (places$line1 == from[1] & places$col1 >= from[2])
  before <- places$line1 < to[1] | (places$line1 == to[1] & places$col1 <= to[2])
  any(after & before)
}

# A node on one line; NULL where a comment, a block or a text over lines stands in the way.
flat <- function(code, id) {
  lines <- source_of(code, id)
  if (length(lines) == 1) return(lines)
  if (is_within(code, id, code$comments) || is_within(code, id, code$blocks)) return(NULL)
  if (has_long_string(code, id)) return(NULL)
  joined <- lines[1]
  for (line in trimws(lines[-1])) {
    tight <- grepl("[(\\[]$", joined) || grepl("^[])]", line)
    joined <- paste0(joined, if (!tight) " ", line)
  }
  joined
}

has_long_string <- function(code, id) {
  if (token_of(code, id) == "STR_CONST") return(first_line(code, id) != last_line(code, id))
  inner <- children_of(code, id)
  inner <- inner[vapply(inner, function(one) first_line(code, one) != last_line(code, one), NA)]
  any(vapply(inner, function(one) has_long_string(code, one), NA))
}

# What kind of expression a node is.
kind_of <- function(code, id) {
  inner <- children_of(code, id)
  if (!length(inner)) return("terminal")
  inner <- inner[code$token[inner] != "COMMENT"]
  tokens <- tokens_of(code, inner)
  if (length(inner) == 1) return("wrapped")
  first <- tokens[1]
  if (first == "'{'") return("block")
  if (first == "'('") return("parenthesis")
  if (first %in% c("FUNCTION", "'\\\\'")) return("function")
  if (first == "IF") return("if")
  if (first %in% c("FOR", "WHILE")) return("loop")
  if (first == "REPEAT") return("repeat")
  second <- tokens[2]
  if (second == "'('") return("call")
  if (second %in% c("'['", "LBB")) return("index")
  if (second %in% c("'$'", "'@'", "NS_GET", "NS_GET_INT")) return("member")
  if (length(inner) == 2) return("unary")
  if (second %in% c("LEFT_ASSIGN", "EQ_ASSIGN", "RIGHT_ASSIGN")) return("assignment")
  "infix"
}

# Arguments of a call, of an index, or of a function: each the nodes between two commas.
arguments_of <- function(code, inner) {
  parts <- list()
  current <- integer()
  for (one in inner) {
    if (token_of(code, one) == "','") {
      parts <- c(parts, list(current))
      current <- integer()
    } else {
      current <- c(current, one)
    }
  }
  if (length(parts) || any(code$token[current] != "COMMENT")) parts <- c(parts, list(current))
  parts
}

call_parts <- function(code, id) {
  inner <- children_of(code, id)
  tokens <- tokens_of(code, inner)
  opening <- which(tokens %in% c("'('", "'['", "LBB"))[1]
  closings <- if (tokens[opening] == "LBB") length(inner) - 1:0 else length(inner)
  list(
    head = inner[seq_len(opening - 1)],
    opening = inner[opening],
    between = inner[seq_len(closings[1] - opening - 1) + opening],
    closing = inner[closings]
  )
}

# What an argument's value is: the last node of it that is no comment.
value_of <- function(code, argument) {
  argument <- argument[code$token[argument] != "COMMENT"]
  if (length(argument)) argument[length(argument)] else NA_integer_
}

unwrapped <- function(code, id) {
  while (kind_of(code, id) == "wrapped") {
    inner <- children_of(code, id)
    id <- inner[code$token[inner] != "COMMENT"]
  }
  id
}

is_function_or_block <- function(code, argument) {
  value <- value_of(code, argument)
  if (is.na(value) || !code$token[value] %in% "expr") return(FALSE)
  kind_of(code, value) %in% c("function", "block")
}

# A function whose body is a block, or a block.
ends_in_block <- function(code, argument) {
  if (!is_function_or_block(code, argument)) return(FALSE)
  value <- value_of(code, argument)
  if (kind_of(code, value) == "block") return(TRUE)
  body <- utils::tail(children_of(code, value), 1)
  kind_of(code, body) == "block"
}

is_constant <- function(code, argument) {
  value <- value_of(code, argument)
  if (is.na(value)) return(FALSE)
  value <- unwrapped(code, value)
  if (kind_of(code, value) == "unary") value <- unwrapped(code, children_of(code, value)[2])
  token_of(code, value) %in% c("STR_CONST", "NUM_CONST", "NULL_CONST")
}

is_c_of_constants <- function(code, id, arguments) {
  head <- source_of(code, call_parts(code, id)$head)
  identical(head, "c") && all(vapply(arguments, is_constant, NA, code = code))
}

# Is a call of several lines in form?
in_form <- function(code, id) {
  parts <- call_parts(code, id)
  opened <- first_line(code, parts$opening)
  closed <- last_line(code, parts$closing)
  arguments <- arguments_of(code, parts$between)
  if (opened == closed || !length(arguments)) return(TRUE)
  if (is_c_of_constants(code, id, arguments)) return(TRUE)
  n <- length(arguments)
  if (is_function_or_block(code, arguments[[n]]) && is_hugged(code, arguments, opened, closed)) {
    return(TRUE)
  }
  begins <- vapply(arguments, function(one) begins_line(code, one[1]), NA)
  all(begins) && begins_line(code, parts$closing[1]) && first_line(code, arguments[[1]][1]) > opened
}

is_hugged <- function(code, arguments, opened, closed) {
  n <- length(arguments)
  last <- arguments[[n]]
  others <- unlist(arguments[-n])
  last_line(code, value_of(code, last)) == closed && first_line(code, last[1]) == opened &&
    all(vapply(others, function(one) last_line(code, one) == opened, NA))
}

begins_line <- function(code, id) {
  from <- code$from[[id]]
  !nzchar(trimws(substr(code$lines[from[1]], 1, from[2] - 1)))
}

# Calls that are not in form, and lines that are too wide: a line each.
out_of_form <- function(path) {
  code <- read_code(path)
  ids <- which(code$token == "expr")
  ids <- ids[vapply(ids, function(id) first_line(code, id) != last_line(code, id), NA)]
  calls <- Filter(function(id) kind_of(code, id) == "call" && !in_form(code, id), ids)
  at <- vapply(calls, function(id) first_line(code, call_parts(code, id)$opening), 0)
  wide <- which(nchar(code$lines) > widest)
  c(
    if (length(at)) paste0(path, ":", sort(at), ": a call with several arguments on a line"),
    if (length(wide)) paste0(path, ":", wide, ": more than ", widest, " columns")
  )
}

# Rendering -----------------------------------------------------------------------
# Each gives lines: the first is set at column `at` of a line, the others with their indent. `tail`
# columns must be left free behind the last.

spaces <- function(n) strrep(" ", n)

render <- function(code, id, indent, at, tail = 0L) {
  lines <- source_of(code, id)
  if (length(lines) == 1 && at + nchar(lines) + tail <= widest) return(lines)
  switch(
    kind_of(code, id),
    terminal = lines,
    wrapped = render(code, unwrapped(code, id), indent, at, tail),
    block = render_block(code, id, indent),
    parenthesis = render_parenthesis(code, id, indent, at, tail),
    "function" = render_function(code, id, indent, at, tail),
    "if" = render_if(code, id, indent, at, tail),
    loop = render_loop(code, id, indent, at, tail),
    "repeat" = c_lines("repeat ", render(code, children_of(code, id)[2], indent, at + 7L, tail)),
    call = render_call(code, id, indent, at, tail),
    index = render_index(code, id, indent, at, tail),
    member = render_member(code, id, indent, at, tail),
    unary = c_lines(
      source_of(code, children_of(code, id)[1]),
      render(code, children_of(code, id)[2], indent, at + 1L, tail)
    ),
    assignment = render_assignment(code, id, indent, at, tail),
    infix = render_infix(code, id, indent, at, tail)
  )
}

# One text behind the other: the last line of the first goes on with the first of the second.
c_lines <- function(...) {
  parts <- list(...)
  Reduce(
    function(a, b) {
      if (!length(a)) return(b)
      if (!length(b)) return(a)
      n <- length(a)
      c(a[-n], paste0(a[n], b[1]), b[-1])
    },
    parts
  )
}

end_column <- function(lines, at) {
  if (length(lines) == 1) at + nchar(lines) else nchar(lines[length(lines)])
}

render_block <- function(code, id, indent) {
  inner <- children_of(code, id)
  inner <- inner[-c(1, length(inner))]
  if (!length(inner)) return("{}")
  opened <- first_line(code, id)
  c("{", render_statements(code, inner, indent + 2L, opened), paste0(spaces(indent), "}"))
}

# Statements and comments, with the blank lines between them; `above` is the line before the first.
render_statements <- function(code, ids, indent, above) {
  ids <- ids[!code$token[ids] %in% "';'"]
  result <- character()
  for (one in ids) {
    beside <- token_of(code, one) == "COMMENT" && first_line(code, one) == above
    if (beside && length(result)) {
      result[length(result)] <- paste0(result[length(result)], " ", source_of(code, one))
      next
    }
    blank <- if (length(result)) first_line(code, one) - above - 1L else 0L
    result <- c(
      result,
      rep("", max(0L, blank)),
      c_lines(spaces(indent), render(code, one, indent, indent))
    )
    above <- last_line(code, one)
  }
  result
}

# In braces where it is not.
braced <- function(code, id, indent) {
  if (kind_of(code, id) == "block") return(render_block(code, id, indent))
  inside <- c_lines(spaces(indent + 2L), render(code, id, indent + 2L, indent + 2L))
  c("{", inside, paste0(spaces(indent), "}"))
}

render_parenthesis <- function(code, id, indent, at, tail) {
  joined <- flat(code, id)
  if (!is.null(joined) && at + nchar(joined) + tail <= widest) return(joined)
  inner <- children_of(code, id)
  inside <- render(code, inner[2], indent + 2L, indent + 2L)
  c("(", c_lines(spaces(indent + 2L), inside), paste0(spaces(indent), ")"))
}

# Formals on the line of `function` where they fit, else one a line.
render_function <- function(code, id, indent, at, tail) {
  inner <- children_of(code, id)
  body <- inner[length(inner)]
  open <- match("'('", tokens_of(code, inner))
  word <- source_of(code, inner[1])
  formals <- arguments_of(code, inner[seq(open + 1, length.out = length(inner) - open - 2)])
  flat_formals <- vapply(formals, function(one) flat_argument(code, one) %||na% "\n", "")
  on_one <- paste0(word, "(", paste(flat_formals, collapse = ", "), ")")
  was_exploded <- first_line(code, inner[1]) != last_line(code, inner[length(inner) - 1])
  is_block <- kind_of(code, body) == "block"
  fits <- !any(grepl("\n", flat_formals)) && at + nchar(on_one) + 2L <= widest
  header <- if (fits && (!was_exploded || length(formals) < 4)) {
    on_one
  } else {
    explode(code, paste0(word, "("), ")", formals, indent)
  }
  column <- end_column(header, at)
  if (is_block) return(c_lines(header, " ", render_block(code, body, indent)))
  joined <- flat(code, body)
  if (!is.null(joined) && column + 1L + nchar(joined) + tail <= widest) {
    return(c_lines(header, " ", joined))
  }
  # The body of a function that gives on what one call makes.
  if (kind_of(code, body) %in% "function") {
    return(c_lines(header, " ", render(code, body, indent, column + 1L, tail)))
  }
  c_lines(header, " ", braced(code, body, indent))
}

`%||na%` <- function(left, right) if (is.null(left)) right else left

# An argument on one line, or NULL.
flat_argument <- function(code, argument) {
  if (!length(argument)) return("")
  if (any(code$token[argument] == "COMMENT")) return(NULL)
  pieces <- lapply(argument, flat, code = code)
  if (any(vapply(pieces, is.null, NA))) return(NULL)
  tokens <- tokens_of(code, argument)
  named <- tokens %in% c("EQ_SUB", "EQ_FORMALS")
  pieces[named] <- if (named[length(named)]) " =" else " = "
  paste(unlist(pieces), collapse = "")
}

render_argument <- function(code, argument, indent, at, tail) {
  argument <- argument[code$token[argument] != "COMMENT"]
  if (!length(argument)) return("")
  tokens <- tokens_of(code, argument)
  named <- match(TRUE, tokens %in% c("EQ_SUB", "EQ_FORMALS"))
  if (is.na(named)) return(render(code, argument, indent, at, tail))
  name <- paste0(source_of(code, argument[1]), " =")
  if (named == length(argument)) return(name)
  name <- paste0(name, " ")
  c_lines(name, render(code, argument[length(argument)], indent, at + nchar(name), tail))
}

# One argument a line, comments where they stood: those behind an argument beside it.
explode <- function(code, opening, closing, arguments, indent) {
  lines <- opening
  n <- length(arguments)
  for (i in seq_len(n)) {
    argument <- arguments[[i]]
    comments <- argument[code$token[argument] == "COMMENT"]
    value <- value_of(code, argument)
    leading <- comments
    trailing <- integer()
    if (!is.na(value)) {
      is_before <- vapply(
        comments,
        function(one) first_line(code, one) < first_line(code, value),
        NA
      )
      leading <- comments[is_before]
      trailing <- comments[!is_before]
    }
    for (comment in leading) {
      if (i > 1 && first_line(code, comment) == previous) {
        lines[length(lines)] <- paste0(lines[length(lines)], " ", source_of(code, comment))
      } else {
        lines <- c(lines, paste0(spaces(indent + 2L), source_of(code, comment)))
      }
    }
    # Nothing behind the last comma, as in x[rows, ].
    if (i == n && !length(argument)) break
    comma <- if (i < n) 1L else 0L
    rendered <- render_argument(code, argument, indent + 2L, indent + 2L, comma)
    lines <- c(lines, c_lines(spaces(indent + 2L), rendered, if (comma) "," else ""))
    for (comment in trailing) {
      if (first_line(code, comment) == last_line(code, value)) {
        lines[length(lines)] <- paste0(lines[length(lines)], " ", source_of(code, comment))
      } else {
        lines <- c(lines, paste0(spaces(indent + 2L), source_of(code, comment)))
      }
    }
    previous <- if (is.na(value)) 0L else last_line(code, value)
  }
  c(lines, paste0(spaces(indent), closing))
}

render_call <- function(code, id, indent, at, tail) {
  parts <- call_parts(code, id)
  arguments <- arguments_of(code, parts$between)
  n <- length(arguments)
  head <- render(code, parts$head, indent, at, 1L)
  opening <- c_lines(head, "(")
  column <- end_column(opening, at)
  if (!n) return(c_lines(opening, ")"))
  several_lines <- first_line(code, parts$opening) != last_line(code, parts$closing)
  if (is_c_of_constants(code, id, arguments) && !is_within(code, id, code$comments)) {
    return(fill_constants(code, opening, arguments, indent, at, tail))
  }
  hugged <- hug(code, opening, arguments, indent, column)
  if (!is.null(hugged)) return(hugged)
  joined <- flat_arguments(code, arguments)
  joins <- !is.null(joined) && column + nchar(joined) + 1L + tail <= widest
  if (joins && !(several_lines && in_form(code, id))) return(c_lines(opening, joined, ")"))
  c_lines(
    opening[-length(opening)],
    explode(code, opening[length(opening)], ")", arguments, indent)
  )
}

flat_arguments <- function(code, arguments) {
  pieces <- lapply(arguments, flat_argument, code = code)
  if (any(vapply(pieces, is.null, NA))) return(NULL)
  paste(unlist(pieces), collapse = ", ")
}

# A block at the end begins on the line of the other arguments, where these have room.
hug <- function(code, opening, arguments, indent, column) {
  n <- length(arguments)
  last <- arguments[[n]]
  if (!ends_in_block(code, last) || any(code$token[last] == "COMMENT")) return(NULL)
  if (first_line(code, value_of(code, last)) == last_line(code, value_of(code, last))) return(NULL)
  others <- if (n > 1) flat_arguments(code, arguments[-n]) else ""
  if (is.null(others)) return(NULL)
  if (n > 1) others <- paste0(others, ", ")
  rendered <- render_argument(code, last, indent, column + nchar(others), 1L)
  if (column + nchar(others) + nchar(rendered[1]) > widest || !grepl("\\{$", rendered[1])) {
    return(NULL)
  }
  c_lines(opening, others, rendered, ")")
}

# Constants fill lines, as they were grouped by lines where these are not too wide.
fill_constants <- function(code, opening, arguments, indent, at, tail) {
  texts <- vapply(arguments, function(one) flat_argument(code, one), "")
  on_one <- paste(texts, collapse = ", ")
  grouped <- vapply(arguments, function(one) first_line(code, one[1]), 0)
  if (end_column(opening, at) + nchar(on_one) + 1L + tail <= widest) {
    return(c_lines(opening, on_one, ")"))
  }
  texts[-length(texts)] <- paste0(texts[-length(texts)], ",")
  lines <- unlist(lapply(split(texts, grouped), fill_words, width = widest - indent - 2L))
  c(opening, paste0(spaces(indent + 2L), unname(lines)), paste0(spaces(indent), ")"))
}

fill_words <- function(words, width) {
  lines <- words[1]
  for (word in words[-1]) {
    n <- length(lines)
    if (nchar(lines[n]) + 1L + nchar(word) <= width) {
      lines[n] <- paste(lines[n], word)
    } else {
      lines <- c(lines, word)
    }
  }
  lines
}

render_index <- function(code, id, indent, at, tail) {
  joined <- flat(code, id)
  if (!is.null(joined) && at + nchar(joined) + tail <= widest) return(joined)
  parts <- call_parts(code, id)
  head <- render(code, parts$head, indent, at, 2L)
  brackets <- if (length(parts$closing) == 2) c("[[", "]]") else c("[", "]")
  opening <- c_lines(head, brackets[1])
  arguments <- arguments_of(code, parts$between)
  inside <- flat_arguments(code, arguments)
  column <- end_column(opening, at)
  if (!is.null(inside) && column + nchar(inside) + nchar(brackets[2]) + tail <= widest) {
    return(c_lines(opening, inside, brackets[2]))
  }
  c_lines(
    opening[-length(opening)],
    explode(code, opening[length(opening)], brackets[2], arguments, indent)
  )
}

render_member <- function(code, id, indent, at, tail) {
  inner <- children_of(code, id)
  member <- paste(vapply(inner[-1], function(one) source_of(code, one), ""), collapse = "")
  c_lines(render(code, inner[1], indent, at, tail + nchar(member)), member)
}

render_assignment <- function(code, id, indent, at, tail) {
  inner <- children_of(code, id)
  target <- render(code, inner[1], indent, at)
  sign <- paste0(" ", source_of(code, inner[2]), " ")
  column <- end_column(target, at) + nchar(sign)
  c_lines(target, sign, render(code, inner[3], indent, column, tail))
}

# Operators that may stand at the end of a line, by how they bind.
operator_groups <- list(
  c("OR", "OR2"),
  c("AND", "AND2"),
  c("'~'"),
  c("SPECIAL", "PIPE"),
  c("'+'", "'-'"),
  c("'*'", "'/'"),
  c("GT", "LT", "GE", "LE", "EQ", "NE"),
  c("':'"),
  c("'^'")
)

# A chain of operators breaks where it did, and where a line would be too wide.
render_infix <- function(code, id, indent, at, tail) {
  joined <- flat(code, id)
  if (!is.null(joined) && at + nchar(joined) + tail <= widest && !in_lines(code, id)) return(joined)
  chain <- operands_of(code, id)
  n <- length(chain$operands)
  result <- render(code, chain$operands[1], indent, at, nchar(chain$signs[1]))
  for (i in seq_len(n)[-1]) {
    operand <- chain$operands[i]
    sign <- chain$signs[i - 1]
    rest <- if (i < n) nchar(chain$signs[i]) else tail
    column <- end_column(result, at)
    text <- flat(code, operand)
    broke <- first_line(code, operand) != last_line(code, chain$operands[i - 1])
    fits <- !is.null(text) && column + nchar(sign) + nchar(text) + rest <= widest
    if (fits && !broke) {
      result <- c_lines(result, sign, text)
    } else if (grepl("^ ", sign) && (broke || goes_below(code, operand, text, indent, rest))) {
      lines <- render(code, operand, indent + 2L, indent + 2L, rest)
      result <- c(result, c_lines(spaces(indent + 2L), lines))
      m <- length(result) - length(lines)
      result[m] <- paste0(result[m], sub(" $", "", sign))
    } else {
      lines <- render(code, operand, indent, column + nchar(sign), rest)
      result <- c_lines(result, sign, lines)
    }
  }
  result
}

# Does an operand begin a line of its own? Not where it could not stay on one in any case.
goes_below <- function(code, operand, text, indent, rest) {
  fits_below <- !is.null(text) && indent + 2L + nchar(text) + rest <= widest
  fits_below || !opens_here(code, operand)
}

# Was a chain set over lines at its signs?
in_lines <- function(code, id) {
  chain <- operands_of(code, id)
  n <- length(chain$operands)
  any(
    vapply(
      seq_len(n)[-1],
      function(i) {
        first_line(code, chain$operands[i]) != last_line(code, chain$operands[i - 1])
      },
      NA
    )
  )
}

# Does it begin with a word that can stay on the line while the rest goes on below?
opens_here <- function(code, id) {
  kind_of(code, unwrapped(code, id)) %in% c(
    "call", "function", "if", "block", "parenthesis", "index"
  )
}

operands_of <- function(code, id) {
  inner <- children_of(code, id)
  inner <- inner[code$token[inner] != "COMMENT"]
  group <- Filter(function(one) token_of(code, inner[2]) %in% one, operator_groups)
  group <- if (length(group)) group[[1]] else token_of(code, inner[2])
  sign <- sign_text(code, inner)
  left <- unwrapped(code, inner[1])
  goes_on <- kind_of(code, left) == "infix" &&
    token_of(code, children_of(code, left)[2]) %in% group
  if (!goes_on) return(list(operands = c(inner[1], inner[3]), signs = sign))
  before <- operands_of(code, left)
  list(operands = c(before$operands, inner[3]), signs = c(before$signs, sign))
}

sign_text <- function(code, inner) {
  sign <- source_of(code, inner[2])
  same_line <- last_line(code, inner[1]) == first_line(code, inner[2])
  gap <- code$from[[inner[2]]][2] - code$to[[inner[1]]][2]
  if (same_line && gap == 1) sign else paste0(" ", sign, " ")
}

render_if <- function(code, id, indent, at, tail) {
  inner <- children_of(code, id)
  inner <- inner[code$token[inner] != "COMMENT"]
  condition <- condition_lines(code, inner[3], "if", indent, at)
  yes <- inner[5]
  has_else <- length(inner) > 5
  joined <- flat(code, yes)
  short <- !is.null(joined) && kind_of(code, yes) != "block" && !has_else &&
    length(condition) == 1 &&
    at + nchar(condition) + 1L + nchar(joined) + tail <= widest
  if (short) return(paste(condition, joined))
  result <- c_lines(condition, " ", braced(code, yes, indent))
  if (!has_else) return(result)
  no <- inner[7]
  if (kind_of(code, no) == "if") {
    return(c_lines(result, " else ", render_if(code, no, indent, indent + 7L, tail)))
  }
  c_lines(result, " else ", braced(code, no, indent))
}

condition_lines <- function(code, id, word, indent, at) {
  joined <- flat(code, id)
  head <- paste0(word, " (")
  if (!is.null(joined) && at + nchar(head) + nchar(joined) + 3L <= widest && !grepl("\n", joined)) {
    return(paste0(head, joined, ")"))
  }
  inside <- render(code, id, indent + 2L, indent + 2L)
  c(head, c_lines(spaces(indent + 2L), inside), paste0(spaces(indent), ")"))
}

render_loop <- function(code, id, indent, at, tail) {
  inner <- children_of(code, id)
  body <- inner[length(inner)]
  header <- loop_header(code, inner, indent, at)
  column <- end_column(header, at)
  joined <- if (kind_of(code, body) != "block") flat(code, body)
  if (!is.null(joined) && column + 1L + nchar(joined) + tail <= widest) {
    return(c_lines(header, " ", joined))
  }
  c_lines(header, " ", braced(code, body, indent))
}

loop_header <- function(code, inner, indent, at) {
  from <- code$from[[inner[1]]]
  to <- code$to[[inner[length(inner) - 1]]]
  joined <- paste(trimws(source_between(code, from, to)), collapse = " ")
  condition <- children_of(code, inner[2])
  if (at + nchar(joined) + 2L <= widest || length(condition) != 5) return(joined)
  head <- paste0("for (", source_of(code, condition[2]), " in ")
  c_lines(head, render(code, condition[4], indent, at + nchar(head), 3L), ")")
}

# Files ---------------------------------------------------------------------------

# Comments ------------------------------------------------------------------------
# A comment that is too wide goes on in the next line of its paragraph.

wrap_comments <- function(lines) {
  form <- "^(\\s*#+'?)(\\s+)(.*)$"
  i <- 1L
  examples <- FALSE
  while (i <= length(lines)) {
    line <- lines[i]
    if (grepl("^#' @", line)) examples <- grepl("^#' @examples", line)
    if (nchar(line) <= widest || !grepl(form, line) || examples || is_table_row(line)) {
      i <- i + 1L
      next
    }
    mark <- sub(form, "\\1", line)
    gap <- sub(form, "\\2", line)
    words <- strsplit(sub(form, "\\3", line), " ", fixed = TRUE)[[1]]
    hanging <- if (grepl("^#' (@|[*-] )", line)) "  " else ""
    kept <- fit_words(words, widest - nchar(mark) - nchar(gap))
    if (kept == 0 || kept == length(words)) {
      i <- i + 1L
      next
    }
    lines[i] <- paste0(mark, gap, paste(words[seq_len(kept)], collapse = " "))
    rest <- paste(words[-seq_len(kept)], collapse = " ")
    following <- if (i < length(lines)) lines[i + 1L] else ""
    if (goes_on(following, mark, form)) {
      lines[i + 1L] <- paste0(
        sub(form, "\\1\\2", following),
        rest,
        " ",
        sub(form, "\\3", following)
      )
    } else {
      lines <- append(lines, paste0(mark, gap, hanging, rest), i)
    }
    i <- i + 1L
  }
  lines
}

is_table_row <- function(line) grepl("\\|.*\\|", line)

fit_words <- function(words, width) {
  sum(cumsum(nchar(words) + 1L) - 1L <= width)
}

# Is a line of comment more of the paragraph above it?
goes_on <- function(line, mark, form) {
  grepl(form, line) && sub(form, "\\1", line) == mark && !is_table_row(line) &&
    !grepl("^\\s*#+'?\\s+(@|[*] |- |[0-9]+[.] |\\\\item|[}]|```)", line) && !grepl("-----", line)
}

# Examples of help pages, formatted as the code that they are; left where they are no code alone.
format_examples <- function(lines) {
  heads <- grep("^#' @examples\\s*$", lines)
  for (head in rev(heads)) {
    below <- seq_along(lines) > head
    ends <- which(below & !grepl("^#'( [^@].*|)$", lines))
    last <- if (length(ends)) ends[1] - 1L else length(lines)
    if (last <= head) next
    example <- sub("^#' ?", "", lines[(head + 1L):last])
    if (all(nchar(example) <= widest - 3L)) next
    result <- tryCatch(in_width(widest - 3L, formatted(example)), error = function(error) example)
    lines <- c(lines[seq_len(head)], sub(" $", "", paste("#'", result)), lines[-seq_len(last)])
  }
  lines
}

in_width <- function(width, code) {
  before <- widest
  on.exit(widest <<- before)
  widest <<- width
  code
}

# Whole files ---------------------------------------------------------------------

formatted <- function(lines) {
  code <- code_of(lines)
  top <- code$top[code$token[code$top] != "';'"]
  result <- character()
  above <- 0L
  for (one in top) {
    blank <- max(0L, first_line(code, one) - above - 1L)
    verbatim <- source_of(code, one)
    is_comment <- token_of(code, one) == "COMMENT"
    same <- is_comment && first_line(code, one) == above
    text <- if (is_comment || !is_out(code, one)) verbatim else render(code, one, 0L, 0L)
    if (same) {
      result[length(result)] <- paste0(result[length(result)], " ", text)
    } else {
      result <- c(result, rep("", blank), text)
    }
    above <- last_line(code, one)
  }
  c(result, rep("", max(0L, length(lines) - above)))
}

# Is anything of a node out of form?
is_out <- function(code, id) {
  if (any(nchar(code$lines[first_line(code, id):last_line(code, id)]) > widest)) return(TRUE)
  if (first_line(code, id) == last_line(code, id)) return(FALSE)
  if (token_of(code, id) == "expr" && kind_of(code, id) == "call" && !in_form(code, id)) {
    return(TRUE)
  }
  any(vapply(children_of(code, id), function(one) is_out(code, one), NA))
}

# Code without braces around one expression.
without_braces <- function(e) {
  if (is.function(e)) return(e)
  if (is.call(e)) {
    if (identical(e[[1]], as.name("{")) && length(e) == 2) return(without_braces(e[[2]]))
    for (i in seq_along(e)) {
      part <- e[[i]]
      if (!missing(part) && !is.null(part)) e[i] <- list(without_braces(part))
    }
    return(e)
  }
  if (is.pairlist(e)) {
    return(as.pairlist(lapply(e, function(part) if (missing(part)) part else without_braces(part))))
  }
  e
}
trees <- function(lines) {
  lapply(as.list(parse(text = lines, keep.source = FALSE, encoding = "UTF-8")), without_braces)
}

format_file <- function(path) {
  lines <- readLines(path, encoding = "UTF-8", warn = FALSE)
  result <- lines
  for (pass in 1:4) {
    before <- result
    result <- wrap_comments(format_examples(formatted(result)))
    if (identical(before, result)) break
  }
  if (!identical(trees(lines), trees(result))) stop(path, ": would not be the same code")
  if (!identical(lines, result)) writeLines(result, path, useBytes = TRUE)
}

# Everything that people write; what is made by tools is not.
code_files <- function(top = ".") {
  folders <- file.path(top, c("R", "tests", "tools", "bench", "inst", "data-raw"))
  files <- list.files(folders, "[.]R$", recursive = TRUE, full.names = TRUE)
  files[!basename(files) %in% "RcppExports.R"]
}

main <- function(arguments) {
  check <- "--check" %in% arguments
  files <- setdiff(arguments, "--check")
  if (!length(files)) files <- code_files()
  if (!check) for (path in files) format_file(path)
  found <- unlist(lapply(files, out_of_form))
  if (length(found)) writeLines(found)
  quit(save = "no", status = as.integer(length(found) > 0))
}

if (sys.nframe() == 0L) main(commandArgs(trailingOnly = TRUE))
