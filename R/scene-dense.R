# Marks that print cannot show are left out of the scene: points wholly under later ones,
# and points of a trace between the least and greatest of their printed column. What is
# seen stays the same.

print_dpi <- 600
dot_mm <- 25.4 / print_dpi
dense_points <- 2000 # of a panel, from which hidden ones are looked for
dense_line <- 2000   # points of a layer, from which lines are thinned

thinned_marks <- function(marks, panels) {
  lapply(marks, function(layer) {
    if (is.null(layer$table) || !nrow(layer$table)) return(layer)
    if (layer$primitive == "lines" && nrow(layer$table) > dense_line) layer$table <- thinned_lines(layer$table, panels)
    if (layer$primitive == "points" && nrow(layer$table) > dense_points) layer$table <- seen_points(layer$table, panels)
    layer
  })
}

thinned_lines <- function(table, panels) {
  spot <- match(table$panel, panels$id)
  group <- match_rows(new_table(panel = table$panel, line = table$line), rep(TRUE, nrow(table)))$at
  table_rows(table, which(thin_lines_cpp(group, table$x * panels$w[spot], table$y * panels$h[spot], dot_mm)))
}

# Only opaque discs hide, and only they are left out.
seen_points <- function(table, panels) {
  n <- nrow(table)
  opaque <- rep_len(table$shape, n) == "disc" & rep_len(table$opacity, n) >= 1 & nchar(rep_len(table$colour, n)) < 9
  drop <- integer()
  for (rows in split(which(opaque), table$panel[opaque])) {
    # Others between them would be seen through the gaps, so they must all be discs.
    if (length(rows) < dense_points || length(rows) != sum(table$panel == table$panel[rows[1]])) next
    one_panel <- panels[match(table$panel[rows[1]], panels$id), ]
    radius <- rep_len(table$size_mm, n)[rows] / 2
    x_mm <- table$x[rows] * one_panel$w
    y_mm <- table$y[rows] * one_panel$h
    drop <- c(drop, rows[hidden_discs_cpp(x_mm, y_mm, radius, one_panel$w, one_panel$h, dot_mm)])
  }
  if (length(drop)) table_rows(table, setdiff(seq_len(n), drop)) else table
}
