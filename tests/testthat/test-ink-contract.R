# The contract of inks: built-in ones keep it, wrong ones are named by what they break, and a
# package of its own builds on exported functions alone.

example_package <- testthat::test_path("..", "..", "examples", "nelvat.bakery")

# An ink of means with standard errors, of exported functions alone; methods can be replaced.
right_methods <- list(
  takes_of = function(ink) {
    list(
      weight = takes_number(0.1, 5, says = "Line weight in points."),
      ends = takes_flag(says = "Draw the errors?"),
      colour = takes_channel(says = "A colour, or a category.")
    )
  },
  suits_of = function(ink) list(x = "category", y = "quantity"),
  findings_of = function(ink, layer) {
    parts <- parts_of_layer(layer)
    group <- factor(parts$at, seq_len(nrow(parts$groups)))
    of <- function(f) as.vector(tapply(layer$table$y, group, f))
    half <- of(stats::sd) / sqrt(of(length))
    made_findings(
      parts,
      "mean",
      centre = of(mean),
      lower = of(mean) - half,
      upper = of(mean) + half,
      error_means = "standard error of the mean"
    )
  },
  marks_of = function(ink, findings, site) {
    place <- place_of(findings)
    list(
      if (ink$ends) {
        made_marks(
          "segments",
          findings,
          x0 = place,
          x1 = place,
          y0 = findings$lower,
          y1 = findings$upper,
          weight_pt = ink$weight
        )
      } else {
        made_marks("points", findings, x = place, y = findings$centre)
      },
      made_marks("points", findings, x = place, y = findings$centre)
    )
  },
  sentence_of = function(ink, layer, findings) "means with standard errors"
)

n_made <- 0
contract_of <- function(..., word = function(weight = 1, ends = TRUE, colour = NULL, ...) {}) {
  n_made <<- n_made + 1
  name <- paste0("trial", n_made)
  methods <- utils::modifyList(right_methods, list(...))
  for (generic in names(methods)) {
    registerS3method(generic, paste0("ink_", name), methods[[generic]], asNamespace("nelvat"))
  }
  body(word) <- bquote(nelvat::made_ink(.(name), ...))
  environment(word) <- globalenv()
  suppressWarnings(suppressMessages(check_ink_contract(word(), word, tables = 3)))
}
base_findings <- right_methods$findings_of
altered <- function(f) {
  function(ink, layer) {
    found <- base_findings(ink, layer)
    f(found, layer)
  }
}

test_that(
  "an ink of exported functions alone keeps the contract, and says what the built-in one says",
  {
    contract <- contract_of()
    expect_true(all(contract$holds), info = paste(contract$why, collapse = "; "))
    expect_output(print(contract), "13 of 13 rules kept")
  set.seed(4)
  state <- .Random.seed
  check_ink_contract(ink_points(), tables = 1)
  expect_identical(.Random.seed, state)
    word <- function(weight = 1, ends = TRUE, colour = NULL, ...) nelvat::made_ink("trial1", ...)
    ours <- panel(study("loaves"), x = flour, y = rise, colour = hydration, word())
    built <- panel(
      study("loaves"),
      x = flour,
      y = rise,
      colour = hydration,
      ink_centre(error = "se")
    )
    numbers <- function(block) {
      table <- source_data(plate(block, width = 86, height = 60))[[1]]
      table <- table[table$part != "values", c("n", "centre", "lower", "upper")]
      table[order(table$centre), ]
    }
    expect_equal(numbers(ours), numbers(built), ignore_attr = TRUE)
    scene <- as_scene(plate(ours, width = 86, height = 60))
    expect_match(legend_text(scene), "means with standard errors")
    expect_gt(length(scene$keys), 0)
    # In facets, in a matrix, at edges, and of a quantity alone.
    matrix <- every_pair(study("loaves"), columns = c(flour, rise), mixed = word())
    alone <- panel(study("loaves"), x = rise, colour = hydration, word())
    for (block in list(facets(ours, across = bakery), matrix, marginals(ours, y = word()), alone)) {
      expect_match(legend_text(plate(block, width = 176)), "means with standard errors")
      expect_s3_class(proof(plate(block, width = 176)), "nelvat_proof")
    }
  }
)

test_that("an ink of one axis stands in marginals, turned too, as the built-in rug does", {
  ink_comb <- function(weight = 1, colour = NULL, ...) nelvat::made_ink("comb", ...)
  methods <- list(
    takes_of = function(ink) {
      list(
        weight = takes_number(0.1, 5, says = "Line weight in points."),
        colour = takes_channel(says = "A colour, or a category.")
      )
    },
    suits_of = function(ink) list(x = c("quantity", "moment")),
    findings_of = function(ink, layer) made_findings(parts_of_layer(layer), "tooth"),
    marks_of = function(ink, findings, site) {
      at <- findings$x
      list(made_marks("segments", findings, x0 = at, x1 = at, y0 = 0, y1 = 1))
    },
    sentence_of = function(ink, layer, findings) "a tooth a value",
    summary_of = function(ink) "values"
  )
  for (generic in names(methods)) {
    registerS3method(generic, "ink_comb", methods[[generic]], asNamespace("nelvat"))
  }
  host <- panel(study("loaves"), x = volume, y = rise, colour = hydration, ink_points())
  edges <- function(ink) {
    scene <- as_scene(plate(marginals(host, x = ink, y = ink), width = 100, height = 80))
    layers <- Filter(function(layer) layer$primitive == "segments", scene$marks)
    lapply(layers, function(layer) {
      along <- if (all(layer$table$x0 == layer$table$x1)) "x0" else "y0"
      sort(unique(round(layer$table[[along]], 9)))
    })
  }
  expect_equal(edges(ink_comb()), edges(ink_rug()))
  sources <- source_data(plate(marginals(host, x = ink_comb(), y = ink_comb()), width = 100))
  expect_identical(
    vapply(sources[-1], function(table) sum(table$n), 0),
    c(144, 144),
    ignore_attr = TRUE
  )
  expect_true(all(check_ink_contract(ink_comb(), ink_comb, tables = 1)$holds, na.rm = TRUE))
  expect_error(
    panel(study("loaves"), x = volume, y = rise, ink_comb()),
    "`ink_comb()` stands along one axis.",
    fixed = TRUE
  )
  expect_error(
    panel(study("loaves"), x = flour, ink_comb()),
    "quantity",
    class = "nelvat_error_kind"
  )
})

test_that("wrong inks are named by what they break", {
  wrong <- list(
    findings = list(
      `n that is none` = list(
        findings_of = altered(function(found, layer) {
          found$n <- found$n + 1L
          found
        })
      ),
      `marks of no rows` = list(
        findings_of = altered(function(found, layer) {
          found$n <- rep(0L, nrow(found))
          found
        })
      ),
      `an infinite number` = list(
        findings_of = altered(function(found, layer) {
          found$upper[1] <- Inf
          found
        })
      ),
      `a name that is none` = list(
        findings_of = altered(function(found, layer) {
          found$middle <- found$centre
          found
        })
      ),
      `the same mark twice` = list(
        findings_of = altered(function(found, layer) {
          found$n[] <- found$n[1]
          found[c("centre", "lower", "upper", "x", "colour")] <- 1
          found
        })
      ),
      `uses what it leaves out` = list(
        findings_of = altered(function(found, layer) {
          attr(found, "at")[1:3] <- NA
          found
        })
      )
    ),
    draws = list(
      `no findings` = list(findings_of = function(ink, layer) list()),
      `no sentence` = list(sentence_of = function(ink, layer, findings) NULL),
      `a bare error` = list(findings_of = function(ink, layer) stop("oops")),
      `another name of a number` = list(findings_of = function(ink, layer) {
        made_findings(parts_of_layer(layer), "mean", middle = 3)
      }),
      `suits nothing` = list(suits_of = function(ink) list(x = "moment", y = "moment")),
      `a primitive that is none` = list(key_symbol_of = function(ink) "star")
    ),
    missing = list(
      `counts missing values` = list(
        findings_of = altered(function(found, layer) {
          found$centre <- found$centre + nrow(layer$table)
          found
        })
      )
    ),
    order = list(
      `takes the first value` = list(
        findings_of = altered(function(found, layer) {
          found$centre[1] <- layer$table$y[1]
          found
        })
      ),
      `weighs by row` = list(
        findings_of = altered(function(found, layer) {
          found$centre <- found$centre + layer$table$y[1] / 100
          found
        })
      )
    ),
    panels = list(
      `pools over panels` = list(
        findings_of = altered(function(found, layer) {
          found$centre <- rep(mean(layer$table$y, na.rm = TRUE), nrow(found)) + found$centre * 1e-3
          found
        })
      )
    ),
    unit = list(
      `adds a number of one unit` = list(
        findings_of = altered(function(found, layer) {
          found$upper <- found$centre + 1
          found
        })
      ),
      `rounds to a unit` = list(
        findings_of = altered(function(found, layer) {
          found$centre <- round(found$centre)
          found
        })
      )
    ),
    again = list(
      `draws at random` = list(
        findings_of = altered(function(found, layer) {
          found$upper <- found$upper + stats::runif(1)
          found
        })
      ),
      `sets the seed` = list(
        findings_of = altered(function(found, layer) {
          set.seed(1)
          found
        })
      ),
      `sets an option` = list(
        findings_of = altered(function(found, layer) {
          options(digits = 3 + getOption("digits") %% 7)
          found
        })
      )
    ),
    marks = list(
      `draws nothing` = list(marks_of = function(ink, findings, site) list()),
      `draws at no number` = list(marks_of = function(ink, findings, site) {
        list(made_marks("points", findings, x = place_of(findings), y = NA_real_))
      }),
      `one colour for all` = list(marks_of = function(ink, findings, site) {
        list(
          made_marks(
            "points",
            findings,
            x = place_of(findings),
            y = findings$centre,
            colour = "#336699"
          )
        )
      }),
      `a column is missing` = list(marks_of = function(ink, findings, site) {
        list(made_marks("points", findings, x = place_of(findings)))
      }),
      `marks that are none` = list(marks_of = function(ink, findings, site) "points")
    ),
    sentence = list(
      `a full stop` = list(sentence_of = function(ink, layer, findings) "means."),
      `a sign of code` = list(sentence_of = function(ink, layer, findings) "a $ sign"),
      `code` = list(sentence_of = function(ink, layer, findings) "mean_se() of y"),
      `nothing said` = list(sentence_of = function(ink, layer, findings) " ")
    ),
    arguments = list(
      `no sentence of an argument` = list(takes_of = function(ink) {
        list(
          weight = takes_number(0.1, 5),
          ends = takes_flag(says = "Ends?"),
          colour = takes_channel(says = "A colour.")
        )
      }),
      `an argument without a type` = list(takes_of = function(ink) {
        list(ends = takes_flag(says = "Ends?"), colour = takes_channel(says = "A colour."))
      })
    )
  )
  kept_options <- options()
  withr::defer(options(kept_options))
  expect_gte(length(unlist(lapply(wrong, names))), 30)
  for (rule in names(wrong)[tries(length(wrong), 6)]) {
    for (mistake in names(wrong[[rule]])[tries(length(wrong[[rule]]), 1)]) {
      contract <- do.call(contract_of, wrong[[rule]][[mistake]])
      broken <- contract$rule[which(!contract$holds)]
      expect_true(
        rule %in% broken,
        label = paste0(rule, ": ", mistake, " (", toString(broken), ")")
      )
      expect_true(all(nzchar(contract$why[which(!contract$holds)])))
      options(kept_options["digits"])
    }
  }
})

test_that("methods beside a word are found, those that lack are told", {
  ink_half <- function(colour = NULL, ...) made_ink("half", ...)
  expect_error(
    as_scene(plate(panel(study("loaves"), x = flour, y = rise, ink_half()), width = 86)),
    "no method for `findings_of\\(\\)`",
    class = "nelvat_error_record"
  )
  findings_of.ink_half <- right_methods$findings_of
  marks_of.ink_half <- function(ink, findings, site) {
    list(made_marks("points", findings, x = place_of(findings), y = findings$centre))
  }
  sentence_of.ink_half <- function(ink, layer, findings) "means"
  expect_s3_class(
    as_scene(plate(panel(study("loaves"), x = flour, y = rise, ink_half()), width = 86)),
    "nelvat_scene"
  )
  expect_error(ink_half(color = "red"), "Did you mean", class = "nelvat_error_argument")
  expect_error(
    panel(study("loaves"), x = rise, y = flour, ink_half(), colour = volume),
    class = "nelvat_error"
  )
})

test_that("built-in inks keep the contract", {
  inks <- list(
    bars = ink_bars(),
    box = ink_box(),
    histogram = ink_histogram(),
    points = ink_points(),
    tally = ink_tally()
  )
  if (at_length()) {
    more <- c(
      "bins", "centre", "contours", "contrasts", "cumulative", "density", "dots", "ellipse", "fit",
      "hexagons", "line", "pie", "quantiles", "residuals", "ridges", "rug", "step", "strip",
      "swarm", "value", "violin"
    )
    inks[more] <- lapply(paste0("ink_", more), do.call, list())
    # Those that take columns of the tables, and notes.
    inks <- c(
      inks,
      list(
        agreement = ink_agreement(low, high),
        answers = ink_answers(),
        area = ink_area(),
        arrow = ink_arrow(from = c(2, 18), to = c(4, 20)),
        classes = ink_classes(v, status),
        column = ink_column(label),
        curve = ink_curve(y ~ 2 * x),
        depth = ink_depth(v),
        estimate = ink_estimate(low, high),
        events = ink_events(x = low, name = "Fed"),
        image = ink_image(study_file("crumb.png")),
        images = ink_images(picture),
        isolines = ink_isolines(v),
        labels = ink_labels(label),
        lanes = ink_lanes(low, high),
        limits = ink_limits(low, high),
        mesh = ink_mesh(),
        phases = ink_phases(data.frame(from = c(1, 3), to = c(2, 5), name = c("Day", "Night"))),
        polygons = ink_polygons(),
        region = ink_region(x = c(2, 4), y = c(18, 20)),
        rule = ink_rule(y = 20),
        shade = ink_shade(y = c(18, 20)),
        survival = ink_survival(status),
        text = ink_text("a", x = 3, y = 20),
        tiles = ink_tiles(),
        tree = ink_tree(),
        vectors = ink_vectors(data.frame(x = c(1, 3), y = c(2, 5), name = c("ph", "rise")))
      )
    )
  }
  if (at_length()) {
    every <- grep("^ink_", getNamespaceExports("nelvat"), value = TRUE)
    expect_setequal(paste0("ink_", names(inks)), every)
  }
  for (name in names(inks)) {
    word <- get(paste0("ink_", name), asNamespace("nelvat"))
    contract <- suppressWarnings(
      suppressMessages(check_ink_contract(inks[[name]], word, tables = 1))
    )
    broken <- contract[which(!contract$holds), ]
    expect_identical(nrow(broken), 0L, label = paste(name, broken$rule, broken$why))
    expect_gte(sum(contract$holds, na.rm = TRUE), 6)
  }
})

test_that("a package's inks stand in figure files, where it is loaded, and its own tests pass", {
  skip_if_not(at_length(), "Packages are installed where CI=true or ALL=1")
  skip_if_not(dir.exists(example_package))
  library_path <- withr::local_tempdir()
  copied <- file.path(library_path, "source")
  dir.create(copied)
  file.copy(example_package, copied, recursive = TRUE)
  withr::local_envvar(R_LIBS = paste(c(library_path, .libPaths()), collapse = .Platform$path.sep))
  run <- function(...) {
    suppressWarnings(
      system2(file.path(R.home("bin"), "R"), c(...), stdout = TRUE, stderr = TRUE)
    )
  }
  folder <- folder_with(
    list(
      "one.yaml" = c(
        "nelvat: 1", "data: {loaves: loaves.csv}",
        "blocks: {m: {panel: {data: loaves, x: flour, y: rise,",
        "  ink: [{\"nelvat.bakery::lollipop\": {weight: 2}}, \"nelvat.bakery::spans\"]}}}",
        "plate: {place: m, width: 86, height: 60}", "save: one.pdf"
      )
    )
  )
  file.copy(study_file("loaves.csv"), folder)
  path <- file.path(folder, "one.yaml")
  expect_error(read_figure(path), "line 4.*--allow nelvat.bakery", class = "nelvat_error_figure")
  expect_identical(run_nelvat("draw", path)$status, 1L)
  expect_identical(run_nelvat("--allow", "no.such.package", "draw", path)$status, 2L)
  installed <- run(
    "CMD",
    "INSTALL",
    "--no-test-load",
    "-l",
    shQuote(library_path),
    shQuote(file.path(copied, "nelvat.bakery"))
  )
  expect_match(paste(installed, collapse = "\n"), "DONE (nelvat.bakery)", fixed = TRUE)
  tested <- run(
    "--no-echo",
    "-e",
    shQuote(
      paste0(
        "testthat::test_dir('",
        file.path(copied, "nelvat.bakery", "tests", "testthat"),
        "', package = 'nelvat.bakery', reporter = 'summary', load_package = 'installed')"
      )
    )
  )
  expect_no_match(paste(tested, collapse = "\n"), "Failed|Error")
  withr::local_libpaths(library_path, "prefix")
  drawn <- run_nelvat("--allow", "nelvat.bakery", "draw", "--dpi", "100", path)
  withr::defer(unloadNamespace("nelvat.bakery"))
  expect_identical(drawn$status, 0L, info = paste(drawn$complained, collapse = "\n"))
  expect_match(legend_text(read_figure(path)[[1]]), "medians on stems from zero")
  # The page to look at draws in a process of its own, which knows the package, too.
  look <- looking_at(path)
  shown <- function() if (length(look$state$shown)) look$state$shown[[1]]
  end <- Sys.time() + 60
  while (is.null(shown()) && Sys.time() < end) nelvat:::serve_look(look$state, 1)
  expect_true(shown()$ok, info = shown()$message)
  writeLines(sub("lollipop", "lolipop", readLines(path)), path)
  expect_error(read_figure(path), "lollipop", class = "nelvat_error_figure")
})
