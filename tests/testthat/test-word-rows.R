# The table of words: each argument is said once, and stands wherever arguments are listed.
test_that("the formals of each word are the rows of its table, and its defaults pass them", {
  for (word in words_with_rows()) {
    rows <- nelvat:::word_arguments(word)
    formals <- formals(get(word, asNamespace("nelvat")))
    in_dots <- vapply(rows, function(row) isTRUE(row$dots), NA)
    expect_setequal(names(rows)[!in_dots], setdiff(names(formals), "..."))
    for (name in names(rows)[!in_dots]) {
      row <- rows[[name]]
      expect_match(row$says, "[.?)]$", label = paste("the sentence of", word, name))
      if (identical(formals[[name]], quote(expr = ))) next
      default <- eval(formals[[name]], asNamespace("nelvat"))
      expect_no_error(nelvat:::check_type(row, default, name, NULL))
    }
  }
})

test_that("every argument stands in the schema, the list of keys, the help and words()", {
  keys <- readLines(system.file("schema", "figure.schema.json", package = "nelvat"))
  keys <- paste(keys, collapse = "\n")
  pages <- tools::Rd_db("nelvat")
  helped <- lapply(pages, function(page) {
    of <- function(tag) Filter(function(part) identical(attr(part, "Rd_tag"), tag), page)
    items <- unlist(of("\\arguments"), recursive = FALSE)
    items <- Filter(function(part) identical(attr(part, "Rd_tag"), "\\item"), items)
    list(
      words = vapply(of("\\alias"), function(one) as.character(one[[1]]), ""),
      arguments = trimws(
        unlist(lapply(items, function(item) strsplit(paste(unlist(item[[1]]), collapse = ""), ",")))
      )
    )
  })
  for (word in words_with_rows()) {
    rows <- nelvat:::word_arguments(word)
    page <- Find(function(one) word %in% one$words, helped)
    in_dots <- vapply(rows, function(row) isTRUE(row$dots), NA)
    expect_identical(setdiff(names(rows)[!in_dots], page$arguments), character(), label = word)
    for (row in nelvat:::file_arguments(word)) {
      in_file <- nelvat:::in_words_of_files(nelvat:::in_their_words(nelvat:::plain_says(row)))
      said <- jsonlite::toJSON(in_file, auto_unbox = TRUE)
      expect_true(grepl(said, keys, fixed = TRUE), label = paste(word, "in the schema:", said))
    }
  }
  lines <- nelvat:::lines_of_word("ink_bars")
  for (name in names(nelvat:::word_arguments("ink_bars"))) {
    expect_true(any(startsWith(trimws(lines), paste0(name, " = "))), label = name)
  }
})

test_that("an argument more is one row: calls, files, schema, help and change() take it", {
  on.exit(rm("ink_pie", envir = nelvat:::known_words))
  rows <- nelvat:::word_arguments("ink_pie")
  more <- c(rows, list(hole = nelvat:::a_number(0, 0.9, says = "Share that is left open.")))
  assign("ink_pie", more, nelvat:::known_words)
  # A function has its formals for the editor; this one is as its author would write it.
  ink_pie <- function(labels = TRUE, hole = 0, ...) nelvat:::said_ink("pie", ...)
  expect_identical(ink_pie(hole = 0.5)$hole, 0.5)
  expect_error(ink_pie(hole = 2), "`hole` must be one number, at least 0 and at most 0.9")
  expect_error(ink_pie(hle = 0.5), "Did you mean \"hole\"")
  expect_identical(nelvat:::word_schema("ink_pie")$properties$hole$maximum, 0.9)
  expect_true("@param hole Share that is left open." %in% nelvat:::argument_lines("ink_pie"))
  context <- list(columns = character())
  expect_identical(nelvat:::file_values("ink_pie", list(hole = 0.2), context, "ink")$hole, 0.2)
  expect_error(
    nelvat:::file_values("ink_pie", list(holes = 0.2), context, "ink"),
    class = "nelvat_error_figure"
  )
})

test_that("what is needed, one too many and a wrong type are errors in the words of the call", {
  expect_error(ink_estimate(), "`ink_estimate\\(\\)` needs `low` and `high`")
  expect_error(ink_violin(TRUE, "silverman", NULL, "both", 5), "takes 4 arguments")
  expect_error(ink_labels("name"), "`text` must be a column, bare")
  expect_error(ink_density(bandwidth = TRUE), "`bandwidth` must be a number")
  expect_error(ink_points(size = 400), "`size` must be one number")
  expect_error(ink_bins(bins = c(1, 2, 3)), "or 2 numbers from 1 to 1000")
})

# Values that a type takes, and such as it does not, as a file would have them.
right_values <- function(type) {
  if (!is.null(type$choices) && type$kind == "choice") return(as.list(type$choices))
  switch(
    type$kind,
    number = Filter(
      function(n) !type$whole || n == round(n),
      list(max(type$least, min(type$most, 1)), max(type$least, -1e6), min(type$most, 1e6))
    ),
    flag = list(TRUE, FALSE),
    text = list("words"),
    numbers = list(as.list(rep(mean(c(max(type$least, 0), min(type$most, 1))), max(2, type$n[1])))),
    texts = list("level", list("a", "b")),
    either = unlist(lapply(type$types, right_values), recursive = FALSE),
    list()
  )
}
wrong_values <- function(type) {
  switch(
    type$kind,
    number = c(
      list("many", list(a = 1)),
      if (is.finite(type$least)) list(type$least - 1),
      if (is.finite(type$most)) list(type$most + 1),
      if (type$whole) list(max(type$least, 0) + 0.5)
    ),
    choice = list("no such word", 3, list(a = 1)),
    flag = list("perhaps", 1),
    text = list(list("a", "b"), list(a = 1)),
    numbers = list("many", if (type$n[1] > 1) 1 else list(type$most + 1)),
    texts = list(list(a = 1)),
    either = Filter(
      function(value) all(vapply(type$types, refused, NA, value = value)),
      list("no such word", list(a = 1), -1e9)
    ),
    list()
  )
}
refused <- function(type, value) {
  context <- list(columns = character(), tables = list(), folder = ".")
  inherits(
    tryCatch(
      nelvat:::check_type(type, nelvat:::file_value(type, value, context, "here"), "it", NULL),
      nelvat_error = identity
    ),
    "nelvat_error"
  )
}

test_that("schema and program agree on every argument of every word: kinds, limits, choices", {
  n <- 0
  for (word in words_with_rows()) {
    rows <- nelvat:::word_arguments(word)
    for (name in names(rows)[seq(1, length(rows), by = if (at_length()) 1 else 2)]) {
      type <- rows[[name]]
      schema <- jsonlite::fromJSON(
        jsonlite::toJSON(nelvat:::type_schema(type), auto_unbox = TRUE, null = "null"),
        simplifyVector = FALSE
      )
      for (value in right_values(type)) {
        label <- paste(word, name, deparse(value)[1])
        expect_false(refused(type, value), label = paste(label, "is refused"))
        expect_null(schema_faults(value, schema), label = label)
        n <- n + 1
      }
      for (value in wrong_values(type)) {
        label <- paste(word, name, deparse(value)[1])
        expect_true(refused(type, value), label = paste(label, "is refused"))
        expect_false(is.null(schema_faults(value, schema)), label = paste(label, "by the schema"))
        n <- n + 1
      }
    }
  }
  expect_gt(n, if (at_length()) 500 else 250)
})
