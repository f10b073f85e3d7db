bars_code <- paste(
  "plate(panel(study('loaves'), x = flour, y = rise, ink_bars()),",
  "width = 80, height = 60)"
)
boxes_code <- paste(
  "plate(panel(study('loaves'), x = flour, y = volume, ink_box()),",
  "width = 60, height = 50)"
)
knitted <- function(options, ..., environment = parent.frame()) {
  withr::local_dir(withr::local_tempdir(.local_envir = environment), .local_envir = environment)
  writeLines(c(paste0("```{r ", options, "}"), "library(nelvat)", ..., "```"), "doc.Rmd")
  knitr::knit("doc.Rmd", "doc.md", quiet = TRUE, envir = new.env())
  paste(readLines("doc.md", encoding = "UTF-8"), collapse = "\n")
}

test_that("each plate of a chunk has its own picture at its size, with its alternative text", {
  skip_if_not_installed("knitr")
  text <- knitted("loaves", bars_code, boxes_code)
  expect_match(text, "width=80mm")
  expect_match(text, "width=60mm")
  expect_length(list.files("figure", "png$"), 2)
  expect_match(text, "alt=\"1 panel. Loaf rise: highest for Wheat")
  expect_match(text, "alt=\"1 panel. Volume: highest for Wheat")
  # Done again, it writes the same files.
  knitr::knit("doc.Rmd", "doc.md", quiet = TRUE, envir = new.env())
  expect_length(list.files("figure", "png$"), 2)
})

test_that("chunk options give other texts, captions and forms", {
  skip_if_not_installed("knitr")
  text <- knitted("loaves, fig.alt='What is seen', fig.cap='A caption'", bars_code)
  expect_match(text, "![A caption](", fixed = TRUE)
  expect_match(text, "alt=\"What is seen\"", fixed = TRUE)
  expect_match(text, "#fig:loaves", fixed = TRUE)
  text <- knitted("loaves, plate.legend=TRUE", bars_code)
  expect_match(text, "![Loaf rise (mm) by flour (*n* = 36 loaves a bar)", fixed = TRUE)
  if (nzchar(Sys.which("pandoc"))) {
    page <- paste(system2("pandoc", c("--to", "html", "doc.md"), stdout = TRUE), collapse = " ")
    expect_match(page, "id=\"fig:loaves\"", fixed = TRUE)
    expect_match(page, "style=\"width:80mm\"", fixed = TRUE)
    expect_match(page, "alt=\"1 panel. Loaf rise: highest for Wheat", fixed = TRUE)
    expect_match(page, "<figcaption[^>]*>Loaf rise \\(mm\\) by flour \\(<em>n</em> = 36")
  }
  skip_if_not_installed("svglite")
  knitted("loaves, dev=c('svg', 'pdf')", bars_code)
  expect_setequal(tools::file_ext(list.files("figure")), c("svg", "pdf"))
})

test_that("a cached chunk is run again when its table, house or files are others, and only then", {
  skip_if_not_installed("knitr")
  withr::local_dir(withr::local_tempdir())
  withr::local_options(nelvat.house = NULL)
  writeLines(readLines(study_file("loaves.csv"))[1:41], "loaves.csv")
  writeLines("type_pt: {base: 7}", "nelvat.yaml")
  writeLines(
    c(
      "nelvat: 1", "data: {loaves: loaves.csv}",
      "blocks: {m: {panel: {data: loaves, x: flour, y: rise, ink: bars}}}",
      "plate: {place: m, width: 86, height: 60}", "save: one.pdf"
    ),
    "one.yaml"
  )
  writeLines(
    c(
      "```{r}",
      "library(nelvat)",
      "loaves <- read_data('loaves.csv')",
      "```",
      "```{r table, cache=TRUE}",
      "options(ran = c(getOption('ran'), 't'))",
      "plate(panel(loaves, x = flour, y = rise, ink_box()), width = 80, height = 60)",
      "```",
      "```{r file, cache=TRUE}",
      "options(ran = c(getOption('ran'), 'f'))",
      # Signs, what is written and long texts are nothing that is read.
      "signs <- c(paste('a', 'b', sep = '.'), '/', '..', 'figure', 'doc.md', '\\u00fc')",
      paste0("long <- nchar('", strrep("long text ", 150), "')"),
      "read_figure('one.yaml')$plate",
      "```"
    ),
    "doc.Rmd"
  )
  ran <- function() {
    withr::local_options(ran = NULL)
    suppressMessages(knitr::knit("doc.Rmd", "doc.md", quiet = TRUE, envir = new.env()))
    paste(getOption("ran"), collapse = "")
  }
  expect_identical(ran(), "tf")
  expect_identical(ran(), "")
  before <- tools::md5sum(list.files("figure", full.names = TRUE))
  writeLines(readLines(study_file("loaves.csv"))[1:91], "loaves.csv")
  expect_identical(ran(), "tf")
  expect_false(any(tools::md5sum(list.files("figure", full.names = TRUE)) %in% before))
  writeLines("type_pt: {base: 8}", "nelvat.yaml")
  expect_identical(ran(), "f")
  set_house(house(type_pt = list(base = 9)))
  expect_identical(ran(), "tf")
  expect_identical(ran(), "")
})

test_that("on a console a plate says its panels, axes and n in at most ten lines", {
  withr::local_pdf(NULL)
  box <- panel(study("loaves"), x = flour, y = rise, ink_box())
  shown <- function(...) utils::capture.output(print(plate(...)))
  expect_identical(
    shown(box, width = 86, height = 60),
    c("Plate of 1 panel, 86 x 60 mm", "Loaf rise (mm) by flour (n = 36 loaves a box)")
  )
  twelve <- do.call(stacked, rep(list(beside(box, box, box, box)), 3))
  lines <- shown(twelve, width = 178)
  expect_length(lines, 10)
  expect_identical(lines[10], "and 4 more blocks")
  withr::local_options(width = 60)
  lines <- shown(facets(box, across = bakery), width = 178)
  expect_match(lines[2], "^Loaf rise \\(mm\\) by flour.* \\.\\.\\. \\(n = .*\\)$")
  expect_lte(max(nchar(lines)), 60)
})

test_that("litedown and notebooks have plates at their size", {
  plate <- eval(parse(text = bars_code))
  recorded <- nelvat:::record_print.nelvat_plate(plate)
  expect_s3_class(recorded, "record_asis")
  expect_match(unclass(recorded), "width:80mm", fixed = TRUE)
  expect_identical(nelvat:::repr_png.nelvat_plate(plate)[2:4], charToRaw("PNG"))
  expect_match(nelvat:::repr_text.nelvat_plate(plate), "^Plate of 1 panel, 80 x 60 mm\nLoaf rise")
  skip_if_not_installed("litedown")
  withr::local_dir(withr::local_tempdir())
  writeLines(c("```{r}", "library(nelvat)", bars_code, "```"), "doc.Rmd")
  litedown::fuse("doc.Rmd", "doc.html", quiet = TRUE)
  expect_match(paste(readLines("doc.html"), collapse = ""), "width:80mm", fixed = TRUE)
})
