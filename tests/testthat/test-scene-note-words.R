test_that("what was not drawn as it is is a sentence, of one and of many", {
  said <- list(
    "missing values left out" = "is left out",
    "values not above zero, which a logarithmic scale cannot show" = "it",
    "infinite values, which no axis can show" = "is left out, as no axis can show it",
    "missing values, over which lines go on" = "lines go on over 1 missing value of v",
    "values changed by a running median" = "is changed by a running median",
    "values beyond the range of the x axis" = "lies beyond the range of the x axis",
    "bars that the range of the y axis cuts" = "is cut by the range of the y axis",
    "rows without a value of acidity left out" = "without a value of acidity is left out",
    "rows left out, as it is unknown whether a > 1" = "is left out, as it is unknown",
    "rows without a partner in the joined table" = "has no partner",
    "values without an interval" = "has no interval",
    "values without limits" = "has no limits",
    "labels that found no place" = "1 label of v found no place",
    "values too few for a fit" = "is too few for a fit",
    "values that reach beyond what the axis can show" =
      "reaches beyond what the axis can show and is cut there",
    "bands that reach below what the axis can show, cut there" =
      "reaches below what the axis can show and is cut there",
    "spikes removed" = "1 spike of v is removed",
    "areas of one value, which have no width" = "1 area of v of one value has no width",
    "values of a whole of nothing, which has no shares" = "of a whole of nothing has no shares"
  )
  for (what in names(said)) {
    expect_match(note_said(what, 1, "v"), said[[what]], fixed = TRUE)
    many <- note_said(what, 1200, "v")
    expect_match(many, "1,200 ", fixed = TRUE)
    expect_no_match(many, "\\b(is|has|lies|reaches)\\b(?! unknown)", perl = TRUE)
    expect_no_match(many, "[{}]")
  }
  expect_identical(
    note_said("missing values left out", c(5, 1), c("acidity", "firmness")),
    "5 missing values of acidity and 1 of firmness are left out"
  )
  expect_identical(note_said("odd things", 2, "v"), "v: 2 odd things")
})

# What the calls that make notes, of a column and how many, say of them.
notes_said_in <- function(expression) {
  if (!is.call(expression)) return(character())
  parts <- as.list(expression)
  said <- if (all(c("column", "what", "n") %in% names(parts)) && is.character(parts$what)) {
    parts$what
  }
  parts <- Filter(function(part) !identical(part, quote(expr = )), parts)
  c(said, unlist(lapply(unname(parts), notes_said_in)))
}

test_that("every note that the package makes has its sentence", {
  room <- asNamespace("nelvat")
  functions <- Filter(is.function, mget(ls(room), room))
  made <- unlist(lapply(functions, function(one) notes_said_in(body(one))))
  made <- c(made, axis_transform("log10")$why, axis_transform("logit")$why)
  expect_gt(length(made), 10)
  lacking <- Filter(function(what) grepl("^v: ", note_said(what, 2, "v")), unique(made))
  expect_identical(lacking, character())
})
