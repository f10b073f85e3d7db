# What was left out or filled, told where a reader looks.

# What was left out or filled: column, name as sentences have it, what, n, the block as messages
# call it ("" on a plate of one), and its id.
plate_notes <- function(blocks, plate, marks) {
  noted <- function(of_block) {
    lapply(blocks, function(block) {
      notes <- if (is.null(block$design$zoom)) of_block(block)
      if (!NROW(notes)) return(NULL)
      i <- as.integer(sub("^block", "", block$id))
      cbind(
        stack_notes(list(notes)),
        name = names_in_block(notes$column, block),
        block = if (length(plate$blocks) > 1) block_called(plate, i) else "",
        of = block$id,
        given = rows_given(block$design$panel$book)
      )
    })
  }
  loose <- unplaced_labels(marks)
  do.call(
    rbind,
    c(
      noted(function(block) without_unneeded(block_notes(block$design), block)),
      noted(trained_notes),
      noted(function(block) cut_bars(block, marks)),
      list(
        if (NROW(loose)) {
          cbind(stack_notes(list(loose)), name = loose$column, block = "", of = "", given = NA)
        }
      )
    )
  )
}

# Notes on what a block lacks, but for missing values of a colour, symbol and the like for which no
# ink left a row out: as one colour of its own stands for them, or it shows none.
without_unneeded <- function(notes, block) {
  asked_panel <- block$design$panel
  if (!NROW(notes) || !is.null(asked_panel$book$asked)) return(notes)
  channels <- Filter(Negate(is.null), asked_panel$variables[mark_channels])
  leaves_rows <- function(channel) {
    any(
      vapply(
        block$layers,
        function(layer) {
          values <- layer$table[[channel]]
          used <- layer$trained$used %||% FALSE
          # An axis that an ink brings itself, such as counts, has no values of rows.
          of_rows <- Filter(function(axis) !isTRUE(layer[[axis]]$supplied), c("x", "y"))
          !is.null(values) && any(is.na(values) & complete_rows(layer$table, of_rows) & !used)
        },
        NA
      )
    )
  }
  id_of <- function(variables) vapply(Filter(Negate(is.null), variables), `[[`, "", "id")
  needed <- Filter(leaves_rows, names(channels))
  others <- block_variables(replace(block$design, "panel", list(without_channels(asked_panel))))
  unneeded <- setdiff(id_of(channels), c(id_of(channels[needed]), id_of(others)))
  notes[!(notes$column %in% unneeded & notes$what == missing_words(NULL)), ]
}

without_channels <- function(asked_panel) {
  variables <- asked_panel$variables
  others <- variables[setdiff(names(variables), mark_channels)]
  replace(asked_panel, "variables", list(others))
}

# How many rows there were to be drawn, of a table that stays in its database those that it has.
rows_given <- function(book) book$n_rows %||% NROW(book$data)

# What columns and other variables of a block are called in sentences.
names_in_block <- function(ids, block) {
  design <- block$design$panel
  variables <- c(
    design$variables[setdiff(names(design$variables), c("y", "shared_y"))],
    design$variables$y,
    unlist(lapply(block$layers, function(layer) layer$ink$variables), recursive = FALSE)
  )
  variables <- Filter(function(one) is.list(one) && rlang::is_string(one$id), variables)
  known <- vapply(variables, `[[`, "", "id")
  vapply(
    ids,
    function(id) {
      kind <- design$book$columns[[id]] %||% variables[match(id, known)][[1]]$kind
      name <- if (!isTRUE(kind$hidden)) kind$name
      if (is.null(name) || !nzchar(name)) return(id)
      name_in_sentence(plain_text(name), id)
    },
    "",
    USE.NAMES = FALSE
  )
}

# What inks left out of what they were given, told where a reader looks; and values of inks that
# show them one by one, which lie beyond the range of an axis.
trained_notes <- function(block) {
  layers <- Filter(function(layer) !layer$behind, block$layers)
  inside <- Filter(function(layer) layer$role != "marginal", layers)
  rbind(
    unique(do.call(rbind, lapply(layers, function(layer) layer$trained$notes))),
    unique(do.call(rbind, lapply(inside, beyond_notes, block$areas, block$axes)))
  )
}

beyond_notes <- function(layer, areas, axes) {
  used <- layer$trained$used
  if (is.null(used) || ink_traits(layer$ink)$summarises != "values") return(NULL)
  do.call(
    rbind,
    lapply(c("x", "y"), function(direction) {
      n <- sum(used & !within_axes(layer, areas, axes, direction))
      if (!n) return(NULL)
      what <- paste("values beyond the range of the", direction, "axis")
      data.frame(column = layer[[direction]]$id, what = what, n = n)
    })
  )
}

# Bars, and areas, from zero that a range cuts, at their end or at their foot.
cut_bars <- function(block, marks) {
  rbind(cut_marks(block, marks, "rects", "bars"), cut_marks(block, marks, "areas", "areas"))
}

cut_marks <- function(block, marks, primitive, called) {
  bars <- Filter(
    function(layer) {
      isTRUE(layer$on_zero) && layer$primitive == primitive && identical(layer$block, block$id)
    },
    marks
  )
  # Bins that an axis cuts lose nothing of their height.
  stands_on <- function(layer, direction) {
    direction %in% block$layers[[layer$layer]]$trained$zero
  }
  shown_axis <- function(direction) block$panels[[paste0(direction, "_axis")]][1]
  cut_on <- function(direction) {
    ends <- unlist(
      lapply(Filter(function(layer) stands_on(layer, direction), bars), function(layer) {
        is_beyond(layer, direction)
      })
    )
    if (!any(ends, na.rm = TRUE)) return(NULL)
    data.frame(
      column = block$axes[[shown_axis(direction)]]$variable,
      what = paste(called, "that the range of the", direction, "axis cuts"),
      n = sum(ends, na.rm = TRUE)
    )
  }
  rbind(cut_on("x"), cut_on("y"))
}

# Of each bar, or of each area, whether it goes beyond the axis.
is_beyond <- function(layer, direction) {
  if (layer$primitive == "rects") {
    ends <- layer$table[paste0(direction, 0:1)]
    return(pmin(ends[[1]], ends[[2]]) < -1e-9 | pmax(ends[[1]], ends[[2]]) > 1 + 1e-9)
  }
  places <- layer$table[[direction]]
  of_area <- paste(layer$table$panel, layer$table$area)
  as.vector(tapply(places < -1e-9 | places > 1 + 1e-9, of_area, any))
}

unplaced_labels <- function(marks) {
  n <- sum(unlist(lapply(marks, `[[`, "unplaced")))
  if (n > 0) data.frame(column = "points", what = "labels that found no place", n = n)
}
