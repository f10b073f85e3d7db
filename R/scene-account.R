# Accounts: what each layer shows in each area, in numbers. A row for each layer, area and group of
# rows that its marks tell apart: the levels of colour, shape and dash, and of an axis of levels.
# All that is said of a figure is read from them and from its marks.
#
#   block, area, role, layer     where: "block1", the area's id and role, the layer's number in its
#   block; ink, summarises, shows       what is drawn, what stands behind a mark (see ink-traits.R),
#   in words; called, marks                what one of its marks is called, and several;
#   error                        what its error bars or its band mean, NA where it has none;
#   x, y                         ids of the variables on its axes, NA for what an ink brings itself;
#   x_level, y_level, colour, shape, dash   the levels of this group, as shown; NA where none part
#   it; given, used, missing, beyond rows of the group; those behind its marks; those without a
#                                value that the ink needs; those out of the axes' ranges, of inks
#                                that show rows themselves;
#   series                       how many series `group` parts them into, NA for none; those that go
#                                on from level to level of an axis at the first one only;
#   least, most                  values behind one mark, where a group has several, such as a mean
#   at each time.
new_accounts <- function(table) {
  columns <- c(
    "block", "area", "role", "layer", "ink", "summarises", "called", "marks", "shows", "error", "x",
    "y",
    "x_level", "y_level",
    "colour", "shape", "dash", "given", "used", "missing", "beyond", "series", "least", "most"
  )
  numbers <- as.list(table)[c("given", "used", "missing", "beyond")]
  right <- identical(names(table), columns) && !anyNA(unlist(numbers)) &&
    all(unlist(numbers) >= 0) &&
    all(numbers$given == numbers$used + numbers$missing + numbers$beyond)
  if (right) return(table)
  abort_nelvat(
    "record",
    c(
      "A table of accounts is not right.",
      x = "Its columns are others, or rows given are not those used, missing and out of range."
    ),
    call = NULL
  )
}

# Of the trained layers of a block, with its areas and axes.
layer_accounts <- function(layers, areas, axes) {
  stack_tables(
    Map(
      function(layer, number) layer_account(layer, number, areas, axes),
      layers,
      seq_along(layers)
    )
  )
}

# How many of its rows each area draws: those of the layer that draws the most.
drawn_rows <- function(accounts, areas) {
  if (is.null(accounts)) return(rep(0L, nrow(areas)))
  of_layer <- stats::aggregate(accounts["used"], accounts[c("area", "layer")], sum)
  most <- tapply(of_layer$used, of_layer$area, max)
  n_rows <- as.integer(most[match(areas$id, as.integer(names(most)))])
  ifelse(is.na(n_rows), 0L, n_rows)
}

layer_account <- function(layer, number, areas, axes) {
  used <- layer$trained$used
  traits <- ink_traits(layer$ink)
  if (layer$behind || is.null(used) || !nrow(layer$table) || traits$summarises == "nothing") {
    return(NULL)
  }
  on_page <- within_axes(layer, areas, axes)
  shown <- used & (traits$summarises != "values" | on_page)
  key <- account_key(layer, traits)
  group <- ordered_groups(key)
  k <- nrow(group$rows)
  count <- function(held) tabulate_rows(group$at[held], k, layer$table$times[held])
  area_row <- match(group$rows$panel, areas$id)
  level <- function(channel, variable = layer[[channel]]) {
    codes <- group$rows[[channel]]
    if (is.null(codes)) rep(NA_character_, k) else plain_text(level_titles(variable$kind)[codes])
  }
  each <- mark_counts(layer$trained$each, group$rows)
  name <- function(direction) {
    if (layer[[direction]]$supplied) NA else areas[[paste0(direction, "_variable")]][area_row]
  }
  new_accounts(
    new_table(
      block = areas$block[area_row],
      area = group$rows$panel,
      role = areas$role[area_row],
      layer = number,
      ink = layer$ink$ink,
      summarises = traits$summarises,
      called = traits$called,
      marks = marks_named(layer$ink),
      shows = layer$trained$shows,
      error = layer$trained$error_means %||% NA_character_,
      x = name("x"),
      y = name("y"),
      x_level = level("x"),
      y_level = level("y"),
      colour = level("colour"),
      shape = level("shape"),
      dash = level("dash"),
      given = count(rep(TRUE, nrow(key))),
      used = count(shown),
      missing = count(!used),
      beyond = count(used & !shown),
      series = series_count(layer, shown, key, group$at, k),
      least = each$least,
      most = each$most,
      .rows = k
    )
  )
}

# What parts the rows of a layer into groups that its marks tell apart.
account_key <- function(layer, traits) {
  on_axes <- Filter(
    function(direction) {
      !traits$cells && has_levels(layer[[direction]]$kind) && !layer[[direction]]$supplied
    },
    c("x", "y")
  )
  shown <- Filter(
    function(channel) is_category(layer[[channel]]) && channel %in% names(layer$table),
    intersect(c("colour", "shape", "dash"), traits$shows)
  )
  layer$table[c("panel", on_axes, shown)]
}

# Groups of rows in the order of their levels: list(at, rows).
ordered_groups <- function(key) {
  found <- match_rows(key, rep(TRUE, nrow(key)))
  order <- do.call(order, unname(as.list(found$rows)))
  list(at = order(order)[found$at], rows = table_rows(found$rows, order))
}

# Which rows lie in the ranges of their area's axes; those without a place count as inside.
within_axes <- function(layer, areas, axes, directions = c("x", "y")) {
  area_row <- match(layer$table$panel, areas$id)
  inside <- rep(TRUE, nrow(layer$table))
  for (direction in directions) {
    variable <- layer[[direction]]
    if (is.null(variable) || variable$supplied || has_levels(variable$kind)) next
    # Axes that an ink draws itself hide nothing; some marks stand along one only.
    along <- layer$trained$along
    if (isTRUE(variable$kind$hidden) || !is.null(along) && direction != along) next
    ends <- vapply(
      axes[areas[[paste0(direction, "_axis")]]],
      function(axis) sort(axis$range),
      numeric(2)
    )
    column <- (if (direction == "y") replaced_values(layer$ink, layer)) %||%
      layer$table[[direction]]
    values <- axis_transform(variable$transform)$forward(column)
    slack <- 1e-9 * (ends[2, area_row] - ends[1, area_row])
    beyond <- !is.na(values) &
      (values < ends[1, area_row] - slack | values > ends[2, area_row] + slack)
    inside <- inside & !beyond
  }
  inside
}

# The fewest and the most values behind one mark of each group, where there are several marks a
# group, such as the mean at each time. each: panel, n and levels of the group, a row a mark.
mark_counts <- function(each, groups) {
  none <- rep(NA_integer_, nrow(groups))
  if (is.null(each) || !nrow(each)) return(list(least = none, most = none))
  key <- function(table) {
    do.call(paste, unname(as.list(table[intersect(names(groups), names(each))])))
  }
  wanted <- key(groups)
  counts_by_row <- split(each$n, factor(key(each), unique(wanted)))[wanted]
  ends <- function(f) {
    vapply(
      counts_by_row,
      function(n) if (length(n)) as.integer(f(n)) else NA_integer_,
      0L,
      USE.NAMES = FALSE
    )
  }
  list(least = ends(min), most = ends(max))
}

# How many series `group` parts each group into. A series over several levels of an axis, such as
# each subject's, counts where it is met first.
series_count <- function(layer, shown, key, at, k) {
  pooled <- ink_traits(layer$ink)$summarises != "values" && !is_told_apart(layer$ink)
  if (is.null(layer$table$group) || pooled) return(rep(NA_integer_, k))
  rows_shown <- which(shown & !is.na(layer$table$group))
  parts <- unclass(table_rows(key[setdiff(names(key), c("x", "y"))], rows_shown))
  series <- match_rows(
    do.call(new_table, c(list(of = layer$table$group[rows_shown]), parts)),
    rep(TRUE, length(rows_shown))
  )$at
  tabulate(at[rows_shown][!duplicated(series)], k)
}

# Accounts told by layer and area: rows used, rows left out and why.
account_facts <- function(accounts, areas) {
  if (is.null(accounts)) return(NULL)
  group <- match_rows(accounts[c("area", "layer")], rep(TRUE, nrow(accounts)))
  first <- match(seq_len(nrow(group$rows)), group$at)
  sum_of <- function(column) as.integer(rowsum(accounts[[column]], group$at)[, 1])
  missing <- sum_of("missing")
  beyond <- sum_of("beyond")
  data.frame(
    block = accounts$block[first],
    panel = accounts$area[first],
    heading = areas$called[match(accounts$area[first], areas$id)],
    layer = accounts$layer[first],
    ink = accounts$ink[first],
    summarises = accounts$summarises[first],
    n = sum_of("used"),
    dropped = missing + beyond,
    why = ifelse(
      missing > 0,
      ifelse(beyond > 0, "missing values, and values out of range", "missing values"),
      ifelse(beyond > 0, "values out of the axis's range", NA_character_)
    ),
    shows = accounts$shows[first]
  )
}
