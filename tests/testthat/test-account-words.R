loaves <- study("loaves")
two <- plate(
  panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()),
  panel(loaves, x = flour, y = volume, ink_box(), ink_contrasts()),
  panel(loaves, x = volume, y = rise, ink_points(), ink_fit()),
  width = 178
)

test_that("what letters share is said once, of those that share it", {
  text <- legend_text(two)
  expect_identical(lengths(regmatches(text, gregexpr("interquartile", text))), 1L)
  expect_match(text, "a and b, boxes, median")
  expect_match(text, "c, Loaf rise \\(mm\\) against volume")
  same <- plate(
    panel(loaves, x = flour, y = rise, ink_bars()),
    panel(loaves, x = hydration, y = rise, ink_bars()),
    width = 178
  )
  expect_match(
    legend_text(same),
    "b, Loaf rise \\(mm\\) by Starter hydration \\(%\\) \\(n = 48 loaves a bar\\)\\. Bars, mean"
  )
})

test_that("rows have a noun where the codebook gives one, in files too", {
  table <- data.frame(g = c("a", "a", "b"), v = 1:3)
  said <- function(...) {
    legend_text(plate(panel(codebook(table, ...), x = g, y = v, ink_bars()), width = 86))
  }
  expect_match(said(rows = "mouse"), "n = 1 to 2 mice a bar")
  expect_match(said(rows = c("ox", "oxen")), "n = 1 to 2 oxen a bar")
  expect_match(said(), "n = 1 to 2 a bar")
  expect_error(said(rows = 3), class = "nelvat_error_argument")
  # A column may be called so.
  expect_s3_class(codebook(data.frame(rows = 1:2), rows = quantity("Rows")), "nelvat_codebook")
  path <- withr::local_tempfile(fileext = ".yaml")
  write_codebook(codebook(table, rows = "loaf"), path)
  book <- read_data(
    {
      csv <- withr::local_tempfile(fileext = ".csv")
      utils::write.csv(table, csv, row.names = FALSE)
      csv
    },
    path
  )
  expect_match(
    legend_text(plate(panel(book, x = g, y = v, ink_dots()), width = 86)),
    "single loaves"
  )
})

test_that("plurals follow rule, but for nouns that do not", {
  expect_identical(
    vapply(c("loaf", "taster", "study", "box", "dish", "cell line", "day"), nelvat:::plural_of, ""),
    c(
      loaf = "loaves",
      taster = "tasters",
      study = "studies",
      box = "boxes",
      dish = "dishes",
      `cell line` = "cell lines",
      day = "days"
    )
  )
})

test_that("a checklist has every n, test, side, adjustment, exact p and the software", {
  text <- legend_text(two, length = "checklist")
  expect_match(text, "n of each: Wheat 36; Spelt 36; Rye 36")
  expect_match(text, "test: welch, two-sided; adjustment: holm")
  table <- contrast_table(two)
  expect_identical(
    lengths(regmatches(text, gregexpr("p = [0-9.]+ \u00d7 10", text))) >=
      sum(table$adjusted < 0.001),
    TRUE
  )
  expect_match(text, "fit: line, n = 144")
  expect_match(text, paste0("nelvat ", utils::packageVersion("nelvat")), fixed = TRUE)
  expect_match(legend_text(two, "html", "checklist"), "^<ul>")
  expect_no_match(legend_text(two), "nelvat [0-9]")
  short <- legend_text(two, length = "short")
  expect_lt(nchar(short), nchar(legend_text(two)))
  expect_no_match(short, "Fits")
})

test_that("forms of a legend are those of their languages", {
  odd <- data.frame(g = c("a*b*", "a<b"), v = 1:2)
  fig <- plate(facets(panel(odd, x = v, ink_histogram()), across = g), width = 86)
  expect_match(legend_text(fig, "html"), "a&lt;b")
  expect_match(legend_text(fig, "markdown"), "a\\*b\\*", fixed = TRUE)
  expect_match(legend_text(two, "markdown"), "**a and b**", fixed = TRUE)
  expect_match(legend_text(two, "markdown"), "*n* = 36", fixed = TRUE)
  expect_match(legend_text(two, "html"), "<i>n</i> = 36", fixed = TRUE)
  expect_error(legend_text(two, "rtf"), class = "nelvat_error_argument")
  expect_error(legend_text(two, length = "long"), class = "nelvat_error_argument")
})

test_that("methods are said once for all figures, with the software", {
  again <- plate(panel(loaves, x = flour, y = volume, ink_box()), width = 86)
  text <- methods_text(list(two, again))
  expect_identical(lengths(regmatches(text, gregexpr("interquartile", text))), 1L)
  expect_match(text, "Welch's t tests, two-sided")
  expect_match(text, "least squares")
  expect_match(text, "made with nelvat [0-9.]+ in R [0-9.]+\\.$")
  expect_error(methods_text(3), class = "nelvat_error_argument")
  expect_error(methods_text("no-such-folder.yaml"), class = "nelvat_error_file")
})

test_that("alternative texts say what is seen, in 250 characters, or all with its numbers", {
  expect_match(alt_text(two), "a, Loaf rise: highest for Wheat, lowest for Rye")
  expect_match(alt_text(two), "c, Loaf rise against volume: rising, rank correlation 0\\.9")
  full <- alt_text(two, "full")
  median_of <- stats::median(loaves$data$rise[loaves$data$flour == "wheat"])
  expect_match(full, paste0("Wheat ", signif(median_of, 3)))
  many <- do.call(plate, rep(list(panel(loaves, x = flour, y = rise, ink_box())), 20))
  expect_lte(nchar(alt_text(many)), 250)
  expect_match(alt_text(many), "^20 panels\\.")
  falls <- plate(panel(data.frame(a = 1:9, b = 9:1), x = a, y = b, ink_points()), width = 86)
  expect_match(alt_text(falls), "falling, rank correlation \u22121\\.00")
  heaped <- plate(panel(loaves, x = rise, ink_histogram()), width = 86)
  expect_match(alt_text(heaped), "half of the values between")
})

# Each sentence by a small grammar: it begins large or with a letter, ends in a stop, says no word
# twice, counts in the right number, and lists nothing empty.
faults_of <- function(text) {
  sentences <- trimws(
    strsplit(gsub("\\([^()]*\\)", "", text), "(?<=[.]) (?=[A-Za-z0-9])", perl = TRUE)[[1]]
  )
  words <- strsplit(sentences, "[ ,;:]+")
  twice <- vapply(
    words,
    function(of) any(tolower(of[-1]) == tolower(of[-length(of)]) & grepl("^[a-z]+$", of[-1])),
    NA
  )
  c(
    # What has no room is told by its first words.
    if (any(!grepl("[.\u2026]$", sentences))) "a sentence has no end",
    if (any(lengths(words) > 60)) "a sentence of over 60 words",
    if (any(twice)) paste("a word twice:", sentences[twice][1]),
    if (grepl("\\b1 (values|cells|rows|gaps|panels|loaves|comparisons)\\b", text)) "one of many",
    if (grepl("\\( *\\)|, ,|; ;|\\.\\.|: \\.| and \\.|NA\\b|NULL", text)) "something empty",
    if (grepl("  ", text)) "two spaces"
  )
}

test_that("legends and alternative texts of random figures are sentences", {
  for (seed in 1:12) {
    fig <- tryCatch(
      suppressMessages(suppressWarnings(random_figure(seed))),
      nelvat_error = function(e) NULL
    )
    if (is.null(fig)) next
    scene <- tryCatch(
      suppressMessages(suppressWarnings(as_scene(fig))),
      nelvat_error = function(e) NULL
    )
    if (is.null(scene)) next
    expect_identical(faults_of(legend_text(scene)), NULL, label = paste("faults of legend", seed))
    expect_identical(
      faults_of(alt_text(scene)),
      NULL,
      label = paste("faults of alternative text", seed)
    )
  }
})

test_that("two inks of one panel that say the same are not counted twice", {
  twice <- plate(
    panel(loaves, x = rise, y = volume, ink_points(), ink_points(size = 0.5)),
    width = 86
  )
  expect_match(legend_text(twice), "(n = 144 loaves)", fixed = TRUE)
})

test_that("what is seen is so: ties, stacks, residuals, several measures", {
  seen <- function(...) alt_text(suppressWarnings(as_scene(plate(..., width = 120))))
  even <- data.frame(g = c("a", "b", "c"), v = 1)
  expect_match(seen(panel(even, x = g, y = v, ink_bars())), "V: alike for all")
  tied <- data.frame(g = c("a", "b", "c"), v = c(3, 3, 1))
  expect_match(seen(panel(tied, x = g, y = v, ink_bars())), "highest for a and b, lowest for c")
  # Of a stack its whole counts.
  parts <- data.frame(g = c("a", "a", "b"), k = c("x", "y", "x"), n = c(2, 2, 3))
  stacked <- seen(
    panel(parts, x = g, y = n, colour = k, ink_bars(arrange = "stack", centre = "sum"))
  )
  expect_match(stacked, "highest for a, lowest for b")
  share <- seen(panel(loaves, x = flour, colour = grade, ink_bars(arrange = "share")))
  expect_no_match(share, "highest")
  expect_match(seen(panel(loaves, x = rise, y = volume, ink_residuals())), "no clear trend")
  measures <- seen(facets(panel(loaves, x = flour, y = c(rise, firmness), ink_box())))
  expect_match(measures, "Loaf rise: highest for Wheat, lowest for Rye; firmness: highest for Rye")
  expect_no_match(
    seen(panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh())),
    "correlation"
  )
})

test_that("numbers in sentences are written as the house writes them, and names keep theirs", {
  table <- study("loaves")$data
  table$dose <- factor(ifelse(table$rise > 50, "0.5 mM", "1.5 mM"))
  said <- function(...) {
    fig <- plate(
      panel(
        codebook(table),
        x = dose,
        y = acidity,
        ink_box(),
        ink_contrasts(),
        keep = acidity > 0.25
      ),
      width = 86,
      height = 70,
      house = house("plain", numbers = list(...))
    )
    suppressWarnings(
      c(
        legend_text(fig),
        alt_text(fig, "full"),
        legend_text(fig, length = "checklist"),
        methods_text(fig)
      )
    )
  }
  plain <- said(decimal_mark = ".")
  comma <- said(decimal_mark = ",")
  # The numbers are the same.
  version <- as.character(utils::packageVersion("nelvat"))
  names <- c("0.5 mM", "1.5 mM", version, paste0(R.version$major, ".", R.version$minor))
  for (name in names) expect_true(any(grepl(name, comma, fixed = TRUE)), label = name)
  back <- gsub("(?<=[0-9]),(?=[0-9])", ".", comma, perl = TRUE)
  expect_identical(back, plain)
  for (name in names) comma <- gsub(name, "", comma, fixed = TRUE)
  expect_false(any(grepl("[0-9][.][0-9]", comma)))
  expect_match(comma[1], "1,5 interquartile ranges")
  expect_match(comma[1], "acidity > 0,25 .139")
  expect_false(any(grepl("\u2212", said(true_minus = FALSE))))
  expect_match(said(leading_zero = FALSE)[1], "> .25", fixed = TRUE)
  large <- data.frame(x = 1:2500, y = seq(0, 1, length.out = 2500))
  fig <- plate(
    panel(codebook(large), x = x, y = y, ink_hexagons()),
    width = 80,
    height = 60,
    house = house("plain", numbers = list(decimal_mark = ","))
  )
  expect_match(legend_text(fig), "2\u2009500", fixed = TRUE)
})

test_that(
  "a name in a longer number, of a level not kept, and in an interval's words stays whole",
  {
    table <- study("loaves")$data
    table$dose <- factor(ifelse(table$rise > 50, "2.5", "12.5"))
    comma <- house("plain", numbers = list(decimal_mark = ","))
    said <- function(...) {
      fig <- plate(panel(codebook(table), x = dose, y = acidity, ...), width = 86, house = comma)
      suppressWarnings(c(legend_text(fig), alt_text(fig, "full")))
    }
    kept <- said(ink_centre(), keep = dose != "2.5")
    expect_match(kept[1], "dose is not 2.5 (", fixed = TRUE)
    compared <- said(ink_box(), ink_contrasts(show = "difference"))
    expect_match(
      compared[2],
      "highest for 12.5, lowest for 2.5; 12.5 [0-9]+,[0-9]; 2.5 [0-9]+,[0-9]"
    )
    expect_match(compared[1], "95 % interval, not adjusted, n = ")
    expect_false(any(grepl(" ,", compared, fixed = TRUE)))
  }
)

test_that("months are the house's, on axes and in files of scenes", {
  days <- data.frame(day = as.Date("2026-01-05") + seq(0, 300, 5), weight = 1:61)
  months <- c(
    "janv.", "f\u00e9vr.", "mars", "avr.", "mai", "juin", "juil.", "ao\u00fbt", "sept.", "oct.",
    "nov.", "d\u00e9c."
  )
  fig <- plate(
    panel(codebook(days), x = day, y = weight, ink_line()),
    width = 120,
    height = 60,
    house = house("plain", numbers = list(months = months))
  )
  shown <- as_scene(fig)$texts$string
  expect_true(all(c("janv. 2026", "mars", "mai", "sept.") %in% shown))
  expect_false(any(month.abb %in% shown))
  wrong <- list(months[1:3], c(months[-1], ""))
  for (one in wrong) {
    expect_error(house(numbers = list(months = one)), "twelve", class = "nelvat_error_house")
  }
  path <- withr::local_tempfile(fileext = ".json")
  writeLines(scene_json(fig), path)
  expect_identical(legend_text(read_scene(path)), legend_text(fig))
})

test_that("what is said of panels of a grid or a matrix names each of them", {
  loaves <- study("loaves")
  grid <- function(...) {
    facets(
      panel(loaves, x = acidity, y = rise, ink_fit()),
      across = flour,
      down = ...,
      per_row = NULL
    )
  }
  told <- suppressWarnings(as_scene(plate(grid(hydration), width = 178, height = 150)))
  found <- fits(told)
  expect_identical(length(unique(found$heading)), 12L)
  expect_false(anyNA(found$heading))
  expect_true("Rye, 80%" %in% found$heading)
  expect_identical(length(unique(told$facts$heading)), 12L)
  checked <- legend_text(told, length = "checklist")
  for (name in unique(found$heading)) {
    expect_match(checked, paste0("fit of ", name, ":"), fixed = TRUE)
  }
  # So do alternative texts: none of twelve is without its levels.
  points <- facets(
    panel(loaves, x = acidity, y = rise, ink_points()),
    across = flour,
    down = hydration,
    per_row = NULL
  )
  seen <- suppressWarnings(alt_text(plate(points, width = 178, height = 150), "full"))
  each <- strsplit(sub("[.]$", "", seen), "; ")[[1]][-1]
  expect_length(each, 12)
  expect_match(each, "^[A-Z].*, (60|80|100)% .*[0-9]$")
  # Of several measures the variable tells them apart.
  measured <- plate(
    facets(panel(loaves, x = acidity, y = c(rise, firmness), ink_fit(), keep = flour != "rye")),
    width = 120
  )
  expect_match(
    suppressWarnings(legend_text(measured)),
    "Fits: Loaf rise: R\u00b2 .*; firmness: R\u00b2 "
  )
  pairs <- plate(every_pair(loaves, c(rise, volume, ph), below = ink_fit()), width = 120)
  expect_setequal(
    unique(fits(pairs)$heading),
    c("volume against Loaf rise", "Crumb pH against Loaf rise", "Crumb pH against volume")
  )
  compared <- plate(
    facets(
      panel(loaves, x = bakery, y = rise, ink_box(), ink_contrasts()),
      across = hydration,
      down = flour
    ),
    width = 178,
    height = 200
  )
  table <- suppressWarnings(contrast_table(compared))
  expect_identical(length(unique(table$heading)), length(unique(table$panel)))
  expect_false(anyNA(table$heading))
})

test_that("alternative texts of shares and of groups along an axis say which is the largest", {
  d <- data.frame(
    g = rep(c("x", "y"), each = 10),
    part = rep(c("low", "high", "low", "high"), c(3, 7, 9, 1)),
    v = c(1:10, 21:30)
  )
  book <- codebook(d, v = quantity("Load", unit = "g"))
  said <- function(..., length = "full") {
    alt_text(plate(panel(book, ...), width = 86), length = length)
  }
  shares <- said(x = g, colour = part, ink_bars(arrange = "share"))
  expect_match(shares, "Largest part: high for x, low for y", fixed = TRUE)
  expect_match(shares, "x: low 30\u00a0%, high 70\u00a0%", fixed = TRUE)
  # Stacks of one height hold counts, and no shares.
  stacks <- said(x = g, colour = part, ink_bars(arrange = "stack"))
  expect_match(stacks, "x: low 3, high 7", fixed = TRUE)
  expect_no_match(stacks, "%", fixed = TRUE)
  groups <- said(x = v, colour = g, ink_histogram())
  expect_match(
    groups,
    "medians: highest for y, lowest for x; x 5.5\u00a0g; y 25.5\u00a0g",
    fixed = TRUE
  )
  even <- d[c(1:3, 4:6, 11:13, 20), ]
  even$part <- c(rep(c("low", "high"), each = 3), "low", "low", "high", "high")
  expect_match(
    alt_text(plate(panel(even, x = g, colour = part, ink_bars(arrange = "share")), width = 86)),
    "All parts are alike"
  )
})

test_that("alternative texts of a database weigh what stands for many rows", {
  skip_if_not_installed("RSQLite")
  set.seed(11)
  rows <- data.frame(a = stats::rnorm(3000), s = rep(c("p", "q"), 1500))
  rows$b <- rows$a + stats::rnorm(3000, 0, 0.5)
  path <- withr::local_tempfile(fileext = ".sqlite")
  connection <- DBI::dbConnect(RSQLite::SQLite(), path)
  withr::defer(DBI::dbDisconnect(connection))
  DBI::dbWriteTable(connection, "t", rows)
  said <- function(...) alt_text(plate(panel(table_in(connection, "t"), ...), width = 86))
  with_replaced(most_fetched = 1000, class_rows = 900, {
    r <- stats::cor(rows$a, rows$b, method = "spearman")
    expect_match(
      said(x = a, y = b, ink_hexagons()),
      paste0("rank correlation about ", sprintf("%.1f", r)),
      fixed = TRUE
    )
    middle <- tapply(rows$a, rows$s, stats::median)
    expect_match(
      said(x = a, colour = s, ink_density()),
      paste("highest for", names(which.max(middle))),
      fixed = TRUE
    )
    expect_no_match(said(x = a, ink_cumulative()), "half of the values")
    # A median of classes is known between the ends of its class, one of bins is not known at all.
    ends <- paste0(
      "highest for ",
      names(which.max(middle)),
      ", lowest for ",
      names(which.min(middle))
    )
    expect_match(said(x = a, y = s, ink_ridges()), paste0("medians: ", ends, "[.]$"))
    bins <- facets(panel(table_in(connection, "t"), x = a, ink_histogram()), across = s)
    expect_no_match(alt_text(plate(bins, width = 86), length = "full"), "median|alike")
  })
  with_replaced(most_fetched = 1000, class_rows = 20, {
    expect_no_match(said(x = a, y = s, ink_ridges()), "highest|alike")
  })
})

test_that("a panel in which nothing is drawn has no values", {
  rows <- data.frame(m = c(NA, NA, NA, 1:9), g = rep(c("x", "y", "z"), c(3, 5, 4)), b = 1:12)
  said <- function(block) suppressWarnings(legend_text(plate(block, width = 120)))
  for (ink in list(ink_points(), ink_line())) {
    of_panels <- said(facets(panel(rows, x = b, y = m, ink), across = g))
    expect_match(of_panels, "n = 0 to 5 a panel", fixed = TRUE)
  }
  expect_match(said(facets(panel(rows, x = m, ink_histogram()), across = g)), "n = 0 to 5 a panel")
  # A bar of no values is not there.
  expect_match(said(panel(rows, x = g, y = m, ink_bars())), "n = 4 to 5 a bar", fixed = TRUE)
})

test_that("rows of which a condition is unknown are told in its words", {
  loaves <- study("loaves")
  unknown <- sum(is.na(loaves$data$acidity))
  figure <- function() {
    plate(panel(loaves, x = flour, y = rise, keep = acidity > 8, ink_bars()), width = 86)
  }
  words <- paste0(
    unknown,
    " rows without a value of acidity are left out."
  )
  expect_match(suppressWarnings(legend_text(figure())), words, fixed = TRUE)
  found <- suppressWarnings(proof(figure()))
  left <- found[found$rule == "rows left out", ]
  expect_match(left$where, "rows without a value of acidity left out")
  expect_no_match(left$measured, "value")
})

test_that("alternative texts of panels that go different ways say which go where", {
  d <- data.frame(x = rep(1:20, 4), g = rep(c("a", "b", "c", "d"), each = 20))
  d$y <- d$x * rep(c(1, 1, -1, 0), each = 20) + rep(c(0.3, -0.2, 0.1, -0.4), 20)
  fig <- plate(facets(panel(d, x = x, y = y, ink_points()), across = g), width = 178)
  expect_match(
    alt_text(fig),
    "Y against x: rising in a and b, falling in c, no clear trend in d, rank correlations",
    fixed = TRUE
  )
  wide <- data.frame(x = 1:20, up = (1:20)^2, down = -(1:20), too = sqrt(1:20))
  fig <- plate(facets(panel(wide, x = x, y = c(up, down, too), ink_points())), width = 178)
  expect_match(alt_text(fig), "Against x: rising for up and too, falling for down", fixed = TRUE)
})

test_that("what has no rows or no name of its own is told so in every length", {
  table <- data.frame(rise = c(40, 50, 60, 70), flour = c("rye", "spelt"))
  rules <- plate(panel(table, x = rise, y = rise, ink_rule(x = 50)))
  for (length in c("short", "full", "checklist")) {
    expect_match(legend_text(rules, length = length), "line at rise 50")
  }
  alone <- plate(panel(table, x = rise, ink_box(), colour = flour))
  expect_match(alt_text(alone), "highest for spelt, lowest for rye")
  each <- plate(facets(panel(table, x = rise, ink_dots()), across = flour), width = 120)
  expect_match(alt_text(each), "highest for spelt, lowest for rye")
  wrapped <- plate(
    facets(panel(table, x = rise, ink_histogram()), across = flour, per_row = "page"),
    panel(table, x = rise, ink_histogram())
  )
  expect_identical(nrow(as_scene(wrapped)$panels), 3L)
})

test_that("what is said does not depend on the order of rows", {
  table <- data.frame(
    rise = c(40, 52, 61, 70, 45, 58, 66, 77),
    flour = factor(rep(c("rye", "spelt"), each = 4)),
    bakery = factor(rep(c("harbour", "mill"), 4))
  )
  said <- function(table) {
    fig <- plate(panel(table, x = flour, y = rise, colour = bakery, ink_box()), width = 90)
    c(legend_text(fig, length = "checklist"), alt_text(fig, length = "full"))
  }
  expect_identical(said(table[c(8, 3, 5, 1, 7, 2, 4, 6), ]), said(table))
})

test_that("shapes of groups and filled densities say what is seen, as their rows do", {
  loaves <- study("loaves")
  said <- function(block) suppressWarnings(alt_text(plate(block, width = 120)))
  medians <- tapply(loaves$data$rise, loaves$data$flour, stats::median)
  ridges <- said(panel(loaves, x = rise, y = flour, ink_ridges()))
  expect_match(
    ridges,
    paste0(
      "highest for ",
      tools::toTitleCase(names(which.max(medians))),
      ", lowest for ",
      tools::toTitleCase(names(which.min(medians)))
    )
  )
  r <- stats::cor(loaves$data$rise, loaves$data$moisture, method = "spearman")
  filled <- said(panel(loaves, x = rise, y = moisture, ink_contours(filled = TRUE)))
  expect_match(filled, paste0("falling, rank correlation \u2212", sprintf("%.2f", -r)))
})
