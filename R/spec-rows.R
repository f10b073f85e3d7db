# What stands in a figure file and is no word of R: its parts, their keys and what each takes, as
# rows of the table of words. What a part is made of may stand in words of R, too.

# The keys of a part of a file, and their schema.
part_keys <- function(part) names(part_rows(part))
part_schema <- function(part, needs = NULL) {
  keys_schema(lapply(part_rows(part), type_schema), needs)
}

# Rows of a part are made when first asked for, as those of words.
part_rows <- function(part) kept_rows(paste("part", part), file_rows[[part]])

file_rows <- list(
  figure = function() {
    figures <- open_map(keys_schema(lapply(plate_rows(), type_schema), c("place", "save")))
    list(
      nelvat = file_part(list(const = 1), "The version of this form of file."),
      from = file_text(
        c(
          "Another figure file, of which this one is a variant: only what differs is said.",
          "Mappings are merged, inks, places and lists replaced, null takes a key away."
        )
      ),
      data = file_part(
        open_map(ref_to("table")),
        "Tables by name: a path, or a mapping of the keys below."
      ),
      blocks = file_part(
        open_map(ref_to("block")),
        c(
          "Blocks by name: one of the words below with its keys,",
          "or {use: BLOCK, with: {KEY: VALUE}}."
        )
      ),
      plate = file_part(
        keys_schema(lapply(plate_rows(), type_schema)),
        "The page: where blocks stand, its size, and what holds for all of it."
      ),
      plates = file_part(
        figures,
        "In place of `plate`: several figures by name, each with `place` and `save`."
      ),
      for_each = file_part(
        c(
          open_map(list(anyOf = list(array_of(text_or_number), part_schema("levels_of")))),
          list(minProperties = 1, maxProperties = 1)
        ),
        c(
          "One figure for each of some values: {NAME: [VALUES]}",
          "or {NAME: {data: TABLE, levels_of: COLUMN}};",
          "\"{NAME}\" in any text stands for the value."
        )
      ),
      outputs = file_part(
        c(
          open_map(list(anyOf = list(part_schema("output"), list(type = "null")))),
          list(minProperties = 1)
        ),
        c(
          "Versions of the figure by name, with what differs:",
          "any key of `plate`, `formats`, `save`."
        )
      ),
      save = written_files()
    )
  },
  levels_of = function() {
    list(
      data = a_table(says = "Name of a table."),
      levels_of = file_text("The column whose levels have a figure each.")
    )
  },
  output = function() {
    formats <- list(enum = as.list(names(plate_writers())))
    c(
      plate_rows()[-match("place", names(plate_rows()))],
      list(formats = file_part(one_or_more(formats), "Formats of the files."))
    )
  },
  # The steps of a table, in their order.
  table = function() {
    asked <- file_arguments("table_in")
    joins <- list(anyOf = list(text_schema, part_schema("join")))
    c(
      reading_rows(),
      list(
        rename = file_part(open_map(text_schema), "Other names for columns: {new: old}."),
        long = file_part(
          word_schema("long_data", "columns"),
          "Columns of one kind made into two, names and values: see long_data()."
        ),
        join = file_part(
          one_or_more(joins),
          "Columns of another table, or of several in turn: see join_data()."
        ),
        derive = some_derived(says = "New columns from expressions."),
        keep = a_condition(says = "An expression; rows where it is true stay."),
        database = a_choice(
          databases,
          says = "The table stays in its file, which is asked for counts and means: see table_in()."
        ),
        service = file_text(
          "Name of a PostgreSQL service, of libpq's service file: see table_in()."
        ),
        table = asked$table,
        sample = a_number(
          1,
          most_fetched,
          whole = TRUE,
          says = "How many rows to draw in place of all, of a table that stays in its database."
        ),
        parted_by = asked$parted_by,
        counts = file_part(
          word_schema("counts", c("data", "over")),
          "In place of a file: how often levels meet in another table."
        ),
        correlations = file_part(
          word_schema("correlations", "data"),
          "In place of a file: correlations of another table's quantities."
        )
      )
    )
  },
  join = function() {
    joined <- a_table(says = "Name of a table that stands before this one; or the keys of a file.")
    c(reading_rows(), list(data = joined), word_arguments("join_data")[c("by", "columns")])
  },
  # A column with what it is, on a channel.
  variable = function() {
    of_quantity <- word_arguments("quantity")
    of_category <- word_arguments("category")
    of_moment <- word_arguments("moment")
    list(
      column = file_text("A column's name or an expression."),
      kind = a_choice(names(kind_makers), says = "What kind it is; that of the codebook."),
      title = of_quantity$name,
      unit = of_quantity$unit,
      show = of_quantity$show,
      order = of_category$order,
      names = of_category$names,
      colours = of_category$colours,
      format = of_moment$format,
      zone = of_moment$zone
    )
  },
  field = function() field_rows(),
  measure = function() {
    list(
      measure = file_text("What the measures on an axis are called together."),
      colours = word_arguments("category")$colours,
      order = file_part(array_of(text_schema), "The measures in the order to show them.")
    )
  },
  # Columns by what their names have in common.
  columns = function() {
    ends <- one_or_more(text_schema)
    list(
      starts_with = file_part(ends, "How names begin."),
      ends_with = file_part(ends, "How names end."),
      contains = file_text("What names hold."),
      from = file_text("The first of columns that stand together."),
      to = file_text("The last of columns that stand together."),
      except = file_part(ends, "Columns that are not meant.")
    )
  },
  derived = function() {
    said <- c("type", "title", "unit", "show", "categories", "categoriesOrdered", "order", "count")
    c(list(expression = file_text("An expression over columns.")), field_rows()[said])
  },
  by_statistic = function() {
    list(
      by_statistic = file_text("The column that levels are ordered by."),
      statistic = a_choice(names(order_statistics()), says = "What of it."),
      descending = a_flag(says = "The greatest first?")
    )
  },
  by_likeness = function() {
    list(
      by_likeness = file_text("The column by which levels are alike."),
      over = file_text("The column whose levels it is compared over."),
      distance = a_choice(likeness_distances, says = "How far two levels are from each other."),
      linkage = a_choice(likeness_linkages, says = "How far two groups are from each other."),
      groups = a_number(says = "How many groups the tree is cut into.")
    )
  }
)

# How a file is read: as read_data() does, with its path under `file`.
reading_rows <- function() {
  rows <- word_arguments("read_data")
  stats::setNames(rows, sub("^path$", "file", names(rows)))
}
reading_keys <- function() names(reading_rows())

# What a plate of a file has besides its word.
plate_rows <- function() c(word_arguments("plate"), list(save = written_files()))
written_files <- function() {
  ending <- paste0("[.](", paste(names(plate_writers()), collapse = "|"), ")$")
  file_part(
    one_or_more(list(type = "string", pattern = ending)),
    "Where the figure is written: paths, each ending in a format."
  )
}
