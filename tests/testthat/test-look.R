skip_if_not_installed("httpuv")
skip_if_not_installed("callr")

# Rounds of the server until something holds.
until <- function(look, holds, seconds = 60) {
  end <- Sys.time() + seconds
  while (!holds() && Sys.time() < end) nelvat:::serve_look(look$state, 1)
  expect_true(holds())
}
# A request as the server gets it.
answer <- function(look, what, ..., query = "") {
  request <- list(
    REQUEST_METHOD = "GET",
    PATH_INFO = paste0("/", look$state$token, "/", what),
    QUERY_STRING = query,
    HTTP_HOST = paste0("127.0.0.1:", look$state$port)
  )
  given <- list(...)
  request[names(given)] <- given
  nelvat:::look_answer(look$state, request)
}
query_of <- function(path, ...) {
  paste0("path=", utils::URLencode(path, reserved = TRUE), "&which=1&width=", ...)
}
figure_at <- function(look, path) {
  jsonlite::fromJSON(answer(look, "figure", query = query_of(path))$body, simplifyVector = FALSE)
}

test_that("a figure file is drawn again when it changes, and its error is shown with its line", {
  folder <- paper_folder()
  path <- normalizePath(file.path(folder, "figure-1.yaml"), "/")
  look <- looking_at(path)
  shown <- function() look$state$shown[[paste0(path, "#1#")]]
  until(look, function() identical(shown()$detail, shown()$version) && !is.null(shown()))
  expect_true(shown()$ok)
  picture <- answer(look, "picture", query = query_of(path))
  expect_identical(rawToChar(picture$body[2:4]), "PNG")
  found <- figure_at(look, path)
  plate <- read_figure(path)$plate
  expect_equal(found$width_mm, plate$width_mm)
  expect_identical(found$legend$full, legend_text(plate, "html"))
  expect_identical(found$alt, alt_text(plate))

  good <- readLines(path)
  before <- shown()$version
  writeLines(sub("x: flour", "x: flur", good), path)
  until(look, function() shown()$version > before)
  broken <- figure_at(look, path)
  expect_false(broken$ok)
  expect_match(broken$message, "\"flur\"")
  expect_identical(broken$line, grep("x: flour", good)[1])
  here <- Filter(function(one) one$n == broken$line, broken$about)[[1]]
  expect_match(here$text, "x: flur")
  # The last good picture stays.
  expect_identical(answer(look, "picture", query = query_of(path))$body, picture$body)

  before <- shown()$version
  writeLines(sub("hydration", "bakery", good), path)
  until(look, function() shown()$version > before && isTRUE(shown()$ok))
  expect_false(identical(answer(look, "picture", query = query_of(path))$body, picture$body))
  # Data that are read are watched, too.
  until(look, function() identical(shown()$detail, shown()$version))
  before <- shown()$version
  data <- file.path(folder, "loaves.csv")
  writeLines(readLines(data)[1:100], data)
  until(look, function() shown()$version > before)
})

test_that("each mark says the numbers of its own finding", {
  loaves <- study("loaves")
  fig <- plate(
    panel(loaves, x = flour, y = rise, colour = hydration, ink_bars(error = "sd")),
    panel(loaves, x = rise, y = volume, ink_points()),
    width = "double",
    height = 70
  )
  look <- looking_at(fig)
  hits <- look$state$shown[["figure#1#"]]$hits
  marks <- Filter(function(hit) hit$kind == "mark" && grepl("^Bars", hit$title), hits)
  expect_true(all(lengths(lapply(marks, `[[`, "lines")) > 0))
  means <- stats::aggregate(
    rise ~ flour + hydration,
    loaves$data,
    function(v) c(mean(v), length(v))
  )
  scene <- as_scene(fig)
  box <- scene$panels[1, ]
  axis <- scene$axes[[box$y_axis]]
  kind <- loaves$columns$flour
  told <- vapply(marks, function(hit) hit$lines[[1]], "")
  for (i in seq_len(nrow(means))) {
    name <- kind$level_names[match(means$flour[i], kind$levels)]
    own <- Filter(
      function(hit) {
        hit$lines[[1]] == paste("Flour:", name) &&
          hit$lines[[2]] == paste("Starter hydration (%):", means$hydration[i])
      },
      marks
    )
    expect_true(
      all(vapply(own, function(hit) hit$lines[[3]] == paste("n =", means$rise[i, 2]), NA))
    )
    # Its top is where its mean is.
    top <- box$y + box$h * (1 - (means$rise[i, 1] - axis$range[1]) / diff(axis$range))
    expect_lt(min(abs(vapply(own, `[[`, 0, "y") - top)), 0.01)
  }
  points <- Filter(function(hit) hit$kind == "mark" && grepl("^Points", hit$title), hits)
  known <- lengths(lapply(points, `[[`, "lines")) > 0
  expect_gt(mean(known), 0.9)
  rows <- paste0("Loaf rise (mm): ", loaves$data$rise, "/Volume (mL): ", loaves$data$volume)
  said <- vapply(points[known], function(hit) paste(unlist(hit$lines)[1:2], collapse = "/"), "")
  expect_true(all(said %in% rows))
})

test_that("what is pointed at names its words and the place in the file", {
  folder <- paper_folder()
  path <- normalizePath(file.path(folder, "figure-2.yaml"), "/")
  nelvat:::look_picture(path)
  hits <- nelvat:::look_details()$hits
  lines <- readLines(path)
  panels <- Filter(function(hit) hit$kind == "panel", hits)
  said <- unlist(lapply(panels, `[[`, "lines"))
  expect_true(
    paste0("In figure-2.yaml, line ", grep("^  pair:", lines), ": block pair") %in% said
  )
  axis <- Filter(function(hit) hit$kind == "axis", hits)[[1]]
  expect_true(any(grepl("^`range` of `axis_of`", unlist(axis$lines))))
})

test_that("words are told with their values now", {
  fig <- plate(
    panel(
      study("loaves"),
      x = flour,
      y = rise,
      y_axis = axis_of(range = c(0, 90), breaks = c(0, 30, 60), grid = TRUE),
      ink_bars()
    ),
    width = 86,
    title = "Rise"
  )
  resolved <- nelvat:::resolve_plate(fig)
  scene <- nelvat:::whole_scene(resolved, fig)
  words <- c(nelvat:::plate_words(fig), list(axis = nelvat:::axis_words))
  hits <- nelvat:::page_hits(scene, resolved, words)
  of <- function(title) {
    hit <- Find(function(hit) grepl(title, hit$title), hits)
    sub(":.*", "", grep("now ", unlist(hit$lines), value = TRUE))
  }
  upright <- of("^y axis")
  expect_true("`range` of `axis_of`, now 0 to 90" %in% upright)
  expect_true("`breaks` of `axis_of`, now 0, 30 and 60" %in% upright)
  expect_true("`grid` of `axis_of`, now yes" %in% upright)
  expect_true("`grid` of `axis_of`, now no" %in% of("^x axis"))
  expect_true("`title` of `plate`, now \"Rise\"" %in% of("^Title"))
})

test_that("a plate prints in an editor's viewer, at its size, with its words", {
  seen <- NULL
  withr::local_options(rlang_interactive = TRUE, viewer = function(url, ...) seen <<- url)
  print(plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 86))
  page <- paste(readLines(seen), collapse = "\n")
  expect_match(page, "width:86mm")
  expect_match(page, "alt=\"[^\"]*rise")
})

test_that("only a page of its own, on this machine, is answered", {
  look <- looking_at(plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 86))
  status <- function(...) answer(look, "state", ...)$status
  expect_identical(status(), 200L)
  expect_identical(status(HTTP_HOST = "evil.example:80"), 403L)
  expect_identical(status(HTTP_HOST = NULL), 403L)
  expect_identical(status(HTTP_ORIGIN = "http://evil.example"), 403L)
  expect_identical(status(HTTP_SEC_FETCH_SITE = "cross-site"), 403L)
  expect_identical(status(REQUEST_METHOD = "POST"), 403L)
  expect_identical(status(PATH_INFO = "/state"), 403L)
  expect_identical(status(PATH_INFO = paste0("/", strrep("0", 32), "/state")), 403L)
  expect_identical(status(HTTP_ORIGIN = paste0("http://127.0.0.1:", look$state$port)), 200L)
  page <- answer(look, "")
  expect_match(page$headers[["Content-Security-Policy"]], "default-src 'none'")
  expect_false(grepl("https?://", gsub("http://www.w3.org", "", page$body)))
  expect_identical(answer(look, "../../etc/passwd")$status, 404L)
  expect_identical(answer(look, "picture", query = "path=/etc/passwd")$status, 404L)
  expect_identical(answer(look, "figure", query = "path=%ff%fe&which=x&width=..")$status, 404L)
  # Every address has a token of its own.
  other <- looking_at(plate(panel(study("loaves"), x = flour, ink_bars()), width = 86))
  expect_false(other$state$token == look$state$token)
  expect_match(look$state$token, "^[0-9a-f]{32}$")
})

test_that("the server answers over the loopback, on the next free port, and ends", {
  look <- looking_at(plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 86))
  ask <- callr::r_bg(
    function(address) {
      connection <- url(address, open = "r")
      on.exit(close(connection))
      readLines(connection, warn = FALSE)
    },
    list(paste0(look$address, "state?path=figure"))
  )
  while (ask$is_alive()) nelvat:::serve_look(look$state, 1)
  state <- jsonlite::fromJSON(paste(ask$get_result(), collapse = ""))
  expect_identical(state$version, 1L)
  second <- looking_at(plate(panel(study("loaves"), x = flour, ink_bars()), width = 86))
  expect_gt(second$state$port, look$state$port)
  expect_error(
    nelvat:::new_looking(study_file("responses.yaml"), look$state$port, NULL),
    "is in use",
    class = "nelvat_error_argument"
  )
  stop_looking(look)
  expect_output(print(look), "not served any more")
})

test_that("what cannot be looked at is told", {
  expect_error(look_at("nowhere.yaml", open = FALSE), class = "nelvat_error_file")
  expect_error(look_at(withr::local_tempdir(), open = FALSE), class = "nelvat_error_file")
  expect_error(look_at(1, open = FALSE), class = "nelvat_error_argument")
  expect_error(stop_looking(1), class = "nelvat_error_argument")
})

one_figure <- c(
  "nelvat: 1",
  "data: {a: a.csv}",
  "blocks: {v: {panel: {data: a, x: v, ink: histogram}}}",
  "plate: {place: v, width: 60, height: 50}",
  "save: one.pdf"
)
folder_of_one <- function(envir = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = envir)
  write.csv(data.frame(v = 1:9), file.path(folder, "a.csv"), row.names = FALSE)
  writeLines(one_figure, file.path(folder, "one.yaml"))
  folder
}

test_that("the picture has the dots that the page shows it at, the most where several ask", {
  folder <- folder_of_one()
  look <- looking_at(folder)
  path <- look$state$paths[1]
  ask <- function(dots) {
    query <- paste0(query_of(path), "&dots=", dots)
    jsonlite::fromJSON(answer(look, "state", query = query)$body)
  }
  high <- function() dim(png::readPNG(answer(look, "picture", query = query_of(path))$body))[1]
  drawn <- function() is.null(look$state$job) && !is.null(look$state$still)
  until(look, drawn)
  expect_identical(high(), 334L)
  before <- ask(300)$version
  until(look, function() ask(110)$version > before && drawn())
  expect_identical(high(), 590L)
  # Nothing is drawn again for less, nor for what is no number.
  known <- ask(110)$version
  for (odd in c("", "-5", "x", "1e9", "99999")) expect_identical(ask(odd)$version, known)
  nelvat:::serve_look(look$state, 5)
  expect_identical(ask(110)$version, known)
  look$state$dots_at <- 0
  ask(110)
  writeLines(sub("height: 50", "height: 40", one_figure), path)
  until(look, function() ask(110)$version > known && drawn())
  expect_identical(high(), 173L)
  # No more and no less than a screen can have.
  expect_gt(ask(9999)$version, 0)
  until(look, function() ask(9999)$version > known + 1 && drawn())
  expect_identical(high(), 708L)
})

test_that("the list of figures is sent where it is another, and follows its folder", {
  folder <- folder_of_one()
  writeLines("type_size: 8", file.path(folder, "no-figure.yaml"))
  look <- looking_at(folder)
  state <- function(listing = "") {
    query <- paste0(query_of(look$state$paths[1]), "&listing=", listing)
    jsonlite::fromJSON(answer(look, "state", query = query)$body)
  }
  done <- function() is.null(look$state$job) && !is.null(look$state$still)
  until(look, done)
  expect_identical(state()$figures$name, "one")
  expect_true(nzchar(state()$figures$verdict))
  expect_null(state(state()$listing)$figures)
  known <- state()$listing
  writeLines(sub("one.pdf", "two.pdf", one_figure), file.path(folder, "two.yaml"))
  writeLines(sub("x: v", "x: w", one_figure), file.path(folder, "three.yaml"))
  until(look, function() state()$listing > known && done())
  expect_setequal(state(known)$figures$name, c("one", "two", "three"))
  found <- state(known)$figures
  expect_identical(found$verdict[found$name == "three"], "error")
  known <- state()$listing
  unlink(file.path(folder, "two.yaml"))
  until(look, function() state()$listing > known && done())
  expect_setequal(state(known)$figures$name, c("one", "three"))
  # Nothing is gone through while nothing changes.
  with_replaced(first_to_draw = function(...) stop("gone through"), {
    for (i in 1:3) expect_null(nelvat:::next_to_draw(look$state))
  })
})

test_that("tables are read again only when their files are others", {
  folder <- withr::local_tempdir()
  data <- file.path(folder, "a.csv")
  path <- file.path(folder, "one.yaml")
  write <- function(values) utils::write.csv(data.frame(v = values), data, row.names = FALSE)
  write(c(1, 2, 3, 4))
  writeLines(
    c(
      "nelvat: 1",
      "data: {a: a.csv}",
      "blocks: {v: {panel: {data: a, x: v, ink: histogram}}}",
      "plate: {place: v, width: 60, height: 50}",
      "save: one.pdf"
    ),
    path
  )
  read <- 0
  real <- nelvat:::read_data
  counting <- function(...) {
    read <<- read + 1
    real(...)
  }
  with_replaced(read_data = counting, {
    first <- nelvat:::look_picture(path)
    again <- nelvat:::look_picture(path)
    expect_identical(read, 1)
    expect_identical(again$png, first$png)
    expect_setequal(unlist(again$inputs), unlist(first$inputs))
    write(c(1, 2, 3, 9))
    expect_false(identical(nelvat:::look_picture(path)$png, first$png))
    expect_identical(read, 2)
  })
  # Elsewhere nothing is kept.
  with_replaced(read_data = counting, {
    read_figure(path)
    read_figure(path)
  })
  expect_identical(read, 4)
})

test_that("only blocks that changed are resolved again, and the picture is what it would be", {
  folder <- paper_folder()
  path <- file.path(folder, "figure-4.yaml")
  resolved <- 0
  real <- nelvat:::resolved_block
  counting <- function(...) {
    resolved <<- resolved + 1
    real(...)
  }
  with_replaced(resolved_block = counting, {
    first <- nelvat:::look_picture(path)
    expect_identical(resolved, 2)
    expect_identical(nelvat:::look_picture(path)$png, first$png)
    resolved <- 2
    expect_identical(nelvat:::look_picture(path)$png, first$png)
    expect_identical(resolved, 2)
    writeLines(sub("band: se", "band: sd", readLines(path)), path)
    changed <- nelvat:::look_picture(path)
    expect_identical(resolved, 3)
  })
  expect_false(identical(changed$png, first$png))
  withr::local_options(warn = -1)
  scene <- as_scene(read_figure(path)$plate)
  expect_identical(changed$png, nelvat:::png_bytes(scene, 170))
  # A house or a unit that is another is seen by every block that it is in.
  house <- file.path(folder, "nelvat.yaml")
  writeLines(sub("base: 6.5", "base: 7", readLines(house)), house)
  expect_false(identical(nelvat:::look_picture(path)$png, changed$png))
  book <- file.path(folder, "cultures.codebook.yaml")
  writeLines(sub("unit: h", "unit: min", readLines(book)), book)
  other <- nelvat:::look_picture(path)
  expect_identical(other$png, nelvat:::png_bytes(as_scene(read_figure(path)$plate), 170))
})

test_that("a table that stays in a database is asked anew at each drawing", {
  skip_if_not_installed("RSQLite")
  folder <- withr::local_tempdir()
  file <- file.path(folder, "a.sqlite")
  write <- function(values) {
    connection <- DBI::dbConnect(RSQLite::SQLite(), file)
    on.exit(DBI::dbDisconnect(connection))
    DBI::dbWriteTable(connection, "a", data.frame(v = values), overwrite = TRUE)
  }
  write(c(1, 2, 3, 4))
  path <- file.path(folder, "one.yaml")
  writeLines(
    c(
      "nelvat: 1",
      "data: {a: {database: sqlite, file: a.sqlite, table: a}}",
      "blocks: {v: {panel: {data: a, x: v, ink: histogram}}}",
      "plate: {place: v, width: 60, height: 50}",
      "save: one.pdf"
    ),
    path
  )
  first <- nelvat:::look_picture(path)
  expect_true(first$ok)
  write(c(1, 2, 2, 4))
  expect_false(identical(nelvat:::look_picture(path)$png, first$png))
})

test_that("a picture of kept steps is, to the pixel, what it is without", {
  # An environment that the package keeps; it is switched on for these figures alone.
  kept_work <- nelvat:::kept_work
  withr::defer(assign("steps", FALSE, kept_work))
  pixels <- function(make, steps) {
    assign("steps", steps, kept_work)
    scene <- suppressMessages(suppressWarnings(as_scene(make())))
    png::readPNG(nelvat:::png_bytes(scene, 70))
  }
  zoomed <- function() {
    whole <- panel(study("pores"), x = area, y = roundness, ink_points())
    plate(beside(whole = whole, part = zoom("whole", x = c(1, 2), y = c(0.5, 0.7))), width = 120)
  }
  random <- lapply(tries(12, 5), function(seed) function() random_figure(seed))
  for (make in c(random, zoomed)) {
    expected <- tryCatch(pixels(make, FALSE), nelvat_error = function(error) NULL)
    if (is.null(expected)) next
    # What was kept by the first is taken by the second.
    for (turn in 1:2) expect_identical(pixels(make, TRUE), expected)
  }
})
