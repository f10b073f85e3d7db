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
    panels <- scene$panels[scene$panels$block == block$id & scene$panels$role != "marginal", ]
    for (k in seq_len(nrow(panels))) {
      table <- area_source(block, panels$id[k])
      if (!is.null(table)) {
        tables[[source_name(scene, panels[k, ], i, length(plate$blocks), names(tables))]] <- table
      }
    }
  }
  tables
}

# "a", "a 60%", "block 2 rise by volume": letter and heading, each once.
source_name <- function(scene, panel, i, n_blocks, taken) {
  ids <- scene$panels$id[scene$panels$block == panel$block]
  first <- scene$texts$string[scene$texts$role == "letter" & scene$texts$panel %in% ids]
  lead <- if (length(first)) first[1] else if (n_blocks > 1) paste("block", i)
  pair <- if (
    scene$panels$block[1] != "" &&
      sum(scene$panels$block == panel$block & scene$panels$role != "marginal") > 1 && is.na(
      panel$heading
    )
  ) {
    paste(panel$y_variable, "by", panel$x_variable)
  }
  name <- paste(
    c(lead, if (!is.na(panel$heading)) gsub("\n", " ", panel$heading), pair),
    collapse = " "
  )
  if (!nzchar(name)) name <- "panel"
  while (name %in% taken) name <- paste0(name, "'")
  name
}

# What one area shows: the rows behind its marks, then the statistics drawn from them, by ink.
area_source <- function(block, id) {
  layers <- Filter(
    function(layer) {
      !layer$behind && layer$role != "marginal" && !is.null(layer$trained$used) &&
        id %in% layer$table$panel
    },
    block$layers
  )
  if (!length(layers)) return(NULL)
  area <- table_rows(block$panels, block$panels$id == id)
  on <- list(
    x = panel_variables(block$design, area, "x")[[1]],
    y = panel_variables(block$design, area, "y")[[1]]
  )
  number <- match(layers, block$layers)
  statistics <- Map(
    function(layer, k) statistic_source(layer, k, id, on, block$accounts),
    layers,
    number
  )
  names(statistics) <- vapply(layers, function(layer) layer$ink$ink, "")
  fitted <- replaced_ink(block$design$panel)$fitted
  rows <- value_source(layers, id, changed(on, y = fitted %||% on$y), block)
  filled(c(list(values = rows), statistics))
}

# The rows of an area that stand behind a mark of any of its layers, in data units. Layers of one
# panel have the same rows, and may have channels of their own.
value_source <- function(layers, id, on, block) {
  alike <- Filter(function(layer) nrow(layer$table) == nrow(layers[[1]]$table), layers)
  behind_marks <- Reduce(
    `|`,
    lapply(alike, function(layer) {
      layer$trained$used &
        (ink_traits(layer$ink)$summarises != "values" | within_axes(layer, block$areas, block$axes))
    })
  )
  rows_behind <- which(behind_marks & layers[[1]]$table$panel == id)
  table <- NULL
  for (layer in alike) {
    values_of_layer <- named_columns(table_rows(layer$table, rows_behind), layer, on)
    table <- if (is.null(table)) {
      values_of_layer
    } else {
      cbind(table, values_of_layer[setdiff(names(values_of_layer), names(table))])
    }
  }
  table
}

# The statistics of a layer in one area, where it drew others than the values themselves: with the
# levels of their group, and on how many values they rest.
statistic_source <- function(layer, number, id, on, accounts) {
  table <- layer$trained$table
  if (!is.data.frame(table) || is.null(table$panel) || !ink_traits(layer$ink)$computed) return(NULL)
  rows <- table_rows(table, which(table$panel == id))
  if (!nrow(rows)) return(NULL)
  series <- layer$trained$series
  if (!is.null(rows$series) && !is.null(series)) {
    for (channel in setdiff(intersect(names(series), mark_channels), names(rows))) {
      rows[[channel]] <- series[[channel]][rows$series]
    }
  }
  lying <- isTRUE(layer$trained$lying)
  slots <- has_levels(on[[if (lying) "y" else "x"]]$kind)
  if (slots) rows <- rows[setdiff(names(rows), c("x0", "x1"))]
  if (slots && !is.null(rows$x)) {
    rows <- table_rows(rows, order(rows$x, rows$colour %||% rep(0, nrow(rows))))
  }
  told <- named_columns(rows, layer, on, lying)
  if (is.null(told$n)) {
    told$n <- group_n(rows, layer, accounts[accounts$area == id & accounts$layer == number, ])
  }
  told
}

# Values behind the group of each row of a statistic.
group_n <- function(own, layer, accounts) {
  parts <- Filter(
    function(channel) {
      is_category(layer[[channel]]) && !is.null(own[[channel]]) && any(!is.na(accounts[[channel]]))
    },
    c("colour", "shape", "dash")
  )
  if (!length(parts)) return(sum(accounts$used))
  levels <- lapply(
    parts,
    function(channel) plain_text(level_titles(layer[[channel]]$kind)[own[[channel]]])
  )
  wanted <- do.call(paste, c(levels, sep = "\r"))
  each <- tapply(
    accounts$used,
    do.call(paste, c(unname(as.list(accounts[parts])), sep = "\r")),
    sum
  )
  as.integer(each[wanted])
}

# Columns of a table that stand on each axis, by what they are called in inks.
along_x <- c("x", "x0", "x1")
along_y <- c(
  "y", "lower", "upper", "centre", "low", "q1", "median", "q3", "high", "notch_low", "notch_high"
)

# Columns under the variables' names, in data units; levels by name, moments as text.
# lying: was the table computed as if its category stood on x, and lies?
named_columns <- function(table, layer, on, lying = FALSE) {
  table <- as.data.frame(table)
  table <- table[
    setdiff(names(table), c("panel", "line", "series", "at", "order", "ring", "area", "group_id"))
  ]
  axis_of_column <- function(column) {
    if (column %in% along_x) return(if (lying) "y" else "x")
    if (column %in% along_y) return(if (lying) "x" else "y")
  }
  shown <- lapply(stats::setNames(nm = names(table)), function(column) {
    direction <- axis_of_column(column)
    variable <- if (is.null(direction)) channel_variable(layer, column) else on[[direction]]
    values <- table[[column]]
    if (is.null(variable) || !is.numeric(values)) return(list(values = values, name = column))
    in_axis_units <- !is.null(direction) && layer[[direction]]$id == "value" &&
      !layer[[direction]]$supplied
    if (in_axis_units) values <- axis_transform(variable$transform)$backward(values)
    counted <- !is.null(direction) && layer[[direction]]$supplied
    ends <- setdiff(c(along_x, along_y), c("x", "y"))
    is_named <- !counted && !variable$supplied && nzchar(variable$id) && !column %in% ends
    list(
      values = if (counted) values else shown_as_data(values, variable),
      name = if (is_named) variable$id else column
    )
  })
  table <- as.data.frame(lapply(shown, `[[`, "values"), optional = TRUE, stringsAsFactors = FALSE)
  names(table) <- vapply(shown, `[[`, "", "name")
  table <- table[!duplicated(names(table))]
  table[!vapply(table, function(column) all(is.na(column)), NA)]
}

channel_variable <- function(layer, column) {
  if (column %in% mark_channels) layer[[column]] else layer$ink$variables[[column]]
}

shown_as_data <- function(values, variable) {
  kind <- variable$kind
  if (has_levels(kind) && all(values == round(values), na.rm = TRUE)) {
    return(plain_text(kind$level_names[values]))
  }
  if (kind$kind == "moment") moment_text(values, kind) else values
}

# Tables one under the other, columns that one lacks being empty there.
filled <- function(tables) {
  tables <- Filter(function(table) !is.null(table) && nrow(table) && ncol(table), tables)
  columns <- unique(unlist(lapply(tables, names)))
  rows <- Map(
    function(table, part) {
      for (column in setdiff(columns, names(table))) table[[column]] <- NA
      cbind(part = part, table[columns])
    },
    tables,
    names(tables)
  )
  out <- do.call(rbind, unname(rows))
  row.names(out) <- NULL
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
