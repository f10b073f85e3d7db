# One unit an axis variable: where tables of a plate have one variable in unlike units, it is shown
# in the first block's.

# blocks: those of a plate. Two variables are one where column and name are the same.
in_one_unit <- function(blocks, call) {
  units <- list()
  lapply(blocks, function(block) {
    variables <- block$panel$variables
    if (is.null(variables)) return(block)
    for (direction in c("x", "y")) {
      several <- direction == "y"
      of_direction <- if (several) variables$y else list(variables$x)
      for (k in seq_along(of_direction)) {
        variable <- of_direction[[k]]
        unit <- unit_of_variable(variable)
        if (is.null(unit)) next
        id <- paste(variable$id, variable$kind$name, sep = "\r")
        if (is.null(units[[id]])) units[[id]] <<- unit
        if (identical(units[[id]], unit)) next
        check_no_places(block, direction, unit, units[[id]], variable, call)
        converted <- in_shown_unit(variable, unit, units[[id]], call)
        if (several) variables$y[[k]] <- converted else variables$x <- converted
        block <- with_places_in(block, direction, unit_conversion(unit, units[[id]], call))
      }
    }
    if (identical(variables, block$panel$variables)) return(block)
    changed(block, panel = changed(block$panel, variables = variables))
  })
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
  bare <- bare_places(block$panel$made$axes, block$panel$made$inks, direction)
  if (!length(bare)) return(invisible())
  abort_nelvat(
    "unit",
    c(
      paste0("\"", variable$id, "\" stands on this plate in \"", to, "\" and in \"", from, "\"."),
      x = paste0("Positions on its axis in ", block$panel$label, " are said in \"", from, "\"."),
      i = paste0("Say them with their unit, such as \"", format(bare[[1]][1]), " ", from, "\".")
    ),
    call
  )
}

# Positions that were said with a unit, from one unit of their axis to another.
with_places_in <- function(block, direction, conversion) {
  to <- function(values) values * conversion$factor + conversion$offset
  axis_to <- function(axis) {
    if (is.null(axis)) return(NULL)
    for (field in c("range", "breaks")) {
      if (is.numeric(axis[[field]])) axis[[field]] <- to(axis[[field]])
    }
    axis
  }
  inks <- lapply(block$panel$inks, function(ink) {
    if (ink_traits(ink)$summarises != "nothing") return(ink)
    if (is.numeric(ink[[direction]])) ink[[direction]] <- to(ink[[direction]])
    k <- match(direction, c("x", "y"))
    for (end in intersect(c("from", "to"), names(ink))) ink[[end]][k] <- to(ink[[end]][k])
    ink
  })
  block$panel$inks <- inks
  block$panel$axes[direction] <- list(axis_to(block$panel$axes[[direction]]))
  if (!is.null(block$axes)) block$axes[direction] <- list(axis_to(block$axes[[direction]]))
  block
}
