# The looks of all categories that a plate shows by colour, shape or dash: made once, for all
# panels, keys and pages.

# layers: a list for each block. A list of looks by id. Columns of one name that are titled unlike
# are two variables.
plate_looks <- function(layers, plate, titles) {
  used <- as.list(used_categories(layers, plate, titles))
  ids <- vapply(used, `[[`, "", "id")
  lapply(split(used, factor(ids, unique(ids))), function(of) {
    # The same table in several panels says the same.
    kinds <- lapply(of, `[[`, "kind")
    once <- !duplicated(lapply(of, function(one) one[c("table", "kind")]))
    shows <- unique(unlist(lapply(of, `[[`, "shows")))
    look_of(
      of[[1]]$id, kind_title(kinds[[1]]), kinds[once], vapply(of[once], `[[`, "", "table"), shows, plate$house, NULL
    )
  })
}

# Each category that a layer has on a channel: list(id, kind, table, shows).
used_categories <- function(layers, plate, titles) {
  unlist(Map(function(own, block) {
    table <- block$panel$book$label %||% block_label(block)
    unlist(lapply(own, function(layer) {
      shown <- c("colour", intersect(c("shape", "dash"), ink_traits(layer$ink)$shows))
      lapply(Filter(function(channel) is_category(layer[[channel]]), shown), function(channel) {
        list(id = look_id(layer[[channel]], titles), kind = layer[[channel]]$kind, table = table, shows = channel)
      })
    }), recursive = FALSE)
  }, layers, plate$blocks), recursive = FALSE, use.names = FALSE)
}
