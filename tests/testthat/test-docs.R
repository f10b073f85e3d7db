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
  skip_if_not(at_length(), "Documents run where CI=true or ALL=1")
  # Those of the gallery run below.
  for (path in grep("gallery", normalizePath(documents()), value = TRUE, invert = TRUE)) {
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
  file.copy(list.files(dirname(study_file("loaves.csv")), full.names = TRUE), folder)
  n <- 0
  for (path in documents()) {
    for (block in code_blocks(path, "yaml")) {
      n <- n + 1
      # A comment can say what the file is called.
      name <- regmatches(block[1], regexec("^# ([a-z.]+[.]yaml)$", block[1]))[[1]][2]
      file <- file.path(folder, if (is.na(name)) "block.yaml" else name)
      writeLines(block, file)
      if (basename(file) == "nelvat.outputs.yaml") {
        expect_length(read_figure(file.path(folder, "responses.yaml"))$drawings, 2)
        unlink(file)
      } else if (basename(file) == "levels.yaml") {
        book <- readLines(file.path(folder, "loaves.codebook.yaml"))
        writeLines(c("levels: levels.yaml", book), file.path(folder, "shared.codebook.yaml"))
        expect_no_error(
          read_data(file.path(folder, "loaves.csv"), file.path(folder, "shared.codebook.yaml"))
        )
      } else if (any(grepl("^nelvat:", block))) {
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

test_that("vignettes are made of the documents when the package is built", {
  script <- "../../tools/vignettes.R"
  skip_if(!file.exists(script), "the sources are not beside the tests")
  folder <- withr::local_tempdir()
  dir.create(file.path(folder, "docs"))
  file.copy(list.files("../../docs", "[.]md$", full.names = TRUE), file.path(folder, "docs"))
  script <- normalizePath(script)
  withr::with_dir(folder, source(script, local = new.env()))
  made <- list.files(file.path(folder, "vignettes"))
  expect_setequal(made, sub("[.]md$", ".Rmd", list.files(file.path(folder, "docs"))))
  first <- readLines(file.path(folder, "vignettes", "first-figure.Rmd"), encoding = "UTF-8")
  expect_match(first[2], "VignetteIndexEntry{A first figure in five minutes}", fixed = TRUE)
  expect_identical(grep("^!\\[|\\]\\([.][.]/", first, value = TRUE), character())
})

test_that("README opens with two commands and shows each picture's code, on at most 120 lines", {
  path <- "../../README.md"
  skip_if(!file.exists(path), "the sources are not beside the tests")
  lines <- readLines(path)
  expect_lte(length(lines), 120)
  expect_identical(code_blocks(path, "sh")[[1]][1:2] |> substr(1, 9), c("make demo", "make test"))
  shown <- list.files("../../docs/screenshots", "[.]png$")
  linked <- vapply(shown, function(one) any(grepl(paste0("docs/screenshots/", one), lines)), NA)
  expect_identical(shown[!linked], character())
  expect_lte(length(grep("^!\\[", lines)), 6)
  # A picture stands right under its code.
  code_ends <- which(lines == "```")
  pictures <- grep("^!\\[", lines)
  expect_true(all((pictures - 2) %in% code_ends))
})

test_that("the gallery shows the code that its pictures are made of", {
  script <- "../../tools/gallery.R"
  skip_if(!file.exists(script), "the sources are not beside the tests")
  gallery <- new.env()
  sys.source(script, gallery)
  page <- withr::with_dir("../..", gallery$gallery_page())
  expect_identical(
    readLines("../../docs/gallery.md", encoding = "UTF-8"),
    strsplit(paste(page, collapse = "\n"), "\n")[[1]]
  )
  for (one in withr::with_dir("../..", gallery$gallery_figures())) {
    figure <- suppressWarnings(eval(parse(text = one$code), new.env()))
    expect_s3_class(figure, "nelvat_plate")
    expect_true(file.exists(file.path("../../docs/screenshots", paste0(one$name, ".png"))))
  }
})

test_that("the examples of all help pages run", {
  skip_if(
    !at_length(),
    "runs with CI=true or ALL=1"
  )
  pages <- tools::Rd_db("nelvat")
  expect_gt(length(pages), 80)
  withr::with_dir(withr::local_tempdir(), {
    withr::local_pdf(NULL)
    for (name in names(pages)) {
      file <- withr::local_tempfile(fileext = ".R")
      tools::Rd2ex(pages[[name]], file)
      if (!file.exists(file)) next
      expect_no_error(
        suppressMessages(
          suppressWarnings(
            utils::capture.output(
              source(file, local = new.env(), echo = FALSE, print.eval = TRUE)
            )
          )
        ),
        message = NULL
      )
    }
  })
})
