# Code in messages, in the words of who asks.
in_file <- function(text) nelvat:::in_words_of_files(nelvat:::in_their_words(text))

test_that("code in messages is said as keys to who writes files, and as it is in R", {
  said <- c(
    "Say `quantity(\"Mass\", unit = \"g\")`." = "Say `title: Mass` and `unit: g`.",
    "`category(hour)`" = "`{column: hour, kind: category}`",
    "`axis_of(range = c(0, 24))`" = "`{range: [0, 24]}`",
    "with `axis_of(title = )`" = "with `{title}`",
    "`range_per = \"block\"`" = "`range_per: block`",
    "`c(x = \"block\", y = \"panel\")`" = "`{x: block, y: panel}`",
    "`list(y = \"rye\")`" = "`{y: rye}`",
    "`list(flour = by_statistic(rise, \"median\"))`" =
      "`{flour: {by_statistic: rise, statistic: median}}`",
    "`ink_bars(error = \"sd\")`, `ink_dots()`" = "`{bars: {error: sd}}`, `dots`",
    "`list(c(\"wheat\", \"rye\"))`" = "`[[wheat, rye]]`",
    "`list(x = , y = )`" = "`{x, y}`",
    "`NULL`" = "`null`",
    "`character()`" = "`[]`",
    "`c(0.05, 0.95)`" = "`[0.05, 0.95]`",
    "`fill_with(0)`" = "`{fill_with: 0}`",
    "`share_axis(\"time\")`" = "`share: [time]`",
    "`house(\"plain\", times = 3.5)`" = "`house: {times: 3.5}`",
    "`house(letters = list(case = \"upper\"))`" = "`house: {letters: {case: upper}}`",
    "`counts = TRUE`" = "`counts: true`",
    "`breaks = NULL`" = "`breaks: null`",
    "`zone = \"Europe/Berlin\"`" = "`zone: \"Europe/Berlin\"`",
    "`width =`" = "`width`",
    "`log10(mass)` and `mass > 4`" = "`log10(mass)` and `mass > 4`",
    "`plate(<block>, width = , height = )`" = "`plate`",
    "`error` is \"sd\"" = "`error` is \"sd\"",
    "`mm()` or `natural()`" = "`mm` or `natural`",
    "as `legend_text()` does" = "as `nelvat legend` does"
  )
  for (text in names(said)) {
    expect_identical(in_file(text), said[[text]])
    expect_identical(nelvat:::in_their_words(text), text)
  }
})

test_that("all code in the package's messages and sentences can be said in a file", {
  skip_if(!length(sources()), "the sources are not beside the tests")
  texts <- unlist(
    lapply(sources(), function(path) {
      found <- utils::getParseData(parse(path, keep.source = TRUE), includeText = NA)
      found$text[found$token == "STR_CONST" & grepl("`", found$text, fixed = TRUE)]
    })
  )
  texts <- vapply(texts, function(text) eval(str2lang(text)), "", USE.NAMES = FALSE)
  expect_gt(length(texts), 200)
  for (text in texts) expect_no_error(in_file(text))
})

test_that("commands that read a table are answered with their options", {
  latin <- withr::local_tempfile(fileext = ".csv")
  writeBin(c(charToRaw("fl"), as.raw(0xfc), charToRaw("r,v\na,1\n")), latin)
  said <- function(...) {
    utils::capture.output(nelvat:::run_command(c(...)), type = "message")
  }
  expect_match(said("codebook", latin), "`--encoding latin1`", fixed = TRUE, all = FALSE)
  expect_error(read_data(latin), "`encoding = \"latin1\"`", fixed = TRUE)
})

test_that("one error is in the words of a call, and of a file", {
  folder <- withr::local_tempdir()
  file.copy(study_file("loaves.csv"), folder)
  figure <- c(
    "nelvat: 1", "data: {l: loaves.csv}", "blocks:",
    "  a: {panel: {data: l, x: flour, y: rise, ink: {box: {notch: 3}}}}", "plate: {}"
  )
  path <- file.path(folder, "f.yaml")
  writeLines(figure, path)
  expect_error(ink_box(notch = 3), "`notch` must be TRUE or FALSE", class = "nelvat_error_argument")
  expect_error(
    read_figure(path),
    "line 4: .*`notch` must be true or false",
    class = "nelvat_error_argument"
  )
  # Afterwards a call is answered in R again.
  expect_error(ink_box(notch = 3), "TRUE or FALSE")
})
