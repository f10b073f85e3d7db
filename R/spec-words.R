# What messages say as R code, in the words of files: calls and their arguments as keys.

# Patterns and what they become, in this order.
words_of_calls <- list(
  c("`c\\(x = (\"[^\"]*\"), y = (\"[^\"]*\")\\)`", "`{x: \\1, y: \\2}`"),
  c(
    "`quantity\\(\"([^\"]*)\", unit = \"([^\"]*)\"(, show = \"[^\"]*\")?\\)`",
    "`title: \\1` and `unit: \\2`"
  ),
  c("`(category|ordinal)\\(([A-Za-z0-9_.]+)\\)`", "`{column: \\2, kind: \\1}`"),
  c("`[a-z]+ = (category|ordinal)\\(([A-Za-z0-9_.]+)\\)`", "`{column: \\2, kind: \\1}`"),
  c("`house\\(([a-z_]+) = list\\(([a-z_]+) = ([^)]*)\\)\\)`", "`{\\1: {\\2: \\3}}` of the house"),
  c("`axis_of\\(([a-z]+) = ?([^)]*)\\)`", "`{\\1: \\2}` of the axis"),
  c("`ink_([a-z_]+)\\(\\)`", "`\\1`"),
  c("`fill_with\\(([^)]*)\\)`", "`{fill_with: \\1}`"),
  c("`share_axis\\((\"[^\"]*\")\\)`", "`share: [\\1]`"),
  c("`by_statistic\\(([A-Za-z0-9_.]+), \"([a-z]+)\"\\)`", "`{by_statistic: \\1, statistic: \\2}`"),
  c("`(by_number|by_appearance)\\(\\)`", "`\\1`"),
  c("`list\\(([a-z_]+) = ([^`]*)\\)`", "`{\\1: \\2}`"),
  c("`(plate|panel|facets|joint|every_pair|zoom|codebook|read_data)\\(\\)`", "`\\1`"),
  c("\\bTRUE\\b", "true"),
  c("\\bFALSE\\b", "false"),
  c("\\bNULL\\b", "null"),
  c("`([a-z_]+) =`", "`\\1`"),
  c("`([a-z_]+) = ?([^`]*)`", "`\\1: \\2`")
)

in_words_of_files <- function(text) {
  for (pair in words_of_calls) text <- gsub(pair[1], pair[2], text, perl = TRUE)
  text
}
