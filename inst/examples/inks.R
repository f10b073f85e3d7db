# One panel for each ink, from the sourdough study. Run with:
#   Rscript inst/examples/inks.R [FOLDER]

library(nelvat)

folder <- c(commandArgs(trailingOnly = TRUE), "demo-output")[1]
dir.create(folder, recursive = TRUE, showWarnings = FALSE)
loaves <- study("loaves")
pores <- study("pores")
probe <- study("probe")
cultures <- study("cultures")
trials <- study("trials")
doses <- study("doses")
tasting <- study("tasting")
keeping <- study("keeping")
strains <- study("strains")
stages <- study("stages")
oven <- study("oven")
starters <- study("starters")
scores <- study("scores")
loadings <- study("loadings")
measures <- correlations(loaves, c(rise, volume, ph, acidity, firmness, moisture))

panels <- list(
  points = panel(loaves, x = rise, y = firmness, colour = flour, shape = flour, ink_points()),
  bubbles = panel(
    loaves,
    x = rise,
    y = ph,
    size = acidity,
    colour = moisture,
    ink_points(opacity = 0.8)
  ),
  line = panel(
    cultures,
    x = hour,
    y = log10(count),
    colour = microbe,
    keep = microbe == "fsan" | microbe == "khum",
    ink_line(centre = "mean", band = "se", markers = TRUE)
  ),
  step = panel(counts(loaves, starter_age), x = starter_age, y = n, ink_step()),
  stagger = panel(
    probe,
    x = time,
    y = c(chamber, surface),
    dash = measure("Temperature, staggered"),
    ink_line(stagger = 10)
  ),
  bars = panel(loaves, x = flour, y = rise, colour = hydration, ink_bars(error = "ci")),
  shares = panel(loaves, y = flour, colour = grade, ink_bars(arrange = "share")),
  counts = panel(loaves, x = flour, colour = grade, ink_bars(arrange = "stack", values = TRUE)),
  box = panel(loaves, x = flour, y = rise, colour = hydration, ink_box()),
  violin = panel(loaves, x = flour, y = moisture, ink_violin()),
  dots = panel(loaves, x = flour, y = rise, ink_dots()),
  swarm = panel(loaves, x = hydration, y = moisture, ink_swarm()),
  histogram = panel(loaves, x = rise, ink_histogram(curve = TRUE)),
  outlines = panel(
    pores,
    x = log10(area),
    colour = flour,
    ink_histogram(arrange = "outline", bins = 60)
  ),
  density = panel(loaves, x = rise, colour = flour, ink_density(), ink_rug()),
  contours = panel(
    loaves,
    x = rise,
    y = acidity,
    colour = flour,
    ink_contours(),
    ink_points(size = 0.7)
  ),
  hexagons = panel(pores, x = log10(area), y = roundness, ink_hexagons()),
  bins = panel(pores, x = depth, y = roundness, ink_bins(c(24, 18))),
  tiles = panel(measures, x = first, y = second, colour = r, ink_tiles()),
  fit = panel(
    loaves,
    x = rise,
    y = moisture,
    ink_points(size = 1),
    ink_fit("polynomial", equation = TRUE)
  ),
  doses = panel(
    doses,
    x = asinh(dose),
    y = growth,
    colour = acid,
    ink_points(),
    ink_fit("dose-response", equation = TRUE)
  ),
  growth = panel(
    cultures,
    x = hour,
    y = count,
    keep = microbe == "cmill",
    ink_points(),
    ink_fit("logistic", equation = TRUE)
  ),
  formula = panel(
    doses,
    x = dose,
    y = growth,
    keep = acid == "lactic",
    ink_points(),
    ink_fit("y ~ a * exp(-x / b)", start = list(a = 90, b = 50), equation = TRUE)
  ),
  residuals = panel(loaves, x = rise, y = moisture, ink_residuals()),
  marks = panel(
    loaves,
    x = rise,
    y = firmness,
    ink_shade(y = c(4, 7)),
    ink_points(),
    ink_rule(x = 45, dash = TRUE),
    ink_region(x = c(66, 82), y = c(2.2, 6)),
    ink_arrow(c(70, 11.5), c(82.5, 13.5)),
    ink_text("an outlier", 70, 11.5, anchor = "left")
  ),
  mesh = panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_mesh()),
  polygons = panel(
    study("slice"),
    x = x,
    y = y,
    group = triangle,
    colour = moisture,
    ink_polygons(edges = FALSE)
  ),
  contrasts = panel(
    loaves,
    x = flour,
    y = ph,
    colour = flour,
    ink_box(fill = "light"),
    ink_contrasts(between = "neighbours")
  ),
  letters = panel(
    loaves,
    x = flour,
    y = moisture,
    ink_dots(),
    ink_contrasts(test = "tukey", show = "letters")
  ),
  paired = panel(
    tasting,
    x = day,
    y = liking,
    ink_line(group = taster, weight = 0.4),
    ink_points(),
    ink_contrasts(test = "paired", subject = taster)
  ),
  overall = panel(
    loaves,
    x = flour,
    y = rise,
    ink_box(),
    ink_contrasts(between = "none", overall = "kruskal")
  ),
  estimate = panel(
    trials,
    x = log10(ratio),
    y = bakery,
    ink_estimate(
      lower,
      upper,
      means = "95 % confidence interval",
      pooled = "All bakeries",
      line = 1
    )
  ),
  column = panel(trials, y = bakery, ink_column(loaves, side = "right", bold = "All bakeries")),
  centre = panel(
    cultures,
    x = microbe,
    y = log10(count),
    keep = hour == 24,
    ink_centre(error = "ci")
  ),
  cumulative = panel(loaves, x = rise, colour = flour, ink_cumulative()),
  limits = panel(
    loaves,
    x = volume,
    y = rise,
    derive = list(low = derived(rise - 3), high = derived(rise + 3)),
    ink_limits(low, high, means = "error of the ruler"),
    ink_points()
  ),
  survival = panel(keeping, x = days, colour = flour, ink_survival(stale, test = TRUE)),
  tally = panel(loaves, x = flour, y = rise, ink_box(), ink_tally(), ink_tally("mean sd")),
  area = panel(
    cultures,
    x = hour,
    y = count,
    colour = microbe,
    keep = dish == 1 & hour != 9,
    ink_area("share")
  ),
  answers = panel(loaves, y = bakery, colour = grade, ink_answers()),
  ellipse = panel(loaves, x = rise, y = volume, colour = flour, ink_points(), ink_ellipse()),
  path = panel(
    probe,
    x = running_mean(chamber, 181),
    y = running_mean(gas, 181),
    ink_line(along = "rows", arrow = TRUE)
  ),
  clustered = marginals(
    panel(
      strains,
      x = medium,
      y = strain,
      colour = growth,
      keep = kind == "acetic",
      order = list(
        strain = by_likeness(growth, medium, groups = 2),
        medium = by_likeness(growth, strain)
      ),
      ink_tiles(values = FALSE)
    ),
    x = ink_tree(depth = 6),
    y = list(ink_strip(colour = kind), ink_tree(depth = 6))
  ),
  phases = marginals(
    panel(probe, x = time, y = gas, ink_phases(stages), ink_line()),
    x = ink_phases(stages)
  ),
  bands = panel(
    study("oven"),
    x = x,
    y = y,
    colour = temperature,
    ink_isolines(temperature, every = 10, filled = TRUE)
  ),
  isolines = panel(
    oven,
    x = x,
    y = y,
    colour = temperature,
    ink_tiles(values = FALSE),
    ink_isolines(temperature, every = 10)
  ),
  views = facets(
    panel(
      study("views"),
      ink_images(
        image,
        scale_bar(length = 2, unit = "mm", per_pixel = 0.05),
        folder = dirname(study_file("views.csv"))
      )
    ),
    across = part,
    down = flour
  ),
  lanes = panel(
    starters,
    x = to,
    y = starter,
    keep = fed == "daily",
    ink_lanes(from),
    ink_events(doubled, "Doubled"),
    ink_events(collapsed, "Collapsed", shape = "triangle")
  ),
  vectors = panel(
    scores,
    x = first,
    y = second,
    colour = flour,
    ink_points(size = 0.7),
    ink_vectors(loadings)
  ),
  table = table_panel(trials, c(bakery, loaves, ratio), bold = 7),
  quantiles = panel(loaves, y = rise, colour = flour, ink_quantiles()),
  ridges = panel(loaves, x = rise, y = flour, ink_ridges()),
  halves = panel(
    loaves,
    x = flour,
    y = moisture,
    ink_violin(side = "after", quartiles = FALSE),
    ink_box(width = 1.5),
    ink_dots(side = "before", size = 0.8)
  ),
  agreement = panel(tasting, ink_agreement(ph_meter, ph_paper)),
  classes = panel(tasting, ink_classes(5 - ph_meter, sour, positive = "yes")),
  curve = panel(
    doses,
    x = asinh(dose),
    y = growth,
    ink_points(),
    ink_curve(y ~ 100 / (1 + x / 20), name = "simple inhibition")
  ),
  pie = panel(loaves, colour = grade, ink_pie()),
  depth = panel(loaves, x = rise, y = moisture, colour = hydration, ink_depth(z = firmness))
)

for (name in names(panels)) {
  path <- file.path(folder, paste0("ink-", name, ".pdf"))
  save_plate(plate(panels[[name]], width = "single", height = 65), path)
  cat(path, "\n", sep = "")
}
