# Every block of code in the documents runs.
code_blocks <- function(path, language) {
  lines <- readLines(path, encoding = "UTF-8")
  starts <- which(lines == paste0("```", language))
  ends <- which(lines == "```")
  lapply(starts, function(start) lines[(start + 1):(min(ends[ends > start]) - 1)])
}

# Beside the tests, or as the package ships them.
documents <- function() {
  beside <- c("../../README.md", list.files("../../docs", "[.]md$", full.names = TRUE))
  if (all(file.exists(beside))) return(beside)
  shipped <- list.files(system.file("doc", package = "nelvat"), "[.]Rmd$", full.names = TRUE)
  skip_if(!length(shipped), "the package was installed without its documents")
  shipped
}

test_that("R code in the documents runs from top to bottom", {
  for (path in normalizePath(documents())) {
    blocks <- code_blocks(path, "r")
    withr::with_dir(withr::local_tempdir(), {
      withr::local_pdf(NULL)
      environment <- new.env()
      for (block in blocks) {
        expect_no_error(
          suppressMessages(
            suppressWarnings(
              utils::capture.output(
                for (one in as.list(parse(text = block))) print(eval(one, environment))
              )
            )
          ),
          message = NULL
        )
      }
    })
  }
})

test_that("figure and house files in the documents are read", {
  folder <- withr::local_tempdir()
  file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml")), folder)
  n <- 0
  for (path in documents()) {
    for (block in code_blocks(path, "yaml")) {
      n <- n + 1
      file <- file.path(folder, "block.yaml")
      writeLines(block, file)
      if (any(grepl("^nelvat:", block))) {
        expect_s3_class(suppressWarnings(as_scene(read_figure(file)$plate)), "nelvat_scene")
      } else {
        expect_s3_class(house(file), "nelvat_house")
      }
    }
  }
  expect_gt(n, 0)
})

test_that("commands in the documents are those there are", {
  said <- unlist(lapply(documents(), function(path) unlist(code_blocks(path, "sh"))))
  words <- sub("^nelvat ([a-z]+).*", "\\1", grep("^nelvat ", said, value = TRUE))
  expect_true(length(words) > 3 && all(words %in% names(nelvat:::cli_commands())))
})

test_that("links in the documents lead to files that are there", {
  skip_if(!file.exists("../../README.md"), "screenshots and sources are not beside the tests")
  for (path in documents()) {
    links <- unlist(
      regmatches(readLines(path), gregexpr("(?<=\\]\\()[^)#]+", readLines(path), perl = TRUE))
    )
    local <- grep("^https?:", links, value = TRUE, invert = TRUE)
    expect_true(all(file.exists(file.path(dirname(path), local))), label = basename(path))
  }
})

test_that("the documents that the package ships are those of docs", {
  skip_if(!file.exists("../../docs"), "the sources are not beside the tests")
  for (path in list.files("../../docs", "[.]md$", full.names = TRUE)) {
    shipped <- file.path("../../vignettes", sub("[.]md$", ".Rmd", basename(path)))
    expect_identical(
      length(readLines(shipped)),
      length(readLines(path)) + 5L,
      label = basename(path)
    )
    expect_identical(code_blocks(shipped, "r"), code_blocks(path, "r"), label = basename(path))
  }
})
