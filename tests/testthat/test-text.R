font <- nelvat:::house_font("DejaVu Sans")

test_that("markup becomes runs, escapes and unclosed marks stay as they are", {
  runs <- nelvat:::markup_runs("*Candida milleri* x^2^ H~2~O **b** 2\\*3 a*b")
  expect_identical(runs$string, c("Candida milleri", " x", "2", " H", "2", "O ", "b", " 2*3 a*b"))
  expect_identical(runs$italic, c(TRUE, rep(FALSE, 7)))
  expect_identical(runs$script, c(0L, 0L, 1L, 0L, -1L, 0L, 0L, 0L))
  expect_identical(runs$bold, c(rep(FALSE, 6), TRUE, FALSE))
  expect_identical(
    nelvat:::plain_text(c("mm^2^", "5 ^ 3 ^ 2", "", "**", "a ~b c~")),
    c("mm\u00b2", "5 ^ 3 ^ 2", "", "**", "a ~b c~")
  )
})

test_that("lines break at spaces, hyphens, slashes, into the fewest, as narrow as can be", {
  lines <- function(text, most_mm, most_lines) {
    laid <- nelvat:::set_text(text, 7, font, most_mm, most_lines)
    vapply(split(laid$runs$string, laid$runs$line), paste, "", collapse = "")
  }
  expect_identical(unname(lines("aa bb cc dd", 9, 4L)), c("aa bb", "cc dd"))
  expect_identical(unname(lines("Stone-ground emmer", 13, 4L)), c("Stone-", "ground", "emmer"))
  expect_identical(unname(lines("mmol/kilogram", 9, 2L))[1], "mmol/")
})

test_that("words are kept whole, in order, whatever the width", {
  set.seed(5)
  for (i in 1:40) {
    words <- vapply(
      sample(1:9, sample(1:8, 1), TRUE),
      function(n) paste(sample(letters, n, TRUE), collapse = ""),
      ""
    )
    text <- paste(words, collapse = " ")
    laid <- nelvat:::set_text(text, 7, font, runif(1, 3, 40), sample(2:4, 1))
    by_line <- vapply(split(laid$runs$string, laid$runs$line), paste, "", collapse = "")
    expect_identical(paste(by_line, collapse = " "), text)
    if (laid$fits) {
      expect_identical(
        nelvat:::set_text(text, 7, font, max(laid$widths_mm), 4L)$n_lines,
        laid$n_lines
      )
    }
  }
})

test_that("a broken word keeps its letters and fits", {
  measured <- nelvat:::measure_words("Fructilactobacillus", font)
  laid <- nelvat:::set_lines(measured, 7, font, 9, 4L, break_words = TRUE)
  expect_identical(gsub("-", "", paste(laid$runs$string, collapse = "")), "Fructilactobacillus")
  expect_true(all(laid$widths_mm <= 9))
})

test_that("widths grow with size, and a super- or subscript is narrower than its letters", {
  at <- function(size) nelvat:::set_text("Volume (mL)", size, font)$widths_mm
  expect_equal(at(14), 2 * at(7))
  expect_lt(
    nelvat:::set_text("x^22^", 7, font)$widths_mm,
    nelvat:::set_text("x22", 7, font)$widths_mm
  )
})

fit <- function(texts, length_mm, direction = "x", may_thin = FALSE, from = 1L, depth = 30) {
  n <- length(texts)
  at <- (seq_len(n) - 0.5) / n * length_mm
  nelvat:::fit_tick_text(
    direction,
    at,
    length_mm,
    lapply(texts, nelvat:::measure_words, font),
    may_thin,
    nelvat:::allowed_treatments(from),
    list(base = 7, least = 5.5, font = font),
    depth
  )
}
treatment <- function(...) nelvat:::tick_treatments[fit(...)$treatment]

test_that("tick text takes the cheapest treatment that keeps texts apart", {
  expect_identical(treatment(c("Wheat", "Rye"), 40), "as is")
  expect_identical(treatment(c("Wheat flour", "Rye flour", "Spelt flour"), 34), "two lines")
  expect_identical(treatment(as.character(seq(1000, 9000, 1000)), 50, may_thin = TRUE), "thinned")
  expect_identical(treatment(month.name, 70), "tilted")
  expect_identical(treatment(month.name, 46), "upright")
  expect_null(fit(month.name, 12))
})

test_that("names are never dropped, and treatments only move down the list", {
  for (length_mm in c(300, 100, 70, 46, 38)) {
    got <- fit(month.name, length_mm)
    expect_length(got$kept, 12)
  }
  expect_identical(fit(c("a", "b"), 80, from = 7L)$treatment, 7L)
})

test_that("a fit's texts do not touch: their reach is within the distance of their places", {
  set.seed(8)
  for (i in 1:60) {
    n <- sample(2:14, 1)
    texts <- vapply(
      seq_len(n),
      function(j) {
        paste(
          replicate(sample(1:3, 1), paste(sample(letters, sample(2:9, 1), TRUE), collapse = "")),
          collapse = " "
        )
      },
      ""
    )
    length_mm <- runif(1, 20, 160)
    got <- fit(texts, length_mm)
    if (is.null(got) || got$angle != 0) next
    at <- (seq_len(n) - 0.5) / n * length_mm
    half <- nelvat:::widest_mm(got$laid) / 2
    expect_true(all(diff(at) >= half[-n] + half[-1] + nelvat:::text_clearance_mm - 1e-6))
  }
})

test_that("text of joined, right-to-left and combining scripts is as wide as it is drawn", {
  needs_poppler()
  names <- c("\u0642\u0645\u062d", "\u05e9\u05d9\u05e4\u05d5\u05df", "e\u0301pe\u0301")
  family <- nelvat:::house_font(house("plain")$families)$family
  skip_if(
    length(nelvat:::lacking_glyphs(names, family)) > 0,
    "no font has Arabic and Hebrew (Debian: fonts-dejavu)"
  )
  path <- file.path(withr::local_tempdir(), "a.pdf")
  fig <- plate(
    panel(data.frame(a = factor(names, names), b = 1:3), x = a, y = b, ink_bars()),
    width = 86,
    height = 60
  )
  suppressMessages(save_plate(fig, path))
  texts <- as_scene(fig)$texts
  boxes <- texts[match(names, texts$string), ]
  words <- read_pdf_words(path)$words
  below <- words[words$y0 > min(boxes$y0) - 2 & !words$word %in% c("A", "0"), ]
  for (i in 1:3) {
    of <- which(abs((below$x0 + below$x1) / 2 - (boxes$x0[i] + boxes$x1[i]) / 2) < 8)
    expect_equal(
      c(min(below$x0[of]), max(below$x1[of])),
      c(boxes$x0[i], boxes$x1[i]),
      tolerance = 0.01
    )
  }
})

test_that("ideographs wrap, and not before what closes", {
  laid <- nelvat:::text_words("\u6e29\u5ea6\u3002\u300c\u767a\u9175\u300d 25-34", FALSE)
  expect_identical(
    laid$string,
    c("\u6e29", "\u5ea6\u3002", "\u300c\u767a", "\u9175\u300d", "25-", "34")
  )
  expect_identical(laid$unit, c(1L, 2L, 3L, 4L, 5L, 5L))
})

test_that("a character that no font has is said, and is a fault of the figure", {
  fig <- plate(
    panel(data.frame(a = c("w", "\U00010600"), b = 1:2), x = a, y = b, ink_bars()),
    width = 86,
    height = 60
  )
  forget <- nelvat:::forget_said
  forget()
  expect_message(as_scene(fig), "No font has")
  found <- proof(fig)
  expect_identical(found$verdict[found$rule == "characters in the font"], "bad")
  expect_match(found$mend[found$rule == "characters in the font"], "Noto Sans")
})

test_that("a script can have a font of its own, and its words are cut, measured and drawn in it", {
  needs_poppler()
  skip_if_not(
    nelvat:::family_installed("DejaVu Sans") && nelvat:::family_installed("Liberation Sans")
  )
  own <- house(families = list(Latin = "Liberation Sans", Greek = "DejaVu Sans"))
  expect_identical(
    house(own, families = list(Cyrillic = "DejaVu Sans"))$families$Greek,
    "DejaVu Sans"
  )
  expect_identical(
    names(house(families = list(Greek = "DejaVu Sans"))$families),
    c("Latin", "Greek")
  )
  font <- nelvat:::house_font(own$families)
  cut <- nelvat:::script_pieces("pH \u03b1\u03b2-2 mm, (\u03b3)", font)
  expect_identical(cut, c("pH ", "\u03b1\u03b2-2 ", "mm, (", "\u03b3)"))
  names <- c("rye", "\u03c3\u03af\u03ba\u03b1\u03bb\u03b7", "spelt \u03bc")
  fig <- plate(
    panel(data.frame(a = factor(names, names), b = 1:3), x = a, y = b, ink_bars()),
    width = 86,
    height = 60,
    house = own
  )
  runs <- as_scene(fig)$runs
  expect_identical(
    runs$family[match(c("rye", names[2], "spelt", "\u03bc"), trimws(runs$string))],
    c("Liberation Sans", "DejaVu Sans", "Liberation Sans", "DejaVu Sans")
  )
  path <- file.path(withr::local_tempdir(), "a.pdf")
  save_plate(fig, path)
  fonts <- system2("pdffonts", path, stdout = TRUE)
  expect_true(any(grepl("Liberation", fonts)) && any(grepl("DejaVu", fonts)))
  words <- read_pdf_words(path)$words
  greek <- words[words$word == "\u03c3\u03af\u03ba\u03b1\u03bb\u03b7", ]
  run <- runs[runs$string == names[2], ]
  expect_equal(c(greek$x0, greek$x1), run$x + c(0, run$width_mm), tolerance = 0.01)
  expect_error(house(families = list(Klingonese = "DejaVu Sans")), class = "nelvat_error_house")
  expect_error(house(families = list(Greek = 3)), "names|text", class = "nelvat_error_house")
  expect_message(
    as_scene(change(fig, house = house(families = list(Thai = "Nonesuch Thai")))),
    "No font for Thai"
  )
})

test_that("texts are measured alike in a locale without their letters, without a word", {
  names <- c("\u03bc", "<U+03BC>", "\u00e9", "rye \u03bc")
  here <- nelvat:::measure_texts(names, nelvat:::house_font("DejaVu Sans"))
  before <- Sys.getlocale("LC_CTYPE")
  withr::defer(Sys.setlocale("LC_CTYPE", before))
  suppressWarnings(Sys.setlocale("LC_CTYPE", "C"))
  there <- nelvat:::house_font("DejaVu Sans")
  there$known <- new.env()
  expect_no_warning(found <- nelvat:::measure_texts(names, there))
  width <- function(measured) vapply(measured, function(one) sum(one$unit_width), 0)
  expect_equal(width(found), width(here))
})

test_that("writing without spaces breaks at words, as Unicode has it", {
  words <- function(text) nelvat:::text_words(text, FALSE)
  bread <- "\u0e02\u0e19\u0e21\u0e1b\u0e31\u0e07"
  america <- "\u0e2a\u0e2b\u0e23\u0e31\u0e10\u0e2d\u0e40\u0e21\u0e23\u0e34\u0e01\u0e32"
  thai <- words(paste0(bread, america))
  expect_identical(thai$string, c(bread, america))
  expect_identical(thai$unit, 1:2)
  expect_false(any(thai$space))
  # Not before what closes, nor after what opens.
  rye <- words("\u9ea6\uff08\u5168\u7c92\uff09\u3002 rye-bread")
  expect_identical(
    rye$string,
    c("\u9ea6", "\uff08\u5168", "\u7c92\uff09\u3002", "rye-", "bread")
  )
  expect_identical(rye$space, c(FALSE, FALSE, TRUE, FALSE, FALSE))
})

test_that("long words are parted at soft hyphens, else with three letters on each side", {
  font <- house_font("Arial")
  parts <- function(word, mm) {
    measured <- nelvat:::measure_words(word, font)
    set <- nelvat:::set_lines(measured, 7, font, mm, 20L, break_words = TRUE)
    set$runs$string
  }
  expect_identical(parts("Counter\u00adrevolutionaries", 20), c("Counter-", "revolutionaries"))
  expect_identical(parts("Counter\u00adrevolutionaries", 60), "Counterrevolutionaries")
  for (mm in c(2, 4, 7, 12)) {
    pieces <- sub("-$", "", parts("Immunohistochemistry", mm))
    expect_identical(paste(pieces, collapse = ""), "Immunohistochemistry")
    expect_gte(min(nchar(pieces)), 3)
  }
  # Tilted or upright before it is cut.
  table <- data.frame(
    g = c("Immunohistochemistry", "Counterrevolutionaries", "Electroencephalography"),
    v = 1:3
  )
  scene <- as_scene(plate(panel(table, x = g, y = v, ink_bars()), width = 40, height = 60))
  expect_true(all(table$g %in% scene$texts$string[scene$texts$role == "tick"]))
})
