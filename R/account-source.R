#' The numbers behind a figure
#'
#' A tidy table for each panel: the values it shows, and the statistics drawn from them.
#'
#' @param plate A [plate()].
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A list of data frames, named by letter and heading. In each, `part` is `"values"`
#'   or the ink whose statistics a row holds; columns bear the variables' names, levels as
#'   they are shown, quantities in the unit shown, moments in ISO 8601.
#' @section Errors: `nelvat_error_argument` for what is no plate; the errors of [as_scene()].
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 80, height = 60)
#' lapply(source_data(fig), head, 3)
#' @export
source_data <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_is_plate(plate, call)
  resolved <- resolve_plate(plate)
  source_tables(resolved, suppressWarnings(whole_scene(resolved, plate)), plate)
}

# Of a plate that was resolved, and its scene.
source_tables <- function(resolved, scene, plate) {
  tables <- list()
  for (i in which(vapply(plate$blocks, function(block) is.null(block$zoom), NA))) {
    block <- resolved$blocks[[i]]
    areas <- scene$panels[scene$panels$block == block$id, ]
    for (k in seq_len(nrow(areas))) {
      table <- area_source(block, areas[k, ], scene$marks)
      if (is.null(table)) next
      name <- source_name(scene, block, areas[k, ], i, length(plate$blocks))
      tables[[once_named(name, names(tables))]] <- table
    }
  }
  tables
}

# "a", "a 60%", "block 2 rise by volume": letter, levels, and what is on the axes where several
# areas of a block show other things.
source_name <- function(scene, block, area, i, n_blocks) {
  areas <- scene$panels[scene$panels$block == block$id, ]
  first <- scene$texts$string[scene$texts$role == "letter" & scene$texts$panel %in% areas$id]
  lead <- if (length(first)) first[1] else if (n_blocks > 1) paste("block", i)
  host <- if (area$role == "marginal") area$host else area$id
  of_levels <- area_levels(
    block,
    table_rows(block$areas, block$areas$id == area$id),
    areas$heading[match(host, areas$id)]
  )
  standing <- areas[areas$role != "marginal", ]
  unlike <- nrow(unique(standing[c("x_variable", "y_variable")])) > 1
  on_axes <- c(area$y_variable, area$x_variable)
  pair <- if (unlike || nrow(standing) > 1 && is.null(of_levels)) {
    paste(unique(stats::na.omit(on_axes)), collapse = " by ")
  }
  name <- paste(
    c(lead, of_levels, pair, if (area$role == "marginal") paste("margin of", area$side)),
    collapse = " "
  )
  if (nzchar(name)) name else "panel"
}

# The levels that an area stands for, across and down; its heading where these are nested. What
# stands outside a grid is of those of one direction.
area_levels <- function(block, area, heading) {
  within <- block$design$within
  if (!is.null(within)) return(plain_text(within$kind$level_names[area$level]))
  given <- Filter(length, list(across = block$design$across, down = block$design$down))
  given <- given[names(given) %in% names(area)]
  stands <- !is.na(unlist(area[names(given)]))
  if (all(stands) && (length(given) < 2 || any(lengths(given) != 1))) {
    return(if (!is.na(heading)) gsub("\n", " ", heading))
  }
  unlist(
    lapply(names(given)[stands], function(direction) {
      variables <- given[[direction]]
      codes <- level_sets(variables, block$design$panel$n, block$design$empty)$codes
      mapply(
        function(variable, code) plain_text(variable$kind$level_names[code]),
        variables,
        codes[[area[[direction]]]]
      )
    })
  )
}

once_named <- function(name, taken) {
  while (name %in% taken) name <- paste0(name, "'")
  name
}

# What one area shows: the rows behind its marks, then what each mark says, by ink.
area_source <- function(block, placed, marks) {
  id <- placed$id
  in_margin <- placed$role == "marginal"
  is_told <- function(layer) {
    says <- !is.null(layer$trained$used) || !is.null(layer$trained$findings)
    !layer$behind && (layer$role == "marginal") == in_margin && says && id %in% layer$table$panel
  }
  number <- which(vapply(block$layers, is_told, NA))
  if (!length(number)) return(NULL)
  layers <- block$layers[number]
  area <- table_rows(block$areas, block$areas$id == id)
  on <- list(
    x = panel_variables(block$design, area, "x")[[1]],
    y = panel_variables(block$design, area, "y")[[1]]
  )
  on$taken <- our_columns(layers)
  statistics <- Map(
    function(layer, k) {
      stack_unlike(
        c(
          finding_source(layer, id, on),
          lapply(
            Filter(function(one) identical(one$layer, k) && one$block == block$id, marks),
            function(one) cell_source(one$findings, layer, id, on)
          )
        )
      )
    },
    layers,
    number
  )
  names(statistics) <- vapply(layers, function(layer) layer$ink$ink, "")
  fitted <- replaced_ink(block$design$panel)$fitted
  on_rows <- changed(on, y = fitted %||% on$y)
  # The rows behind a margin are those of its panel.
  rows <- if (!in_margin) value_source(layers, id, on_rows, block)
  filled(c(list(values = rows), statistics))
}

# What columns of numbers are called in an area's table: a column of the data that is called the
# same is told as "n (column)".
our_columns <- function(layers) {
  said <- lapply(layers, function(layer) c(layer$trained$findings, layer$trained$traces))
  counting <- any(vapply(layers, function(layer) ink_traits(layer$ink)$summarises == "counts", NA))
  names <- intersect(unlist(lapply(said, names)), c("n", on_value, on_none))
  c("part", names, if (length(names) || counting) c("n", "not drawn"))
}

# The rows of an area that stand behind a mark of any of its layers, in data units. Layers of one
# panel have the same rows, and may have channels of their own.
value_source <- function(layers, id, on, block) {
  alike <- Filter(function(layer) nrow(layer$table) == nrow(layers[[1]]$table), layers)
  behind_marks <- Reduce(
    `|`,
    lapply(alike, function(layer) {
      (layer$trained$used %||% rep(FALSE, nrow(layer$table))) &
        (ink_traits(layer$ink)$summarises != "values" | within_axes(layer, block$areas, block$axes))
    })
  )
  # Of rows that stand for many, only what the marks say is told.
  rows_there <- is.null(layers[[1]]$table$times) & layers[[1]]$table$panel == id
  rows_behind <- which(behind_marks & rows_there)
  table <- NULL
  for (layer in alike) {
    columns <- c("x", "y", mark_channels, names(layer$ink$variables))
    rows <- table_rows(layer$table, rows_behind)
    rows <- rows[intersect(names(rows), columns)]
    values_of_layer <- told_columns(rows, layer, on)
    table <- if (is.null(table)) {
      values_of_layer
    } else {
      cbind(table, values_of_layer[setdiff(names(values_of_layer), names(table))])
    }
  }
  table
}

# What each mark of a layer says in one area, then what runs along them, with the levels and n of
# the mark that it is of.
finding_source <- function(layer, id, on) {
  findings <- layer$trained$findings
  if (is.null(findings)) return(NULL)
  rows <- which(findings$panel == id)
  parts <- intersect(c("x", "y", mark_channels), names(findings))
  if (length(parts)) {
    rows <- rows[do.call(order, unname(as.list(table_rows(findings, rows)[parts])))]
  }
  told <- finding_columns(table_rows(findings, rows), layer, on)
  traces <- layer$trained$traces
  along <- which(traces$finding %in% rows)
  if (!length(along)) return(list(told))
  of_mark <- match(traces$finding[along], rows)
  traced <- finding_columns(table_rows(traces[names(traces) != "finding"], along), layer, on)
  groups <- told[intersect(names(told), c(level_columns(findings, layer, on), "n"))]
  groups <- groups[of_mark, setdiff(names(groups), names(traced)), drop = FALSE]
  traced <- if (length(groups)) cbind(groups, traced) else traced
  # A mark that is nothing but its trace needs no row of its own, but where it is not drawn.
  bare <- setdiff(names(told), names(groups))
  is_bare <- if (length(bare)) rowSums(!is.na(told[bare])) == 0 else rep(TRUE, nrow(told))
  list(told[!is_bare | !seq_along(rows) %in% of_mark, , drop = FALSE], traced)
}

# Cells that were counted on the page: their middles, and how many values each holds.
cell_source <- function(cells, layer, id, on) {
  if (is.null(cells)) return(NULL)
  finding_columns(table_rows(cells, which(cells$panel == id)), layer, on)
}

# The names of the columns that say of which levels a mark is.
level_columns <- function(findings, layer, on) {
  channels <- intersect(c("x", "y", mark_channels), names(findings))
  vapply(channels, function(channel) told_name(layer, channel, on), "", USE.NAMES = FALSE)
}

# Findings or traces as they are told: levels under the variables' names, then n, numbers in data
# units, and why a mark is not drawn.
finding_columns <- function(table, layer, on) {
  levels <- told_columns(table[intersect(c("x", "y", mark_channels), names(table))], layer, on)
  named <- setdiff(names(table), c(finding_channels, "part", "value", "why"))
  numbers <- table[c(intersect("n", named), setdiff(named, "n"))]
  axis <- table$value[1] %||% if (is.null(table$y) || !is.null(table$x)) "y" else "x"
  if (!is.na(axis)) {
    of_axis <- intersect(on_value, names(numbers))
    numbers[of_axis] <- lapply(numbers[of_axis], on_axis_of_data, axis, layer, on)
  }
  if (any(!is.na(table$why))) numbers[["not drawn"]] <- table$why
  numbers <- as.data.frame(numbers, optional = TRUE)
  if (length(levels)) cbind(levels, numbers) else numbers
}

# Numbers of an axis in data units; moments as text.
on_axis_of_data <- function(values, direction, layer, on) {
  # Axes of counts, shares and densities have no column.
  if (layer[[direction]]$supplied && layer[[direction]]$id != "value") return(values)
  if (layer[[direction]]$id == "value" && !layer[[direction]]$supplied) {
    values <- axis_transform(on[[direction]]$transform)$backward(values)
  }
  if (on[[direction]]$kind$kind == "moment") moment_text(values, on[[direction]]$kind) else values
}

# Columns of channels under the variables' names, in data units; levels by name, moments as text.
told_columns <- function(table, layer, on) {
  table <- as.data.frame(table)
  told <- lapply(stats::setNames(nm = names(table)), function(channel) {
    variable <- told_variable(layer, channel, on)
    values <- table[[channel]]
    if (is.null(variable) || !is.numeric(values)) return(values)
    if (channel %in% c("x", "y")) {
      if (layer[[channel]]$supplied && layer[[channel]]$id != "value") return(values)
      if (layer[[channel]]$id == "value" && !layer[[channel]]$supplied) {
        values <- axis_transform(variable$transform)$backward(values)
      }
    }
    shown_as_data(values, variable)
  })
  names <- vapply(names(table), function(channel) told_name(layer, channel, on), "")
  told <- as.data.frame(told, optional = TRUE, stringsAsFactors = FALSE)
  names(told) <- names
  told <- told[!duplicated(names)]
  told[!vapply(told, function(column) all(is.na(column)), NA)]
}

told_variable <- function(layer, channel, on) {
  if (channel %in% c("x", "y")) return(on[[channel]])
  if (channel %in% mark_channels) layer[[channel]] else layer$ink$variables[[channel]]
}

told_name <- function(layer, channel, on) {
  variable <- told_variable(layer, channel, on)
  counted <- channel %in% c("x", "y") && layer[[channel]]$supplied
  named <- !is.null(variable) && !counted && !variable$supplied && nzchar(variable$id)
  if (!named) return(channel)
  if (variable$id %in% on$taken) paste(variable$id, "(column)") else variable$id
}

shown_as_data <- function(values, variable) {
  kind <- variable$kind
  if (has_levels(kind) && all(values == round(values), na.rm = TRUE)) {
    return(plain_text(kind$level_names[values]))
  }
  if (kind$kind == "moment") moment_text(values, kind) else values
}

# Tables of unlike columns, one under the other, columns that one lacks being empty there.
stack_unlike <- function(tables) {
  tables <- Filter(function(table) !is.null(table) && nrow(table) && ncol(table), tables)
  columns <- unique(unlist(lapply(tables, names)))
  do.call(
    rbind,
    unname(
      lapply(tables, function(table) {
        for (column in setdiff(columns, names(table))) table[[column]] <- NA
        table[columns]
      })
    )
  )
}

# The tables of an area as one, `part` saying which each row is of.
filled <- function(tables) {
  with_part <- Map(
    function(table, part) if (NROW(table)) cbind(part = part, table),
    tables,
    names(tables)
  )
  out <- stack_unlike(with_part)
  if (!is.null(out)) row.names(out) <- NULL
  out
}

# Columns of the tables that a plate draws, as their codebooks describe them: column, name,
# kind, unit, levels; a table each.
codebook_tables <- function(plate) {
  books <- Filter(Negate(is.null), lapply(plate$blocks, function(block) block$panel$book))
  books <- books[!duplicated(vapply(books, `[[`, "", "label"))]
  stats::setNames(
    lapply(books, function(book) {
      field <- function(f) vapply(book$columns, f, "", USE.NAMES = FALSE)
      data.frame(
        column = names(book$columns),
        name = field(function(kind) plain_text(kind$name)),
        kind = field(function(kind) kind$kind),
        unit = field(function(kind) kind$show %||% kind$unit %||% ""),
        levels = field(function(kind) {
          levels <- kind$level_names
          if (is.null(levels)) {
            ""
          } else {
            paste0(
              paste(plain_text(utils::head(levels, 6)), collapse = ", "),
              if (length(levels) > 6) paste0(" and ", length(levels) - 6, " more")
            )
          }
        })
      )
    }),
    vapply(books, `[[`, "", "label")
  )
}
