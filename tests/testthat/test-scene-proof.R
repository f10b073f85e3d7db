loaves <- study("loaves")
verdict_of <- function(fig, rule) {
  found <- suppressMessages(proof(fig))
  found$verdict[found$rule == rule]
}
table <- data.frame(x = c(1, 2, 3, 4), y = c(10, 12, 11, 14), g = c("a", "a", "b", "b"))
book <- function(...) {
  codebook(table, x = quantity("Time", unit = "h"), y = quantity("Mass", unit = "g"), ...)
}
good <- plate(
  panel(book(), x = x, y = y, colour = g, shape = g, ink_points()),
  width = "single",
  height = 60
)

test_that("a sound figure is good in every rule", {
  found <- proof(good)
  expect_identical(unique(found$verdict), "good")
  expect_true(all(found$mend == ""))
})

# Each rule with a figure that breaks just it.
broken <- list(
  "page width" = list(
    "look",
    quote(plate(panel(book(), x = x, y = y, ink_points()), width = 97, height = 60))
  ),
  "page height" = list(
    "bad",
    quote(plate(panel(book(), x = x, y = y, ink_points()), width = "single", height = 240))
  ),
  "type size" = list(
    "bad",
    quote(
      plate(
        panel(book(), x = x, y = y, ink_points(), ink_text("small", x = 2, y = 13, size = 3)),
        width = "single",
        height = 60
      )
    )
  ),
  "line weight" = list(
    "bad",
    quote(plate(panel(book(), x = x, y = y, ink_line(weight = 0.1)), width = "single", height = 60))
  ),
  "texts apart" = list(
    "bad",
    quote(
      plate(
        panel(book(), x = x, y = y, loose_words("one"), loose_words("two")),
        width = "single",
        height = 60
      )
    )
  ),
  "texts on the page" = list(
    "bad",
    quote(
      plate(
        panel(
          book(),
          x = x,
          y = y,
          ink_points(),
          loose_words("far too long to stand on the page from here", 0.8)
        ),
        width = "single",
        height = 60
      )
    )
  ),
  "texts over data" = list(
    "look",
    quote(
      plate(
        panel(book(), x = x, y = y, ink_points(), ink_text("over", x = 1.9, y = 12)),
        width = "single",
        height = 60
      )
    )
  ),
  "colours told apart" = list(
    "bad",
    quote(
      plate(
        panel(
          book(g = category(colours = c(a = "#336699", b = "#33669C"))),
          x = x,
          y = y,
          colour = g,
          shape = g,
          ink_points()
        ),
        width = "single",
        height = 60
      )
    )
  ),
  "colours in grey" = list(
    "look",
    quote(
      plate(
        panel(
          book(g = category(colours = c(a = "#C05A5A", b = "#5A8A3C"))),
          x = x,
          y = y,
          colour = g,
          ink_points()
        ),
        width = "single",
        height = 60
      )
    )
  ),
  "groups by more than colour" = list(
    "look",
    quote(
      plate(panel(book(), x = x, y = y, colour = g, ink_points()), width = "single", height = 60)
    )
  ),
  "contrast of text" = list(
    "bad",
    quote(
      plate(
        panel(
          book(),
          x = x,
          y = y,
          ink_points(),
          ink_text("pale", x = 2, y = 13, colour = "#C9CED6")
        ),
        width = "single",
        height = 60
      )
    )
  ),
  "axes named" = list(
    "bad",
    quote(
      plate(
        panel(book(), x = x, y = y, y_axis = axis_of(title = ""), ink_points()),
        width = "single",
        height = 60
      )
    )
  ),
  "units given" = list(
    "look",
    quote(
      plate(
        panel(
          codebook(table, x = quantity("Time", unit = "h"), y = quantity("Mass")),
          x = x,
          y = y,
          ink_points()
        ),
        width = "single",
        height = 60
      )
    )
  ),
  "same variable, same range" = list(
    "look",
    quote(
      plate(
        facets(panel(book(), x = x, y = y, ink_points()), across = g, range_per = "panel"),
        width = "single",
        height = 60
      )
    )
  ),
  "bars from zero" = list(
    "bad",
    quote(
      plate(
        panel(book(), x = g, y = y, y_axis = axis_of(range = c(5, 20)), ink_bars()),
        width = "single",
        height = 60
      )
    )
  ),
  "n given" = list(
    "look",
    quote(
      plate(panel(book(), x = g, y = y, keep = x < 2.5, ink_box()), width = "single", height = 60)
    )
  ),
  "rows left out" = list(
    "look",
    quote(plate(panel(rbind(table, NA), x = x, y = y, ink_points()), width = "single", height = 60))
  ),
  "letters" = list(
    "bad",
    quote(
      plate(
        beside(panel(book(), x = x, y = y, ink_points()), panel(book(), x = x, y = y, ink_line())),
        width = "double",
        height = 60,
        letters = c("a", "a")
      )
    )
  ),
  "characters in the font" = list(
    "bad",
    quote(
      plate(
        panel(book(), x = x, y = y, ink_points(), ink_text("bread \U0001F35E", x = 2, y = 13.5)),
        width = "single",
        height = 60
      )
    )
  ),
  "empty page" = list(
    "look",
    quote(
      plate(
        panel(book(), x = x, y = y, ink_points()),
        blank(),
        blank(),
        per_row = 3,
        width = "double",
        height = 60
      )
    )
  ),
  "font" = list(
    "look",
    quote(
      plate(
        panel(book(), x = x, y = y, ink_points()),
        width = "single",
        height = 60,
        house = house(families = c("No Such Type", "Liberation Sans"))
      )
    )
  ),
  "insets over data" = list(
    "look",
    quote(
      plate(
        p = panel(book(), x = x, y = y, ink_line()),
        zoom(of = "p", x = c(1, 1.5), y = c(10, 11), inset = "top right"),
        width = "single",
        height = 60
      )
    )
  ),
  "room for tick text" = list(
    "look",
    quote(
      plate(
        panel(
          codebook(
            data.frame(f = sprintf("Some very long name of flour %s", letters[1:18]), y = 1:18),
            y = quantity("Mass", unit = "g")
          ),
          x = f,
          y = y,
          ink_bars()
        ),
        width = "single",
        height = 90
      )
    )
  ),
  "one meaning for a colour" = list(
    "look",
    quote(
      plate(
        beside(
          panel(book(), x = x, y = y, colour = g, shape = g, ink_points()),
          panel(
            codebook(
              transform(table, h = g),
              x = quantity("Time", unit = "h"),
              y = quantity("Mass", unit = "g")
            ),
            x = x,
            y = y,
            colour = h,
            shape = h,
            ink_points()
          )
        ),
        width = "double",
        height = 60
      )
    )
  ),
  "one key for one title" = list(
    "look",
    quote(
      plate(
        beside(
          panel(book(), x = x, y = y, colour = y, ink_points()),
          panel(
            codebook(
              transform(table, u = 10 * y),
              x = quantity("Time", unit = "h"),
              y = quantity("Mass", unit = "g"),
              u = quantity("Mass", unit = "g")
            ),
            x = x,
            y = y,
            colour = u,
            ink_points()
          )
        ),
        width = "double",
        height = 80
      )
    )
  ),
  "one unit for a variable" = list(
    "look",
    quote(
      plate(
        stacked(
          panel(book(), x = x, y = y, ink_points()),
          panel(
            codebook(
              table,
              x = quantity("Time"),
              y = quantity("Mass", unit = "g")
            ),
            x = x,
            y = y,
            ink_points()
          )
        ),
        width = "single",
        height = 110,
        share = FALSE
      )
    )
  ),
  "ticks on each axis" = list(
    "look",
    quote(
      plate(
        panel(book(), x = x, y = y, x_axis = axis_of(breaks = 2), ink_points()),
        width = "single",
        height = 60
      )
    )
  ),
  "error bars defined" = list(
    "bad",
    quote(plate(panel(book(), x = x, y = y, unsaid_error()), width = "single", height = 60))
  ),
  "intervals defined" = list(
    "look",
    quote(
      plate(
        panel(
          data.frame(g = c("a", "b"), y = 2:3, l = 1:2, h = 3:4),
          x = y,
          y = g,
          ink_estimate(l, h)
        ),
        width = "single",
        height = 60
      )
    )
  ),
  "comparisons told" = list(
    "look",
    quote(
      plate(
        panel(study("loaves"), x = flour, y = rise, ink_box(), ink_contrasts(show = "stars")),
        width = "single",
        height = 80
      )
    )
  ),
  "brackets of a panel" = list(
    "look",
    quote(
      plate(
        panel(
          codebook(
            data.frame(g = rep(letters[1:6], each = 4), y = c(9, 10, 11, 13) + rep(1:6, each = 4)),
            y = quantity("Mass", unit = "g")
          ),
          x = g,
          y = y,
          ink_box(),
          ink_contrasts()
        ),
        width = "double",
        height = 200
      )
    )
  ),
  "image resolution" = list(
    "bad",
    quote(
      plate(image_panel(study_file("crumb.png")), width = "double", height = 120, letters = "none")
    )
  ),
  "transparency" = list(
    "look",
    quote(
      plate(
        panel(book(), x = x, y = y, ink_points(opacity = 0.5)),
        width = "single",
        height = 60,
        house = house(limits = list(formats = c("eps", "tiff")))
      )
    )
  )
)

# Words that stand where they are put, as those of another package may.
loose_words <- function(string, x = 0.6) {
  structure(list(ink = "loose", string = string, x = x), class = c("ink_loose", "nelvat_ink"))
}
for (method in list(
  list("check_ink", function(ink, panel, call) NULL),
  list("train_ink", function(ink, layer) list(table = layer$table, zero = character())),
  list(
    "place_ink",
    function(ink, trained, place) {
      list(
        list(
          primitive = "words",
          role = "value",
          table = data.frame(
            panel = trained$table$panel[1],
            x = ink$x,
            y = 0.93,
            string = ink$string,
            size_pt = 7,
            across = 0,
            down = 0.5,
            colour = "#20242B",
            most_mm = 200
          )
        )
      )
    }
  ),
  list("ink_traits", function(ink) nelvat:::note_traits())
)) {
  registerS3method(method[[1]], "ink_loose", method[[2]], asNamespace("nelvat"))
}

# An ink of another package that draws errors and does not say what they are.
unsaid_error <- function() new_ink_of("unsaid")
new_ink_of <- function(name) {
  structure(list(ink = name), class = c(paste0("ink_", name), "nelvat_ink"))
}
for (method in list(
  list("check_ink", function(ink, panel, call) NULL),
  list(
    "train_ink",
    function(ink, layer) {
      list(
        table = layer$table,
        extent = data.frame(panel = layer$table$panel[1], x0 = 1, x1 = 4, y0 = 9, y1 = 15),
        zero = character(),
        used = rep(TRUE, nrow(layer$table)),
        shows = "means"
      )
    }
  ),
  list(
    "place_ink",
    function(ink, trained, place) {
      list(
        list(
          primitive = "segments",
          table = data.frame(
            panel = trained$table$panel,
            x0 = 0.5,
            x1 = 0.5,
            y0 = 0.2,
            y1 = 0.6,
            colour = "#000000",
            weight_pt = 0.5
          )
        )
      )
    }
  ),
  list("ink_traits", function(ink) nelvat:::new_traits(summarises = "groups"))
)) {
  registerS3method(method[[1]], "ink_unsaid", method[[2]], asNamespace("nelvat"))
}

test_that("each rule finds the figure that breaks it, and says where and how to mend it", {
  for (rule in names(broken)) {
    fig <- eval(broken[[rule]][[2]])
    found <- suppressMessages(proof(fig))
    row <- found[found$rule == rule, ]
    expect_identical(row$verdict[1], broken[[rule]][[1]], label = rule)
    expect_true(nzchar(row$mend[1]) && nzchar(row$where[1]), label = rule)
    expect_false(any(verdict_of(good, rule) != "good"), label = paste(rule, "in the sound figure"))
  }
})

test_that("no rule is without a figure that breaks it", {
  found <- unlist(lapply(broken, function(one) suppressMessages(proof(eval(one[[2]])))$rule))
  expect_setequal(unique(found), names(broken))
  expect_length(nelvat:::proof_rules(), length(broken) - 1)
})

test_that("the written file is measured: page, fonts, size, resolution, format", {
  pdf <- withr::local_tempfile(fileext = ".pdf")
  save_plate(good, pdf)
  found <- proof(good, pdf)
  file <- found[
    found$rule %in% c(
      "file format", "file size", "page of the file", "fonts embedded", "bitmap fonts"
    ),
  ]
  expect_identical(nrow(file), 5L)
  expect_identical(unique(file$verdict), "good")
  # A page cut to whole points is not the plate's.
  plain <- withr::local_tempfile(fileext = ".pdf")
  grDevices::cairo_pdf(plain, 3, 2)
  plot(1)
  grDevices::dev.off()
  other <- proof(good, plain)
  expect_identical(other$verdict[other$rule == "page of the file"], "bad")
  png <- withr::local_tempfile(fileext = ".png")
  save_plate(good, png, dpi = 100)
  low <- proof(good, png)
  expect_identical(low$verdict[low$rule == "resolution of the file"], "bad")
  strict <- change(good, house = house(limits = list(file_mb = 1e-4, formats = "tiff")))
  judged <- proof(strict, png)
  expect_identical(judged$verdict[judged$rule %in% c("file size", "file format")], c("bad", "bad"))
})

test_that("mends that need no judgement are made and listed", {
  bad <- plate(
    beside(
      panel(book(), x = x, y = y, ink_points()),
      panel(book(), x = x, y = y, keep = x > 1, ink_line())
    ),
    width = 170,
    height = 240,
    letters = c("a", "a"),
    share = TRUE
  )
  expect_message(mended <- mend(bad), "Mended")
  expect_identical(mended$width_mm, 178)
  expect_identical(mended$height_mm, 225)
  expect_gte(length(attr(mended, "done")), 3)
  expect_identical(verdict_of(mended, "letters"), "good")
  expect_message(mend(good), "Nothing to mend")
})

test_that("the command proves a figure file, and ends with 1 where it is bad", {
  folder <- example_file("bad")
  picture <- withr::local_tempfile(fileext = ".png")
  lines <- readLines(file.path(folder, "bad.yaml"))
  work <- withr::local_tempdir()
  file.copy(list.files(folder, full.names = TRUE), work)
  writeLines(
    gsub("../../study", system.file("study", package = "nelvat"), lines, fixed = TRUE),
    file.path(work, "bad.yaml")
  )
  said <- run_nelvat("proof", "--picture", picture, file.path(work, "bad.yaml"))
  expect_identical(said$status, 1L)
  expect_gte(sum(grepl("^  bad", said$said)), 10)
  expect_gte(sum(grepl("^  look", said$said)), 5)
  expect_gt(file.size(picture), 10000)
  json <- run_nelvat("proof", "--json", file.path(work, "bad.yaml"))
  findings <- jsonlite::fromJSON(json$said)$findings
  expect_setequal(names(findings), c("rule", "measured", "limit", "verdict", "where", "mend"))
  fine <- run_nelvat("proof", study_file("responses.yaml"))
  expect_identical(fine$status, 0L)
})

test_that("the demo's figures have nothing bad", {
  for (name in c("facets", "pairs-and-joint", "plates")) {
    for (fig in example_plates(name)) expect_false("bad" %in% suppressMessages(proof(fig))$verdict)
  }
})

test_that("mend gives lines that only colour tells apart dashes, and leaves points as they are", {
  probe <- study("probe")
  lines <- panel(
    probe,
    x = time,
    y = c(chamber, surface, core),
    colour = measure("Temperature"),
    ink_line()
  )
  split <- facets(
    panel(
      study("cultures"),
      x = hour,
      y = log10(count),
      keep = dish == 1 & microbe != "aceto" & microbe != "scer",
      colour = microbe,
      ink_line()
    ),
    across = dish
  )
  dashes <- function(fig) length(unique(suppressWarnings(as_scene(fig))$keys$dash))
  for (block in list(lines, split)) {
    fig <- plate(block, width = "double", height = 90)
    expect_identical(dashes(fig), 1L)
    expect_message(mended <- suppressWarnings(mend(fig)), "dashes")
    expect_gt(dashes(mended), 2)
    expect_identical(
      suppressWarnings(proof(mended))$verdict[proof(mended)$rule == "groups by more than colour"],
      "good"
    )
  }
  points <- plate(
    panel(study("loaves"), x = rise, y = ph, colour = verdict, ink_points()),
    width = "single",
    height = 60
  )
  expect_message(mend(points), "Nothing")
})
