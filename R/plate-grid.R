# The grid of a plate: where each block stands on the page.

# Placements as one grid for the whole plate. A cut between two tracks is where any two
# places part; it is known as so many millimetres and so much of what is left of the
# length, so places that part at the same cut are aligned however they are nested.
# Returns list(blocks, names, columns, rows, places): `columns`, `rows` have mm and share, a
# row a track; `places` has block, x0, x1, y0, y1 (first and last track).
plate_grid <- function(children, sizes, per_row, call) {
  is_at <- vapply(children, function(child) identical(child$how, "at"), NA)
  leaves <- if (any(is_at)) {
    if (!all(is_at)) {
      abort_nelvat(
        "argument",
        c(
          "Either all blocks of a plate stand `at()` cells of its table, or none.",
          x = paste0("Found ", counted(sum(!is_at), "block"), " without cells.")
        ),
        call
      )
    }
    table_leaves(children, sizes, call)
  } else if (length(children) == 1) {
    tree_leaves(children[[1]], whole_span(), whole_span(), names(children), sizes$house, call)
  } else {
    dealt <- dealt_children(children, per_row, sizes)
    table_leaves(dealt$children, changed(sizes, heights = sizes$heights %||% dealt$heights), call)
  }
  key <- Find(function(leaf) leaf$how == "key", leaves)
  leaves <- Filter(function(leaf) leaf$how == "block", leaves)
  if (!length(leaves)) {
    abort_nelvat("argument", c("A plate needs a block.", x = "Found only `blank()`."), call)
  }
  columns <- cuts_of(lapply(c(leaves, list(key)), `[[`, "x"))
  rows <- cuts_of(lapply(c(leaves, list(key)), `[[`, "y"))
  track <- function(span, cuts) c(cut_index(span[1, ], cuts), cut_index(span[2, ], cuts) - 1L)
  places <- do.call(
    rbind,
    lapply(seq_along(leaves), function(i) {
      x <- track(leaves[[i]]$x, columns)
      y <- track(leaves[[i]]$y, rows)
      data.frame(block = i, x0 = x[1], x1 = x[2], y0 = y[1], y1 = y[2])
    })
  )
  list(
    key = if (!is.null(key)) {
      data.frame(
        x0 = track(key$x, columns)[1],
        x1 = track(key$x, columns)[2],
        y0 = track(key$y, rows)[1],
        y1 = track(key$y, rows)[2]
      )
    },
    blocks = lapply(leaves, `[[`, "block"),
    names = vapply(leaves, function(leaf) leaf$name %||% "", ""),
    columns = track_sizes(columns),
    rows = track_sizes(rows),
    places = check_not_nested_away(places, call)
  )
}

# The shares of the page's width and height that a block has; 1 for what stands in another.
page_share_of <- function(grid, i) {
  place <- grid$places[i, ]
  of <- function(tracks, from, to) {
    if (is.na(from) || sum(tracks$share) == 0) return(1)
    share <- sum(tracks$share[from:to]) / sum(tracks$share)
    if (share > 0) share else 1
  }
  list(x = of(grid$columns, place$x0, place$x1), y = of(grid$rows, place$y0, place$y1))
}

# Nested places whose ends fall together.
check_not_nested_away <- function(places, call) {
  if (all(places$x1 >= places$x0 & places$y1 >= places$y0)) return(places)
  abort_nelvat(
    "space",
    c(
      "Blocks are nested so deeply that one is left with nothing of the page.",
      i = "Put them in one row, `beside(a, b, c)`, or one column, `stacked(a, b, c)`."
    ),
    call
  )
}

# Two ends, each as mm and share.
whole_span <- function() rbind(c(0, 0), c(0, 1))

cuts_of <- function(spans) {
  cuts <- unique(round(do.call(rbind, c(list(whole_span()), spans)), 9))
  # Millimetres count as parts of a page of this size where they must be put in order.
  cuts[order(cuts[, 1] + cuts[, 2] * 150), , drop = FALSE]
}

cut_index <- function(end, cuts) which.min(abs(cuts[, 1] - end[1]) + abs(cuts[, 2] - end[2]))

track_sizes <- function(cuts) data.frame(mm = diff(cuts[, 1]), share = diff(cuts[, 2]))

# Leaves of a tree with their spans across and down.
tree_leaves <- function(node, x, y, name, house, call) {
  if (node$how == "block") {
    return(list(list(how = "block", block = node$block, name = node$name %||% name, x = x, y = y)))
  }
  if (node$how %in% c("blank", "key")) return(list(list(how = node$how, x = x, y = y)))
  across <- node$how == "beside"
  sizes <- settled_sizes(node$sizes, node$children, across, house)
  spans <- split_span(if (across) x else y, sizes, call)
  unlist(
    Map(
      function(child, span, name) {
        tree_leaves(child, if (across) span else x, if (across) y else span, name, house, call)
      },
      node$children,
      spans,
      rlang::names2(node$children)
    ),
    recursive = FALSE
  )
}

# A span parted by sizes: millimetres first, then shares of what is left.
split_span <- function(span, sizes, call) {
  whole <- span[2, ] - span[1, ]
  rest <- whole - c(sum(sizes$mm), 0)
  if (all(sizes$weight == 0)) rest <- c(0, 0)
  steps <- cbind(sizes$mm, 0) + outer(
    if (sum(sizes$weight) > 0) sizes$weight / sum(sizes$weight) else sizes$weight,
    rest
  )
  ends <- rbind(span[1, ], cbind(span[1, 1] + cumsum(steps[, 1]), span[1, 2] + cumsum(steps[, 2])))
  # All in millimetres: the last goes to the end.
  if (all(sizes$weight == 0)) ends[nrow(ends), ] <- span[2, ]
  lapply(seq_len(nrow(sizes)), function(i) ends[i + 0:1, , drop = FALSE])
}

# The leaves of a table of cells.
table_leaves <- function(children, sizes, call) {
  columns <- max(vapply(children, function(child) child$columns[2], 0))
  rows <- max(vapply(children, function(child) child$rows[2], 0))
  owner_of_cell <- matrix(0L, rows, columns)
  for (i in seq_along(children)) {
    cells <- owner_of_cell[
      children[[i]]$rows[1]:children[[i]]$rows[2],
      children[[i]]$columns[1]:children[[i]]$columns[2]
    ]
    if (any(cells > 0)) {
      abort_nelvat(
        "argument",
        c(
          "Two blocks stand at the same cells.",
          x = paste0(
            "Blocks ",
            cells[cells > 0][1],
            " and ",
            i,
            " share ",
            counted(sum(cells > 0), "cell"),
            "."
          )
        ),
        call
      )
    }
    owner_of_cell[
      children[[i]]$rows[1]:children[[i]]$rows[2],
      children[[i]]$columns[1]:children[[i]]$columns[2]
    ] <- i
  }
  if (any(owner_of_cell == 0)) {
    hole <- which(owner_of_cell == 0, arr.ind = TRUE)[1, ]
    abort_nelvat(
      "argument",
      c(
        "Each cell of the plate's table needs a block.",
        x = paste0("Row ", hole[1], ", column ", hole[2], " has none."),
        i = "`at(blank(), rows = , columns = )` keeps a place empty."
      ),
      call
    )
  }
  tracks_of <- function(i, along) {
    lapply(
      Filter(
        function(child) child[[along]][1] == child[[along]][2] && child[[along]][1] == i,
        children
      ),
      `[[`,
      "child"
    )
  }
  column_sizes <- settled_sizes(
    as_sizes(sizes$widths, columns, "widths", call),
    lapply(seq_len(columns), tracks_of, "columns"),
    TRUE,
    sizes$house
  )
  row_sizes <- settled_sizes(
    as_sizes(sizes$heights, rows, "heights", call),
    lapply(seq_len(rows), tracks_of, "rows"),
    FALSE,
    sizes$house
  )
  x <- split_span(whole_span(), column_sizes, call)
  y <- split_span(whole_span(), row_sizes, call)
  unlist(
    lapply(children, function(child) {
      across <- rbind(x[[child$columns[1]]][1, ], x[[child$columns[2]]][2, ])
      down <- rbind(y[[child$rows[1]]][1, ], y[[child$rows[2]]][2, ])
      tree_leaves(child$child, across, down, child$child$name, sizes$house, call)
    }),
    recursive = FALSE
  )
}
