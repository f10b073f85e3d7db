# What `plate()` takes: its rows of the table of words.

#' @export
word_rows.plate <- function(word) {
  list(
    place = a_place(
      says = c(
        "Blocks, such as [facets()], or [panel()]s, or lists of them; or placements:",
        "[beside()], [stacked()], [at()]. Blocks without a placement are dealt out in rows,",
        "so that their places have a good shape and none stays empty, where that can be."
      )
    ),
    width = width_type(
      says = c(
        'Width of the page: a column of the house (`"single"` 86 mm, `"middle"` 120 mm,',
        '`"double"` 178 mm) or a number of millimetres.'
      )
    ),
    height = a_number(
      10,
      2000,
      unit = "mm",
      or_null = TRUE,
      says = c(
        "Height in mm, of one page. Without one, panels get about three quarters of their width,",
        "on a page of at most the house's height, or over several where that holds them no more."
      )
    ),
    widths = plate_sizes(
      says = "Sizes of the columns and rows of the plate's table: weights, [mm()] or [natural()]."
    ),
    heights = plate_sizes(
      says = "Sizes of the columns and rows of the plate's table: weights, [mm()] or [natural()]."
    ),
    per_row = a_number(
      1,
      200,
      whole = TRUE,
      or_null = TRUE,
      says = "Blocks in a row, where they have no placement."
    ),
    key = a_choice(
      key_places,
      or_null = TRUE,
      says = c(
        'Where keys stand: `"top"`, `"bottom"`, `"left"`, `"right"`, `"inside"` the emptiest',
        'corner, with the `"block"` that alone has them, `"direct"` at the ends of lines, or',
        '`"none"`. `NULL`: in free room that a block has, sizes in a free corner of the one panel',
        "that shows them, else what one block of several shows alone near that, and all others",
        "at the top. A place of its own: [key_place()]."
      )
    ),
    key_titles = a_part(
      "names",
      open_map(list(type = "string")),
      "titles by name",
      says = c(
        'Titles of keys by variable, as `c(flour = "Grain")`, with inline markup; `"none"`',
        "leaves the key of a variable out."
      )
    ),
    letters = letters_type(
      says = c(
        'Letters a, b, c by `"block"` or by `"panel"`, `"none"`, or the letters themselves.',
        "`NULL`: by block, where several have one; columns of text have none."
      )
    ),
    title = a_title(
      says = "Text over and under all, wrapped to the page, with inline markup."
    ),
    note = a_title(
      says = "Text over and under all, wrapped to the page, with inline markup."
    ),
    share = share_type(
      says = c(
        "Do blocks over the same columns (rows) that show the same variable on x (y) share",
        "its range, and neighbours its tick text? `TRUE`, `FALSE`, or [share_axis()]."
      )
    ),
    align = a_choice(
      c("auto", "always", "never"),
      says = c(
        'Do blocks one under the other line up by their plot areas? `"auto"`: where that',
        "costs none of them more than 15 % of the page's width, a third where one draws the axis",
        'of the other; `"always"`; or `"never"`. An axis is drawn once only where they do.'
      )
    ),
    house = a_house(
      says = c(
        "House style: a built-in one's name, the path of a house file or a [house()].",
        "`NULL`: the session's, see [set_house()]."
      )
    )
  )
}

# Types that only plates have.
a_place <- function(says) {
  changed(a_part("place", ref_to("place"), "blocks and placements", says = says), dots = TRUE)
}
width_type <- function(says) {
  schema <- list(
    anyOf = list(
      list(type = "number", minimum = 10, maximum = 2000),
      list(type = "string", pattern = "^[A-Za-z_]+$")
    )
  )
  a_part("width", schema, "a number (mm), or a column of the house's page", says = says)
}
plate_sizes <- function(says) {
  schema <- list(type = "array", items = ref_to("size"))
  a_part("sizes", schema, "a size for each", says = says)
}
letters_type <- function(says) {
  letter <- list(type = "string", maxLength = 3)
  schema <- list(
    anyOf = list(
      list(enum = list("block", "panel", "none")),
      letter,
      list(const = FALSE),
      list(type = "array", items = letter)
    )
  )
  a_part("values", schema, "\"block\", \"panel\", \"none\" or the letters", says = says)
}
share_type <- function(says) {
  schema <- list(anyOf = c(list(list(type = "boolean")), one_or_more(list(type = "string"))$anyOf))
  a_part("values", schema, "true, false, or variables", says = says)
}
