# What a field of a codebook says of its column: keys of a Frictionless Table Schema
# (https://specs.frictionlessdata.io/table-schema/), and ours.

field_rows <- function() {
  of_quantity <- word_arguments("quantity")
  of_category <- word_arguments("category")
  of_moment <- word_arguments("moment")
  list(
    name = file_text("Name of the column."),
    title = of_quantity$name,
    description = file_text("What the column is, for readers; not drawn."),
    type = a_choice(
      c("number", "integer", "string", "boolean", "date", "datetime", "time", "year", "any"),
      says = "What sort of values the column has."
    ),
    format = of_moment$format,
    example = file_part(list(), "A value as it may be; not read."),
    constraints = file_part(
      open_map(),
      "What values are right; not checked, but odd ones are not asked about then."
    ),
    rdfType = file_part(list(), "Of what sort it is on the web; not read."),
    missingValues = file_part(one_or_more(text_or_number), "What cells without a value hold."),
    categories = file_part(
      array_of(
        list(
          anyOf = c(
            simple_values$anyOf,
            list(keys_schema(list(value = simple_values, label = text_or_number), "value"))
          )
        )
      ),
      "Levels in their order: values, or each with its `value` and `label`."
    ),
    categoriesOrdered = a_flag(says = "Do the levels have an order of their own?"),
    decimalChar = file_text("The decimal sign of the column's numbers."),
    groupChar = file_text("What stands between thousands in the column's numbers."),
    bareNumber = a_flag(says = "`FALSE`: signs before and behind a number are left out."),
    trueValues = file_part(array_of(text_schema), "What means true; not read."),
    falseValues = file_part(array_of(text_schema), "What means false; not read."),
    unit = of_quantity$unit,
    show = of_quantity$show,
    order = of_category$order,
    colours = of_category$colours,
    zone = of_moment$zone,
    count = of_quantity$count,
    missingLabel = of_category$missing
  )
}

field_keys <- function() names(kept_rows("a field", field_rows))
field_types <- function() kept_rows("a field", field_rows)$type$choices

# Values of files that no word of R has.
file_text <- function(says) a_text(says = says)
file_part <- function(schema, says, words = "as the file has it") {
  a_part("file", schema, words, FALSE, says = says)
}
