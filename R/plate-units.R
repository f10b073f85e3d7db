# One unit an axis variable: where tables of a plate have one variable in unlike units, it is shown
# in the first block's.

# blocks: those of a plate. Two variables are one where column and name are the same.
in_one_unit <- function(blocks, call) {
  units <- list()
  lapply(blocks, function(block) {
    for (direction in c("x", "y")) {
      of_direction <- if (direction == "x") {
        list(block$panel$variables$x)
      } else {
        block$panel$variables$y
      }
      for (k in seq_along(of_direction)) {
        variable <- of_direction[[k]]
        unit <- unit_of_variable(variable)
        if (is.null(unit)) next
        id <- paste(variable$id, variable$kind$name, sep = "\r")
        if (is.null(units[[id]])) units[[id]] <<- unit
        if (identical(units[[id]], unit)) next
        check_no_places(block, direction, unit, units[[id]], variable, call)
        block <- block_in_unit(block, direction, k, unit, units[[id]], call)
      }
    }
    block
  })
}

# A block whose k-th variable of a direction is shown in another unit, with the columns of inks that
# stand on the same axis and the positions that were said with a unit.
block_in_unit <- function(block, direction, k, from, to, call) {
  design <- block$panel
  variables <- design$variables
  if (direction == "x") {
    variables$x <- in_shown_unit(variables$x, from, to, call)
  } else {
    variables$y[[k]] <- in_shown_unit(variables$y[[k]], from, to, call)
  }
  inks <- lapply(design$inks, function(ink) {
    for (name in intersect(axis_columns(ink), names(ink$variables))) {
      column <- ink$variables[[name]]
      own_unit <- unit_of_variable(column) %||% from
      ink$variables[[name]] <- in_shown_unit(column, own_unit, to, call)
    }
    ink
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
  axis_to <- function(axis) {
    for (field in intersect(c("range", "breaks"), names(axis))) {
      if (is.numeric(axis[[field]])) axis[[field]] <- to(axis[[field]])
    }
    axis
  }
  k <- match(direction, c("x", "y"))
  inks <- lapply(block$panel$inks, function(ink) {
    for (name in intersect(names(said_on_axis(ink, direction)), c("x", "y", "from", "to"))) {
      if (!is.numeric(ink[[name]])) next
      if (name %in% c("x", "y")) {
        ink[[name]] <- to(ink[[name]])
      } else {
        ink[[name]][k] <- to(ink[[name]][k])
      }
    }
    ink
  })
  block$panel$inks <- inks
  block$panel$axes[direction] <- list(axis_to(block$panel$axes[[direction]]))
  if (!is.null(block$axes)) block$axes[direction] <- list(axis_to(block$axes[[direction]]))
  block
}
