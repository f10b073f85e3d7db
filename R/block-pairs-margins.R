# Margins of a rectangular matrix: each variable of its columns alone above them, each of its rows
# beside them. A square one has its variables on the diagonal.

margins_of_pairs <- function(block, x, y, layout, call) {
  check_margins_of_pairs(block, call)
  given <- Filter(Negate(is.null), list(x = x, y = y))
  inks <- Map(
    function(one, side) {
      with_place(
        paste0("the marginal of `", side, "`"),
        margin_inks_of_pairs(block, side, check_inks(list(one), call), call)
      )
    },
    given,
    names(given)
  )
  changed(block, marginals = margin_record(inks, list(x = x, y = y, layout = layout), TRUE, call))
}

check_margins_of_pairs <- function(block, call) {
  in_columns <- function(one) any(vapply(block$variables, is_same_variable, NA, one))
  common <- Filter(in_columns, block$row_variables)
  problem <- if (block$square) {
    c(
      x = "This one is square: its variables are alone on its diagonal.",
      i = "Say `diagonal`, or `rows` and `columns` that have no variable in common."
    )
  } else if (length(common)) {
    c(
      x = paste0("\"", common[[1]]$id, "\" stands in its rows and in its columns."),
      i = "Say `rows` and `columns` that have no variable in common."
    )
  } else if (!is.null(block$asked)) {
    c(
      x = "This one is of a table that stays in its database, which is asked for pairs alone.",
      i = "Draw each variable in a panel of its own."
    )
  }
  if (is.null(problem)) return(invisible())
  abort_nelvat("argument", c("Marginals stand beside a matrix with `rows`.", problem), call)
}

# As inks of the diagonal: of one quantity of any column or row.
margin_inks_of_pairs <- function(block, side, inks, call) {
  variables <- if (side == "x") block$variables else block$row_variables
  quantities <- Filter(function(variable) !has_levels(variable$kind), variables)
  channels <- Filter(Negate(is_ramp), Filter(Negate(is.null), block$channels))
  lapply(inks, function(ink) {
    if (ink_traits(ink)$own_strip) {
      abort_nelvat(
        "argument",
        c(
          paste0("`ink_", ink$ink, "()` stands along one axis of levels."),
          x = "Each column and row of a matrix has an axis of its own."
        ),
        call
      )
    }
    ink <- beside_inks(
      settled_ink(resolve_ink(ink, block$panel$book, NULL, call), channels),
      list()
    )
    check_pair_places(ink, "marginals", quantities, call)
    if (length(quantities)) {
      one <- if (side == "x") list(x = quantities[[1]]) else list(y = quantities[1])
      check_in_panel(ink, list(variables = c(one, channels)), call)
    }
    ink
  })
}

with_pair_margins <- function(cells, block) {
  if (is.null(block$marginals) || !is.null(block$only)) return(cells)
  cells <- with_marginal_areas(cells, margin_places(block$marginals$inks), TRUE)
  in_margin <- cells$areas$role == "marginal"
  changed(cells, areas = changed(cells$areas, part = replace(cells$areas$part, in_margin, NA)))
}

# A layer for each variable in a margin and each ink, as bins and bandwidths are of one variable; of
# a category its counts.
pair_margin_layers <- function(block, cells) {
  areas <- cells$areas
  of_variable <- paste(areas$side, ifelse(areas$side %in% "x", areas$j, areas$i))
  of_variable[areas$role != "marginal"] <- NA
  unlist(
    lapply(split(seq_along(of_variable), factor(of_variable, unique(of_variable))), function(at) {
      side <- areas$side[at[1]]
      variable <- lone_variable(block, cells, at, side)
      if (has_levels(variable$kind)) {
        return(list(level_bars(variable, cells, at, side, "marginal")))
      }
      lapply(
        block$marginals$inks[[side]],
        function(ink) lone_layer(block, cells, at, ink, side, "marginal")
      )
    }),
    recursive = FALSE,
    use.names = FALSE
  )
}
