# The rooms in the order of the design: a file's first word is its room, and a room
# calls only itself and those above it.
rooms <- c(
  "util", "word", "data", "stat", "axis", "text", "house", "ink", "panel", "block", "plate", "key",
  "scene",
  "account", "draw", "save", "report",
  "spec", "look", "cli"
)
may_use <- lapply(seq_along(rooms), function(i) rooms[seq_len(i)])
names(may_use) <- rooms
may_use$data <- c("util", "word", "data")
may_use$stat <- c("util", "stat")
may_use$axis <- c("util", "data", "axis")
may_use$text <- c("util", "data", "axis", "text")
may_use$house <- c("util", "house")
# A finished plot of another package is measured where it is drawn, and becomes a block.
may_use$draw <- c("util", "house", "block", "scene", "draw")
may_use$save <- may_use$report <- c("util", "scene", "account", "draw", "save", "report")
test_that("every file belongs to a room and every room has a file", {
  skip_if(!length(sources()), "the sources are not beside the tests")
  expect_setequal(unique(sub("-.*", "", basename(sources()))), rooms)
})

test_that("no room reaches down to one below it", {
  skip_if(!length(sources()), "the sources are not beside the tests")
  files <- sources()
  room <- sub("-.*", "", basename(files))
  defined <- lapply(files, defined_in)
  home <- rep(room, lengths(defined))
  names(home) <- unlist(defined)
  namespace <- asNamespace("nelvat")
  reached <- unlist(
    Map(
      function(names_there, of) {
        unlist(
          lapply(names_there, function(name) {
            value <- get(name, namespace)
            # Looked at closely where it holds a name from below at all.
            said <- if (is.function(value)) all.names(as.call(c(quote(f), as.list(value))))
            if (!any(said %in% names(home)[!home %in% may_use[[of]]])) return(NULL)
            used <- codetools::findGlobals(value)
            used <- used[used %in% names(home)]
            wrong <- used[!home[used] %in% may_use[[of]]]
            if (length(wrong)) paste0(of, "::", name, " uses ", home[wrong], "::", wrong)
          })
        )
      },
      defined,
      room
    ),
    use.names = FALSE
  )
  expect_identical(reached, NULL)
})

test_that("only the drawing room and what writes its devices name ggplot2 or grid", {
  skip_if(!length(sources()), "the sources are not beside the tests")
  naming <- Filter(
    function(file) {
      code <- sub("#.*", "", readLines(file))
      any(grepl("\\b(ggplot2|grid)::", code))
    },
    sources()
  )
  expect_true(all(grepl("^(draw|save)-", basename(naming))))
})

test_that("no exported name masks one of base R's packages", {
  base_names <- unlist(
    lapply(
      c("base", "stats", "graphics", "grDevices", "utils", "methods", "datasets"),
      function(package) {
        getNamespaceExports(package)
      }
    )
  )
  expect_identical(intersect(getNamespaceExports("nelvat"), base_names), character())
})

test_that("loading the package does not load ggplot2", {
  loaded <- system2(
    file.path(R.home("bin"), "Rscript"),
    c("-e", shQuote("library(nelvat); cat('ggplot2' %in% loadedNamespaces())")),
    stdout = TRUE
  )
  expect_identical(loaded, "FALSE")
})
