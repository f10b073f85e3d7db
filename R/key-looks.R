# The looks of all categories that a plate shows by colour, shape or dash: made once, for all
# panels, keys and pages.

# layers: a list for each block. A list of looks by id. Columns of one name that are titled unlike
# are two variables.
plate_looks <- function(layers, plate, titles) {
  used <- as.list(used_categories(layers, plate, titles))
  ids <- vapply(used, `[[`, "", "id")
  taken <- list()
  lapply(split(used, factor(ids, unique(ids))), function(of) {
    # The same table in several panels says the same.
    kinds <- lapply(of, `[[`, "kind")
    once <- !duplicated(lapply(of, function(one) one[c("table", "kind")]))
    shows <- unique(unlist(lapply(of, `[[`, "shows")))
    kind <- merged_kind(of[[1]]$id, kinds[once], vapply(of[once], `[[`, "", "table"), NULL)
    if ("colour" %in% shows && takes_from_set(kind)) {
      from <- first_free(kind, taken, length(plate$house$palette))
      taken <<- c(taken, list(list(levels = kind$levels, from = from, n = places_of(kind))))
      kind <- changed(
        kind,
        colour_place = from + (kind$colour_place %||% seq_along(kind$levels))
      )
    }
    look_of(of[[1]]$id, kind_title(kinds[[1]]), kind, shows, plate$house, NULL)
  })
}

# Ordinals have ramps of their own, and given colours are what they are.
takes_from_set <- function(kind) kind$kind != "ordinal" && is.null(kind$given_colours)

places_of <- function(kind) max(kind$n_levels, kind$colour_place, length(kind$levels), na.rm = TRUE)

# Where in the set of colours a category begins: after those that others on the plate have, while
# there is room for all its levels; else at the first. One whose levels another has takes the
# other's colours.
first_free <- function(kind, taken, n_colours) {
  alike <- Find(
    function(one) {
      all(kind$levels %in% one$levels) && identical(kind$levels, one$levels[seq_along(kind$levels)])
    },
    taken
  )
  if (!is.null(alike)) return(alike$from)
  after <- max(0, vapply(taken, function(one) one$from + one$n, 0))
  if (after + places_of(kind) <= n_colours) after else 0
}

# Each category that a layer has on a channel: list(id, kind, table, shows).
used_categories <- function(layers, plate, titles) {
  unlist(
    Map(
      function(own, block) {
        table <- block$panel$book$label %||% block_label(block)
        unlist(
          lapply(own, function(layer) {
            shown <- c("colour", intersect(c("shape", "dash"), ink_traits(layer$ink)$shows))
            lapply(
              Filter(function(channel) is_category(layer[[channel]]), shown),
              function(channel) {
                list(
                  id = look_id(layer[[channel]], titles),
                  kind = layer[[channel]]$kind,
                  table = table,
                  shows = channel
                )
              }
            )
          }),
          recursive = FALSE
        )
      },
      layers,
      plate$blocks
    ),
    recursive = FALSE,
    use.names = FALSE
  )
}
