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
    if (!length(block$layers)) next
    panels <- scene$panels[scene$panels$block == paste0("block", i) & scene$panels$role == "panel", ]
    for (k in seq_len(nrow(block$cells$panels))) {
      table <- panel_source(block, block$cells$panels$panel[k])
      if (!is.null(table)) tables[[source_name(scene, panels[k, ], i, length(plate$blocks), names(tables))]] <- table
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
    scene$panels$block[1] != "" && sum(
      scene$panels$block == panel$block & scene$panels$role == "panel"
    ) > 1 && is.na(panel$heading)
  ) paste(panel$y_variable, "by", panel$x_variable)
  name <- paste(c(lead, if (!is.na(panel$heading)) gsub("\n", " ", panel$heading), pair), collapse = " ")
  if (!nzchar(name)) name <- "panel"
  while (name %in% taken) name <- paste0(name, "'")
  name
}

panel_source <- function(block, id) {
  held <- which(
    vapply(
      block$layers,
      function(layer) !isTRUE(layer$behind) && is.null(layer$strip) && ink_traits(layer$ink)$summarises != "nothing",
      NA
    )
  )
  if (!length(held)) return(NULL)
  panels <- block$cells$panels
  x <- panel_variables(block$design, panels, "x")[[match(id, panels$panel)]]
  y <- panel_variables(block$design, panels, "y")[[match(id, panels$panel)]]
  of <- Filter(function(k) id %in% block$layers[[k]]$table$panel, held)
  if (!length(of)) return(NULL)
  parts <- lapply(of, function(k) stat_rows(block$layers[[k]], block$trained[[k]], id, x, y))
  names <- vapply(of, function(k) block$layers[[k]]$ink$ink, "")
  values <- value_rows(block$layers[[of[1]]], id, x, y)
  filled(c(list(values = values), stats::setNames(parts, names)))
}

# The raw rows of a layer in one panel, in data units.
value_rows <- function(layer, id, x, y) {
  own <- table_rows(layer$table, which(layer$table$panel == id))
  named_columns(own, layer, x, y)
}

# The statistics of a layer, where it drew others than the values themselves.
stat_rows <- function(layer, trained, id, x, y) {
  table <- trained$table
  if (is.null(table) || !is.data.frame(as.data.frame(table)) || is.null(table$panel)) return(NULL)
  own <- table_rows(table, which(table$panel == id))
  if (!ink_traits(layer$ink)$computed) return(NULL)
  named_columns(own, layer, x, y)
}

# Columns under the variables' names; levels by name, moments as text.
named_columns <- function(table, layer, x, y) {
  table <- as.data.frame(table)
  table <- table[setdiff(names(table), c("panel", "line", "series", "at", "order", "ring", "area"))]
  shown <- list(x = x, y = y)
  in_axis_units <- identical(layer$x$id, "value")
  for (channel in names(table)) {
    variable <- if (channel %in% c("x", "y")) shown[[channel]] else layer[[channel]]
    if (is.null(variable) || !is.numeric(table[[channel]])) next
    values <- table[[channel]]
    if (in_axis_units && channel %in% c("x", "y")) values <- axis_transform(variable$transform)$backward(values)
    table[[channel]] <- shown_as_data(values, variable)
    if (!is.null(variable$id) && !isTRUE(variable$supplied) && nzchar(variable$id)) {
      names(table)[names(table) == channel] <- variable$id
    }
  }
  table <- table[!duplicated(names(table))]
  table[!vapply(table, function(column) all(is.na(column)), NA)]
}

shown_as_data <- function(values, variable) {
  kind <- variable$kind
  if (has_levels(kind) && all(values == round(values), na.rm = TRUE)) return(plain_text(kind$level_names[values]))
  if (kind$kind == "moment") {
    return(format(as.POSIXct(values, origin = "1970-01-01", tz = kind$zone %||% "UTC"), "%Y-%m-%dT%H:%M:%S"))
  }
  values
}

# Tables one under the other, columns that one lacks being empty there.
filled <- function(tables) {
  tables <- Filter(function(table) !is.null(table) && nrow(table) && ncol(table), tables)
  columns <- unique(unlist(lapply(tables, names)))
  rows <- Map(function(table, part) {
    for (column in setdiff(columns, names(table))) table[[column]] <- NA
    cbind(part = part, table[columns])
  }, tables, names(tables))
  out <- do.call(rbind, unname(rows))
  row.names(out) <- NULL
  out
}

# Columns of the tables that a plate draws, as their codebooks describe them: column, name,
# kind, unit, levels; a table each.
codebook_tables <- function(plate) {
  books <- Filter(Negate(is.null), lapply(plate$blocks, function(block) block$panel$book))
  books <- books[!duplicated(vapply(books, `[[`, "", "label"))]
  stats::setNames(lapply(books, function(book) {
    of <- function(f) vapply(book$columns, f, "", USE.NAMES = FALSE)
    data.frame(
      column = names(book$columns), name = of(function(kind) plain_text(kind$name)),
      kind = of(function(kind) kind$kind), unit = of(function(kind) kind$show %||% kind$unit %||% ""),
      levels = of(function(kind) {
        levels <- kind$level_names
        if (is.null(levels)) "" else paste0(
          paste(plain_text(utils::head(levels, 6)), collapse = ", "),
          if (length(levels) > 6) paste0(" and ", length(levels) - 6, " more")
        )
      })
    )
  }), vapply(books, `[[`, "", "label"))
}
