r_files <- function() {
  skip_if(!length(sources()), "the sources are not beside the tests")
  sources()
}

test_that("a line is one thought: an argument a line, at most 100 columns", {
  top <- test_path("..", "..")
  skip_if(!file.exists(file.path(top, "tools", "format.R")), "the tools are not beside the tests")
  form <- new.env()
  sys.source(file.path(top, "tools", "format.R"), form)
  files <- form$code_files(top)
  expect_gt(length(files), 200)
  expect_identical(unlist(lapply(files, form$out_of_form)), NULL)
})

test_that("what is not in form is found, and brought into it without changing the code", {
  top <- test_path("..", "..")
  skip_if(!file.exists(file.path(top, "tools", "format.R")), "the tools are not beside the tests")
  form <- new.env()
  sys.source(file.path(top, "tools", "format.R"), form)
  path <- withr::local_tempfile(fileext = ".R")
  packed <- c(
    "f <- function(x) {",
    "  # why",
    "  y <- paste(x, \"a\",",
    "    sep = \"\")  # beside",
    "  lapply(y, function(one) {",
    "    one",
    "  })",
    "  vapply(y, function(one) {",
    "    nchar(one)",
    "  }, 0L)",
    "}"
  )
  writeLines(packed, path)
  expect_identical(
    sub("^.*[.]R:", "", form$out_of_form(path)),
    c("3: a call with several arguments on a line", "8: a call with several arguments on a line")
  )
  form$format_file(path)
  expect_null(form$out_of_form(path))
  expect_identical(form$trees(readLines(path)), form$trees(packed))
  expect_match(readLines(path), "# beside$", all = FALSE)
  long <- paste0("x <- c(", paste(100:140, collapse = ", "), ")")
  writeLines(long, path)
  expect_match(form$out_of_form(path), "more than 100 columns")
  form$format_file(path)
  expect_null(form$out_of_form(path))
})

test_that("no function of the package is defined twice", {
  defined <- unlist(
    lapply(r_files(), function(file) {
      names <- lapply(parse(file, keep.source = FALSE), function(one) {
        if (is.call(one) && identical(one[[1]], as.name("<-")) && is.name(one[[2]])) {
          as.character(one[[2]])
        }
      })
      unlist(names)
    })
  )
  expect_identical(unique(defined[duplicated(defined)]), character())
})

test_that("a file is one idea: at most 350 lines", {
  n <- vapply(r_files(), function(file) length(readLines(file)), 0L)
  expect_identical(basename(names(n)[n > 350]), character())
})

test_that("functions that are not public have at most eight arguments", {
  exported <- getNamespaceExports("nelvat")
  namespace <- asNamespace("nelvat")
  own <- unlist(lapply(r_files(), defined_in))
  many <- Filter(
    function(name) {
      value <- get(name, namespace)
      is.function(value) && length(formals(value)) > 8 && !name %in% exported &&
        !startsWith(name, "new_")
    },
    own
  )
  expect_identical(many, character())
})

test_that("locals are not named like exported functions", {
  exported <- setdiff(getNamespaceExports("nelvat"), ".__T__")
  found <- unlist(
    lapply(r_files(), function(file) {
      assigned <- character()
      walk <- function(e) {
        if (is.call(e)) {
          if (identical(e[[1]], as.name("<-")) && is.name(e[[2]])) {
            assigned <<- c(assigned, as.character(e[[2]]))
          }
          lapply(as.list(e), walk)
        }
      }
      hit <- unlist(
        lapply(as.list(parse(file, keep.source = FALSE)), function(one) {
          if (!is.call(one) || length(one) < 3) return(NULL)
          assigned <<- character()
          walk(one[[3]])
          # A parameter may be settled under its own name.
          parameters <- if (is.call(one[[3]]) && identical(one[[3]][[1]], as.name("function"))) {
            names(one[[3]][[2]])
          }
          setdiff(intersect(assigned, exported), parameters)
        })
      )
      if (length(hit)) paste0(basename(file), ": ", hit)
    })
  )
  expect_identical(found, NULL)
})

test_that("locals say what they hold", {
  vague <- c("own", "spot", "held", "tmp", "res", "dat", "df2")
  found <- unlist(
    lapply(r_files(), function(file) {
      parsed <- utils::getParseData(parse(file, keep.source = TRUE))
      parsed <- parsed[parsed$terminal, ]
      assigned <- parsed$token == "SYMBOL" & parsed$text %in% vague &
        c(parsed$token[-1], "") %in% c("LEFT_ASSIGN", "EQ_ASSIGN")
      # Members of lists have names of their own.
      member <- c(FALSE, utils::head(parsed$token %in% c("'$'", "'@'"), -1L))
      if (any(assigned & !member)) paste0(basename(file), ":", parsed$line1[assigned & !member])
    })
  )
  expect_identical(found, NULL)
})

test_that("nothing strays into the tree", {
  top <- test_path("..", "..")
  skip_if(!dir.exists(file.path(top, ".git")) || !nzchar(Sys.which("git")), "this is no clone")
  tracked <- system2("git", c("-C", shQuote(top), "ls-files"), stdout = TRUE)
  stray <- "(^|/)(Rplots[.]pdf|[.]RData|[.]Rhistory|.*[.]Rout|.*~|[.]DS_Store|.*[.](o|so|dll))$"
  expect_identical(grep(stray, tracked, value = TRUE), character())
  # Pictures stand in folders.
  expect_identical(grep("^[^/]+[.](png|pdf|svg|tiff)$", tracked, value = TRUE), character())
  # Documents stand once: vignettes are made from docs/ when the package is built.
  expect_identical(grep("^vignettes/", tracked, value = TRUE), character())
})

# Assignments into lists and tables of parsed code, `x$a <-` and `x[["a"]] <-`: file and line.
list_assignments <- function(file) {
  data <- utils::getParseData(parse(file, keep.source = TRUE))
  sides <- data[data$parent %in% data$parent[data$token == "LEFT_ASSIGN"] & data$token == "expr", ]
  left <- sides[!duplicated(sides$parent), ]
  into <- vapply(
    left$id,
    function(id) {
      last <- data$token[data$parent == id & data$token %in% c("'$'", "LBB", "'['")]
      length(last) && last[1] != "'['"
    },
    NA
  )
  paste0(basename(file), ":", left$line1[into], recycle0 = TRUE)
}

test_that("what is laid out is made anew, not written into", {
  rooms <- grep("^(scene|plate|key)-", basename(r_files()), value = TRUE)
  files <- r_files()[basename(r_files()) %in% rooms]
  expect_gt(length(files), 40)
  expect_lte(length(unlist(lapply(files, list_assignments))), 15)
  # What is counted are lists: an element of a vector is none.
  path <- withr::local_tempfile(fileext = ".R")
  writeLines(
    c("f <- function(x) {", "  x$a <- 1", "  x$b[[2]] <- 1", "  x[3] <- 1", "  x", "}"),
    path
  )
  expect_match(list_assignments(path), ":[23]$")
  expect_length(list_assignments(path), 2)
})
