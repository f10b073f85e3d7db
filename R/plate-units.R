# One unit an axis variable: where tables of a plate have one variable in unlike units, it is shown
# in the first block's.

# blocks: those of a plate. Two variables are one where column and name are the same.
in_one_unit <- function(blocks, call) {
  each <- lapply(blocks, axis_units)
  units <- do.call(rbind, each)
  Map(
    function(block, own) {
      for (row in seq_len(NROW(own))) {
        one <- own[row, ]
        unit <- units$unit[match(one$id, units$id)]
        if (identical(unit, one$unit)) next
        variable <- axis_variables(block, one$direction)[[one$k]]
        check_no_places(block, one$direction, one$unit, unit, variable, call)
        block <- block_in_unit(block, one$direction, one$k, one$unit, unit, call)
      }
      block
    },
    blocks,
    each
  )
}

axis_variables <- function(block, direction) {
  of_panel <- block$panel$variables
  if (direction == "x") list(of_panel$x) else of_panel$y
}

# The units in which a block shows its variables on axes: direction, k (of its variables there), id,
# unit. Where it has none, NULL.
axis_units <- function(block) {
  rows <- lapply(c("x", "y"), function(direction) {
    of_direction <- axis_variables(block, direction)
    lapply(seq_along(of_direction), function(k) {
      variable <- of_direction[[k]]
      unit <- unit_of_variable(variable)
      if (is.null(unit)) return(NULL)
      id <- paste(variable$id, variable$kind$name, sep = "\r")
      data.frame(direction = direction, k = k, id = id, unit = unit)
    })
  })
  do.call(rbind, unlist(rows, FALSE))
}

# A block whose k-th variable of a direction is shown in another unit, with the columns of inks that
# stand on the same axis and the positions that were said with a unit.
block_in_unit <- function(block, direction, k, from, to, call) {
  design <- block$panel
  variables <- design$variables
  variables <- if (direction == "x") {
    changed(variables, x = in_shown_unit(variables$x, from, to, call))
  } else {
    shown <- in_shown_unit(variables$y[[k]], from, to, call)
    changed(variables, y = replace(variables$y, k, list(shown)))
  }
  inks <- lapply(design$inks, function(ink) {
    names <- intersect(axis_columns(ink), names(ink$variables))
    shown <- lapply(ink$variables[names], function(column) {
      in_shown_unit(column, unit_of_variable(column) %||% from, to, call)
    })
    changed(ink, variables = replace(ink$variables, names, shown))
  })
  block <- changed(block, panel = changed(design, variables = variables, inks = inks))
  with_places_in(block, direction, unit_conversion(from, to, call))
}

in_shown_unit <- function(variable, from, to, call) {
  conversion <- tryCatch(unit_conversion(from, to, call), nelvat_error_unit = function(error) {
    abort_nelvat(
      "unit",
      c(
        paste0("\"", variable$id, "\" stands on this plate in \"", to, "\" and in \"", from, "\"."),
        x = "One cannot be converted to the other.",
        i = "If they are two variables, give them two names in their codebooks."
      ),
      call
    )
  })
  changed(
    variable,
    values = variable$values * conversion$factor + conversion$offset,
    kind = changed(variable$kind, show = to)
  )
}

# Positions that a block says without a unit are in the unit of its own axis.
check_no_places <- function(block, direction, from, to, variable, call) {
  made <- block$panel$made
  margins <- block$marginals$made[[direction]]
  inks <- c(made$inks, if (is_ink(margins)) list(margins) else margins)
  bare <- bare_places(made$axes, inks, direction)
  together <- direction == "y" && !is.null(block$panel$variables$shared_y)
  if (!length(bare) && !together) return(invisible())
  abort_nelvat(
    "unit",
    c(
      paste0("\"", variable$id, "\" stands on this plate in \"", to, "\" and in \"", from, "\"."),
      if (together) {
        c(
          x = paste0("In ", block$panel$label, " it shares its axis with other columns."),
          i = paste0("Show them there as \"", to, "\": `quantity(unit = , show = )`.")
        )
      } else {
        saying_bare(
          bare,
          from,
          paste0(
            "Show it there as \"",
            to,
            "\", with `quantity(unit = \"",
            from,
            "\", show = \"",
            to,
            "\")`, and say it so."
          )
        )
      }
    ),
    call
  )
}

# Positions that were said with a unit, from one unit of their axis to another.
with_places_in <- function(block, direction, conversion) {
  to <- function(values) values * conversion$factor + conversion$offset
  # Those of a record's fields `names` that are numbers, from one unit to the other: all of them, or
  # for ends that are both places, that of the direction.
  with_fields <- function(record, names, ends = character()) {
    k <- match(direction, c("x", "y"))
    numbers <- Filter(function(name) is.numeric(record[[name]]), intersect(names, names(record)))
    shown <- lapply(numbers, function(name) {
      values <- record[[name]]
      if (name %in% ends) replace(values, k, to(values[k])) else to(values)
    })
    replace(record, numbers, shown)
  }
  axes_to <- function(axes) {
    axis <- axes[[direction]]
    replace(axes, direction, list(if (!is.null(axis)) with_fields(axis, c("range", "breaks"))))
  }
  inks <- lapply(block$panel$inks, function(ink) {
    said <- intersect(names(said_on_axis(ink, direction)), c("x", "y", "from", "to"))
    with_fields(ink, said, c("from", "to"))
  })
  design <- changed(block$panel, inks = inks, axes = axes_to(block$panel$axes))
  if (is.null(block$axes)) return(changed(block, panel = design))
  changed(block, panel = design, axes = axes_to(block$axes))
}
