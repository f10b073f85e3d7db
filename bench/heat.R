# A clustered heat map of 2,000 x 200 cells with a tree at either side, from its rows to a PDF,
# against R's own clustering of the same matrix: Rscript bench/heat.R
suppressMessages(library(nelvat))
set.seed(1)
dishes <- expand.grid(strain = sprintf("s%04d", 1:2000), medium = sprintf("m%03d", 1:200))
dishes$growth <- rnorm(nrow(dishes)) + as.integer(dishes$medium) %% 3
book <- codebook(dishes, strain = category(), medium = category(), growth = quantity("Growth"))
cells <- matrix(dishes$growth, 2000)
seconds <- function(code) system.time(code)[["elapsed"]]
drawn <- function(path) {
  heat <- panel(
    book,
    x = medium,
    y = strain,
    colour = growth,
    order = list(
      strain = by_likeness(growth, over = medium),
      medium = by_likeness(growth, over = strain)
    ),
    ink_tiles(values = FALSE),
    x_axis = axis_of(breaks = character()),
    y_axis = axis_of(breaks = character())
  )
  fig <- plate(marginals(heat, x = ink_tree(), y = ink_tree()), width = "double", height = 150)
  save_plate(fig, path)
}
path <- tempfile(fileext = ".pdf")
drawn(path)
runs <- vapply(
  1:5,
  function(i) {
    c(
      seconds({
        stats::hclust(stats::dist(cells), "average")
        stats::hclust(stats::dist(t(cells)), "average")
      }),
      seconds(drawn(path))
    )
  },
  c(0, 0)
)
middle <- apply(runs, 1, stats::median)
cat(
  sprintf(
    "clustering %.2f s, figure %.2f s, %.2f MB\n",
    middle[1],
    middle[2],
    file.size(path) / 1e6
  )
)
