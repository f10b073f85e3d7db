# Awkward tables, each a few lines, with what must come out: columns and their values, or an error;
# and what is said.

read_lines <- function(lines, ..., name = "t.csv", encode = NULL) {
  folder <- withr::local_tempdir()
  path <- file.path(folder, name)
  text <- paste0(paste(lines, collapse = "\n"), "\n")
  bytes <- if (is.null(encode)) {
    charToRaw(enc2utf8(text))
  } else {
    iconv(list(charToRaw(enc2utf8(text))), "UTF-8", encode, toRaw = TRUE)[[1]]
  }
  writeBin(bytes, path)
  nelvat:::forget_said()
  said <- character()
  book <- withCallingHandlers(
    tryCatch(read_data(path, ...), nelvat_error = identity),
    message = function(m) {
      said <<- c(said, conditionMessage(m))
      rlang::cnd_muffle(m)
    },
    warning = function(w) {
      said <<- c(said, conditionMessage(w))
      rlang::cnd_muffle(w)
    }
  )
  list(book = book, said = paste(said, collapse = "\n"))
}

# Each: lines; what must come out (a list of columns), or the class and text of an error; what is
# said; more arguments.
day <- function(...) as.Date(c(...))
awkward <- list(
  "a header with one name less is of row names" = list(
    c("a,b", "r1,2,3", "r2,4,5"),
    list(row = c("r1", "r2"), a = c(2L, 4L), b = c(3L, 5L)),
    said = "one field more than the header"
  ),
  "also where there is one row" = list(
    c("a,b", "1,2,3"),
    list(row = 1L, a = 2L, b = 3L),
    said = "called \"row\""
  ),
  "a first column without a name is of row names" = list(
    c(",a", "x,2", "y,3"),
    list(row = c("x", "y"), a = 2:3),
    said = "called \"row\""
  ),
  "two names too few are an error with the line" = list(
    c("a", "1,2,3", "4,5,6"),
    "Line 2 has 3 where the header, line 1, has 1"
  ),
  "a name too many is an error with the line" = list(
    c("a,b,c", "1,2", "3,4"),
    "Line 2 has 2 where the header, line 1, has 3"
  ),
  "a row with a field less is an error with its line" = list(
    c("a,b", "1,2", "3", "4,5"),
    "Line 3 has 1"
  ),
  "a row with a field more is an error with its line" = list(
    c("a,b", "1,2", "3,4,5", "4,5"),
    "Line 3 has 3"
  ),
  "an uneven row far down is found" = list(
    c("a,b", paste(1:5000, 1:5000, sep = ","), "1,2,3"),
    "Line 5002 has 3"
  ),
  "numbers above numbers are no header" = list(c("1,2", "3,4"), "has no header"),
  "a file without a header can be given names" = list(
    c("1,2", "3,4"),
    list(x = c(1L, 3L), y = c(2L, 4L)),
    more = list(names = c("x", "y"))
  ),
  "years may be names" = list(
    c("site,2024,2025", "a,1,2"),
    list(site = "a", `2024` = 1L, `2025` = 2L)
  ),
  "title lines above the header are passed over, said so" = list(
    c("Bake of March", "", "well,od", "A1,0.5", "A2,0.7"),
    list(well = c("A1", "A2"), od = c(0.5, 0.7)),
    said = "1 line above the header"
  ),
  "a title of one word above two columns is no header" = list(
    c("Plate", "well,od", "A1,0.5"),
    list(well = "A1", od = 0.5),
    said = "\"Plate\""
  ),
  "lines to skip can be said" = list(
    c("x,y,z", "well,od", "A1,0.5"),
    list(well = "A1", od = 0.5),
    more = list(skip = 1)
  ),
  "comments above the header are passed over, said so" = list(
    c("# made by, me", "a,b", "1,2"),
    list(a = 1L, b = 2L),
    said = "\"#\""
  ),
  "comments anywhere by their mark" = list(
    c("% one", "a,b", "1,2", "% two, three, four", "3,4"),
    list(a = c(1L, 3L), b = c(2L, 4L)),
    more = list(comment = "%")
  ),
  "doubled quotes are one quote" = list(
    c("t,v", "\"say \"\"hi\"\"\",1"),
    list(t = "say \"hi\"", v = 1L)
  ),
  "separators and line feeds in quotes are text" = list(
    c("t,v", "\"a,b\nc\",1", "d,2"),
    list(t = c("a,b\nc", "d"), v = 1:2)
  ),
  "a quote that is not closed is an error" = list(
    c("a,b", "\"x,1", "y,2"),
    "unlike numbers of columns"
  ),
  "leading zeros are identifiers" = list(
    c("id,v", "007,1", "012,2"),
    list(id = c("007", "012"), v = 1:2)
  ),
  "leading zeros stay beside missing values" = list(
    c("id,v", "007,1", "NA,2", "012,3"),
    list(id = c("007", NA, "012"), v = 1:3)
  ),
  "a zero before a point is a number" = list(c("v", "0.5", "0.25"), list(v = c(0.5, 0.25))),
  "long identifiers keep their digits" = list(
    c("id,v", "900719925474099301,1", "900719925474099302,2"),
    list(id = c("900719925474099301", "900719925474099302"), v = 1:2),
    said = "identifiers of more digits"
  ),
  "great numbers with a power stay numbers" = list(
    c("v", "1.5e17", "2e18"),
    list(v = c(1.5e17, 2e18))
  ),
  "counts beyond whole numbers of 32 bits" = list(
    c("n", "3000000000", "4000000001"),
    list(n = c(3e9, 4000000001))
  ),
  "semicolons with decimal commas, said so" = list(
    c("a;b", "1,5;2", "2,25;3"),
    list(a = c(1.5, 2.25), b = 2:3),
    said = "decimal mark"
  ),
  "tabs in a file called .txt" = list(
    c("a\tb", "1\tx y"),
    list(a = 1L, b = "x y"),
    more = list(name = "t.txt")
  ),
  "blank lines between rows are none" = list(
    c("a,b", "1,2", "", "3,4"),
    list(a = c(1L, 3L), b = c(2L, 4L))
  ),
  "a blank line of one column is a missing value" = list(
    c("a", "1", "", "3"),
    list(a = c(1L, NA, 3L))
  ),
  "a header alone has no rows" = list("a,b", list(a = logical(), b = logical())),
  "two columns of one name" = list(c("a,a", "1,2"), "have the same name"),
  "dates with points are day first" = list(
    c("d", "03.11.2026", "24.12.2026"),
    list(d = day("2026-11-03", "2026-12-24")),
    said = "03.11.2026"
  ),
  "dates with months in letters" = list(
    c("d", "3 Nov 2026", "24 December 2026"),
    list(d = day("2026-11-03", "2026-12-24")),
    said = "3 Nov 2026"
  ),
  "dates that can be only month first" = list(
    c("d", "11/23/2026", "10/04/2026"),
    list(d = day("2026-11-23", "2026-10-04")),
    said = "month/day"
  ),
  "dates that can be only day first" = list(
    c("d", "23/11/2026", "10/04/2026"),
    list(d = day("2026-11-23", "2026-04-10")),
    said = "day/month"
  ),
  "dates that can be either are asked about" = list(
    c("d", "11/03/2026", "10/04/2026"),
    list(d = c("11/03/2026", "10/04/2026")),
    said = "day and month or as month and day"
  ),
  "what only looks like dates is text" = list(
    c("d", "31.02.2026", "01.01.2026"),
    list(d = c("31.02.2026", "01.01.2026"))
  ),
  "dates with a time of day" = list(
    c("d", "3 Nov 2026 08:30", "4 Nov 2026 17:05"),
    list(d = as.POSIXct(c("2026-11-03 08:30", "2026-11-04 17:05"), tz = "UTC")),
    said = "3 Nov 2026"
  ),
  "Latin-1 is read where it is said" = list(
    c("a,b", "B\u00e4cker,1"),
    list(a = "B\u00e4cker", b = 1L),
    more = list(encode = "latin1", encoding = "latin1")
  ),
  "Latin-1 that is not said is an error with the line" = list(
    c("a,b", "x,0", "B\u00e4cker,1"),
    "Line 3 is not: B\u00e4cker",
    more = list(encode = "latin1")
  ),
  "bad bytes in a header are an error" = list(
    c("B\u00e4cker,b", "1,2"),
    "Line 1 is not",
    more = list(encode = "latin1")
  ),
  "UTF-16 says what it is" = list(
    c("a,b", "1,2"),
    "encoding = \"UTF-16\"",
    more = list(encode = "UTF-16")
  ),
  "UTF-16 is read where it is said" = list(
    c("a,b", "1,2"),
    list(a = 1L, b = 2L),
    more = list(encode = "UTF-16", encoding = "UTF-16")
  ),
  "a byte order mark is no part of a name" = list(c("\ufeffa,b", "1,2"), list(a = 1L, b = 2L)),
  "an encoding that is none" = list(
    c("a,b", "1,2"),
    "cannot be read in the encoding \"klingon\"",
    more = list(encoding = "klingon")
  ),
  "nothing but comments" = list(c("# a", "# b"), "holds no table")
)

test_that("awkward tables read as they are meant, or say what is wrong with them", {
  expect_gte(length(awkward), 40)
  for (case in names(awkward)) {
    one <- awkward[[case]]
    got <- do.call(read_lines, c(list(one[[1]]), one$more))
    if (is.character(one[[2]])) {
      expect_s3_class(got$book, "nelvat_error")
      expect_match(rlang::cnd_message(got$book), one[[2]], fixed = TRUE, label = case)
      next
    }
    expect_s3_class(got$book, "nelvat_codebook")
    if (inherits(got$book, "nelvat_codebook")) {
      expect_identical(as.list(got$book$data), one[[2]], label = case)
    }
    if (!is.null(one$said)) {
      expect_match(got$said, one$said, fixed = TRUE, label = case)
    } else {
      expect_identical(got$said, "", label = case)
    }
  }
})

test_that("type string in a codebook keeps text whatever the cells look like", {
  folder <- folder_with(
    list(
      t.csv = c("id,v", "1,2", "2,3"),
      b.yaml = c("fields:", "- {name: id, type: string}", "- {name: v, type: number}")
    )
  )
  book <- read_data(file.path(folder, "t.csv"), codebook = file.path(folder, "b.yaml"))
  expect_identical(book$data$id, c("1", "2"))
  expect_identical(book$columns$id$kind, "category")
})

test_that("several files make one table, in the order a person counts, or say how they differ", {
  folder <- folder_with(
    list(
      `plate-10.csv` = c("w,v", "a,3"),
      `plate-2.csv` = c("w,v", "a,1", "b,2"),
      other.csv = c("w,u", "a,1")
    )
  )
  book <- read_data(files = file.path(folder, "plate-*.csv"))
  expect_identical(
    book$data,
    data.frame(file = c("plate-2", "plate-2", "plate-10"), w = c("a", "b", "a"), v = 1:3)
  )
  expect_error(
    read_data(files = file.path(folder, "*.csv")),
    "lacks \"v\" and has \"u\"|lacks \"u\" and has \"v\"",
    class = "nelvat_error_file"
  )
  expect_error(
    read_data(files = file.path(folder, "plat-*.csv")),
    "No file is called",
    class = "nelvat_error_file"
  )
  expect_error(read_data(), "Neither is given", class = "nelvat_error_argument")
})

test_that("a sheet that was not named is said, with the others; rows above its header too", {
  skip_if_not_installed("writexl")
  path <- withr::local_tempfile(fileext = ".xlsx")
  writexl::write_xlsx(
    list(first = data.frame(a = 1:2, b = c("x", "y")), second = data.frame(c = 1)),
    path
  )
  nelvat:::forget_said()
  expect_message(book <- read_data(path), "the sheet \"first\" was read; others are \"second\"")
  expect_identical(names(book$data), c("a", "b"))
  titled <- data.frame(x = c(NA, "well", "A1", "A2"), y = c(NA, "od", "0.5", "0.7"))
  titled$x[1] <- "Bake of March"
  writexl::write_xlsx(titled, path, col_names = FALSE)
  expect_message(book <- read_data(path), "1 row above the header passed over")
  expect_identical(names(book$data), c("well", "od"))
})

test_that("folders, pipes and devices are refused, not read", {
  folder <- withr::local_tempdir()
  expect_error(read_data(folder), "folder", class = "nelvat_error_file")
  pipe <- file.path(folder, "p.csv")
  skip_if(system2("mkfifo", shQuote(pipe)) != 0)
  expect_error(read_data(pipe), "named pipe", class = "nelvat_error_file")
  expect_error(
    read_data(files = c(study_file("loaves.csv"), pipe)),
    "named pipe",
    class = "nelvat_error_file"
  )
})

test_that("a column per day becomes a category and a quantity", {
  wide <- data.frame(
    dough = c("a", "b"),
    day_1 = c(3.1, 2.9),
    day_2 = c(5, NA),
    flour = c("rye", "oat")
  )
  book <- long_data(
    wide,
    starts_with("day"),
    prefix = "day_",
    day = ordinal("Day"),
    ph = quantity("pH")
  )
  by_hand <- reshape(
    wide,
    direction = "long",
    varying = list(c("day_1", "day_2")),
    v.names = "ph",
    timevar = "day",
    times = c("1", "2"),
    idvar = "dough"
  )
  expect_equal(
    book$data[order(book$data$dough, book$data$day), c("dough", "flour", "day", "ph")],
    by_hand[order(by_hand$dough, by_hand$day), c("dough", "flour", "day", "ph")],
    ignore_attr = TRUE
  )
  expect_identical(book$columns$day$levels, c("1", "2"))
  expect_identical(
    kind <- long_data(
      wide,
      c(day_1, day_2),
      prefix = "day_",
      day = quantity("Age", unit = "d"),
      ph = quantity()
    )$data$day,
    c(1, 1, 2, 2)
  )
  expect_error(long_data(wide, starts_with("week")), "chooses none", class = "nelvat_error_column")
  expect_error(long_data(wide, c(day_1, flour)), "of one sort", class = "nelvat_error_kind")
  expect_error(long_data(wide, day_3), "Did you mean", class = "nelvat_error_column")
  folder <- folder_with(
    list(
      w.csv = c("dough,day_1,day_2", "a,3.1,5", "b,2.9,4"),
      f.yaml = c(
        "nelvat: 1",
        "data: {w: {file: w.csv, long: {columns: {starts_with: day_}, prefix: day_,",
        "    into: {day: {title: Day, categoriesOrdered: true}, ph: {title: pH}}}}}",
        "blocks: {b: {panel: {data: w, x: day, y: ph, ink: points}}}",
        "plate: {place: b, width: 80, height: 60}"
      )
    )
  )
  scene <- as_scene(read_figure(file.path(folder, "f.yaml"))$plate)
  expect_identical(scene$axes[[scene$panels$x_axis]]$text, c("1", "2"))
  expect_identical(nrow(scene$marks[[1]]$table), 4L)
})

test_that("tables of a file are renamed, joined by unlike names, derived and kept in that order", {
  folder <- folder_with(
    list(
      a.csv = c("id,wt", "1,10", "2,20", "3,30"),
      b.csv = c("key,oven", "1,deck", "2,wood"),
      f.yaml = c(
        "nelvat: 1", "data:", "  a:", "    file: a.csv", "    rename: {mass: wt}",
        "    join: {file: b.csv, by: {id: key}, columns: {oven_type: oven}}",
        "    derive: {half: mass / 2}", "    keep: half > 6",
        "blocks: {b: {panel: {data: a, x: id, y: half, colour: oven_type,",
        "    missing: {colour: own}, ink: points}}}",
        "plate: {place: b, width: 80, height: 60}"
      )
    )
  )
  figure <- suppressWarnings(read_figure(file.path(folder, "f.yaml")))
  data <- figure$plate$blocks[[1]]$panel$book$data
  expect_identical(data$half, c(10, 15))
  expect_identical(data$oven_type, c("wood", NA))
  expect_setequal(basename(figure$inputs), c("a.csv", "b.csv"))
  expect_match(suppressWarnings(legend_text(figure$plate)), "has no partner in the joined table")
})

test_that("joins say keys of unlike sorts, and stop where no row finds a partner", {
  mine <- data.frame(id = 1:3, v = 4:6)
  theirs <- data.frame(key = c("1", "2"), w = 7:8, v = 9:10)
  expect_warning(
    book <- join_data(mine, theirs, by = c(id = "key")),
    "\"id\" holds numbers, \"key\" of theirs text",
    class = "nelvat_warning_join"
  )
  expect_identical(
    book$data,
    data.frame(id = 1:3, v = 4:6, w = c(7L, 8L, NA), v_theirs = c(9L, 10L, NA))
  )
  expect_error(
    join_data(mine, data.frame(key = "z", w = 1), by = c(id = "key")),
    "has a partner",
    class = "nelvat_error_join"
  )
  expect_identical(
    names(
      suppressWarnings(join_data(mine, theirs, by = c(id = "key"), columns = c(weight = "w")))$data
    ),
    c("id", "v", "weight")
  )
})

test_that("units convert as udunits has them, written as papers write them", {
  each <- list(
    list("in", "mm", 25.4),
    list("ft", "m", 0.3048),
    list("lb", "kg", 0.45359237),
    list("mph", "km/h", 1.609344),
    list("mmHg", "kPa", 0.133322),
    list("psi", "kPa", 6.894757),
    list("week", "d", 7),
    list("rpm", "Hz", 1 / 60),
    list("m\u00b2", "cm^2^", 1e4),
    list("s\u207b\u00b9", "Hz", 1),
    list("k\u03a9", "\u03a9", 1000),
    list("S", "mS", 1000),
    list("T", "mT", 1000),
    list("\u00b0", "rad", pi / 180),
    list("", "%", 100),
    list("%", "", 0.01),
    list("CFU/mL", "CFU/L", 1000),
    list("IU/L", "IU/mL", 1e-3),
    list("umol m^-2^ s^-1^", "mmol m^-2^ s^-1^", 1e-3),
    list("kcal", "kJ", 4.184),
    list("mM", "\u00b5mol/L", 1000),
    list("10^9^/L", "1/uL", 1000)
  )
  for (one in each) {
    expect_equal(
      nelvat:::unit_conversion(one[[1]], one[[2]])$factor,
      one[[3]],
      tolerance = 1e-5,
      label = paste(one[[1]], "to", one[[2]])
    )
  }
  expect_equal(nelvat:::unit_conversion("\u00b0C", "\u00b0F"), list(factor = 1.8, offset = 32))
  expect_error(
    quantity(unit = "CFU/mL", show = "cells/mL"),
    "different things",
    class = "nelvat_error_unit"
  )
  expect_error(quantity(unit = "a.u.", show = "V"), "is not known", class = "nelvat_error_unit")
  share <- codebook(data.frame(v = c(0.25, 0.5)), v = quantity("Share", unit = "", show = "%"))
  scene <- as_scene(plate(panel(share, x = v, y = v, ink_points()), width = 80, height = 60))
  expect_identical(scene$axes[[1]]$title, "Share (%)")
  expect_true(all(scene$axes[[1]]$breaks >= 20))
})

test_that("strings name columns, kinds can be said on the spot, expressions need no wrapper", {
  cars <- datasets::mtcars
  quoted <- as_scene(
    plate(
      facets(panel(cars, x = "wt", y = c("mpg", "hp"), colour = "qsec", ink_points()), per_row = 2),
      width = 178,
      height = 70
    )
  )
  bare <- as_scene(
    plate(
      facets(panel(cars, x = wt, y = c(mpg, hp), colour = qsec, ink_points()), per_row = 2),
      width = 178,
      height = 70
    )
  )
  expect_identical(quoted$marks, bare$marks)
  expect_error(
    panel(cars, x = "wtt", y = mpg, ink_points()),
    "Did you mean \"wt\"",
    class = "nelvat_error_column"
  )
  expect_error(
    facets(panel(cars, x = wt, y = mpg, ink_points()), across = "gears"),
    "Did you mean \"gear\"",
    class = "nelvat_error_column"
  )
  spot <- as_scene(
    plate(
      panel(cars, x = ordinal(cyl, "Cylinders"), y = r, derive = list(r = hp / wt), ink_box()),
      width = 80,
      height = 60
    )
  )
  axis <- spot$axes[[spot$panels$x_axis]]
  expect_identical(axis$text, c("4", "6", "8"))
  expect_identical(axis$title, "Cylinders")
  expect_error(
    panel(cars, x = cyl, y = mpg, ink_box()),
    "ordinal(cyl)",
    fixed = TRUE,
    class = "nelvat_error_kind"
  )
  folder <- folder_with(
    list(
      c.csv = c("month,v", "1,2", "2,3", "1,4"),
      f.yaml = c(
        "nelvat: 1", "data: {c: c.csv}",
        "blocks: {b: {panel: {data: c, x: {column: month, kind: ordinal, title: Month}, y: v,",
        "    ink: box}}}",
        "plate: {place: b, width: 80, height: 60}"
      )
    )
  )
  by_file <- as_scene(read_figure(file.path(folder, "f.yaml"))$plate)
  expect_identical(by_file$axes[[by_file$panels$x_axis]]$title, "Month")
  waits <- data.frame(t = as.difftime(c(1, 2, 3), units = "hours"), v = 1:3)
  expect_identical(
    as_scene(plate(panel(waits, x = t, y = v, ink_points()), width = 80, height = 60))$axes[[
      1
    ]]$title,
    "T (h)"
  )
})

test_that("a codebook is amended, not made anew; wrong colours are refused there", {
  book <- codebook(
    study("loaves"),
    flour = category(
      colours = c(rye = "#111111", wheat = "#222222", spelt = "#333333", emmer = "#444444")
    )
  )
  expect_identical(book$columns$flour$name, study("loaves")$columns$flour$name)
  # A kind of another sort is one of its own; one of the same sort keeps what it does not say.
  rise <- codebook(study("loaves"), rise = quantity(unit = "cm"))$columns$rise
  expect_identical(rise[c("name", "unit")], list(name = "Loaf rise", unit = "cm"))
  days <- data.frame(when = as.Date("2026-06-01") + 0:2)
  dated <- codebook(codebook(days, when = moment("Day of baking")), when = moment())
  expect_identical(dated$columns$when$name, "Day of baking")
  hydration <- codebook(study("loaves"), hydration = quantity())$columns$hydration
  expect_identical(hydration$kind, "quantity")
  expect_null(hydration$level_names)
  expect_identical(book$columns$flour$level_names, study("loaves")$columns$flour$level_names)
  expect_error(
    codebook(study("loaves"), flour = category(colours = c(rye = "reddish"))),
    "must be colours",
    class = "nelvat_error_level"
  )
  expect_error(
    codebook(study("loaves"), flour = category(colours = c("red", "blue"))),
    "2 for 4 levels",
    class = "nelvat_error_level"
  )
})

test_that("change() gives a figure new data and meanings, and reaches the inks of a plate", {
  loaves <- study("loaves")
  fig <- plate(
    beside(
      one = panel(loaves, x = rise, y = volume, ink_points()),
      stacked(
        two = facets(panel(loaves, x = flour, y = firmness, ink_bars()), across = hydration),
        three = joint(loaves, x = rise, y = ph)
      )
    ),
    width = "double",
    height = 120
  )
  less <- change(fig, data = loaves$data[1:60, ])
  expect_identical(vapply(less$blocks, function(block) block$panel$n, 0L), c(60L, 60L, 60L))
  expect_identical(less$blocks[[2]]$panel$variables$x$kind$name, loaves$columns$flour$name)
  # Marginals are of the new rows.
  expect_identical(
    sum(
      suppressWarnings(as_scene(less))$accounts$used[
        suppressWarnings(as_scene(less))$accounts$role == "marginal"
      ]
    ),
    120L
  )
  larger <- change(fig, ink = ink_points(size = 3), block = c("one", "three"))
  sizes <- lapply(
    Filter(function(layer) layer$primitive == "points", suppressWarnings(as_scene(larger))$marks),
    function(layer) unique(layer$table$size_mm)
  )
  expect_equal(sizes, list(3, 3))
  named <- change(
    fig,
    codebook = list(rise = quantity("Height", unit = "mm", show = "cm")),
    block = 1
  )
  expect_identical(as_scene(change(named, width = 150))$axes[[1]]$title, "Height (cm)")
  expect_error(change(fig, data = loaves, block = "four"), class = "nelvat_error_argument")
  matrix <- change(
    every_pair(loaves, c(rise, volume)),
    columns = c(rise, ph),
    data = loaves$data[1:50, ]
  )
  expect_identical(matrix$n, 50L)
})

test_that("an inverse hyperbolic sine keeps the column's name and unit", {
  cells <- codebook(
    data.frame(cd3 = c(-200, 0, 50, 150, 1e3, 2e4, 1e5), y = 1:7),
    cd3 = quantity("CD3", unit = "a.u.")
  )
  scene <- as_scene(
    plate(panel(cells, x = asinh(cd3 / 150), y = y, ink_points()), width = 120, height = 60)
  )
  axis <- scene$axes[[scene$panels$x_axis]]
  expect_identical(axis$title, "CD3 (a.u.)")
  expect_true(all(c(0, 1000, 1e5) %in% axis$breaks))
  expect_equal(
    axis$range[1] + scene$marks[[1]]$table$x * diff(axis$range),
    asinh(cells$data$cd3 / 150)
  )
})

test_that("more series than colours: an ordinal takes a ramp, a category an error with ways out", {
  many <- data.frame(x = 1:24, y = 1:24, g = sprintf("g%02d", 1:12))
  expect_error(
    as_scene(plate(panel(many, x = x, y = y, colour = g, ink_points()))),
    "group =",
    class = "nelvat_error_level"
  )
  ramp <- as_scene(
    plate(panel(many, x = x, y = y, colour = ordinal(g), ink_points()), width = 178, height = 80)
  )
  colours <- ramp$keys$colour[!is.na(ramp$keys$label)]
  expect_length(unique(colours), 12)
  lightness <- farver::decode_colour(colours, to = "oklab")[, 1]
  expect_true(all(diff(lightness) > 0) || all(diff(lightness) < 0))
  probe <- panel(
    study("probe"),
    x = time,
    y = c(chamber, surface, core),
    colour = measure(
      "Temp",
      colours = c(core = "#AA0000", chamber = "#00AA00", surface = "#0000AA"),
      order = "core"
    ),
    ink_line()
  )
  keys <- suppressWarnings(as_scene(plate(probe, width = 178, height = 80)))$keys
  expect_identical(keys$colour, c("#AA0000", "#00AA00", "#0000AA"))
})

test_that("what would cost without bound is refused at once", {
  expect_error(
    nelvat:::file_expression("!!a", "a", "keep"),
    "!!",
    class = "nelvat_error_expression"
  )
  expect_error(
    nelvat:::file_expression(paste0(strrep("!", 990), "a"), "a", "keep"),
    class = "nelvat_error_expression"
  )
  expect_error(
    nelvat:::file_expression("paste(a, collapse = '')", "a", "keep"),
    "collapse",
    class = "nelvat_error_expression"
  )
  expect_error(
    nelvat:::file_expression(paste(rep("a", 300), collapse = "+"), "a", "keep"),
    "nested|calls",
    class = "nelvat_error_expression"
  )
  long <- data.frame(f = strrep("x", 1e5), v = 1)
  expect_error(panel(long, x = f, y = v, ink_bars()), "too long", class = "nelvat_error_level")
  wide <- data.frame(x = c(0, 1000), y = 1:2)
  expect_error(
    as_scene(plate(panel(wide, x = x, y = y, x_axis = axis_of(every = 0.01), ink_points()))),
    "100,000|1.09e|109,000",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(study("probe"), x = time, y = core, x_axis = axis_of(every = 30), ink_line()),
    "1 day",
    class = "nelvat_error_argument"
  )
  expect_error(
    panel(wide, x = log10(x), y = y, x_axis = axis_of(range = c(0, 10)), ink_points()),
    "Found 0",
    class = "nelvat_error_argument"
  )
  expect_identical(panel(wide, x = log(x, 10), y = y, ink_points())$variables$x$transform, "log10")
  expect_error(
    panel(study("loaves"), x = rise, y = volume, keep = flour == "ryee", ink_points()),
    "Did you mean \"rye\"",
    class = "nelvat_error_level"
  )
})

test_that("a drafted codebook never stops the draw of its table", {
  set.seed(8)
  for (case in 1:25) {
    n <- sample(c(1, 3, 15, 60), 1)
    table <- data.frame(
      f = factor(sample(c("a", "b"), n, TRUE), levels = c("a", "b", "unused")),
      code = sample(c(1, 2, 9), n, TRUE),
      id = sprintf("%03d", seq_len(n)),
      v = round(rnorm(n), 2),
      odd = sample(c("", "x", "1.5", NA), n, TRUE),
      day = as.Date("2026-01-01") + seq_len(n),
      flag = sample(c(TRUE, FALSE, NA), n, TRUE)
    )
    folder <- withr::local_tempdir()
    path <- file.path(folder, "t.csv")
    utils::write.csv(table, path, row.names = FALSE, na = sample(c("", "NA"), 1))
    suppressMessages(draft_codebook(path, file.path(folder, "t.codebook.yaml")))
    book <- tryCatch(
      suppressWarnings(read_data(path, codebook = file.path(folder, "t.codebook.yaml"))),
      nelvat_error = identity
    )
    expect_s3_class(book, "nelvat_codebook")
    expect_error(
      suppressWarnings(
        as_scene(plate(panel(book, x = day, y = v, ink_points()), width = 90, height = 60))
      ),
      NA
    )
  }
})

test_that("a draft moves units out of titles, marks missing codes and dates, and is read again", {
  folder <- folder_with(
    list(
      t.csv = c(
        "Weight (lb),when,t,born,score,note,id", "10,11/03/2026,08:30,03.11.2026,3,x,001",
        "12,10/04/2026,09:15,04.11.2026,999,n.d.,002",
        "11,01/02/2026,17:00,05.11.2026,4,y,003", "13,02/02/2026,18:00,06.11.2026,999,z,004",
        "9,02/02/2026,18:30,07.11.2026,5,z,005"
      )
    )
  )
  path <- file.path(folder, "t.csv")
  lines <- suppressMessages(draft_codebook(path))
  expect_true(
    all(
      c("    title: Weight", "    unit: lb", "    # format: \"%d/%m/%Y\"  # or \"%m/%d/%Y\"") %in%
        lines
    )
  )
  expect_match(lines, "score: likely missing values: \"999\"", all = FALSE)
  expect_match(lines, "note: likely missing values: \"n.d.\"", all = FALSE)
  writeLines(lines, file.path(folder, "b.yaml"))
  book <- suppressMessages(
    suppressWarnings(read_data(path, codebook = file.path(folder, "b.yaml")))
  )
  expect_identical(book$data$born, as.Date("2026-11-03") + 0:4)
  scene <- as_scene(plate(panel(book, x = t, y = score, ink_points()), width = 90, height = 60))
  expect_match(scene$axes[[scene$panels$x_axis]]$text, "^[0-9]{2}:[0-9]{2}$")
  expect_identical(book$columns[["Weight (lb)"]]$unit, "lb")
})

test_that("columns made one keep their class, their unit and their names apart", {
  dates <- data.frame(
    s = c("a", "b"),
    d_1 = as.Date(c("2026-03-01", "2026-03-02")),
    d_2 = as.Date(c("2026-03-05", NA))
  )
  long <- long_data(dates, starts_with("d_"))
  expect_identical(as.Date(long$data$value), c(dates$d_1, dates$d_2))
  expect_identical(long$columns$value$kind, "moment")
  levels <- data.frame(d_1 = factor(c("x", "y")), d_2 = factor(c("y", "z")))
  expect_identical(
    as.character(long_data(levels, starts_with("d_"))$data$value),
    c("x", "y", "y", "z")
  )
  weights <- data.frame(w_1 = c(1, 2), w_2 = c(1000, 2000))
  same <- codebook(weights, w_1 = quantity(unit = "g"), w_2 = quantity(unit = "g"))
  unlike <- codebook(weights, w_1 = quantity(unit = "g"), w_2 = quantity(unit = "mg"))
  expect_identical(long_data(same, starts_with("w"))$columns$value$unit, "g")
  expect_error(
    long_data(unlike, starts_with("w")),
    "\"w_1\" is in \"g\", \"w_2\" in \"mg\"",
    class = "nelvat_error_unit"
  )
  expect_error(
    long_data(same, starts_with("w"), day = ordinal(), m = quantity(unit = "kg")),
    "show = \"kg\"",
    class = "nelvat_error_unit"
  )
  twice <- data.frame(day_1 = 1, `1` = 2, check.names = FALSE)
  expect_error(
    long_data(twice, everything(), prefix = "day_"),
    "\"day_1\" and \"1\"|\"day_1\", \"1\"",
    class = "nelvat_error_argument"
  )
})

test_that("a missing key is nobody's partner; whole numbers are the same however they are kept", {
  mine <- data.frame(id = c(100000, 2, NA), k = 1:3)
  join <- function(other) suppressWarnings(join_data(mine, other))$data$z
  expect_identical(
    join(data.frame(id = c(100000L, 2L, NA), z = c("p", "q", "never"))),
    c("p", "q", NA)
  )
  expect_identical(
    join(data.frame(id = c(100000L, NA, NA), z = c("p", "never", "never"))),
    c("p", NA, NA)
  )
  text <- suppressWarnings(
    join_data(
      data.frame(id = c("x", NA), k = 1:2),
      data.frame(id = c("x", "NA"), z = c("p", "never"))
    )
  )
  expect_identical(text$data$z, c("p", NA))
})

test_that("files of one name in two folders are two; a word that only begins as a month is none", {
  folder <- withr::local_tempdir()
  for (run in c("first", "second")) {
    dir.create(file.path(folder, run))
    writeLines(c("v", if (run == "first") 1:2 else 3:4), file.path(folder, run, "plate.csv"))
  }
  both <- suppressMessages(read_data(files = file.path(folder, c("first", "second"), "plate.csv")))
  expect_identical(as.vector(table(both$data$file)), c(2L, 2L))
  path <- file.path(folder, "dates.csv")
  writeLines(c("when,what", "3 March 2026,3 Marble 2026", "14 Sept 2026,14 Sepia 2026"), path)
  read <- suppressMessages(read_data(path))
  expect_identical(as.Date(read$data$when), as.Date(c("2026-03-03", "2026-09-14")))
  expect_identical(read$data$what, c("3 Marble 2026", "14 Sepia 2026"))
})

test_that("a channel without any level is told, whatever shows it", {
  none <- data.frame(x = 1:4, y = 1:4, f = c("a", "b"), k = NA_character_)
  told <- function(code) {
    expect_error(code, "All values of \"k\" are missing", class = "nelvat_error_data")
  }
  told(panel(none, x = x, y = y, colour = k, ink_points()))
  told(panel(none, x = x, y = y, shape = k, ink_points()))
  told(panel(none, x = x, y = y, dash = k, ink_line()))
  told(panel(none, x = x, y = y, ink_points(colour = k)))
  told(marginals(panel(none, x = f, y = y, ink_dots()), x = ink_strip(colour = k)))
})

test_that("one quantity alone is parted by levels too, never by numbers", {
  table <- data.frame(v = 1:6, w = c(0.1, 0.2, 0.2, 0.3, 0.5, 0.1), g = c("a", "b"))
  for (ink in list(ink_box(), ink_dots(), ink_swarm(), ink_violin(), ink_centre(), ink_bars())) {
    expect_error(panel(table, x = v, ink, colour = w), class = "nelvat_error")
  }
})
