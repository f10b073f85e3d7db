# Types of arguments that panels and blocks have. How each is read from a file is in spec-read.R.

# A column or an expression over columns; several, where a direction can have them.
a_variable <- function(several = FALSE, says = "") {
  schema <- if (several) ref_to("variables") else ref_to("variable")
  a_part("variable", schema, if (several) "columns" else "a column", says = says)
}

# Inks, in the dots of a call; in a file under the key.
# also: a word that can stand in their place.
some_inks <- function(schema = one_or_more(ref_to("ink")), dots = FALSE, also = NULL, says = "") {
  type <- a_part("inks", schema, "inks", says = says)
  type$dots <- dots
  type$also <- also
  type
}
one_ink <- function(says = "") a_part("ink", ref_to("ink"), "an ink", says = says)

some_derived <- function(says = "") {
  a_part("derived", open_map(ref_to("derived")), "expressions by name", says = says)
}
some_orders <- function(says = "") {
  a_part("orders", open_map(ref_to("order")), "orders by column", says = says)
}
an_order <- function(says = "") a_part("order", ref_to("order"), "an order", says = says)
policies <- function(says = "") a_part("policies", ref_to("missing"), "what is done", says = says)
an_axis <- function(says = "") a_part("axis", ref_to("axis"), "an `axis_of()`", says = says)
a_house <- function(says = "") {
  a_part(
    "house",
    list(anyOf = list(list(type = "string"), open_map())),
    "a house, by name, file or keys",
    says = says
  )
}

# One for both, or one for each of two keys: both = c("x", "y").
for_both <- function(one, both, says = "") {
  a_part(
    "both",
    list(
      anyOf = list(
        one,
        list(
          type = "object",
          properties = stats::setNames(rep(list(one), 2), both),
          additionalProperties = FALSE
        )
      )
    ),
    paste0("one, or one for each of ", quoted(both)),
    says = says
  )
}

an_aspect <- function(says = "") a_number(0.05, 20, or_null = TRUE, says = says)
a_depth <- function(says = "") a_number(1, 200, unit = "mm", or_null = TRUE, says = says)

# Two ends of an axis, of which one can be missing where `open`.
ends_type <- function(open = TRUE, says = "") {
  item <- list(
    anyOf = c(
      list(list(type = "number"), list(type = "string")),
      if (open) list(list(type = "null"))
    )
  )
  own_type(
    function(value, argument, call) check_ends(value, call),
    list(type = "array", items = item, minItems = 2, maxItems = 2),
    paste0("two ends", if (open) ", of which one can be missing"),
    says = says
  )
}
