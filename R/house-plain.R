# The plain house style, of which all others are changes. Sizes of type and weights of
# lines in points, all other measures in millimetres. Its names are the words of house
# files.

house_plain <- function() {
  list(
    name = "plain",
    key = "auto",
    families = c("Liberation Sans", "Arial", "Helvetica", "Nimbus Sans", "DejaVu Sans"),
    type_pt = list(
      base = 7,
      heading = 7,
      title = 7,
      key = 7,
      letter = 8,
      plate_title = 8,
      note = 6.5,
      least = 5.5
    ),
    weight_pt = list(
      axis = 0.5,
      tick = 0.5,
      heading_rule = 0.35,
      error = 0.75,
      line = 0.9,
      outline = 0.35
    ),
    colour = list(
      text = "#20242B",
      axis = "#20242B",
      heading_rule = "#8A9099",
      grid = "#E2E5E9",
      lone = "#5B6B7F",
      paper = "#FFFFFF"
    ),
    palette = house_palette,
    ramps = list(sequential = character(), diverging = character()),
    symbols = symbol_names,
    dashes = dash_patterns,
    points = list(size_mm = 1.5, key_mm = 1.8, bubble_most_mm = 5),
    ticks = list(side = "out"),
    grid = "none",
    axis_lines = TRUE,
    numbers = list(
      decimal_mark = ".",
      thin_space = TRUE,
      true_minus = TRUE,
      leading_zero = TRUE,
      months = month.abb
    ),
    letters = list(case = "lower", weight = "bold", bracket = "none"),
    space_mm = list(
      margin = 1,
      tick = 1,
      tick_gap = 0.6,
      title_gap = 1.1,
      heading_gap = 0.7,
      heading_above_panel = 0.9,
      column_gap = 2.6,
      row_gap = 3,
      key_gap = 1.9,
      swatch = 2.5,
      swatch_gap = 1.1,
      entry_gap = 4.2,
      key_row_gap = 1,
      key_line = 5,
      ramp = 30
    ),
    least_panel_mm = list(width = 12, height = 10),
    page = list(width_mm = c(single = 86, middle = 120, double = 178), height_most_mm = 225),
    limits = list(
      line_pt = 0.25,
      contrast = 4.5,
      colour_difference = 10,
      image_dpi = 300,
      file_mb = 10,
      formats = c("pdf", "svg", "tiff", "png"),
      transparency = TRUE
    )
  )
}

# Changes that make the other built-in styles.
house_changes <- function() {
  list(
    plain = list(),
    compact = list(
      type_pt = list(
        base = 6,
        heading = 6,
        title = 6,
        key = 6,
        letter = 7,
        plate_title = 7,
        note = 5.5,
        least = 5
      ),
      points = list(size_mm = 1.1, key_mm = 1.5),
      weight_pt = list(axis = 0.4, tick = 0.4, line = 0.7),
      space_mm = list(
        margin = 0.8,
        tick = 0.8,
        tick_gap = 0.5,
        title_gap = 0.9,
        heading_gap = 0.5,
        heading_above_panel = 0.8,
        column_gap = 2.2,
        row_gap = 2.4,
        key_gap = 1.6,
        swatch = 2.1,
        entry_gap = 3.2
      ),
      least_panel_mm = list(width = 10, height = 8)
    ),
    # For a screen: everything twice as large.
    projected = c(
      multiplied(house_plain(), 2),
      list(
        page = list(width_mm = c(single = 140, middle = 220, double = 290), height_most_mm = 165),
        limits = list(image_dpi = 150)
      )
    )
  )
}

# All type, weights and spaces of a style times a number.
multiplied <- function(house, times) {
  each <- function(values, digits) lapply(values, function(value) round(value * times, digits))
  list(
    type_pt = each(house$type_pt, 1),
    weight_pt = each(house$weight_pt, 2),
    points = each(house$points, 2),
    space_mm = each(house$space_mm, 2),
    least_panel_mm = lapply(house$least_panel_mm, function(mm) mm * times)
  )
}

# A width in millimetres from a house column's name or a number.
page_width <- function(width, house, call = rlang::caller_env()) {
  columns <- house$page$width_mm
  if (is.character(width)) {
    return(unname(columns[check_choice(width, names(columns), "width", call)]))
  }
  check_number(width, "width", least = 10, most = 2000, unit = "mm", call = call)
}

# What ticks take outside the plot area.
tick_out_mm <- function(house) if (house$ticks$side == "out") house$space_mm$tick else 0
