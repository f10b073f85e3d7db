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
  skip_if_not_installed("svglite")
  knitted("loaves, dev=c('svg', 'pdf')", bars_code)
  expect_setequal(tools::file_ext(list.files("figure")), c("svg", "pdf"))
})

test_that("litedown and notebooks have plates at their size", {
  plate <- eval(parse(text = bars_code))
  recorded <- nelvat:::record_print.nelvat_plate(plate)
  expect_s3_class(recorded, "record_asis")
  expect_match(unclass(recorded), "width:80mm", fixed = TRUE)
  expect_identical(nelvat:::repr_png.nelvat_plate(plate)[2:4], charToRaw("PNG"))
  expect_match(nelvat:::repr_text.nelvat_plate(plate), "^1 panel")
  skip_if_not_installed("litedown")
  withr::local_dir(withr::local_tempdir())
  writeLines(c("```{r}", "library(nelvat)", bars_code, "```"), "doc.Rmd")
  litedown::fuse("doc.Rmd", "doc.html", quiet = TRUE)
  expect_match(paste(readLines("doc.html"), collapse = ""), "width:80mm", fixed = TRUE)
})
