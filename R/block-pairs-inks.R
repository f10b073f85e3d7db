# The inks of a matrix of pairs, and what stands where nothing is said.

many_points <- 5000
too_many_points <- 50000

pair_inks <- function(parts, mixed, design, call) {
  n <- design$book$n_rows %||% nrow(design$book$data)
  grouped <- !is.null(design$channels$colour) && has_levels(design$channels$colour$kind)
  alone <- if (grouped) design$channels else design$channels[names(design$channels) != "colour"]
  default <- default_pair_ink(n)
  if (!"below" %in% names(parts)) parts["below"] <- list(default$ink)
  if (!"above" %in% names(parts)) parts["above"] <- list(NULL)
  if (!"diagonal" %in% names(parts)) {
    parts["diagonal"] <- list(if (grouped) ink_density() else ink_histogram())
  }
  if (is.null(parts$below) && is.null(parts$above)) {
    abort_nelvat(
      "argument",
      c("A matrix of pairs needs inks above or below its diagonal.", x = "Both are NULL."),
      call
    )
  }
  quantities <- Filter(function(variable) !has_levels(variable$kind), c(design$across, design$down))
  ready <- function(name, variables) {
    inks <- parts[[name]]
    if (is.null(inks) || identical(inks, "names")) return(inks)
    lapply(with_place(paste0("`", name, "`"), check_inks(list(inks), call)), function(ink) {
      ink <- beside_inks(
        settled_ink(resolve_ink(ink, design$book, NULL, call), design$channels),
        list()
      )
      check_own_axes(list(ink), list(y = quantities[1]), "A matrix of pairs", call)
      check_pair_places(ink, name, quantities, call)
      if (length(quantities)) {
        with_place(
          paste0("`", name, "`"),
          check_in_panel(
            ink,
            list(variables = c(variables, if (name == "diagonal") alone else design$channels)),
            call
          )
        )
      }
      ink
    })
  }
  pair <- if (length(quantities)) list(x = quantities[[1]], y = list(quantities[[1]]))
  mixed <- resolve_ink(check_inks(list(mixed), call)[[1]], design$book, NULL, call)
  list(
    parts = list(
      above = ready("above", pair),
      diagonal = ready("diagonal", pair["x"]),
      below = ready("below", pair)
    ),
    mixed = mixed,
    notes = if (identical(parts$below, default$ink)) default$notes
  )
}

# Each panel of a matrix has axes of its own: what is said of one of them says nothing of the
# others.
check_pair_places <- function(ink, part, quantities, call) {
  said <- Filter(Negate(is.null), unclass(ink)[intersect(c("x", "y", "from", "to"), names(ink))])
  if (!length(said) || identical(ink$at, "panel")) return(invisible())
  turned <- Find(function(variable) variable$transform != "identity", quantities)
  if (is.null(turned) && !any(vapply(said, is_places, NA))) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`", names(said)[1], "` of `", part, "` must be bare numbers of axes as they are."),
      x = if (is.null(turned)) {
        paste0("Found ", quoted(Find(is_places, said)$text), "; each panel has axes of its own.")
      } else {
        paste0("\"", turned$id, "\" is transformed by ", turned$transform, ".")
      },
      i = "Draw the pair in a panel of its own."
    ),
    call
  )
}

# What stands below the diagonal where nothing is said.
default_pair_ink <- function(n) {
  note <- function(what) data.frame(column = "every pair", what = what, n = n, out = FALSE)
  if (n > too_many_points) {
    return(list(ink = ink_hexagons(bins = 24), notes = note("rows, drawn as counts in hexagons")))
  }
  if (n > many_points) {
    return(
      list(
        ink = ink_points(size = 0.6, opacity = 0.25),
        notes = note("rows, drawn as transparent points")
      )
    )
  }
  list(ink = ink_points(size = 0.9, opacity = 0.75))
}
