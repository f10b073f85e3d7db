# The plain house style. Sizes of type and weights of lines in points, all other
# measures in millimetres.

house_plain <- function() {
  list(
    name = "plain",
    families = c("Liberation Sans", "Arial", "Helvetica", "Nimbus Sans", "DejaVu Sans"),
    type_pt = list(base = 7, heading = 7, title = 7, key = 7, letter = 8, plate_title = 8, note = 6.5, least = 5.5),
    letters = list(case = "lower", weight = "bold", bracket = "none"),
    weight_pt = list(axis = 0.5, tick = 0.5, heading_rule = 0.35, error = 0.75, line = 0.9, outline = 0.35),
    colour = list(text = "#20242B", axis = "#20242B", heading_rule = "#8A9099", grid = "#E2E5E9", lone = "#5B6B7F", paper = "#FFFFFF"),
    space_mm = list(
      margin = 1.2, tick = 1.1, tick_gap = 0.7, title_gap = 1.4, heading_gap = 0.7, heading_above_panel = 1.1,
      column_gap = 3.2, row_gap = 3.6, key_gap = 2.4, swatch = 2.5, swatch_gap = 1.1, entry_gap = 4.2, key_row_gap = 1,
      key_line = 5, ramp = 30
    ),
    least_panel_mm = list(width = 12, height = 10),
    page = list(width_mm = c(single = 86, middle = 120, double = 178), height_most_mm = 225),
    points = list(size_mm = 1.5, key_mm = 1.8, bubble_most_mm = 5)
  )
}

# A width in millimetres from a house column's name or a number.
page_width <- function(width, house, call = rlang::caller_env()) {
  columns <- house$page$width_mm
  if (is.character(width)) return(unname(columns[check_choice(width, names(columns), "width", call)]))
  check_number(width, "width", least = 10, most = 2000, unit = "mm", call = call)
}
