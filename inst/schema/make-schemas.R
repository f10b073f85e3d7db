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
  c(list(type = "object", properties = properties, additionalProperties = !closed), if (!is.null(required)) list(required = as.list(required)))
}
open_mapping <- function(values = TRUE) list(type = "object", additionalProperties = values)
anything <- structure(list(), names = character())
reference <- function(name) list(`$ref` = paste0("#/$defs/", name))

header <- function(name, title, schema) {
  c(list(`$schema` = "https://json-schema.org/draft/2020-12/schema", `$id` = paste0("nelvat-", name, ".schema.json"), title = title), schema)
}

# Figure files -------------------------------------------------------------------------

inks <- words("ink_words")()
ink <- any_of(choice(inks), mapping(stats::setNames(lapply(inks, function(word) {
  any_of(mapping(stats::setNames(lapply(private("argument_names")(get(paste0("ink_", word), asNamespace("nelvat"))), function(argument) anything), private("argument_names")(get(paste0("ink_", word), asNamespace("nelvat"))))), list(type = "null"))
}), inks)))
one_or_more_inks <- any_of(reference("ink"), list_of(reference("ink")))
column <- any_of(text, number, list_of(any_of(text, number)), open_mapping())
named <- function(keys, schema) stats::setNames(rep(list(schema), length(keys)), keys)

axis <- mapping(named(private("argument_names")(axis_of), anything))
channels <- named(words("panel_channels"), column)
panel_keys <- c(list(data = text), channels, list(ink = one_or_more_inks, derive = open_mapping(), keep = text, order = open_mapping(), missing = anything, x_axis = reference("axis"), y_axis = reference("axis")))
joint_keys <- c(panel_keys, list(marginal = any_of(one_or_more_inks, mapping(list(x = one_or_more_inks, y = one_or_more_inks))), depth = number, gap = number, marginal_axis = flag, aspect = number))
half <- any_of(one_or_more_inks, list(type = "null"))
pair_keys <- c(
  list(data = text, columns = column, rows = column, within = column, colour = column, shape = column, keep = text, above = half, below = half, diagonal = any_of(choice("names"), half)),
  list(per_row = number, mixed = reference("ink"), names = choice("edge", "diagonal"), missing = choice("pair", "complete"), derive = open_mapping(), order = open_mapping(), aspect = number)
)
facet_keys <- c(list(panel = reference("panel"), across = column, down = column), named(names(words("facets_settings")), anything))
facet_keys$per_row <- any_of(number, choice("page"))
facet_keys$empty <- choice("draw", "drop", "say")
block <- mapping(list(
  panel = reference("panel"), facets = mapping(facet_keys, "panel"), every_pair = mapping(pair_keys, "data"), joint = mapping(joint_keys, c("data", "x", "y")),
  zoom = mapping(named(private("argument_names")(zoom), anything), "of"), text_panel = text,
  image_panel = any_of(text, mapping(list(path = text, scale = mapping(named(private("argument_names")(scale_bar), anything))), "path")),
  marginals = mapping(list(x = one_or_more_inks, y = one_or_more_inks, depth = number, gap = number, axis = flag))
))
size <- any_of(number, choice("natural"), list(type = "string", pattern = "^\\s*[0-9.]+\\s*mm\\s*$"))
cells <- any_of(number, list_of(number))
place <- any_of(
  text, list_of(reference("place")), mapping(list(beside = reference("place"), widths = list_of(reference("size"))), "beside"),
  mapping(list(stacked = reference("place"), heights = list_of(reference("size"))), "stacked"), mapping(list(at = reference("place"), rows = cells, columns = cells), c("at", "rows", "columns"))
)
table <- any_of(text, mapping(list(
  file = text, codebook = text, sheet = any_of(text, number), range = text, encoding = text, zone = text, join = any_of(text, list_of(text)),
  counts = mapping(list(data = text, over = any_of(text, list_of(text)), empty = flag), c("data", "over")),
  correlations = mapping(list(data = text, columns = list_of(text), method = choice("pearson", "spearman", "kendall"), half = flag), "data")
)))
plate_keys <- list(
  place = reference("place"), width = any_of(number, choice("single", "middle", "double"), text), height = number, widths = list_of(reference("size")), heights = list_of(reference("size")), per_row = number,
  key = choice(words("key_places")), letters = any_of(text, list_of(text)), title = text, note = text, share = any_of(flag, text, list_of(text)), house = any_of(text, open_mapping())
)
figure <- header("figure", "Nelvat figure file", c(
  mapping(list(
    nelvat = list(const = 1), data = open_mapping(reference("table")), blocks = open_mapping(reference("block")), plate = mapping(plate_keys, "place"), save = any_of(text, list_of(text))
  ), c("nelvat", "data", "blocks", "plate")),
  list(`$defs` = list(ink = ink, axis = axis, panel = mapping(c(panel_keys, list(house = any_of(text, open_mapping()))), c("data", "ink")), block = block, size = size, place = place, table = table))
))

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
  if (length(path) == 1) house_shape[[path]] <- choice(choices[[key]]) else house_shape[[path[1]]]$properties[[path[2]]] <- choice(choices[[key]])
}
house_shape$ramps <- mapping(list(sequential = list_of(text), diverging = list_of(text)))
house_schema <- header("house", "Nelvat house style", mapping(c(list(from = text, times = number), house_shape)))

# Codebooks: Table Schema with unit, order and colours -------------------------------------

field <- list(
  type = "object", required = list("name"),
  properties = list(
    name = text, type = choice("string", "number", "integer", "boolean", "date", "time", "datetime", "any"), title = text, description = text, unit = text, show = text,
    categories = list_of(any_of(text, number, mapping(list(value = any_of(text, number), label = text), "value"))), categoriesOrdered = flag, order = anything, colours = any_of(open_mapping(text), list_of(text)),
    missingValues = list_of(text), constraints = open_mapping(), format = text, count = flag
  )
)
codebook_schema <- header("codebook", "Nelvat codebook: a Table Schema with units, orders and colours", list(
  type = "object", required = list("fields"), properties = list(fields = list_of(field), missingValues = list_of(text), name = text, title = text)
))

folder <- file.path("inst", "schema")
dir.create(folder, showWarnings = FALSE)
for (name in c("figure", "house", "codebook")) {
  schema <- list(figure = figure, house = house_schema, codebook = codebook_schema)[[name]]
  writeLines(jsonlite::toJSON(schema, auto_unbox = TRUE, pretty = TRUE, null = "null"), file.path(folder, paste0(name, ".schema.json")))
}
