# Panels in a figure file.

build_panel <- function(panel, tables, at) {
  check_keys(
    panel,
    c(
      "data",
      panel_channels,
      "ink",
      "derive",
      "keep",
      "order",
      "missing",
      "x_axis",
      "y_axis",
      "house",
      "heading"
    ),
    needs = c("data", "ink"),
    at = at
  )
  parts <- panel_parts(panel, tables, at)
  built <- at_key(
    at,
    new_panel(
      parts$table,
      parts$channels,
      parts$inks,
      parts$derive,
      parts$keep,
      parts$order,
      parts$missing,
      list(x = parts$x_axis, y = parts$y_axis),
      rlang::current_env()
    )
  )
  built <- at_key(
    c(at, "house"),
    with_house(built, file_house(panel[["house"]], attr(tables, "folder")), rlang::current_env())
  )
  at_key(c(at, "heading"), with_heading(built, panel[["heading"]], rlang::current_env()))
}

# What a panel, or another block of one table, has under its keys.
panel_parts <- function(panel, tables, at) {
  table <- named_table(panel[["data"]], tables, c(at, "data"))
  derive <- build_derive(panel[["derive"]], names(table$data), c(at, "derive"))
  columns <- c(names(table$data), names(derive))
  list(
    table = table,
    columns = columns,
    derive = derive,
    channels = lapply(
      stats::setNames(nm = panel_channels),
      function(channel) channel_quo(panel[[channel]], columns, c(at, channel))
    ),
    keep = if (is.null(panel[["keep"]])) {
      rlang::quo(NULL)
    } else {
      file_expression(panel[["keep"]], columns, c(at, "keep"))
    },
    inks = build_inks(panel[["ink"]], columns, tables, c(at, "ink")),
    order = if (!is.null(panel[["order"]])) {
      at_key(c(at, "order"), lapply(named_list(panel[["order"]], c(at, "order")), field_order))
    },
    missing = build_missing(panel[["missing"]], c(at, "missing")),
    x_axis = build_axis(panel[["x_axis"]], c(at, "x_axis")),
    y_axis = build_axis(panel[["y_axis"]], c(at, "y_axis"))
  )
}

# x_axis: {range: [0, 24], every: 6}
build_axis <- function(axis, at) {
  if (is.null(axis)) return(NULL)
  check_keys(axis, argument_names(axis_of), at = at)
  at_key(
    at,
    do.call(
      axis_of,
      lapply(axis, function(value) {
        if (is.list(value)) {
          unlist(lapply(value, function(one) if (is.null(one)) NA else one))
        } else {
          value
        }
      })
    )
  )
}

# derive: {ratio: volume / rise} or {ratio: {expression: volume / rise, title: ..., unit: ...}},
# the other keys being those of a codebook's field.
build_derive <- function(derive, columns, at) {
  if (is.null(derive)) return(NULL)
  built <- list()
  for (name in names(named_list(derive, at))) {
    entry <- derive[[name]]
    kind <- NULL
    if (is.list(entry)) {
      check_keys(
        entry,
        c(
          "expression", "type", "title", "unit", "show", "categories", "categoriesOrdered", "order",
          "count"
        ),
        needs = "expression",
        at = c(at, name)
      )
      if (length(entry) > 1) {
        kind <- at_key(c(at, name), field_kind(utils::modifyList(list(type = "number"), entry)))
      }
      entry <- entry[["expression"]]
    }
    built[[name]] <- new_derived(
      file_expression(entry, c(columns, names(built)), c(at, name)),
      kind,
      rlang::current_env()
    )
  }
  built
}

# missing: gap, {fill_with: 0}, or policies by channel: {y: {fill_with: median}, colour: own}
build_missing <- function(missing, at) {
  if (is.null(missing)) return(NULL)
  policy <- function(value, at) {
    if (!is.list(value)) return(value)
    check_keys(value, "fill_with", needs = "fill_with", at = at)
    at_key(at, fill_with(value[["fill_with"]]))
  }
  if (!is.list(missing) || identical(names(missing), "fill_with")) return(policy(missing, at))
  Map(policy, missing, lapply(names(missing), function(channel) c(at, channel)))
}
