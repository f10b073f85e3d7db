# Makes inst/schema/: JSON Schemas (draft 2020-12) of figure, house and codebook files, from
# the words of the package itself: Rscript inst/schema/make-schemas.R

library(nelvat)

private <- function(name) get(name, asNamespace("nelvat"))

any_of <- function(...) list(anyOf = list(...))
text <- list(type = "string")
number <- list(type = "number")
flag <- list(type = "boolean")
choice <- function(...) list(enum = as.list(c(...)))
list_of <- private("array_of")
mapping <- function(properties, required = NULL, closed = TRUE) {
  c(
    list(type = "object", properties = properties, additionalProperties = !closed),
    if (!is.null(required)) list(required = as.list(required))
  )
}
open_mapping <- private("open_map")
reference <- private("ref_to")
named <- function(keys, schema) stats::setNames(rep(list(schema), length(keys)), keys)

header <- function(name, title, schema) {
  c(
    list(
      `$schema` = "https://json-schema.org/draft/2020-12/schema",
      `$id` = paste0("nelvat-", name, ".schema.json"),
      title = title
    ),
    schema
  )
}

# Words of R, and parts that only files have, are from the table of words.
word_schema <- private("word_schema")
part_schema <- private("part_schema")
order_rule <- any_of(
  text,
  list_of(any_of(text, number)),
  part_schema("by_statistic", "by_statistic"),
  part_schema("by_likeness", c("by_likeness", "over"))
)

# Figure files -------------------------------------------------------------------------

inks <- private("ink_words")()
ink_schema <- function(word) any_of(word_schema(paste0("ink_", word)), list(type = "null"))
one_key <- list(minProperties = 1, maxProperties = 1)
# Of other packages: package::name, with what keys theirs has.
foreign_ink <- "^[A-Za-z][A-Za-z0-9.]*::[a-z_]+$"
ink <- any_of(
  choice(inks),
  c(mapping(stats::setNames(lapply(inks, ink_schema), inks)), one_key),
  list(type = "string", pattern = foreign_ink),
  c(
    list(
      type = "object",
      patternProperties = stats::setNames(list(list(type = list("object", "null"))), foreign_ink),
      additionalProperties = FALSE
    ),
    one_key
  )
)
of_values <- private("value_policies")
fill <- mapping(list(fill_with = any_of(number, choice("median", "mean"))), "fill_with")
missing_said <- any_of(
  choice(of_values),
  fill,
  mapping(
    c(
      named(c("x", "y"), any_of(choice(c(of_values, "own")), fill)),
      named(c("colour", "shape", "dash", "size", "group"), choice(private("level_policies")))
    )
  )
)
channel <- any_of(text, part_schema("variable", "column"), part_schema("measure", "measure"))
used <- mapping(list(use = text, with = open_mapping()), "use")
block <- any_of(
  used,
  c(
    mapping(
      list(
        panel = reference("panel"),
        facets = word_schema("facets", "panel"),
        every_pair = word_schema("every_pair", "data"),
        joint = word_schema("joint", c("data", "x", "y")),
        zoom = word_schema("zoom", "of"),
        text_panel = any_of(text, word_schema("text_panel", "text")),
        image_panel = any_of(text, word_schema("image_panel", "path")),
        table_panel = word_schema("table_panel", "data"),
        marginals = word_schema("marginals")
      )
    ),
    list(minProperties = 1)
  )
)
size <- any_of(
  number,
  choice("natural"),
  list(type = "string", pattern = "^\\s*[0-9.]+\\s*mm\\s*$")
)
cells <- any_of(number, list_of(number))
placed <- function(word, sizes) {
  mapping(
    stats::setNames(list(reference("place"), list_of(reference("size"))), c(word, sizes)),
    word
  )
}
place <- any_of(
  text,
  list_of(reference("place")),
  placed("beside", "widths"),
  placed("stacked", "heights"),
  mapping(list(at = reference("place"), rows = cells, columns = cells), c("at", "rows", "columns"))
)
whole_figure <- part_schema("figure", c("nelvat", "blocks"))
whole_figure$properties$from <- NULL
# Another figure with something different: only the keys that differ, as deep as they are.
keys <- part_schema("figure")$properties
differs <- setdiff(names(keys), c("nelvat", "from", "save"))
variant <- mapping(utils::modifyList(keys, named(differs, NULL)), c("nelvat", "from"))
variant$properties[differs] <- list(list(type = "object"))
figure <- header(
  "figure",
  "Nelvat figure file",
  list(
    anyOf = list(reference("figure"), reference("variant")),
    `$defs` = list(
      figure = c(
        whole_figure,
        list(anyOf = list(list(required = list("plate")), list(required = list("plates"))))
      ),
      variant = variant,
      ink = ink,
      axis = word_schema("axis_of"),
      panel = word_schema("panel", c("data", "ink")),
      used = used,
      scale_bar = word_schema("scale_bar", c("length", "unit", "per_pixel")),
      variable = channel,
      variables = any_of(channel, list_of(text)),
      columns = any_of(text, list_of(text), part_schema("columns")),
      derived = any_of(text, number, part_schema("derived", "expression")),
      order = order_rule,
      field = part_schema("field"),
      missing = missing_said,
      block = block,
      size = size,
      place = place,
      table = any_of(text, part_schema("table"))
    )
  )
)

# House files: the shape of the plain style ----------------------------------------------

shape_of <- function(value) {
  if (is.list(value)) return(mapping(lapply(value, shape_of)))
  if (is.logical(value)) return(flag)
  one <- if (is.numeric(value)) number else text
  if (!is.null(names(value))) return(open_mapping(one))
  if (length(value) == 1) one else any_of(one, list_of(one))
}
house_shape <- lapply(unclass(house()), shape_of)
choices <- private("house_choices")
for (key in names(choices)) {
  path <- strsplit(key, " > ")[[1]]
  if (length(path) == 1) {
    house_shape[[path]] <- choice(choices[[key]])
  } else {
    house_shape[[path[1]]]$properties[[path[2]]] <- choice(choices[[key]])
  }
}
house_shape$families <- any_of(
  house_shape$families,
  list(
    type = "object",
    additionalProperties = house_shape$families,
    propertyNames = list(pattern = "^[A-Za-z_]{3,}$")
  )
)
house_shape$ramps <- mapping(list(sequential = list_of(text), diverging = list_of(text)))
house_schema <- header(
  "house",
  "Nelvat house style",
  mapping(c(list(from = text, times = number), house_shape))
)

# Codebooks: Table Schema with unit, order and colours -------------------------------------

codebook_schema <- header(
  "codebook",
  "Nelvat codebook: a Table Schema with units, orders and colours",
  list(
    type = "object",
    required = list("fields"),
    properties = list(
      fields = list_of(
        c(part_schema("field", "name")["properties"], list(required = list("name")))
      ),
      missingValues = list_of(text),
      levels = list(
        type = "string",
        description = "A file of what several codebooks share: keys of a field by name of column."
      ),
      rows = list(
        anyOf = list(text, list_of(text)),
        description = "What one row is, such as loaf, and many of them where that follows no rule."
      ),
      name = text,
      title = text
    ),
    `$defs` = list(order = order_rule)
  )
)

# Scenes: what a figure is made of, for other programs ---------------------------------------

or_nothing <- function(schema) any_of(schema, list(type = "null"))
# A table: an object of columns, each an array of as many values; missing ones are null.
table_of <- function(says, ...) {
  columns <- list(...)
  c(
    list(description = says),
    mapping(
      lapply(columns, function(one) list_of(or_nothing(one))),
      names(columns),
      closed = FALSE
    )
  )
}
box_mm <- list(x = number, y = number, w = number, h = number)
any_table <- or_nothing(open_mapping(TRUE))
primitives <- c("rects", "segments", "points", "lines", "areas", "words", "image")
scene_schema <- header(
  "scene",
  "Nelvat scene, version 1: a figure as its panels, axes, marks and texts",
  c(
    list(
      description = paste(
        "Lengths are millimetres from the upper left corner of the page, y downwards. Marks are 0",
        "to 1 of their panel, from its lower left corner. Colours are #RRGGBB."
      )
    ),
    mapping(
      list(
        nelvat_scene = list(const = 1),
        page = mapping(
          list(width_mm = number, height_mm = number),
          c("width_mm", "height_mm"),
          closed = FALSE
        ),
        font = mapping(list(family = text), "family", closed = FALSE),
        title = or_nothing(text),
        panels = do.call(
          table_of,
          c(
            list(
              "Plot areas: where they stand, which axes they are of, how many rows they draw.",
              id = number,
              block = text,
              role = choice("panel", "marginal", "diagonal", "zoom", "picture", "words"),
              row = number,
              column = number
            ),
            box_mm,
            list(x_axis = number, y_axis = number, n = number)
          )
        ),
        axes = list_of(
          mapping(
            list(
              id = number,
              direction = choice("x", "y"),
              variable = or_nothing(text),
              title = or_nothing(text),
              transform = text,
              range = list(type = "array", items = number, minItems = 2, maxItems = 2)
            ),
            c("id", "direction", "range"),
            closed = FALSE
          )
        ),
        marks = list_of(
          mapping(
            list(
              block = text,
              layer = number,
              ink = text,
              primitive = choice(primitives),
              table = c(
                list(description = "Columns by primitive; panel is the id of the plot area."),
                open_mapping(TRUE)
              )
            ),
            c("primitive", "table"),
            closed = FALSE
          )
        ),
        texts = table_of(
          "Texts: what they say, their size in points, the corners of their boxes.",
          id = number,
          role = text,
          string = text,
          size_pt = number,
          angle = number,
          x0 = number,
          y0 = number,
          x1 = number,
          y1 = number
        ),
        runs = table_of(
          "Pieces of texts as they are set, from x on the line at y.",
          text = number,
          string = text,
          family = text,
          colour = text,
          size_pt = number,
          x = number,
          y = number
        ),
        rules = any_table,
        keys = any_table,
        accounts = any_table,
        fits = any_table,
        contrasts = any_table
      ),
      c("nelvat_scene", "page", "font", "panels", "axes", "marks", "texts", "runs"),
      closed = FALSE
    )
  )
)

folder <- file.path("inst", "schema")
dir.create(folder, showWarnings = FALSE)
for (name in c("figure", "house", "codebook", "scene")) {
  schema <- list(
    figure = figure,
    house = house_schema,
    codebook = codebook_schema,
    scene = scene_schema
  )[[name]]
  writeLines(
    jsonlite::toJSON(schema, auto_unbox = TRUE, pretty = TRUE, null = "null"),
    file.path(folder, paste0(name, ".schema.json"))
  )
}
