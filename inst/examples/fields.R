# What papers of six fields print: six figures each, a page a field. Run with:
#   Rscript inst/examples/fields.R [FOLDER]

library(nelvat)

folder <- c(commandArgs(trailingOnly = TRUE), "demo-output")[1]
dir.create(folder, recursive = TRUE, showWarnings = FALSE)
loaves <- study("loaves")
cultures <- study("cultures")
doses <- study("doses")
keeping <- study("keeping")
oven <- study("oven")
probe <- study("probe")
stages <- study("stages")
starters <- study("starters")
strains <- study("strains")
tasting <- study("tasting")
trials <- study("trials")
crumb <- study_file("crumb.png")
views <- panel(
  study("views"),
  ink_images(
    image,
    scale_bar(length = 2, unit = "mm", per_pixel = 0.05),
    brightness = c(20, 80),
    folder = dirname(crumb)
  )
)
bar <- scale_bar(length = 5, unit = "mm", per_pixel = 0.05)
measures <- correlations(loaves, c(rise, volume, ph, acidity, firmness, moisture))
by_hand <- estimates_of(stats::lm(rise ~ flour + hydration + verdict, loaves$data))

ecology <- list(
  panel(
    loaves,
    x = flour,
    y = moisture,
    ink_box(),
    ink_contrasts(test = "tukey", show = "letters")
  ),
  panel(
    cultures,
    x = hour,
    y = log10(count),
    keep = microbe == "scer" & hour <= 24,
    ink_points(),
    ink_fit("loess")
  ),
  panel(
    study("scores"),
    x = first,
    y = second,
    colour = flour,
    ink_points(size = 0.7),
    ink_ellipse(),
    ink_vectors(study("loadings"))
  ),
  panel(study("slice"), x = x, y = y, group = triangle, colour = moisture, ink_polygons()),
  panel(
    cultures,
    x = hour,
    y = count,
    colour = microbe,
    keep = dish == 1 & hour != 9,
    ink_area("share")
  ),
  panel(
    strains,
    x = medium,
    y = growth,
    colour = kind,
    ink_line(centre = "mean", band = "ci")
  )
)

molecular <- list(
  panel(
    loaves,
    x = flour,
    y = ph,
    ink_bars(centre = "mean", error = "se"),
    ink_dots(size = 0.7),
    ink_contrasts(between = "neighbours")
  ),
  panel(
    study("aromas"),
    x = change,
    y = -log10(p),
    colour = class,
    ink_rule(x = c(-1, 1), y = 1.3, dash = TRUE, count = TRUE),
    ink_points(size = 0.6),
    ink_labels(compound, rank = abs(change), most = 8)
  ),
  panel(doses, x = asinh(dose), y = growth, colour = acid, ink_points(), ink_fit("dose-response")),
  panel(study("scores"), x = first, y = second, colour = flour, ink_points()),
  marginals(
    panel(
      strains,
      x = medium,
      y = strain,
      colour = growth,
      order = list(
        strain = by_likeness(growth, medium, groups = 3),
        medium = by_likeness(growth, strain)
      ),
      ink_tiles(values = FALSE)
    ),
    x = ink_tree(depth = 6),
    y = list(ink_strip(colour = kind), ink_tree(depth = 6))
  ),
  facets(views, across = part, down = flour)
)

trial <- list(
  panel(
    trials,
    x = log10(ratio),
    y = bakery,
    ink_estimate(lower, upper, line = 1),
    ink_tally(text = loaves)
  ),
  panel(
    cultures,
    x = hour,
    y = log10(count),
    colour = microbe,
    keep = microbe == "fsan" | microbe == "khum",
    ink_line(centre = "mean"),
    ink_centre(error = "ci")
  ),
  panel(
    starters,
    x = starter,
    y = change,
    colour = answer,
    order = list(starter = by_statistic(change, "max", descending = TRUE)),
    ink_bars()
  ),
  panel(
    starters,
    x = to,
    y = starter,
    colour = fed,
    order = list(starter = by_statistic(to, "max", descending = TRUE)),
    ink_lanes(from),
    ink_events(doubled, "Doubled"),
    ink_events(collapsed, "Collapsed", shape = "triangle")
  ),
  panel(keeping, x = days, colour = flour, ink_survival(stale, test = TRUE, ratio = TRUE)),
  panel(tasting, ink_classes(5 - ph_meter, sour, positive = "yes"))
)

psychology <- list(
  panel(
    loaves,
    x = flour,
    y = rise,
    colour = hydration,
    ink_bars(centre = "mean", error = "ci"),
    ink_dots(size = 0.5)
  ),
  panel(
    loaves,
    x = flour,
    y = moisture,
    ink_violin(side = "after", quartiles = FALSE),
    ink_box(width = 1.5),
    ink_dots(side = "before", size = 0.6)
  ),
  panel(
    loaves,
    x = hydration,
    y = firmness,
    colour = flour,
    ink_line(centre = "mean", band = "se", markers = TRUE)
  ),
  panel(
    measures,
    x = r,
    y = second,
    keep = first == "rise" & second != "rise",
    ink_estimate(lower, upper, line = 0)
  ),
  panel(loaves, y = bakery, colour = grade, ink_answers()),
  panel(
    tasting,
    x = day,
    y = liking,
    ink_line(group = taster, weight = 0.4),
    ink_centre(error = "ci")
  )
)

materials <- list(
  panel(
    probe,
    x = time,
    y = c(chamber, surface, core),
    dash = measure("Temperature, staggered"),
    ink_line(stagger = 10)
  ),
  panel(study("crumb"), x = strain, y = stress, ink_line(along = "rows", arrow = TRUE)),
  panel(
    probe,
    x = running_mean(chamber, 181),
    y = running_mean(gas, 181),
    ink_line(along = "rows", arrow = TRUE)
  ),
  panel(
    probe,
    x = time,
    y = median,
    derive = list(median = derived(running_median(core, 15), quantity("Dough core", "\u00b0C"))),
    y_axis = axis_of(also = "\u00b0F"),
    ink_line()
  ),
  panel(
    loaves,
    x = volume,
    y = rise,
    derive = list(
      low = derived(rise - 3),
      high = derived(rise + 3),
      left = derived(volume - 25),
      right = derived(volume + 25)
    ),
    keep = flour == "rye",
    ink_limits(low, high, left, right, means = "error of the instruments"),
    ink_points()
  ),
  image_panel(crumb, bar)
)

earth <- list(
  panel(probe, x = gas, y = time, keep = gas < 20, ink_line(along = "y", gap = "5 mins")),
  panel(
    oven,
    x = x,
    y = y,
    colour = temperature,
    ink_tiles(values = FALSE),
    ink_isolines(temperature, every = 10)
  ),
  panel(loaves, x = acidity, y = ph, ink_points(size = 0.8), ink_fit(interval = "prediction")),
  marginals(
    panel(probe, x = time, y = gas, ink_phases(stages), ink_line()),
    x = ink_phases(stages)
  ),
  panel(
    oven,
    x = x,
    y = y,
    size = above,
    derive = list(above = derived(temperature - 195, quantity("Above 195 \u00b0C", "\u00b0C"))),
    colour = temperature,
    keep = x %% 20 == 0 & y %% 20 == 0,
    ink_points()
  ),
  panel(by_hand, x = estimate, y = term, ink_estimate(lower, upper, line = 0))
)

pages <- list(
  ecology = ecology,
  molecular = molecular,
  trial = trial,
  psychology = psychology,
  materials = materials,
  earth = earth
)
# Lanes and rows of heat maps want more height than other panels.
heights <- list(molecular = c(1, 1, 1.7), trial = c(1, 1.5, 1))
for (name in names(pages)) {
  six <- pages[[name]]
  page <- plate(
    stacked(
      beside(six[[1]], six[[2]]),
      beside(six[[3]], six[[4]]),
      beside(six[[5]], six[[6]]),
      heights = heights[[name]]
    ),
    width = "double",
    height = 220
  )
  cat(save_plate(page, file.path(folder, paste0("field-", name, ".pdf"))), sep = "\n")
}
