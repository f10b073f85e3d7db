# Drafts of figures: what is thought of each column and which figure follows, for tables as
# laboratories have them and for those that R ships; tests/exports/drafts.csv holds what was
# judged of each draft.

exports_script <- testthat::test_path("..", "exports", "make-exports.R")
verdicts_file <- testthat::test_path("..", "exports", "drafts.csv")

# Kinds, roles and units of a drafted table, as one text.
drafted <- function(path, ...) {
  book <- suppressMessages(suppressWarnings(read_data(path, ...)))
  table <- nelvat:::started_table(book, FALSE)
  each <- vapply(
    table$guesses,
    function(guess) {
      paste0(guess$kind, " ", guess$role, if (!is.null(guess$unit)) paste0(" [", guess$unit, "]"))
    },
    ""
  )
  runs <- rle(unname(each))
  first <- names(each)[cumsum(c(1, runs$lengths))[seq_along(runs$lengths)]]
  figure <- nelvat:::suiting_proposal(table, "t")$kind
  list(figure = figure, columns = paste0(first, ": ", runs$values, collapse = "; "))
}

# Draws the draft of a table, and returns what was told.
draw_draft <- function(path, ...) {
  out <- paste0(tools::file_path_sans_ext(path), ".draft.yaml")
  suppressMessages(start_figure(path, out, ...))
  told <- character()
  withCallingHandlers(
    as_scene(read_figure(out)[[1]]),
    warning = function(warning) {
      told <<- c(told, conditionMessage(warning))
      rlang::cnd_muffle(warning)
    },
    message = function(message) rlang::cnd_muffle(message)
  )
  list(text = readLines(out, encoding = "UTF-8"), told = told)
}

test_that("eighteen exports are drafted as was judged, and draw", {
  skip_if_not_installed("readxl")
  skip_if_not_installed("writexl")
  folder <- withr::local_tempdir()
  made <- new.env()
  sys.source(exports_script, made)
  options_of <- made$make_exports(folder)
  kept <- utils::read.csv(verdicts_file, encoding = "UTF-8")
  kept <- kept[kept$package == "exports", ]
  expect_identical(nrow(kept), 18L)
  for (i in seq_len(nrow(kept))) {
    path <- file.path(folder, kept$table[i])
    said <- options_of[[kept$table[i]]]
    got <- do.call(drafted, c(list(path), said))
    expect_identical(got$figure, kept$figure[i], label = kept$table[i])
    expect_identical(got$columns, kept$columns[i], label = kept$table[i])
    expect_no_error(suppressMessages(do.call(draw_draft, c(list(path), said))))
  }
})

test_that("tables that R ships are drafted as was judged, and draw", {
  kept <- utils::read.csv(verdicts_file, encoding = "UTF-8")
  expect_gte(sum(kept$verdict == "kept"), 50)
  expect_identical(nrow(kept), 58L)
  folder <- withr::local_tempdir()
  for (i in which(kept$package != "exports")) {
    skip_if_not_installed(kept$package[i])
    path <- file.path(folder, paste0(kept$table[i], ".csv"))
    table <- as.data.frame(getExportedValue(kept$package[i], kept$table[i]))
    utils::write.csv(table, path, row.names = FALSE)
    got <- drafted(path)
    expect_identical(got$figure, kept$figure[i], label = kept$table[i])
    expect_identical(got$columns, kept$columns[i], label = kept$table[i])
    expect_no_error(draw_draft(path))
  }
})

test_that(
  "drafts, codebooks and draws point at the same values, and what settles them settles them",
  {
    path <- withr::local_tempfile(
      lines = c(
        "gene,temp_C,mass,ratio",
        "malP,21.5,\"1,204\",0.5", "1-Mar,22.1,\"2,310\",#DIV/0!", "2-Sep,85,940,0.7",
        "lamB,20.9,\"1,100\",0.9", "adhE,21.2,870,0.4", "pflB,22.8,\"3,050\",0.6"
      ),
      fileext = ".csv"
    )
    pointed <- c(
      "names that a spreadsheet made dates: \"1-Mar\", \"2-Sep\"",
      "likely missing values: \"85\" (row 3)",
      "numbers with \",\" between thousands, such as \"1,204\"",
      "likely missing values: \"#DIV/0!\" (row 2)"
    )
    draft <- draft_codebook(path)
    start <- start_figure(path)
    told <- tryCatch(read_data(path), nelvat_warning_text = conditionMessage)
    for (hint in pointed) {
      expect_match(draft, hint, fixed = TRUE, all = FALSE)
      expect_match(start, hint, fixed = TRUE, all = FALSE)
      expect_match(told, hint, fixed = TRUE)
    }
    fields <- list(
      gene = list(
        categories = list(
          list(value = "1-Mar", label = "marC"),
          list(value = "2-Sep", label = "sepA"),
          "malP",
          "lamB",
          "adhE",
          "pflB"
        )
      ),
      temp_C = list(title = "Oven", unit = "\u00b0C", missingValues = "85"),
      mass = list(type = "number", groupChar = ",", unit = "mg"),
      ratio = list(type = "number", missingValues = list("#DIV/0!"))
    )
    expect_no_warning(book <- read_data(path, fields = fields))
    expect_identical(book$data$mass, c(1204, 2310, 940, 1100, 870, 3050))
    expect_identical(book$data$temp_C, c(21.5, 22.1, NA, 20.9, 21.2, 22.8))
    expect_identical(book$data$ratio, c(0.5, NA, 0.7, 0.9, 0.4, 0.6))
    expect_true("marC" %in% book$columns$gene$level_names)
    # Said to be values, they are no longer pointed at.
    expect_no_warning(
      read_data(
        path,
        fields = list(
          gene = list(missingValues = list()),
          temp_C = list(constraints = list(maximum = 90)),
          mass = list(type = "string"),
          ratio = list(type = "string")
        )
      )
    )
  }
)

test_that("a row of totals is told, whatever is missing beside it, and left out of drafts", {
  told <- function(...) {
    path <- withr::local_tempfile(lines = c(...), fileext = ".csv", .local_envir = parent.frame())
    list(
      read = tryCatch(
        {
          read_data(path)
          ""
        },
        nelvat_warning_text = conditionMessage
      ),
      start = start_figure(path)
    )
  }
  full <- told("g,a,b", "x,1,2", "y,3,5", "Total,4,7")
  expect_match(full$read, "row 3, \"Total\" in \"g\"", fixed = TRUE)
  expect_match(full$start, "keep: g != 'Total'", fixed = TRUE, all = FALSE)
  expect_match(told("g,a,b", "x,1,2", "y,3,", "Total,4,")$read, "row 3")
  expect_identical(told("g,a,b", "x,1,2", "y,3,5", "Total,,")$read, "")
  expect_identical(told("g,a,b", "x,1,2", "y,3,5", "Total,9,1")$read, "")
})

test_that("a row of units, padded titles, a repeated column and decimal commas are told and used", {
  read <- function(...) {
    path <- withr::local_tempfile(lines = c(...), fileext = ".csv", .local_envir = parent.frame())
    told <- character()
    book <- withCallingHandlers(read_data(path), message = function(message) {
      told <<- c(told, conditionMessage(message))
      rlang::cnd_muffle(message)
    })
    list(book = book, told = told)
  }
  got <- read("Reader 4,,", "Well,Time,OD", ",min,-", "A1,0,0.1", "A2,5,0.2", "A3,10,0.4")
  expect_identical(got$book$columns$Time$unit, "min")
  expect_null(got$book$columns$OD$unit)
  expect_identical(got$book$data$OD, c(0.1, 0.2, 0.4))
  expect_match(got$told, "line 3 holds units: \"Time\" in min", fixed = TRUE)
  # Text over text is no row of units, nor are letters that are no units.
  expect_identical(nrow(read("a,b", "min,s", "h,d")$book$data), 2L)
  expect_identical(nrow(suppressWarnings(read("a,b", "q,zz", "1,2", "3,4"))$book$data), 3L)
  twice <- read("a,b,a", "1,2,1", "3,4,3")
  expect_identical(names(twice$book$data), c("a", "b"))
  expect_match(twice$told, "hold the same: columns called \"a\"")
  expect_error(read("a,b,a", "1,2,1", "3,4,4"), class = "nelvat_error_file")
})

test_that("names hold units where they do, and letters are none elsewhere", {
  cases <- list(
    c("temp_C", "Temperature", "\u00b0C"),
    c("time_s", "Time", "s"),
    c("Conc_uM", "Concentration", "\u00b5M"),
    c("mg_per_kg", "Content", "mg/kg"),
    c("Mass, g", "Mass", "g"),
    c("Length/mm", "Length", "mm"),
    c("Temp. (\u00b0C)", "Temperature", "\u00b0C"),
    c("Weight [kg]", "Weight", "kg"),
    c("Time in h", "Time", "h"),
    c("speed_km_per_h", "Speed", "km/h"),
    c("vitamin_C", "Vitamin C", NA),
    c("soil_N", "Soil N", NA),
    c("group_A", "Group A", NA),
    c("OD_600", "OD 600", NA),
    c("pH", "pH", NA),
    c("a/b", "a/b", NA),
    c("km/h", "km/h", NA),
    c("names, first", "names, first", NA),
    c("Treatment_A", "Treatment A", NA)
  )
  for (case in cases) {
    expect_identical(nelvat:::header_title(case[1]), case[2], label = case[1])
    expect_identical(
      nelvat:::header_meaning(case[1])$unit %||% NA_character_,
      case[3],
      label = case[1]
    )
  }
})

test_that(
  "a figure's own fields mean what a codebook's do, and wrong ones are errors of the file",
  {
    folder <- folder_with(
      list(
        "t.csv" = c("g,m_mg", "1,2.5", "2,3.5", "1,999", "2,4.5", "1,2.2"),
        "one.yaml" = c(
          "nelvat: 1", "data:", "  t:", "    file: t.csv", "    fields:",
          "      g: {categories: [{value: 1, label: young}, {value: 2, label: old}]}",
          "      m_mg: {title: Mass, unit: mg, show: g, missingValues: [999]}",
          "blocks: {main: {panel: {data: t, x: g, y: m_mg, ink: points}}}",
          "plate: {place: main, width: 86, height: 60}", "save: one.pdf"
        )
      )
    )
    scene <- suppressWarnings(as_scene(read_figure(file.path(folder, "one.yaml"))[[1]]))
    texts <- scene$texts$string
    expect_true(all(c("young", "old", "Mass (g)") %in% texts))
    lines <- readLines(file.path(folder, "one.yaml"))
    writeLines(sub("title: Mass", "titel: Mass", lines), file.path(folder, "one.yaml"))
    expect_error(
      read_figure(file.path(folder, "one.yaml")),
      "line 7.*titel",
      class = "nelvat_error_figure"
    )
    writeLines(sub("m_mg: [{]", "mmg: {", lines), file.path(folder, "one.yaml"))
    expect_error(read_figure(file.path(folder, "one.yaml")), "\"mmg\"", class = "nelvat_error")
    expect_error(
      read_data(file.path(folder, "t.csv"), fields = list(1)),
      class = "nelvat_error_argument"
    )
  }
)
