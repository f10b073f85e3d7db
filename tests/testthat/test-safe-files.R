# Each is a figure file, or files beside one, that would not end or fill the memory.
bomb <- function(key) {
  ladder <- c(
    "&a [x, x, x, x, x, x, x, x, x]",
    vapply(
      2:9,
      function(i) {
        paste0(
          "&",
          letters[i],
          " [",
          paste(rep(paste0("*", letters[i - 1]), 9), collapse = ", "),
          "]"
        )
      },
      ""
    )
  )
  c("nelvat: 1", "data: {a: a.csv}", paste0(key, ":"), paste0("  ", letters[1:9], ": ", ladder))
}
nested_place <- function(n) {
  paste0(
    "plate: {place: ",
    strrep("{stacked: [", n),
    "b",
    strrep("]}", n),
    ", width: 80, height: 60}"
  )
}
chain_of_blocks <- function(n) {
  c(
    "nelvat: 1",
    "data: {a: a.csv}",
    "blocks:",
    "  b0: {panel: {data: a, x: f, y: v, ink: bars}}",
    sprintf("  b%d: {use: b%d, with: {y: v}}", seq_len(n), seq_len(n) - 1),
    sprintf("plate: {place: b%d, width: 80, height: 60}", n),
    "save: one.pdf"
  )
}
documents <- list(
  "anchors under blocks" = bomb("blocks"),
  "anchors in an order" = c(figure_lines("save: one.pdf"), bomb("order")[-(1:2)]),
  "lists in lists" = figure_lines(
    "save: one.pdf",
    paste0("x: ", strrep("[", 1e4), strrep("]", 1e4))
  ),
  "maps in maps" = figure_lines(
    "save: one.pdf",
    paste0("x: ", strrep("{a: ", 1e5), "1", strrep("}", 1e5))
  ),
  "dashes in dashes" = figure_lines("save: one.pdf", "x:", paste0("  ", strrep("- ", 1e4), "1")),
  "blocks in blocks" = figure_lines("save: one.pdf", paste0(strrep(" ", 0:999), "a:")),
  "lists never closed" = figure_lines("save: one.pdf", paste0("x: ", strrep("[", 1e5))),
  "places in places" = c(figure_lines()[1:3], nested_place(200), "save: one.pdf"),
  "a chain of blocks" = chain_of_blocks(800),
  "a block of itself" = c(
    "nelvat: 1", "data: {a: a.csv}", "blocks: {b: {use: c}, c: {use: b}}", "plate: {place: b}",
    "save: one.pdf"
  ),
  "a circle of anchors" = figure_lines("save: one.pdf", "x: &x [*x]"),
  "a long line" = figure_lines("save: one.pdf", paste0("x: ", strrep("a", 9e6)))
)

test_that(
  "documents that nest or multiply without end are told by place, soon and in little memory",
  {
    for (name in names(documents)) {
      folder <- folder_within(list(a.csv = plain_csv, one.yaml = documents[[name]]))
      path <- file.path(folder, "one.yaml")
      gc(reset = TRUE)
      began <- proc.time()[["elapsed"]]
      error <- tryCatch(suppressMessages(read_figure(path)), error = identity)
      took <- proc.time()[["elapsed"]] - began
      used_mb <- sum(gc()[, 6])
      expect_s3_class(error, "nelvat_error")
      expect_match(conditionMessage(error), "one[.]yaml", label = name)
      expect_lt(took, 30)
      expect_lt(used_mb, 300)
    }
    # Once as the command.
    folder <- folder_within(list(a.csv = plain_csv, one.yaml = documents[["anchors under blocks"]]))
    done <- command_in(folder, "draw", "one.yaml", seconds = 20)
    expect_identical(done$status, 1L)
    expect_match(done$complained, "Line 9: its anchors stand for more than 200,000 words")
    expect_no_bare_error(done$complained)
  }
)

test_that("documents that are only long, deep or repeated in measure are read", {
  deep <- c(figure_lines()[1:3], nested_place(10), "save: one.pdf")
  anchored <- c(
    "nelvat: 1",
    "data: {a: a.csv}",
    "blocks:",
    "  one: &p {panel: {data: a, x: f, y: v, ink: bars}}",
    sprintf("  b%d: *p", 1:30),
    "plate: {place: one, width: 80, height: 60}",
    "save: one.pdf"
  )
  for (lines in list(deep, anchored, chain_of_blocks(15))) {
    folder <- folder_within(list(a.csv = plain_csv, one.yaml = lines))
    expect_s3_class(
      suppressMessages(read_figure(file.path(folder, "one.yaml")))$plate,
      "nelvat_plate"
    )
  }
  many <- c("order:", paste0("  - level ", 1:50000), "text: \"[[[[ not brackets\" # [[[")
  path <- withr::local_tempfile(fileext = ".yaml", lines = many)
  expect_length(nelvat:::read_document(path, "figure", NULL)$order, 50000)
  expect_lt(max(nelvat:::nesting_depth(nelvat:::unquoted_lines(paste(many, collapse = "\n")))), 4)
})

test_that("houses that take from themselves, in a circle or a long chain are told", {
  folder <- folder_within(
    list(
      a.csv = plain_csv,
      self.yaml = "from: self.yaml",
      left.yaml = "from: right.yaml",
      right.yaml = "from: ./left.yaml",
      one.yaml = figure_lines("save: one.pdf")
    )
  )
  for (i in 0:300) {
    base <- if (i == 0) "plain" else sprintf("h%d.yaml", i - 1)
    writeLines(paste0("from: ", base), file.path(folder, sprintf("h%d.yaml", i)))
  }
  found <- c(self = "takes from itself", left = "takes from itself", h300 = "more than 10 deep")
  for (name in names(found)) {
    house_path <- file.path(folder, paste0(name, ".yaml"))
    began <- proc.time()[["elapsed"]]
    expect_error(house(house_path), found[[name]], class = "nelvat_error_house")
    expect_lt(proc.time()[["elapsed"]] - began, 2)
  }
  expect_s3_class(house(file.path(folder, "h8.yaml")), "nelvat_house")
  file.copy(file.path(folder, "left.yaml"), file.path(folder, "nelvat.yaml"))
  done <- command_in(folder, "draw", "one.yaml", seconds = 20)
  expect_identical(done$status, 1L)
  expect_match(done$complained, "takes from itself")
})

test_that("control characters are shown as U+FFFD and told, and every file opens", {
  skip_if_not_installed("svglite")
  odd <- c("a\u0001b", "c\ufffee", "d\u0085", "plain")
  table <- data.frame(f = factor(odd, odd), v = 1:4)
  fig <- plate(
    panel(table, x = f, y = v, colour = f, ink_bars()),
    width = 120,
    height = 60,
    title = "t\u0007",
    note = "\uffff"
  )
  expect_message(scene <- as_scene(fig), "control characters")
  expect_false(any(nelvat:::has_unprintable(scene$texts$string)))
  folder <- withr::local_tempdir()
  paths <- file.path(folder, c("a.svg", "a.pdf", "a.png"))
  suppressMessages(save_plate(fig, paths, dpi = 72))
  suppressMessages(report(fig, file.path(folder, "a.html")))
  for (file in c("a.svg", "a.html")) {
    text <- readLines(file.path(folder, file), encoding = "UTF-8", warn = FALSE)
    expect_false(any(nelvat:::has_unprintable(text)), label = file)
    expect_match(text, "\ufffd", all = FALSE)
  }
  expect_false(any(nelvat:::has_unprintable(legend_text(fig))))
  skip_if_not_installed("writexl")
  skip_if_not_installed("readxl")
  suppressMessages(save_source_data(fig, file.path(folder, "a.xlsx")))
  expect_identical(readxl::read_excel(file.path(folder, "a.xlsx"))[[2]][1], "a\ufffdb")
})

test_that("what is printable stays as it is", {
  kept <- c("Bl\u00e9", "\u5c0f\u9ea6", "tab\there", "line\nfeed", "\u200b", "\U1F35E", NA)
  expect_identical(nelvat:::printable(kept), kept)
  expect_identical(nelvat:::printable("\u0001\u001f\u007f"), strrep("\ufffd", 3))
})
