# The looks of all categories that a plate shows by colour, shape or dash: made once, for all
# panels, keys and pages.

# A list of looks by id. Columns of one name that are titled unlike are two variables.
plate_looks <- function(blocks, house, call) {
  used <- as.list(used_categories(blocks))
  looks <- lapply(
    split(used, factor(vapply(used, `[[`, "", "id"), unique(vapply(used, `[[`, "", "id")))), function(of) {
      # The same table in several panels says the same.
      kinds <- lapply(of, `[[`, "kind")
      once <- !duplicated(lapply(of, function(one) one[c("table", "kind")]))
      shows <- unique(unlist(lapply(of, `[[`, "shows")))
      look_of(of[[1]]$id, kind_title(kinds[[1]]), kinds[once], vapply(of[once], `[[`, "", "table"), shows, house, call)
    })
  looks
}

# Each category that a layer has on a channel: list(id, kind, table, shows).
used_categories <- function(blocks) {
  titles <- category_titles(blocks)
  unlist(lapply(blocks, function(block) {
    table <- block$design$panel$book$label %||% block$title
    unlist(lapply(block$layers, function(layer) {
      shown <- c("colour", intersect(c("shape", "dash"), ink_traits(layer$ink)$shows))
      lapply(Filter(function(channel) is_category(layer[[channel]]), shown), function(channel) {
        list(id = look_id(layer[[channel]], titles), kind = layer[[channel]]$kind, table = table, shows = channel)
      })
    }), recursive = FALSE)
  }), recursive = FALSE)
}

is_category <- function(variable) !is.null(variable) && has_levels(variable$kind)

# The titles under which each column stands on the plate.
category_titles <- function(blocks) {
  pairs <- unlist(lapply(blocks, function(block) lapply(block$layers, function(layer) {
    lapply(
      Filter(is_category, layer[c("colour", "shape", "dash")]),
      function(variable) c(variable$id, kind_title(variable$kind))
    )
  })), recursive = FALSE)
  pairs <- unlist(pairs, recursive = FALSE)
  table <- unique(do.call(rbind, c(list(matrix("", 0, 2)), unname(pairs))))
  split(table[, 2], table[, 1])
}

# The column's name; with its title, where the plate has two of that name.
look_id <- function(variable, titles) {
  if (length(titles[[variable$id]]) < 2) variable$id else paste0(variable$id, " (", kind_title(variable$kind), ")")
}
