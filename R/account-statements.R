# What is said of a figure as statements, each true by itself: of a block what it shows, on how many
# values, and what each of its marks is. How they are put together is the legend's.

# Statements of one block: list(letters, subject, n, marks: one a kind of mark, rest).
block_statements <- function(scene, block) {
  accounts <- scene$accounts[scene$accounts$block == block, ]
  noun <- rows_noun(scene, block)
  # Statistics in an enlargement rest on the rows of the panel that it is of.
  enlarged <- accounts$role %in% c("zoom", "inset")
  main <- accounts[
    accounts$role != "marginal" & (!enlarged | accounts$summarises == "values"),
  ]
  edge <- accounts[accounts$role == "marginal", ]
  said <- mark_statements(main, noun)
  at_edge <- lapply(mark_statements(edge, noun), of_margins, scene, block)
  list(
    letters = block_letters(scene, block),
    subject = legend_shows(scene, block),
    n = said$n,
    marks = c(
      said$marks,
      if (length(at_edge$marks)) {
        paste0(
          "at the edges, ",
          paste(at_edge$marks, collapse = "; "),
          if (!is.null(at_edge$n) && !identical(of_one(at_edge$n), of_one(said$n))) {
            paste0(", ", at_edge$n)
          }
        )
      }
    ),
    empty = NROW(accounts) > 0 && !any(main$used > 0),
    rest = legend_fits(scene, block)
  )
}

# A block in one line: its letters and what it shows, and n in brackets, "" where it has none.
block_in_short <- function(scene, block) {
  said <- block_statements(scene, block)
  letters <- if (length(said$letters)) paste0(letters_said(said$letters, scene), "  ")
  list(
    text = plain_text(paste0(letters, said$subject)),
    n = if (is.null(said$n)) "" else in_brackets(said$n)
  )
}

# Numbers of values without what each is of.
of_one <- function(n) if (!is.null(n)) sub(" a (panel|margin)", "", n)

# Outside a grid there is a margin for several panels.
of_margins <- function(said, scene, block) {
  if (is.null(said)) return(NULL)
  areas <- scene$panels[scene$panels$block == block, ]
  one <- areas$side %in% c("x", "y") & areas$tier %in% 1
  several <- any(table(areas$side[one]) < sum(areas$role == "panel"))
  if (several) gsub(" a panel", " a margin", said, fixed = TRUE) else said
}

in_brackets <- function(text) paste0(" (", text, ")")

# What the marks of accounts are, and on how many values they rest: `n` where it is the same for all
# of them, else with each.
mark_statements <- function(accounts, noun) {
  key <- paste(accounts$marks, accounts$shows)
  there <- key %in% key[accounts$used > 0]
  if (!any(there)) return(list(marks = character(), n = NULL))
  accounts <- accounts[there, ]
  key <- key[there]
  each <- split(accounts, factor(key, unique(key)))
  n <- vapply(each, n_phrase, "", noun)
  marks <- vapply(
    each,
    function(one) {
      paste0(one$marks[1], ", ", if (is.null(noun)) one$shows[1] else of_rows(one$shows[1], noun))
    },
    ""
  )
  by_n <- split(unname(marks), factor(n, unique(n)))
  joined <- lapply(by_n, alike_joined)
  if (length(by_n) == 1) {
    return(list(marks = joined[[1]], n = if (nzchar(names(by_n))) names(by_n)))
  }
  with_n <- Map(
    function(statements, n) {
      last <- length(statements)
      if (nzchar(n)) statements[last] <- paste0(statements[last], ", ", n)
      paste(statements, collapse = "; ")
    },
    joined,
    names(by_n)
  )
  list(marks = unlist(with_n, use.names = FALSE), n = NULL)
}

# "single values" are single loaves, where the codebook says what a row is.
of_rows <- function(shows, noun) {
  sub("\\bsingle values\\b", paste("single", noun[["many"]]), shows)
}

# Statements that differ in their last word only are one: "bars, counts in bins of 10 and 2.5"; so
# are short ones of the same marks.
alike_joined <- function(statements) {
  statements <- of_marks_joined(statements)
  if (length(statements) < 2) return(statements)
  head <- sub(" [^ ]+$", "", statements)
  last <- sub("^.* ", "", statements)
  # A unit is held to its number.
  joins <- grepl("^[0-9.]+(\u00a0.*)?$", last)
  group <- ifelse(joins, head, statements)
  vapply(
    split(seq_along(statements), factor(group, unique(group))),
    function(of) {
      if (joins[of[1]]) paste(head[of[1]], listed(unique(last[of]))) else statements[of[1]]
    },
    "",
    USE.NAMES = FALSE
  )
}

of_marks_joined <- function(statements) {
  marks <- sub(", .*", "", statements)
  rest <- sub("^[^,]*, ", "", statements)
  short <- nchar(rest) < 60 & !grepl("[;,:0-9]", rest) & grepl(", ", statements)
  group <- ifelse(short, marks, statements)
  vapply(
    split(seq_along(statements), factor(group, unique(group))),
    function(of) {
      if (length(of) == 1) statements[of] else paste0(marks[of[1]], ", ", listed(unique(rest[of])))
    },
    "",
    USE.NAMES = FALSE
  )
}

# What a row of a block's table is called: one and many, NULL where nobody said.
rows_noun <- function(scene, block) {
  found <- scene$nouns[scene$nouns$block == block, ]
  if (NROW(found)) c(one = found$one[1], many = found$many[1])
}

# Numbers of rows, by the noun: "12 loaves", "11 to 12 loaves".
of_noun <- function(n, noun) {
  text <- count_range(n)
  if (is.null(noun)) return(text)
  paste(text, if (max(n) == 1) noun[["one"]] else noun[["many"]])
}

# On how many values one mark, panel or series rests: "n = 11 to 12 a bar".
n_phrase <- function(one, noun = NULL) {
  if (!nzchar(one$called[1])) return("")
  # Two inks of one panel that say the same rest on the same rows, each for itself.
  one$area <- paste(one$area, one$layer)
  several <- length(unique(sub(" .*", "", one$area))) > 1
  # A panel in which nothing is drawn has none; a bar or a group of no values is not there.
  by_panel <- tapply(one$used, one$area, sum)
  one <- one[one$used > 0, ]
  by_slot <- one$summarises[1] %in% c("groups", "spread", "counts") &&
    any(
      !is.na(one$x_level) | !is.na(one$y_level)
    )
  if (one$called[1] == "cell") {
    return(paste0(count_range(by_panel), " cells", if (several) " a panel"))
  }
  if (one$called[1] == "patch") {
    shapes <- tapply(one$series, one$area, sum, na.rm = TRUE)
    return(paste0(count_range(shapes), " ", one$marks[1], if (several) " a panel"))
  }
  if (any(!is.na(one$least))) {
    each <- paste0(
      "n = ",
      of_noun(stats::na.omit(c(one$least, one$most)), noun),
      " ",
      with_article(one$called[1])
    )
    if (by_slot || all(is.na(one$colour))) return(each)
  }
  if (by_slot) {
    return(paste0("n = ", of_noun(one$used, noun), " ", with_article(one$called[1])))
  }
  paste0(
    if (any(!is.na(one$least))) paste0(each, ", in all "),
    "n = ",
    of_noun(by_panel, noun),
    if (several) " a panel",
    group_phrase(one),
    series_phrase(one)
  )
}

# "; 60%: 47, 80%: 46 to 47": of each level that colour, shape or dash tells apart, if not too many.
group_phrase <- function(one) {
  channel <- Find(function(channel) any(!is.na(one[[channel]])), c("colour", "shape", "dash"))
  if (is.null(channel)) return("")
  level <- factor(one[[channel]], unique(stats::na.omit(one[[channel]])))
  n <- tapply(one$used, list(one$area, level), sum)
  of_level <- lapply(levels(level), function(name) n[!is.na(n[, name]), name])
  ends <- vapply(of_level, count_range, "")
  if (length(ends) == 1) return("")
  if (length(unique(ends)) == 1) return(paste0("; ", ends[1], " each"))
  if (length(ends) > most_listed) return(paste0("; ", count_range(unlist(of_level)), " each"))
  paste0("; ", paste(paste0(levels(level), ": ", ends), collapse = ", "))
}

series_phrase <- function(one) {
  if (all(is.na(one$series))) return("")
  total <- tapply(one$series, one$area, sum, na.rm = TRUE)
  paste0(", in ", count_range(total), " series", if (length(total) > 1) " a panel")
}

with_article <- function(word) paste(if (grepl("^[aeio]", word)) "an" else "a", word)

most_listed <- 6 # levels; of more it is said how many there are
