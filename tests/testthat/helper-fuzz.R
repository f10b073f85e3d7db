# Random figures of nasty tables, for what must hold of all: a scene that keeps every invariant, or
# an error of the package's own.

nasty_numbers <- function(n) {
  values <- switch(
    sample(9, 1),
    rnorm(n),
    rep(5, n),
    rnorm(n) * 1e9 + 1e12,
    rnorm(n) * 1e-12,
    sample(c(0, 1e300, -1e300), n, TRUE),
    sample(c(NA, Inf, -Inf, 0, 1), n, TRUE),
    rep(NA_real_, n),
    round(rnorm(n), 1),
    1e9 + runif(n) * 1e-3
  )
  if (n > 2 && runif(1) < 0.3) values[sample(n, 1)] <- NA
  values
}

nasty_names <- c(
  "a",
  "",
  " ",
  "b*c",
  "x^2^",
  "~",
  "\u4e2d\u6587",
  "\u0645\u0631\u062d\u0628\u0627",
  "e\u0301",
  "\U0001F35E",
  "1-2",
  "25-34",
  "a/b/c",
  "TRUE",
  "NA ",
  "=1+1",
  strrep("long ", 12),
  paste(rep("w", 80), collapse = "")
)

nasty_levels <- function(n) {
  values <- sample(sample(nasty_names, sample(5, 1)), n, TRUE)
  if (runif(1) < 0.3) values[sample(n, 1)] <- NA
  if (runif(1) < 0.2) factor(values, levels = unique(c(na.omit(values), "unused"))) else values
}

nasty_table <- function() {
  n <- sample(c(0, 1, 2, 3, 12, 60), 1, prob = c(1, 2, 2, 3, 6, 6))
  table <- data.frame(
    f = nasty_levels(n),
    g = nasty_levels(n),
    v = nasty_numbers(n),
    w = nasty_numbers(n)
  )
  table$t <- as.POSIXct("2026-03-29 01:30", tz = "Europe/Oslo") + if (n) {
    sort(sample(0:1e6, n, TRUE))
  } else {
    numeric()
  }
  table$d <- as.Date(sample(c("0001-01-01", "2026-02-28", "2026-03-01", "9999-12-31"), n, TRUE))
  table
}

pick <- function(...) {
  one <- sample(list(...), 1)[[1]]
  if (is.function(one)) one() else one
}

nasty_ink <- function() {
  pick(
    function() {
      ink_fit(
        model = sample(
          c(
            "robust", "proportional", "exponential", "power", "logistic", "dose-response",
            "michaelis-menten", "binomial"
          ),
          1
        ),
        equation = TRUE
      )
    },
    function() {
      ink_fit(y ~ a + b * x, start = list(a = 1, b = 1), interval = "prediction", weigh_by = w)
    },
    function() {
      ink_contrasts(between = "none", overall = sample(c("anova", "welch anova", "kruskal"), 1))
    },
    function() ink_contrasts(test = "paired", subject = g, show = "difference"),
    function() ink_estimate(v, w),
    function() ink_column(v),
    ink_cumulative,
    ink_quantiles,
    function() ink_quantiles(sample(c("exponential", "uniform"), 1)),
    ink_ridges,
    function() ink_agreement(v, w),
    function() ink_classes(v, g, positive = "a"),
    function() ink_violin(side = "after"),
    function() ink_dots(side = "before"),
    function() ink_bars(error = "exact"),
    function() {
      ink_contrasts(
        between = sample(c("all", "neighbours"), 1),
        test = sample(c("welch", "student", "rank sum", "tukey"), 1),
        show = sample(c("p", "stars"), 1)
      )
    },
    function() ink_contrasts(show = "letters"),
    function() ink_bars(width = 10^runif(1, -2, 2)),
    function() ink_box(width = runif(1, 0.2, 20), fill = "light"),
    ink_points,
    function() ink_points(size = runif(1, 0.05, 5), opacity = runif(1)),
    ink_line,
    function() ink_line(centre = "mean", band = sample(c("sd", "se", "ci", "range"), 1)),
    ink_bars,
    function() {
      ink_bars(
        centre = sample(c("mean", "median", "sum", "count"), 1),
        arrange = sample(c("side", "stack", "share", "overlay"), 1),
        values = TRUE
      )
    },
    ink_box,
    function() ink_box(notch = TRUE, whiskers = "range"),
    ink_violin,
    ink_dots,
    function() ink_swarm(size = runif(1, 0.1, 2)),
    ink_histogram,
    function() ink_histogram(width = 10^runif(1, -9, 3)),
    function() ink_histogram(bins = sample(50, 1), curve = TRUE),
    ink_density,
    ink_rug,
    ink_hexagons,
    ink_bins,
    ink_contours,
    function() ink_fit(model = sample(c("line", "polynomial", "loess"), 1), equation = TRUE),
    ink_residuals,
    ink_tiles,
    ink_value,
    ink_step,
    function() ink_labels(f),
    function() ink_text(sample(nasty_names, 1), x = runif(1), y = runif(1), at = "panel"),
    function() ink_rule(y = rnorm(1)),
    function() ink_shade(x = sort(rnorm(2)))
  )
}

nasty_panel <- function(table) {
  channel <- function() sample(c("f", "g", "v", "w", "t", "d"), 1)
  said <- list(x = as.name(channel()))
  if (runif(1) < 0.8) said$y <- as.name(channel())
  for (one in c("colour", "shape", "size", "dash", "group")) {
    if (runif(1) < 0.15) said[[one]] <- as.name(channel())
  }
  if (runif(1) < 0.15) {
    said$x <- call(sample(c("log10", "sqrt", "asinh", "reverse", "logit"), 1), said$x)
  }
  if (runif(1) < 0.1) said$y_axis <- axis_of(range = sort(rnorm(2)), every = 10^sample(-3:2, 1))
  if (runif(1) < 0.1) said$missing <- sample(c("gap", "bridge", "drop", "own"), 1)
  inks <- lapply(seq_len(sample(2, 1)), function(i) nasty_ink())
  if (inherits(inks[[1]], c("ink_agreement", "ink_classes")) && runif(1) < 0.8) {
    said[c("x", "y")] <- NULL
  }
  if (inherits(inks[[1]], c("ink_column", "ink_quantiles")) && runif(1) < 0.8) said["x"] <- NULL
  do.call(panel, c(list(table), said, inks))
}

nasty_plate <- function(seed) {
  set.seed(seed)
  table <- nasty_table()
  block <- function() {
    pick(
      function() nasty_panel(table),
      function() nasty_panel(table),
      function() {
        facets(
          nasty_panel(table),
          across = f,
          per_row = sample(3, 1),
          behind = runif(1) < 0.2,
          missing = sample(c("drop", "own"), 1)
        )
      },
      function() {
        facets(
          nasty_panel(table),
          across = f,
          down = g,
          range_per = sample(c("block", "panel", "row"), 1),
          empty = sample(c("draw", "drop", "say"), 1)
        )
      },
      function() every_pair(table, c(v, w), colour = g),
      function() joint(table, x = v, y = w),
      function() text_panel(sample(nasty_names, 1))
    )
  }
  do.call(
    plate,
    c(
      lapply(seq_len(sample(2, 1)), function(i) block()),
      list(
        width = pick("single", "double", runif(1, 20, 300)),
        height = pick(NULL, runif(1, 20, 250)),
        key = pick(NULL, "top", "bottom", "left", "right", "inside", "none", "direct", "block"),
        title = pick(NULL, sample(nasty_names, 1)),
        letters = pick(NULL, "panel", "none")
      )
    )
  )
}

# What is wrong with a scene: numbers that are not finite, marks out of their panel's tables, and
# what scene_faults() finds.
broken_invariants <- function(scene) {
  numbers <- c(
    unlist(scene$panels[c("x", "y", "w", "h")]),
    unlist(scene$texts[c("x0", "x1", "y0", "y1")]),
    unlist(lapply(scene$axes, `[[`, "range"))
  )
  marks <- unlist(
    lapply(
      scene$marks,
      function(layer) {
        unlist(
          layer$table[intersect(c("x", "y", "x0", "x1", "y0", "y1", "size_mm"), names(layer$table))]
        )
      }
    )
  )
  c(
    if (any(!is.finite(numbers))) "a place is no number",
    if (any(is.infinite(marks))) "a mark is at infinity",
    if (any(scene$panels$w <= 0 | scene$panels$h <= 0)) "a plot area has no size",
    if (any(!unlist(lapply(scene$marks, function(layer) layer$table$panel)) %in% scene$panels$id)) {
      "a mark has no panel"
    },
    if (
      any(
        vapply(
          scene$axes,
          function(axis) {
            anyDuplicated(axis$text[nzchar(axis$text)]) > 0 && !axis$slots && is.null(axis$moment)
          },
          NA
        )
      )
    ) {
      "ticks print alike"
    }
  )
}

# NULL where all is well; else what came of it.
fuzz_case <- function(seed) sound_or_told({
  found <- broken_invariants(as_scene(nasty_plate(seed)))
  if (length(found)) stop(paste(found, collapse = "; "))
})

sound_or_told <- function(code) {
  setTimeLimit(cpu = 10, transient = TRUE)
  on.exit(setTimeLimit())
  tryCatch(
    withCallingHandlers(
      {
        code
        NULL
      },
      warning = function(warning) {
        if (inherits(warning, "nelvat_warning")) {
          rlang::cnd_muffle(warning)
        } else {
          stop("bare warning: ", conditionMessage(warning)[1])
        }
      },
      message = function(message) rlang::cnd_muffle(message)
    ),
    nelvat_error = function(error) NULL,
    error = function(error) {
      paste0("bare error: ", conditionMessage(error)[1])
    }
  )
}

# Damaged files ------------------------------------------------------------------------

# A folder with the paper's figures, their data, codebooks and house.
paper_folder <- function(envir = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = envir)
  file.copy(list.files(system.file("paper", package = "nelvat"), full.names = TRUE), folder)
  folder
}

# Places of all leaves and branches of a document.
document_places <- function(document, at = integer()) {
  if (!is.list(document)) return(list(at))
  c(
    if (length(at)) list(at),
    unlist(
      lapply(seq_along(document), function(i) document_places(document[[i]], c(at, i))),
      recursive = FALSE
    )
  )
}

wrong_values <- list(
  NULL,
  list(),
  "",
  " ",
  "yes",
  NA,
  TRUE,
  -1,
  0,
  1e300,
  -1e-300,
  3.5,
  c(1, 2),
  list(1, "a"),
  list(a = 1),
  list(a = list(b = list(c = 1))),
  "2026-02-30",
  "rise +",
  "rise[",
  "system('ls')",
  "`",
  strrep("x", 3000),
  "\u6e29\u5ea6",
  "\u202e",
  list(list(list(list(list(1))))),
  "../x",
  "all",
  letters,
  as.list(1:300)
)

damaged_tree <- function(text) {
  document <- yaml::yaml.load(paste(text, collapse = "\n"))
  place <- sample(document_places(document), 1)[[1]]
  how <- sample(c("value", "name", "swap", "drop", "twice"), 1)
  if (how == "value") {
    document[[place]] <- sample(wrong_values, 1)[[1]]
  } else if (how == "drop") {
    document[[place]] <- NULL
  } else if (how == "swap") {
    document[[place]] <- document[[sample(document_places(document), 1)[[1]]]]
  } else {
    inside <- utils::head(place, -1)
    branch <- if (length(inside)) document[[inside]] else document
    if (is.list(branch)) {
      if (how == "twice") {
        branch <- c(branch, branch[utils::tail(place, 1)])
      } else if (!is.null(names(branch))) {
        names(branch)[utils::tail(place, 1)] <- sample(
          c(names(branch), "", "x y", "1", "nelvat", "\u00e9"),
          1
        )
      }
      if (length(inside)) document[[inside]] <- branch else document <- branch
    }
  }
  yaml::as.yaml(document)
}

damaged_text <- function(text) {
  whole <- paste(text, collapse = "\n")
  n <- nchar(whole)
  from <- sample(n, 1)
  to <- min(n, from + sample(c(1, 5, 40), 1))
  put <- sample(
    c(
      "",
      ":",
      "- ",
      "\t",
      "&a ",
      "*a",
      "!!binary ",
      "{",
      "]",
      "'",
      "\"",
      "|\n",
      "? ",
      "%",
      "@",
      "\r",
      "<<: ",
      "~",
      "\u00a0",
      strrep("[", 400),
      "---\n"
    ),
    1
  )
  bytes <- charToRaw(
    paste0(
      substr(whole, 1, from - 1),
      put,
      if (runif(1) < 0.5) substr(whole, from, n) else substr(whole, to, n)
    )
  )
  how <- sample(5, 1)
  if (how == 1) bytes <- utils::head(bytes, from)
  if (how == 2) {
    bytes[sample(length(bytes), 3)] <- as.raw(sample(c(0, 0x80, 0xff, 0xc3, 0x1b), 3, TRUE))
  }
  if (how == 3) bytes <- iconv(rawToChar(bytes), "UTF-8", "UTF-16LE", toRaw = TRUE)[[1]]
  bytes
}

# NULL where all is well; else what came of one figure of the paper with one of its files damaged.
damage_case <- function(seed, folder) {
  set.seed(seed)
  figure <- sample(list.files(folder, "^figure-[0-9][.]yaml$"), 1)
  files <- c(figure, list.files(folder, "codebook[.]yaml$"), "nelvat.yaml")
  file <- file.path(folder, sample(files, 1, prob = c(6, rep(2, length(files) - 2), 2)))
  kept <- readBin(file, "raw", 1e6)
  on.exit(writeBin(kept, file))
  text <- readLines(file, encoding = "UTF-8")
  writeBin(
    if (runif(1) < 0.6) charToRaw(enc2utf8(damaged_tree(text))) else damaged_text(text),
    file
  )
  sound_or_told({
    found <- read_figure(file.path(folder, figure))
    for (one in utils::head(if (is.null(found$drawings)) list(found) else found$drawings, 2)) {
      broken <- broken_invariants(as_scene(one$plate))
      if (length(broken)) stop(paste(broken, collapse = "; "))
    }
  })
}
