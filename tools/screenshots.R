# Makes docs/screenshots/ from the demo study: Rscript tools/screenshots.R

library(nelvat)
folder <- file.path("docs", "screenshots")
responses <- plate(
  facets(
    panel(
      study("loaves"),
      x = flour,
      y = c(rise, volume, ph, acidity, firmness, moisture),
      colour = hydration,
      ink_bars()
    ),
    per_row = 3
  ),
  width = "double",
  height = 120
)
scatter <- plate(
  facets(
    panel(
      study("loaves"),
      x = rise,
      y = firmness,
      colour = flour,
      shape = flour,
      ink_points(opacity = 0.8)
    ),
    across = hydration
  ),
  width = "double",
  height = 70
)
save_plate(responses, file.path(folder, "responses.png"), dpi = 180)

save_plate(
  plate(
    facets(
      panel(study("loaves"), x = rise, y = moisture, ink_points(), ink_fit(equation = TRUE)),
      across = flour,
      down = hydration,
      behind = TRUE
    ),
    width = "double",
    height = 130
  ),
  file.path(folder, "facets.png"),
  dpi = 180
)

# Groups compared: brackets, those within each category, and letters.
loaves <- study("loaves")
save_plate(
  plate(
    panel(loaves, x = flour, y = rise, ink_box(), ink_contrasts()),
    panel(
      loaves,
      x = hydration,
      y = volume,
      colour = flour,
      ink_bars(),
      ink_contrasts(between = "wheat", show = "stars")
    ),
    panel(loaves, x = flour, y = ph, ink_dots(), ink_contrasts(test = "tukey", show = "letters")),
    per_row = 3,
    width = "double",
    height = 85,
    share = FALSE
  ),
  file.path(folder, "contrasts.png"),
  dpi = 180
)

# What papers print: comparisons, estimates, a dose-response.
save_plate(
  read_figure(file.path(system.file("paper", package = "nelvat"), "figure-5.yaml"))$plate,
  file.path(folder, "statistics.png"),
  dpi = 180
)

# Plates of the other examples, by script and name.
example <- function(script, name) {
  environment <- new.env()
  for (one in as.list(parse(file.path("inst", "examples", paste0(script, ".R"))))) {
    if (!identical(one[[1]], as.name("for")) && !grepl("folder", deparse(one)[1])) {
      suppressWarnings(eval(one, environment))
    }
  }
  environment$plates[[name]]
}
shots <- list(
  pairs = c("pairs-and-joint", "correlations"),
  joint = c("pairs-and-joint", "fits"),
  hexagons = c("pairs-and-joint", "hexagons"),
  zooms = c("plates", "zooms"),
  plate = c("plates", "mixed")
)
suppressWarnings(
  for (shot in names(shots)) {
    save_plate(
      example(shots[[shot]][1], shots[[shot]][2]),
      file.path(folder, paste0(shot, ".png")),
      dpi = 150
    )
  }
)
bad <- read_figure(file.path("inst", "examples", "bad", "bad.yaml"))
invisible(proof_picture(bad$plate, file.path(folder, "proof.png"), dpi = 150))

# The report as a browser shows it, where there is one.
source("tools/colours-picture.R", local = new.env())

browser <- Filter(nzchar, Sys.which(c("chromium", "chromium-browser", "google-chrome")))
if (length(browser)) {
  page <- tempfile(fileext = ".html")
  suppressWarnings(
    report(
      read_figure(file.path("inst", "paper", "figure-2.yaml"))$plate,
      page,
      file.path("inst", "paper", "figure-2.yaml")
    )
  )
  system2(
    browser[1],
    c(
      "--headless",
      "--no-sandbox",
      "--disable-gpu",
      "--hide-scrollbars",
      "--window-size=1280,1500",
      paste0("--screenshot=", file.path(getwd(), folder, "report.png")),
      paste0("file://", page)
    ),
    stdout = FALSE,
    stderr = FALSE
  )
}

# All panels of inst/examples/inks.R on one sheet, at true size beside each other.
example <- parse("inst/examples/inks.R")
keep <- !vapply(example, function(one) grepl("folder|^for", deparse(one)[1]), NA)
suppressWarnings(for (one in example[keep]) eval(one))
panels$polygons <- NULL # looks as the mesh does
columns <- 5
sheet <- list(width = 86, height = 65)
rows <- ceiling(length(panels) / columns)
ragg::agg_png(
  file.path(folder, "inks.png"),
  width = columns * sheet$width,
  height = rows * sheet$height,
  units = "mm",
  res = 85
)
grid::grid.newpage()
for (i in seq_along(panels)) {
  grid::pushViewport(
    grid::viewport(
      x = grid::unit(((i - 1) %% columns + 0.5) * sheet$width, "mm"),
      y = grid::unit(1, "npc") - grid::unit(((i - 1) %/% columns + 0.5) * sheet$height, "mm"),
      width = grid::unit(sheet$width, "mm"),
      height = grid::unit(sheet$height, "mm")
    )
  )
  grid::grid.draw(
    suppressWarnings(
      as_grob(plate(panels[[i]], width = sheet$width - 4, height = sheet$height - 4))
    )
  )
  grid::popViewport()
}
invisible(dev.off())
