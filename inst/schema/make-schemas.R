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

# What the package's own checks say of an argument: its choices, numbers, words. Read from the
# bodies of the functions, so that schema and program cannot differ; descriptions from the help
# pages.
namespace <- asNamespace("nelvat")

checks_in <- function(f) {
  found <- list()
  walk <- function(node) {
    if (is.call(node)) {
      if (is.symbol(node[[1]])) {
        one <- checked_argument(as.character(node[[1]]), node)
        if (!is.null(one)) found[[one$argument]] <<- one$schema
      }
      for (part in as.list(node)[-1]) if (!missing(part)) walk(part)
    } else if (is.pairlist(node)) for (part in node) if (!missing(part)) walk(part)
  }
  walk(body(f))
  found
}

literal <- function(node) tryCatch(eval(node, namespace), error = function(error) NULL)

checked_argument <- function(name, node) {
  if (
    !name %in% c(
      "check_choice", "check_number", "check_flag", "check_string", "check_colour", "check_step",
      "check_places", "check_ends", "check_aspect"
    )
  ) {
    return(NULL)
  }
  call <- tryCatch(match.call(get(name, namespace), node), error = function(error) NULL)
  if (is.null(call)) return(NULL)
  argument <- if (!is.null(call$argument)) {
    literal(call$argument)
  } else if (name == "check_colour" && is.symbol(call$colour)) {
    as.character(call$colour)
  } else if (name == "check_ends") {
    "range"
  } else if (name == "check_aspect") "aspect"
  if (is.null(argument) || length(argument) != 1) return(NULL)
  schema <- switch(
    name,
    check_choice = if (!is.null(literal(call$choices))) choice(literal(call$choices)),
    check_number = number_schema(
      literal(call$least),
      literal(call$most),
      isTRUE(literal(call$whole))
    ),
    check_aspect = number_schema(0.05, 20, FALSE),
    check_flag = flag,
    check_string = text,
    check_colour = text,
    check_step = any_of(number, text),
    check_places = any_of(number, text, list_of(any_of(number, text))),
    check_ends = list(
      type = "array",
      items = any_of(number, text, list(type = "null")),
      minItems = 2,
      maxItems = 2
    )
  )
  if (!is.null(schema)) list(argument = argument, schema = schema)
}

number_schema <- function(least, most, whole) {
  c(
    list(type = if (whole) "integer" else "number"),
    if (length(least) && is.finite(least)) list(minimum = least),
    if (length(most) && is.finite(most)) list(maximum = most)
  )
}

# Arguments and what the help page says of each.
help_of <- local({
  pages <- NULL
  function(name) {
    at <- find.package("nelvat")
    if (is.null(pages)) {
      pages <<- if (dir.exists(file.path(at, "man"))) {
        tools::Rd_db(dir = at)
      } else {
        tools::Rd_db("nelvat")
      }
    }
    tag <- function(page, of) Filter(function(part) identical(attr(part, "Rd_tag"), of), page)
    page <- Find(
      function(page) {
        name %in% vapply(
          tag(page, "\\alias"),
          function(alias) paste(unlist(alias), collapse = ""),
          ""
        )
      },
      pages
    )
    if (is.null(page)) return(list())
    items <- Filter(
      function(part) identical(attr(part, "Rd_tag"), "\\item"),
      unlist(tag(page, "\\arguments"), recursive = FALSE)
    )
    said <- lapply(
      items,
      function(item) gsub("\\s+", " ", trimws(paste(unlist(item[[2]]), collapse = "")))
    )
    names <- lapply(
      items,
      function(item) trimws(strsplit(paste(unlist(item[[1]]), collapse = ""), ",")[[1]])
    )
    stats::setNames(rep(said, lengths(names)), unlist(names))
  }
})

# A schema for each argument of a function: from the checks of it and of `more` functions that it
# hands them to.
arguments_schema <- function(name, more = NULL, given = list()) {
  checks <- unlist(
    lapply(c(name, more), function(one) checks_in(get(one, namespace))),
    recursive = FALSE
  )
  help <- help_of(name)
  arguments <- private("argument_names")(get(name, namespace))
  stats::setNames(
    lapply(arguments, function(argument) {
      schema <- given[[argument]] %||% checks[[argument]] %||% anything
      if (is.null(help[[argument]])) schema else c(list(description = help[[argument]]), schema)
    }),
    arguments
  )
}
`%||%` <- function(left, right) if (is.null(left)) right else left
null_or <- function(schema) {
  c(
    schema["description"][lengths(schema["description"]) > 0],
    list(anyOf = list(schema[setdiff(names(schema), "description")], list(type = "null")))
  )
}

# What a codebook's field says of a column --------------------------------------------------

category_value <- any_of(
  text,
  number,
  flag,
  mapping(list(value = any_of(text, number, flag), label = any_of(text, number)), "value")
)
field_keys <- list(
  type = choice(words("field_types")),
  title = text,
  unit = text,
  show = text,
  categories = list_of(category_value),
  categoriesOrdered = flag,
  order = anything,
  count = flag
)

# Figure files -------------------------------------------------------------------------

inks <- words("ink_words")()
several_words <- any_of(text, number, list_of(any_of(text, number)))
own_channel <- any_of(text, number)
ink_given <- list(
  error = choice(union(private("errors_of")("mean"), private("errors_of")("median"))),
  band = any_of(
    choice(union(private("errors_of")("mean"), private("errors_of")("median"))),
    number,
    list(type = "null")
  ),
  colour = text,
  shape = text,
  size = own_channel,
  group = text,
  weigh_by = text,
  low = text,
  high = text,
  subject = text,
  against = text,
  first = text,
  second = text,
  score = text,
  truth = text,
  pooled = several_words,
  bold = several_words,
  positive = any_of(text, number, flag),
  whiskers = any_of(number, choice("range"), list_of(number)),
  breaks = list_of(number),
  bandwidth = any_of(number, text),
  gap = any_of(number, text, flag)
)
ink_schema <- function(word) {
  name <- paste0("ink_", word)
  given <- ink_given
  if (word == "fit") given$band <- any_of(number, list(type = "null"))
  if (word %in% c("fit", "residuals")) {
    given <- c(
      given,
      list(
        model = any_of(choice(words("fit_models")), list(type = "string", pattern = "~")),
        start = open_mapping(number),
        weigh_by = text
      )
    )
  }
  any_of(
    mapping(arguments_schema(name, if (word %in% c("line", "step")) "new_line_ink", given)),
    list(type = "null")
  )
}
ink <- any_of(choice(inks), mapping(stats::setNames(lapply(inks, ink_schema), inks)))
ink$anyOf[[2]]$minProperties <- 1
ink$anyOf[[2]]$maxProperties <- 1
one_or_more_inks <- any_of(reference("ink"), list_of(reference("ink")))
column <- any_of(text, number, list_of(any_of(text, number)), open_mapping())
named <- function(keys, schema) stats::setNames(rep(list(schema), length(keys)), keys)

axis <- mapping(
  arguments_schema(
    "axis_of",
    given = list(
      grid = any_of(flag, choice("minor")),
      format = any_of(text, number),
      labels = choice(names(words("label_treatments"))),
      breaks = any_of(number, text, list_of(any_of(number, text)))
    )
  )
)
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
  )
)
orders <- open_mapping(order_rule)
levels_said <- any_of(open_mapping(text), list_of(text))
kind_said <- mapping(
  list(
    column = text,
    kind = choice(names(words("kind_makers"))),
    title = text,
    unit = text,
    show = text,
    order = order_rule,
    names = open_mapping(text),
    colours = levels_said,
    format = text,
    zone = text
  ),
  c("column", "kind")
)
measure_said <- mapping(
  list(measure = text, colours = levels_said, order = list_of(text)),
  "measure"
)
channel <- any_of(text, kind_said, measure_said)
channels <- named(words("panel_channels"), channel)
channels$y <- any_of(text, kind_said, list_of(text))
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
heading <- any_of(text, mapping(list(across = text, down = text)))
panel_keys <- c(
  list(data = text),
  channels,
  list(
    ink = one_or_more_inks,
    derive = open_mapping(derived_said),
    keep = text,
    order = orders,
    missing = missing_said,
    x_axis = reference("axis"),
    y_axis = reference("axis"),
    house = any_of(text, open_mapping()),
    heading = text
  )
)
marginal_numbers <- list(depth = number_schema(1, 200, FALSE), gap = number_schema(0, 50, FALSE))
joint_keys <- c(
  panel_keys[setdiff(names(panel_keys), "house")],
  marginal_numbers,
  list(
    marginal = any_of(one_or_more_inks, mapping(list(x = one_or_more_inks, y = one_or_more_inks))),
    marginal_axis = flag,
    aspect = number_schema(0.05, 20, FALSE)
  )
)
half <- any_of(one_or_more_inks, list(type = "null"))
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
pair_keys <- list(
  data = text,
  columns = columns,
  rows = columns,
  within = text,
  colour = channel,
  shape = channel,
  keep = text,
  above = half,
  below = half,
  diagonal = any_of(choice("names"), half),
  per_row = number_schema(1, 50, TRUE),
  mixed = reference("ink"),
  names = choice("edge", "diagonal"),
  missing = choice("pair", "complete"),
  derive = open_mapping(derived_said),
  order = orders,
  aspect = number_schema(0.05, 20, FALSE),
  heading = text
)
range_word <- choice(words("range_words"))
facet_checks <- checks_in(get("new_facets", namespace))
facet_keys <- c(
  list(
    panel = any_of(reference("panel"), mapping(list(use = text, with = open_mapping()), "use")),
    across = any_of(text, kind_said, list_of(text)),
    down = any_of(text, kind_said, list_of(text)),
    per_row = any_of(number_schema(1, 200, TRUE), choice("page")),
    order = order_rule,
    missing = choice(words("level_policies")),
    heading = heading,
    behind = flag,
    range_per = any_of(range_word, mapping(list(x = range_word, y = range_word))),
    alone = mapping(named(c("x", "y"), any_of(text, number, list_of(any_of(text, number))))),
    aspect = number_schema(0.05, 20, FALSE)
  ),
  facet_checks[c("empty", "show_axes", "room")]
)
described <- function(schema, name, rename = character()) {
  help <- help_of(name)
  stats::setNames(
    lapply(names(schema), function(key) {
      said <- help[[if (key %in% names(rename)) rename[[key]] else key]]
      if (is.null(said)) schema[[key]] else c(list(description = said), schema[[key]])
    }),
    names(schema)
  )
}
facet_keys <- described(facet_keys, "facets")
ends <- list(type = "array", items = any_of(number, text), minItems = 2, maxItems = 2)
zoom_keys <- arguments_schema(
  "zoom",
  given = list(
    of = any_of(text, number),
    x = ends,
    y = ends,
    inset = any_of(flag, choice(names(words("inset_corners"))))
  )
)
used <- mapping(list(use = text, with = open_mapping()), "use")
block <- any_of(
  used,
  c(
    mapping(
      list(
        panel = reference("panel"),
        facets = mapping(facet_keys, "panel"),
        every_pair = mapping(described(pair_keys, "every_pair"), "data"),
        joint = mapping(described(joint_keys, "joint"), c("data", "x", "y")),
        zoom = mapping(zoom_keys, "of"),
        text_panel = any_of(text, mapping(list(text = text, heading = text), "text")),
        image_panel = any_of(
          text,
          mapping(
            list(
              path = text,
              scale = mapping(arguments_schema("scale_bar"), c("length", "unit", "per_pixel")),
              heading = text
            ),
            "path"
          )
        ),
        marginals = mapping(
          c(list(x = one_or_more_inks, y = one_or_more_inks), marginal_numbers, list(axis = flag))
        )
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
reading <- described(
  list(
    file = text,
    files = any_of(text, list_of(text)),
    codebook = text,
    sheet = any_of(text, number),
    range = text,
    encoding = text,
    zone = text,
    skip = number,
    comment = text,
    names = list_of(text)
  ),
  "read_data",
  c(file = "path")
)
explained <- function(schema, said) {
  for (key in names(said)) schema[[key]] <- c(list(description = said[[key]]), schema[[key]])
  schema
}
table_said <- list(
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
columns_of_page <- names(house()$page$width_mm)
letters_said <- any_of(
  choice("block", "panel", "none"),
  list(type = "string", maxLength = 3),
  list(const = FALSE),
  list_of(list(type = "string", maxLength = 3))
)
setting_keys <- described(
  list(
    width = any_of(
      number_schema(10, 2000, FALSE),
      choice(columns_of_page),
      list(type = "string", pattern = "^[A-Za-z_]+$")
    ),
    height = number_schema(10, 2000, FALSE),
    widths = list_of(reference("size")),
    heights = list_of(reference("size")),
    per_row = number_schema(1, 200, TRUE),
    key = choice(words("key_places")),
    key_titles = open_mapping(text),
    align = choice("auto", "always", "never"),
    letters = letters_said,
    title = text,
    note = text,
    share = any_of(flag, text, list_of(text)),
    house = any_of(text, open_mapping())
  ),
  "plate"
)
paths <- any_of(text, list_of(text))
saved <- function(paths) paths
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
figure <- header(
  "figure",
  "Nelvat figure file",
  c(
    mapping(
      explained(
        list(
          nelvat = list(const = 1),
          data = open_mapping(reference("table")),
          blocks = open_mapping(reference("block")),
          plate = mapping(c(list(place = reference("place")), setting_keys, list(save = saves))),
          plates = open_mapping(
            mapping(
              c(list(place = reference("place")), setting_keys, list(save = saves)),
              c("place", "save")
            )
          ),
          for_each = c(open_mapping(each), list(minProperties = 1, maxProperties = 1)),
          outputs = c(open_mapping(output), list(minProperties = 1)),
          save = saves
        ),
        top_said
      ),
      c("nelvat", "data", "blocks")
    ),
    list(anyOf = list(list(required = list("plate")), list(required = list("plates")))),
    list(
      `$defs` = list(
        ink = ink,
        axis = axis,
        panel = mapping(described(panel_keys, "panel"), c("data", "ink")),
        block = block,
        size = size,
        place = place,
        table = table
      )
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
  properties = list(
    name = text,
    type = choice(words("field_types")),
    title = text,
    description = text,
    unit = text,
    show = text,
    categories = list_of(category_value),
    categoriesOrdered = flag,
    order = anything,
    colours = any_of(open_mapping(text), list_of(text)),
    missingValues = list_of(text),
    constraints = open_mapping(),
    format = text,
    count = flag,
    zone = text,
    missingLabel = text
  )
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
      name = text,
      title = text
    )
  )
)

folder <- file.path("inst", "schema")
dir.create(folder, showWarnings = FALSE)
for (name in c("figure", "house", "codebook")) {
  schema <- list(figure = figure, house = house_schema, codebook = codebook_schema)[[name]]
  writeLines(
    jsonlite::toJSON(schema, auto_unbox = TRUE, pretty = TRUE, null = "null"),
    file.path(folder, paste0(name, ".schema.json"))
  )
}
