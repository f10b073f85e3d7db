columns <- c("rise", "volume", "flour", "time")
of_file <- function(text) nelvat:::file_expression(text, columns, c("blocks", "a", "keep"))

hostile <- c(
  "system('ls')", "system(\"rm -rf /\")", "base::system('ls')", "base:::system('ls')", "rise <- 1",
  "rise <<- 1", "1 -> rise", "rise = 1; volume",
  "function(x) x", "(function(x) x)(1)", "\\(x) x", "{rise}", "rise[1]", "rise[[1]]", "rise$a",
  "rise@a", ".data$rise", ".env$PATH", "get('system')('ls')",
  "eval(parse(text = 'q()'))", "do.call('system', c('ls'))", "Sys.getenv('HOME')",
  "Sys.setenv(A = '1')", "readLines('/etc/passwd')", "file('x', 'w')",
  "unlink('x')", "source('x.R')", "library(stats)", "require(stats)", "quit()", "q()",
  "environment()", "globalenv()", "assign('a', 1)", "while (TRUE) 1",
  "for (i in 1:10) i", "repeat 1", "if (TRUE) 1 else 2", "rise ~ volume", "?rise", "quote(rise)",
  "substitute(rise)", "`system`('ls')", "'system'('ls')",
  "rise |> system()", "sapply(rise, system)", "Reduce(system, 'ls')", "mean(system('ls'))",
  "rise > system('ls')", "ifelse(TRUE, q(), 1)",
  "rise + nosuch", "T", "letters", "LETTERS", "F & rise > 1", "-system('ls')", "1:3",
  "rise && volume", "c(rise, q())", "mean", "(system)('ls')",
  "round(rise, )", "nchar(Sys.time())", "options(warn = 2)", "tryCatch(q())", "new.env()",
  "as.name('q')", "vapply(rise, q, 1)", "stop('x')"
)
malformed <- c(
  "",
  "rise >",
  "rise > > 3",
  "(rise",
  "rise 3",
  "rise; volume",
  "'rise",
  "rise > 3)",
  strrep("rise + ", 300),
  "%",
  "rise %% ",
  "#"
)

test_that("nothing but listed functions, operators and columns gets through", {
  expect_gte(length(hostile) + length(malformed), 40)
  for (text in c(hostile, malformed)) {
    error <- tryCatch(of_file(text), error = identity)
    expect_s3_class(error, "nelvat_error_expression")
    expect_match(conditionMessage(error), "At blocks > a > keep", fixed = TRUE)
  }
})

test_that("refusing evaluates nothing", {
  mark <- withr::local_tempfile()
  try(of_file(paste0("writeLines('x', '", mark, "')")), silent = TRUE)
  try(of_file(paste0("ifelse(TRUE, file.create('", mark, "'), 1)")), silent = TRUE)
  expect_false(file.exists(mark))
})

test_that("what is refused is named", {
  said <- function(text) cat(rlang::cnd_message(tryCatch(of_file(text), error = identity)), "\n")
  expect_snapshot({
    said("system('ls')")
    said("meen(rise) > 3")
    said("base::mean(rise)")
    said("rize > 3")
    said("rise <- 3")
    said("rise >")
    said("")
  })
})

test_that("what is allowed computes as in R", {
  data <- data.frame(
    rise = c(1, 4, NA, 16),
    volume = 1:4,
    flour = c("rye", "spelt", "rye", "emmer"),
    time = as.POSIXct("2026-03-02", tz = "UTC") + 0:3
  )
  compute <- function(text) rlang::eval_tidy(of_file(text), data)
  expect_identical(compute("rise > 2 & flour == 'spelt'"), data$rise > 2 & data$flour == "spelt")
  expect_identical(compute("log10(rise) + sqrt(volume)"), log10(data$rise) + sqrt(data$volume))
  expect_identical(
    compute("flour %in% c('rye', 'emmer') | !is.na(rise)"),
    data$flour %in% c("rye", "emmer") | !is.na(data$rise)
  )
  expect_identical(
    compute("ifelse(is.na(rise), 0, rise) - mean(volume)"),
    ifelse(is.na(data$rise), 0, data$rise) - 2.5
  )
  expect_identical(
    as.numeric(compute("running_median(volume, width = 3)")),
    as.numeric(stats::runmed(1:4, 3))
  )
  expect_identical(compute("time > as_time('2026-03-02T00:00:01Z')"), c(FALSE, FALSE, TRUE, TRUE))
  expect_identical(compute("-(volume %/% 2) ^ 2 * pi"), -(data$volume %/% 2)^2 * pi)
})

test_that("every way to prepare data can be said in a file, to the same scene as the call", {
  folder <- folder_with(
    list(
      bakeries.csv = c("bakery,oven", "harbour,deck", "mill,wood", "station,deck"),
      figure.yaml = c(
        "nelvat: 1", "data:", "  bakeries: {file: bakeries.csv}",
        "  loaves: {file: loaves.csv, codebook: loaves.codebook.yaml, join: [bakeries]}",
        "  grades: {counts: {data: loaves, over: [flour, grade]}}",
        "blocks:", "  a:", "    facets:", "      panel:", "        data: loaves",
        "        x: log10(ratio)", "        y: [firmness, acidity]",
        "        colour: oven", "        derive:",
        "          ratio: {expression: volume / rise, title: Volume per rise, unit: mL/mm}",
        "        keep: hydration > 60 & flour != 'rye'",
        "        missing: {y: {fill_with: median}, colour: own}",
        "        order: {oven: [wood]}", "        ink: points",
        "  b:", "    facets:",
        "      panel: {data: grades, x: grade, y: n, ink: [{bars: {error: none}}]}",
        "      across: flour",
        "      order: {by_statistic: n, statistic: max, descending: true}",
        "plate: {place: a, width: 120, height: 60}", "save: a.pdf"
      )
    )
  )
  file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml")), folder)
  path <- file.path(folder, "figure.yaml")
  joined <- suppressWarnings(
    join_data(
      study("loaves"),
      data.frame(bakery = c("harbour", "mill", "station"), oven = c("deck", "wood", "deck"))
    )
  )
  by_call <- plate(
    facets(
      panel(
        joined,
        x = log10(ratio),
        y = c(firmness, acidity),
        colour = oven,
        derive = list(ratio = derived(volume / rise, quantity("Volume per rise", unit = "mL/mm"))),
        keep = hydration > 60 & flour != "rye",
        missing = list(y = fill_with("median"), colour = "own"),
        order = list(oven = "wood"),
        ink_points()
      )
    ),
    width = 120,
    height = 60
  )
  by_file <- suppressWarnings(read_figure(path)$plate)
  expect_identical(suppressWarnings(as_scene(by_file)), suppressWarnings(as_scene(by_call)))
  writeLines(sub("place: a", "place: b", readLines(path)), path)
  counted <- plate(
    facets(
      panel(counts(study("loaves"), flour, grade), x = grade, y = n, ink_bars(error = "none")),
      across = flour,
      order = by_statistic(n, "max", descending = TRUE)
    ),
    width = 120,
    height = 60
  )
  expect_identical(as_scene(suppressWarnings(read_figure(path)$plate)), as_scene(counted))
  for (change in list(
    c("join: \\[bakeries\\]", "join: [bakery]"),
    c("over: \\[flour", "over: [flower"),
    c("keep: .*", "keep: system('ls')"),
    c("volume / rise,", "volume / ris,"),
    c("fill_with: median", "fill_with: mode"),
    c("by_statistic: n", "by_statistic: m"),
    c("colour: own", "colour: mine"),
    c("x: log10\\(ratio\\)", "x: log11(ratio)")
  )) {
    lines <- sub(change[1], change[2], readLines(path))
    writeLines(lines, file.path(folder, "wrong.yaml"))
    call <- run_nelvat("draw", file.path(folder, "wrong.yaml"))
    expect_identical(call$status, 1L)
    expect_snapshot(
      cat(change[2], gsub(folder, "FOLDER", call$complained, fixed = TRUE), sep = "\n")
    )
  }
})

test_that("a kind said as a call in a file is told as the file says it", {
  expect_error(
    of_file("factor(rise)"),
    "{column: rise, kind: category}",
    fixed = TRUE,
    class = "nelvat_error_expression"
  )
  expect_error(
    of_file("ordered(volume)"),
    "{column: volume, kind: ordinal}",
    fixed = TRUE,
    class = "nelvat_error_expression"
  )
  expect_error(
    of_file("reorder(flour, rise)"),
    "order: {flour: {by_statistic: rise}}",
    fixed = TRUE,
    class = "nelvat_error_expression"
  )
})

test_that("functions and operators of expressions are R's own of the same name", {
  allowed <- nelvat:::expression_functions()
  own <- c(
    "ln", "logit", "reverse", "as_time", "as.Date", "interval_text", "cut_into", "in_bins",
    "running_median", "running_mean", "without_spikes"
  )
  others <- setdiff(names(allowed), own)
  for (name in others) {
    from <- if (name %in% c("median", "sd")) asNamespace("stats") else baseenv()
    expect_identical(allowed[[name]], get(name, from), info = name)
  }
  expect_gt(length(others), 40)
  # All that the documents promise.
  expect_identical(
    setdiff(
      c(
        "abs",
        "sqrt",
        "exp",
        "log",
        "log10",
        "log2",
        "log1p",
        "asinh",
        "round",
        "floor",
        "ceiling",
        "signif",
        "min",
        "max",
        "pmin",
        "pmax",
        "sum",
        "mean",
        "median",
        "sd",
        "cumsum",
        "rank",
        "is.na",
        "ifelse",
        "paste",
        "paste0",
        "nchar",
        "tolower",
        "toupper",
        "substr",
        own
      ),
      names(allowed)
    ),
    character()
  )
})
