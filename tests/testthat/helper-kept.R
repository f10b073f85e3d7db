# What is drawn in many small figures, in a few numbers a layer: kept in a table, so that a change
# of any mark is seen. Whether they are right is for other tests to say. `Rscript
# tools/kept-marks.R` keeps them anew.

# The examples of inks, and inks of categories in panels side by side, upright and lying, with and
# without colour.
kept_figures <- function() {
  environment <- new.env()
  script <- as.list(parse(example_file("inks.R")))
  for (one in script) {
    if (!identical(one[[1]], as.name("for")) && !grepl("folder", deparse(one)[1])) {
      eval(one, environment)
    }
  }
  figures <- lapply(environment$panels, plate, width = 85, height = 65)
  loaves <- study("loaves")
  of_levels <- list(
    bars = ink_bars(error = "sd", values = TRUE),
    stacks = ink_bars(arrange = "stack"),
    shares = ink_bars(arrange = "share", values = TRUE),
    boxes = ink_box(notch = TRUE),
    light = ink_box(fill = "light", whiskers = c(0.1, 0.9)),
    violins = ink_violin(),
    halves = ink_violin(side = "after"),
    dots = ink_dots(),
    swarm = ink_swarm(),
    centres = ink_centre(error = "ci")
  )
  for (name in names(of_levels)) {
    ink <- of_levels[[name]]
    counts <- name %in% c("stacks", "shares")
    upright <- if (counts) {
      panel(loaves, x = flour, colour = hydration, ink)
    } else {
      panel(loaves, x = flour, y = rise, colour = hydration, ink)
    }
    lying <- if (counts) {
      panel(loaves, y = flour, colour = grade, ink)
    } else {
      panel(loaves, x = rise, y = flour, ink)
    }
    split <- facets(
      if (counts) panel(loaves, x = grade, ink) else panel(loaves, x = hydration, y = ph, ink),
      across = flour,
      range_per = c(y = "panel")
    )
    figures[[paste(name, "upright")]] <- plate(upright, width = 120, height = 70)
    figures[[paste(name, "lying")]] <- plate(lying, width = 90, height = 80)
    figures[[paste(name, "split")]] <- plate(split, width = 150, height = 60)
  }
  of_pairs <- list(
    points = list(ink_points()),
    fits = list(ink_points(), ink_fit(equation = TRUE)),
    curved = list(ink_points(), ink_fit("polynomial", band = 0.8, equation = TRUE)),
    contours = list(ink_contours(filled = TRUE)),
    hexagons = list(ink_hexagons(bins = 12)),
    bins = list(ink_bins(bins = 9)),
    residuals = list(ink_residuals()),
    value = list(ink_value(n = TRUE)),
    rug = list(ink_points(), ink_rug()),
    region = list(ink_points(), ink_region(c(40, 60), c(4, 8)), ink_arrow(c(30, 4), c(50, 6)))
  )
  for (name in names(of_pairs)) {
    figures[[paste(name, "split")]] <- plate(
      facets(
        do.call(
          panel,
          c(
            list(loaves, x = quote(rise), y = quote(firmness)),
            # Hexagons have their counts as colour.
            if (!name %in% c("hexagons", "bins")) list(colour = quote(hydration)),
            of_pairs[[name]]
          )
        ),
        across = flour
      ),
      width = 160,
      height = 60
    )
  }
  figures$joint <- plate(
    joint(loaves, x = rise, y = firmness, colour = flour),
    width = 90,
    height = 90
  )
  figures$histograms <- plate(
    joint(loaves, x = rise, y = firmness, marginal = ink_histogram(bins = 11)),
    width = 90,
    height = 90
  )
  figures$pairs <- plate(
    every_pair(loaves, c(rise, ph, flour), above = ink_value()),
    width = 120,
    height = 110
  )
  figures
}

# One scene as lines of text: its layers, panels and texts, each column as its mean and spread, or
# its words; its legend and alternative text.
kept_lines <- function(scene) {
  said <- function(values) {
    if (is.numeric(values)) {
      held <- values[is.finite(values)]
      if (length(held)) {
        sprintf("%.6g %.6g", mean(held), if (length(held) > 1) stats::sd(held) else 0)
      } else {
        "none"
      }
    } else {
      paste(utils::head(sort(unique(as.character(values)), method = "radix"), 4), collapse = "; ")
    }
  }
  of_table <- function(part, table) {
    columns <- Filter(function(column) is.atomic(table[[column]]), names(table))
    data.frame(
      part = part,
      column = c("n", columns),
      kept = c(nrow(table), vapply(columns, function(one) said(table[[one]]), ""))
    )
  }
  layers <- Filter(function(layer) is.data.frame(layer$table) && nrow(layer$table) > 0, scene$marks)
  words <- data.frame(
    part = "words",
    column = c("legend", "alternative text"),
    kept = c(legend_text(scene), alt_text(scene))
  )
  texts <- scene$texts[
    !scene$texts$role %in% c("tick", "heading"),
    c("role", "string", "x0", "y0", "x1", "y1", "size_pt", "angle")
  ]
  do.call(
    rbind,
    c(
      Map(
        function(layer, i) of_table(paste(i, layer$ink, layer$primitive), layer$table),
        layers,
        seq_along(layers)
      ),
      list(of_table("panels", scene$panels[c("x", "y", "w", "h")]), words),
      lapply(split(texts, texts$role), function(of) of_table(paste("text:", of$role[1]), of[-1]))
    )
  )
}

kept_table <- function(figures = kept_figures()) {
  do.call(
    rbind,
    lapply(names(figures), function(name) {
      scene <- suppressMessages(suppressWarnings(as_scene(figures[[name]])))
      data.frame(figure = name, kept_lines(scene), row.names = NULL)
    })
  )
}
