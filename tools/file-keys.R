# Makes docs/file-keys.md from the schema of figure files: every key, what it takes, and the R form
# beside it: Rscript tools/file-keys.R

schema <- jsonlite::fromJSON("inst/schema/figure.schema.json", simplifyVector = FALSE)
defs <- schema$`$defs`
top <- c(defs$figure$properties[1], defs$variant$properties["from"], defs$figure$properties[-1])

# What a value may be, in words.
takes <- function(one, deep = 0) {
  if (!is.null(one$`$ref`)) {
    return(paste0("[", sub(".*/", "", one$`$ref`), "](#", sub(".*/", "", one$`$ref`), ")"))
  }
  if (!is.null(one$enum)) return(paste0("`", paste(unlist(one$enum), collapse = "`, `"), "`"))
  if (!is.null(one$const)) return(paste0("`", tolower(as.character(one$const)), "`"))
  if (!is.null(one$anyOf)) {
    # That a key may be empty is said where it means something.
    each <- unique(unlist(lapply(one$anyOf, takes, deep + 1)))
    if (!any(grepl("#ink)", each, fixed = TRUE))) each <- setdiff(each, "nothing")
    return(paste(each[nzchar(each)], collapse = "; "))
  }
  limits <- function() {
    paste0(
      if (!is.null(one$minimum)) paste0(" from ", one$minimum),
      if (!is.null(one$maximum)) paste0(" to ", one$maximum)
    )
  }
  switch(
    one$type %||% "any",
    string = "text",
    number = paste0("a number", limits()),
    integer = paste0("a whole number", limits()),
    boolean = "`true`, `false`",
    null = "nothing",
    array = paste0("a list (", takes(one$items, deep + 1), ")"),
    object = if (length(one$properties) && deep < 2) {
      paste0("`{", paste(names(one$properties), collapse = ", "), "}`")
    } else {
      "a mapping"
    },
    "as in R"
  )
}
`%||%` <- function(a, b) if (is.null(a)) b else a
cell <- function(text) gsub("|", "\\|", gsub("\n", " ", text), fixed = TRUE)
rows <- function(properties) {
  unname(
    mapply(
      function(key, one) {
        paste0("| `", key, "` | ", cell(takes(one)), " | ", cell(one$description %||% ""), " |")
      },
      names(properties),
      properties
    )
  )
}
section <- function(title, r_form, properties, level = "##", note = NULL) {
  c(
    paste(level, title),
    "",
    if (nzchar(r_form)) c(paste0("In R: `", r_form, "`."), ""),
    note,
    if (!is.null(note)) "",
    "| key | takes | what it is |",
    "| --- | --- | --- |",
    rows(properties),
    ""
  )
}
# What stands in other entries: in text or a list, or with keys.
parts_of <- function(name, note) {
  within <- function(part) {
    c(part$properties, unlist(unname(lapply(part$anyOf, within)), recursive = FALSE))
  }
  keys <- within(defs[[name]])
  section(name, "", keys[!duplicated(names(keys))], note = note)
}
block <- defs$block$anyOf[[2]]$properties
inner <- function(word) {
  Find(
    function(one) !is.null(one$properties),
    c(list(block[[word]]), block[[word]]$anyOf)
  )$properties
}
inks <- defs$ink$anyOf[[2]]$properties
entry <- defs$table$anyOf[[2]]$properties
with_keys <- function(one) {
  if (!is.null(one$properties)) return(one$properties)
  Find(Negate(is.null), lapply(one$anyOf, with_keys))
}
joined <- with_keys(entry$join)
joined <- joined[setdiff(names(joined), names(entry))]
lines <- c(
  "# Every key of a figure file",
  "",
  "Made from the table of words, by the schema (`tools/file-keys.R`). A name with",
  "spaces is quoted in YAML, and stands in backticks in an expression: `keep: \"`Weight (lb)`",
  "> 4\"`. House files are looked for beside the figure file as `nelvat.yaml`, then in the",
  "folders above it up to the root of the project (a folder with `.git`, an `.Rproj` file or",
  "`DESCRIPTION`).",
  "",
  "```yaml",
  "nelvat: 1",
  "data:",
  "  loaves: {file: loaves.csv, codebook: loaves.codebook.yaml}",
  "blocks:",
  "  scatter: {panel: {data: loaves, x: rise, y: volume, colour: flour, ink: points}}",
  "  again: {use: scatter, with: {y: firmness}}",
  "plate: {place: {beside: [scatter, again]}, width: double, height: 80, letters: block}",
  "outputs:",
  "  journal: {formats: [pdf]}",
  "  talk: {house: projected, width: double, height: 140, formats: [png]}",
  "save: [figure.pdf]",
  "```",
  "",
  section("The top of the file", "", top),
  section("An entry of data", "read_data()", entry),
  section("long", "long_data(data, columns, ...)", entry$long$properties),
  section("join", "join_data(data, other)", joined),
  section("counts", "counts(data, ...)", entry$counts$properties),
  section("correlations", "correlations(data)", entry$correlations$properties),
  section(
    "field",
    "",
    defs$field$properties,
    note = "What a column means, under `fields` and in codebook files:"
  ),
  section(
    "panel",
    "panel(data, x = , y = , <inks>)",
    defs$panel$properties,
    note = paste(
      "An order is `by_number`, `by_appearance`, a list of levels,",
      "or `{by_statistic: rise, statistic: median, descending: true}`."
    )
  ),
  section(
    "axis",
    "axis_of()",
    defs$axis$properties,
    note = "`format` is a pattern of time such as `\"%H:%M\"`, or a number of decimals."
  ),
  parts_of("variable", "A column's name or an expression over columns; or what the column is:"),
  parts_of("columns", "Columns by name, or by what their names have in common:"),
  parts_of("derived", "An expression, or with what it means:"),
  parts_of("order", "By number, by appearance, levels in their order, or by a statistic:"),
  parts_of("missing", "A policy, or policies by channel:"),
  section("facets", "facets(panel, across = , down = )", block$facets$properties),
  section("every_pair", "every_pair(data, columns)", block$every_pair$properties),
  section("joint", "joint(data, x, y)", block$joint$properties),
  section("zoom", "zoom(of, x = , y = )", block$zoom$properties),
  section("marginals", "marginals(panel, x = , y = )", block$marginals$properties),
  section("text_panel", "text_panel()", inner("text_panel")),
  section("image_panel", "image_panel()", inner("image_panel")),
  section("table_panel", "table_panel()", inner("table_panel")),
  section(
    "plate",
    "plate(<blocks>)",
    top$plate$properties,
    note = paste(
      "`letters` is `block`, `panel`, `none` or the letters;",
      "`share` is `true`, `false` or the variables that have one range everywhere."
    )
  ),
  "## ink",
  "",
  "An ink is its word, or its word with its keys: `ink: [points, {fit: {equation: true}}]`.",
  "",
  unlist(
    lapply(names(inks), function(word) {
      section(word, paste0("ink_", word, "()"), inks[[word]]$anyOf[[1]]$properties, "###")
    })
  )
)
writeLines(enc2utf8(lines), "docs/file-keys.md", useBytes = TRUE)
