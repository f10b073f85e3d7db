# Panels in a figure file.

build_panel <- function(panel, tables, at) {
  values <- file_values("panel", panel, file_context(tables), at, c("data", "ink"))
  values <- with_no_columns("panel", values)
  call <- rlang::current_env()
  built <- at_key(
    at,
    new_panel(
      values[["data"]],
      values[panel_channels],
      values[["ink"]],
      values[["derive"]],
      values[["keep"]],
      values[["order"]],
      values[["missing"]],
      list(x = values[["x_axis"]], y = values[["y_axis"]]),
      call
    )
  )
  built <- at_key(c(at, "house"), with_house(built, values[["house"]], call))
  at_key(c(at, "heading"), with_heading(built, values[["heading"]], call))
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
        part_keys("derived"),
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
