# Makes docs/screenshots/ from the demo study: Rscript tools/screenshots.R

library(nelvat)
source(file.path("tools", "gallery.R"))
folder <- file.path("docs", "screenshots")
for (one in gallery_figures()) {
  figure <- suppressWarnings(eval(parse(text = one$code), new.env()))
  suppressWarnings(save_plate(figure, file.path(folder, paste0(one$name, ".png")), dpi = 150))
}
writeLines(gallery_page(), file.path("docs", "gallery.md"))

bad <- read_figure(file.path("inst", "examples", "bad", "bad.yaml"))
invisible(proof_picture(bad$plate, file.path(folder, "proof.png"), dpi = 150))

# A page of a book of the paper's figures, where poppler is.
if (nzchar(Sys.which("pdftoppm"))) {
  book <- tempfile(fileext = ".pdf")
  paper <- file.path("inst", "paper", sprintf("figure-%d.yaml", c(2, 5)))
  plates <- lapply(paper, function(path) read_figure(path)$plate)
  names(plates) <- c("pairs", "comparisons")
  suppressWarnings(save_book(plates, book, prefix = "Figure S", title = "Supplement"))
  page <- c("-r", 85, "-f", 3, "-l", 3, "-singlefile", "-png", book, file.path(folder, "book"))
  system2("pdftoppm", page)
}

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
