# The rows of a layer: those of its panels, each with the measure that its panel shows; of rows that
# stand for many, with how many that are.

# Each panel's rows, with the measure it shows as y.
cell_table <- function(variables, cells) {
  cells$rows <- rows_of_measures(variables, cells)
  row <- unlist(cells$rows)
  columns <- list(panel = rep(cells$areas$id, lengths(cells$rows)), x = variables$x$values[row])
  columns$y <- unlist(
    Map(
      function(rows, measure) variables$y[[measure]]$values[rows],
      cells$rows,
      cells$areas$measure
    )
  )
  for (channel in mark_channels) columns[[channel]] <- variables[[channel]]$values[row]
  columns <- c(columns, measured_weights(variables, cells))
  do.call(new_table, c(columns, list(.rows = length(row))))
}

# The rows of each cell that are of a variable, where rows are of one of several.
own_rows <- function(variable, rows) {
  if (is.null(variable$held)) return(rows)
  lapply(rows, function(some) some[variable$held[some]])
}

rows_of_measures <- function(variables, cells) {
  if (length(variables$y) < 2) return(own_rows(variables$y[[1]], cells$rows))
  unlist(
    Map(
      function(measure, rows) own_rows(variables$y[[measure]], list(rows)),
      cells$areas$measure,
      cells$rows
    ),
    recursive = FALSE
  )
}

# The weights of the rows of each cell, beside the measure that it shows.
measured_weights <- function(variables, cells) {
  if (length(variables$y) < 2) return(row_weights(variables, unlist(cells$rows)))
  if (is.null(variables$y[[1]]$times)) return(NULL)
  parts <- Map(
    function(measure, rows) {
      as.data.frame(row_weights(changed(variables, y = variables$y[measure]), rows))
    },
    cells$areas$measure,
    cells$rows
  )
  as.list(stack_tables(parts))
}

# How many rows each row stands for, and the sums of what it is the mean of.
row_weights <- function(variables, row) {
  placed <- c(list(variables$x), variables$y)
  times <- Find(Negate(is.null), lapply(placed, `[[`, "times"))
  if (is.null(times)) return(NULL)
  sums <- Filter(Negate(is.null), lapply(placed, `[[`, "sums"))
  if (!length(sums)) return(list(times = times[row]))
  if (length(sums) < 2) {
    ends <- sums[[1]][c("spread", "least", "greatest")]
    return(c(list(times = times[row]), lapply(ends, function(one) one[row])))
  }
  # Of two quantities, each has its own, and both their products.
  columns <- list(
    x_spread = sums[[1]]$spread,
    x_least = sums[[1]]$least,
    x_greatest = sums[[1]]$greatest,
    y_spread = sums[[2]]$spread,
    products = sums[[1]]$products * sums[[1]]$factor * sums[[2]]$factor
  )
  c(list(times = times[row]), lapply(columns, function(one) one[row]))
}

# Each panel's rows once for each measure, the measures as levels of a channel.
series_table <- function(variables, cells) {
  stack_tables(
    lapply(seq_along(variables$y), function(measure) {
      one <- variables
      one$y <- variables$y[measure]
      for (channel in c("x", mark_channels)) {
        if (!identical(one[[channel]]$id, "measure")) next
        one[[channel]] <- changed(
          one[[channel]],
          values = rep(as.numeric(measure), length(one$y[[1]]$values))
        )
      }
      cell_table(
        one,
        changed(cells, areas = changed(cells$areas, measure = rep(1L, nrow(cells$areas))))
      )
    })
  )
}
