# Makes inst/schema/: JSON Schemas (draft 2020-12) of figure, house and codebook files, from
# the words of the package itself: Rscript inst/schema/make-schemas.R

library(nelvat)

private <- function(name) get(name, asNamespace("nelvat"))
words <- function(name) private(name)

any_of <- function(...) list(anyOf = list(...))
text <- list(type = "string")
number <- list(type = "number")
flag <- list(type = "boolean")
choice <- function(...) list(enum = as.list(c(...)))
list_of <- function(items) list(type = "array", items = items)
mapping <- function(properties, required = NULL, closed = TRUE) {
  c(
    list(type = "object", properties = properties, additionalProperties = !closed),
    if (!is.null(required)) list(required = as.list(required))
  )
}
open_mapping <- function(values = TRUE) list(type = "object", additionalProperties = values)
anything <- structure(list(), names = character())
reference <- function(name) list(`$ref` = paste0("#/$defs/", name))

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

# Arguments of words are from the table of words; what only files have is said here.
type_schema <- private("type_schema")
word_schema <- private("word_schema")
number_schema <- function(least, most, whole) {
  type_schema(private("a_number")(least, most, whole))
}
# The properties of a word with what its help says of each argument.
arguments_of <- function(word) word_schema(word)$properties

# What a codebook's field says of a column --------------------------------------------------

category_value <- any_of(
  text,
  number,
  flag,
  mapping(list(value = any_of(text, number, flag), label = any_of(text, number)), "value")
)
of_quantity <- arguments_of("quantity")
of_category <- arguments_of("category")
of_moment <- arguments_of("moment")
said_as <- function(schema, said) c(schema, said["description"])
field_keys <- list(
  type = choice(words("field_types")),
  title = of_quantity$name,
  unit = of_quantity$unit,
  show = of_quantity$show,
  categories = list_of(category_value),
  categoriesOrdered = flag,
  order = said_as(anything, of_category$order),
  count = of_quantity$count
)
# What else a field says: in codebooks, and of columns of a figure file's tables.
value_keys <- list(
  description = text,
  colours = said_as(any_of(open_mapping(text), list_of(text)), of_category$colours),
  missingValues = list_of(any_of(text, number)),
  constraints = open_mapping(),
  groupChar = text,
  decimalChar = text,
  bareNumber = flag,
  format = of_moment$format,
  zone = of_moment$zone,
  missingLabel = of_category$missing
)

# Figure files -------------------------------------------------------------------------

inks <- words("ink_words")()
ink_schema <- function(word) any_of(word_schema(paste0("ink_", word)), list(type = "null"))
# Of other packages: package::name, with what keys theirs has.
foreign_ink <- "^[A-Za-z][A-Za-z0-9.]*::[a-z_]+$"
ink <- any_of(
  choice(inks),
  mapping(stats::setNames(lapply(inks, ink_schema), inks)),
  list(type = "string", pattern = foreign_ink),
  list(
    type = "object",
    patternProperties = stats::setNames(list(list(type = list("object", "null"))), foreign_ink),
    additionalProperties = FALSE,
    minProperties = 1,
    maxProperties = 1
  )
)
ink$anyOf[[2]]$minProperties <- 1
ink$anyOf[[2]]$maxProperties <- 1
named <- function(keys, schema) stats::setNames(rep(list(schema), length(keys)), keys)

order_rule <- any_of(
  text,
  list_of(any_of(text, number)),
  mapping(
    list(
      by_statistic = text,
      statistic = choice(names(words("order_statistics")())),
      descending = flag
    ),
    "by_statistic"
  ),
  mapping(
    list(
      by_likeness = text,
      over = text,
      distance = choice(words("likeness_distances")),
      linkage = choice(words("likeness_linkages")),
      groups = number
    ),
    c("by_likeness", "over")
  )
)
levels_said <- any_of(open_mapping(text), list_of(text))
kind_said <- mapping(
  list(
    column = text,
    kind = choice(names(words("kind_makers"))),
    title = of_quantity$name,
    unit = of_quantity$unit,
    show = of_quantity$show,
    order = said_as(order_rule, of_category$order),
    names = of_category$names,
    colours = said_as(levels_said, of_category$colours),
    format = of_moment$format,
    zone = of_moment$zone
  ),
  "column"
)
measure_said <- mapping(
  list(measure = text, colours = levels_said, order = list_of(text)),
  "measure"
)
channel <- any_of(text, kind_said, measure_said)
derived_said <- any_of(text, number, mapping(c(list(expression = text), field_keys), "expression"))
fill <- mapping(list(fill_with = any_of(number, choice("median", "mean"))), "fill_with")
missing_said <- any_of(
  choice(words("value_policies")),
  fill,
  mapping(
    c(
      named(c("x", "y"), any_of(choice(c(words("value_policies"), "own")), fill)),
      named(c("colour", "shape", "dash", "size", "group"), choice(words("level_policies")))
    )
  )
)
chosen <- any_of(
  list_of(text),
  mapping(named(c("starts_with", "ends_with", "except"), any_of(text, list_of(text)))),
  mapping(
    c(
      named(c("starts_with", "ends_with", "except"), any_of(text, list_of(text))),
      named(c("contains", "from", "to"), text)
    )
  )
)
columns <- any_of(text, chosen)
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
        marginals = word_schema("marginals", without = "panel")
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
place <- any_of(
  text,
  list_of(reference("place")),
  mapping(list(beside = reference("place"), widths = list_of(reference("size"))), "beside"),
  mapping(list(stacked = reference("place"), heights = list_of(reference("size"))), "stacked"),
  mapping(list(at = reference("place"), rows = cells, columns = cells), c("at", "rows", "columns"))
)
# Paths stand under `file`.
reading <- arguments_of("read_data")
names(reading)[names(reading) == "path"] <- "file"
other_keys <- setdiff(words("field_keys"), c("name", names(field_keys), names(value_keys)))
reading$fields <- c(
  reading$fields["description"],
  open_mapping(mapping(c(field_keys, value_keys, named(other_keys, anything))))
)
explained <- function(schema, said) {
  for (key in intersect(names(said), names(schema))) {
    schema[[key]] <- c(list(description = said[[key]]), schema[[key]])
  }
  schema
}
table_said <- list(
  database = "The table stays in its file, which is asked for counts and means: see table_in().",
  service = "Name of a PostgreSQL service, of libpq's service file: see table_in().",
  table = "Name of a table of the database.",
  parted_by = "Name of the column by which a table is parted over several servers.",
  sample = "How many rows to draw in place of all, of a table that stays in its database.",
  rename = "Other names for columns: {new: old}.",
  long = "Columns of one kind made into two, names and values: see long_data().",
  join = "Columns of another table, or of several in turn: see join_data().",
  derive = "New columns from expressions.",
  keep = "An expression; rows where it is true stay.",
  counts = "In place of a file: how often levels meet in another table.",
  correlations = "In place of a file: correlations of another table's quantities."
)
top_said <- list(
  nelvat = "The version of this form of file.",
  from = paste(
    "Another figure file, of which this one is a variant: only what differs is said. Mappings are",
    "merged, inks, places and lists replaced, null takes a key away."
  ),
  data = "Tables by name: a path, or a mapping of the keys below.",
  blocks = paste(
    "Blocks by name: one of the words below with its keys,",
    "or {use: BLOCK, with: {KEY: VALUE}}."
  ),
  plate = "The page: where blocks stand, its size, and what holds for all of it.",
  plates = "In place of `plate`: several figures by name, each with `place` and `save`.",
  for_each = paste(
    "One figure for each of some values: {NAME: [VALUES]}",
    "or {NAME: {data: TABLE, levels_of: COLUMN}}; \"{NAME}\" in any text stands for the value."
  ),
  outputs = paste(
    "Versions of the figure by name, with what differs:",
    "any key of `plate`, `formats`, `save`."
  ),
  save = "Where the figure is written: paths, each ending in a format."
)
one_join <- any_of(
  text,
  mapping(
    c(
      reading,
      list(
        data = text,
        by = any_of(text, list_of(text), open_mapping(text)),
        columns = any_of(text, list_of(text), open_mapping(text))
      )
    )
  )
)
table <- any_of(
  text,
  mapping(
    explained(
      c(
        reading,
        list(
          rename = open_mapping(text),
          long = mapping(
            list(
              columns = chosen,
              prefix = text,
              into = open_mapping(
                any_of(
                  mapping(
                    c(
                      field_keys,
                      list(
                        colours = any_of(open_mapping(text), list_of(text)),
                        missingLabel = text,
                        format = text,
                        zone = text
                      )
                    )
                  ),
                  list(type = "null")
                )
              )
            ),
            "columns"
          ),
          join = any_of(one_join, list_of(one_join)),
          derive = open_mapping(derived_said),
          keep = text,
          database = choice(words("databases")),
          service = text,
          parted_by = text,
          table = text,
          sample = number_schema(1, words("most_fetched"), TRUE),
          counts = mapping(
            list(data = text, over = any_of(text, list_of(text)), empty = flag),
            c("data", "over")
          ),
          correlations = mapping(
            list(
              data = text,
              columns = chosen,
              method = choice("pearson", "spearman", "kendall"),
              half = flag
            ),
            "data"
          )
        )
      ),
      table_said
    )
  )
)
plate_keys <- arguments_of("plate")
setting_keys <- plate_keys[names(plate_keys) != "place"]
path <- list(
  type = "string",
  pattern = paste0("[.](", paste(names(words("plate_writers")()), collapse = "|"), ")$")
)
saves <- any_of(path, list_of(path))
formats <- choice(names(words("plate_writers")()))
output <- any_of(
  mapping(c(setting_keys, list(save = saves, formats = any_of(formats, list_of(formats))))),
  list(type = "null")
)
each <- any_of(
  list_of(any_of(text, number)),
  mapping(list(data = text, levels_of = text), c("data", "levels_of"))
)
whole_figure <- c(
  mapping(
    explained(
      list(
        nelvat = list(const = 1),
        data = open_mapping(reference("table")),
        blocks = open_mapping(reference("block")),
        plate = mapping(c(plate_keys, list(save = saves))),
        plates = open_mapping(mapping(c(plate_keys, list(save = saves)), c("place", "save"))),
        for_each = c(open_mapping(each), list(minProperties = 1, maxProperties = 1)),
        outputs = c(open_mapping(output), list(minProperties = 1)),
        save = saves
      ),
      top_said
    ),
    c("nelvat", "blocks")
  ),
  list(anyOf = list(list(required = list("plate")), list(required = list("plates"))))
)
# Another figure with something different: only the keys that differ, as deep as they are.
any_key <- list(type = "object")
variant <- mapping(
  list(
    nelvat = list(const = 1),
    from = list(type = "string", description = top_said$from),
    data = any_key,
    blocks = any_key,
    plate = any_key,
    plates = any_key,
    for_each = any_key,
    outputs = any_key,
    save = saves
  ),
  c("nelvat", "from")
)
figure <- header(
  "figure",
  "Nelvat figure file",
  list(
    anyOf = list(reference("figure"), reference("variant")),
    `$defs` = list(
      figure = whole_figure,
      variant = variant,
      ink = ink,
      axis = word_schema("axis_of"),
      panel = word_schema("panel", c("data", "ink")),
      used = used,
      scale_bar = word_schema("scale_bar", c("length", "unit", "per_pixel")),
      variable = channel,
      variables = any_of(channel, list_of(text)),
      columns = columns,
      derived = derived_said,
      order = order_rule,
      missing = missing_said,
      block = block,
      size = size,
      place = place,
      table = table
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
choices <- words("house_choices")
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

field <- list(
  type = "object",
  required = list("name"),
  properties = c(list(name = text), field_keys, value_keys)
)
codebook_schema <- header(
  "codebook",
  "Nelvat codebook: a Table Schema with units, orders and colours",
  list(
    type = "object",
    required = list("fields"),
    properties = list(
      fields = list_of(field),
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
    )
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
