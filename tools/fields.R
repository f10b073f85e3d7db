# Draws the pages of inst/examples/fields.R to docs/gallery/, and writes docs/fields.md: each page
# over its lines in R and in a figure file. Run from the package root, with the package installed.

suppressMessages(library(nelvat))

script <- readLines(file.path("inst", "examples", "fields.R"), encoding = "UTF-8")
file <- readLines(file.path("inst", "examples", "fields.yaml"), encoding = "UTF-8")
titles <- c(
  ecology = "Ecology",
  molecular = "Molecular biology",
  trial = "Clinical trials",
  psychology = "Psychology",
  materials = "Materials",
  earth = "Earth science"
)

# The lines of a list of figures, `ecology <- list(` to its closing bracket.
lines_in_r <- function(field) {
  from <- grep(paste0("^", field, " <- list\\("), script)
  to <- from + which(script[-seq_len(from)] == ")")[1]
  script[from:to]
}

# The blocks of a page in the file, by the names that the page places.
block_lines <- function(name) {
  from <- grep(paste0("^  ", name, ":"), file)
  from <- from[length(from)]
  after <- which(grepl("^( {0,2})[a-z]", file) & seq_along(file) > from)[1]
  file[from:(after - 1)]
}
names_of_page <- function(field) {
  text <- if (field == "ecology") {
    paste(file[grep("^    stacked:", file)[1] + 1:3], collapse = " ")
  } else {
    file[grep(paste0("^#   ", field, ":"), file) + 1]
  }
  places <- regmatches(text, gregexpr("beside: \\[[a-z, ]+\\]", text))[[1]]
  trimws(unlist(strsplit(gsub("beside: \\[|\\]", "", places), ",")))
}

# The tables that blocks are of, beside the file.
table_lines <- function(blocks) {
  used <- unique(unlist(regmatches(blocks, gregexpr("(?<=data: )[a-z]+", blocks, perl = TRUE))))
  tables <- file[grep("^data:", file) + seq_len(grep("^blocks:", file) - grep("^data:", file) - 1)]
  named <- sub("^  ([a-z]+):.*", "\\1", tables)
  used <- union(used, if ("measures" %in% used) "loaves")
  gsub("../study/", "", tables[named %in% used], fixed = TRUE)
}

place_lines <- function(field) {
  names <- names_of_page(field)
  heights <- pages$heights[[field]]
  c(
    "plate:",
    "  width: double",
    "  height: 220",
    "  place:",
    "    stacked:",
    vapply(
      1:3,
      function(k) paste0("      - beside: [", paste(names[2 * k - 1:0], collapse = ", "), "]"),
      ""
    ),
    if (!is.null(heights)) paste0("    heights: [", paste(heights, collapse = ", "), "]"),
    paste0("save: ", field, ".pdf")
  )
}

dir.create(file.path("docs", "gallery"), showWarnings = FALSE)
code <- parse(text = script)
pages <- new.env()
for (expression in code) {
  if (!identical(expression[[1]], as.name("for")) && !grepl("folder", deparse(expression)[1])) {
    suppressWarnings(eval(expression, pages))
  }
}
text <- c(
  "# What six fields print",
  "",
  "Six figures each, on a page. Made by `Rscript tools/fields.R` from `inst/examples/fields.R` and",
  "`inst/examples/fields.yaml`. All data are made up. The tables that they are of:",
  "",
  "```r",
  grep(
    "^folder|^dir.create",
    script[seq(4, grep("^ecology <- ", script) - 2)],
    invert = TRUE,
    value = TRUE
  ),
  "```",
  ""
)
for (field in names(titles)) {
  six <- pages[[field]]
  page <- plate(
    stacked(
      beside(six[[1]], six[[2]]),
      beside(six[[3]], six[[4]]),
      beside(six[[5]], six[[6]]),
      heights = pages$heights[[field]]
    ),
    width = "double",
    height = 220
  )
  blocks <- unlist(lapply(unique(names_of_page(field)), block_lines))
  picture <- file.path("docs", "gallery", paste0(field, ".png"))
  suppressWarnings(save_plate(page, picture, dpi = 130))
  text <- c(
    text,
    paste("##", titles[[field]]),
    "",
    paste0("![", titles[[field]], ": six figures](gallery/", field, ".png)"),
    "",
    "```r",
    lines_in_r(field),
    "```",
    "",
    "```yaml",
    "nelvat: 1",
    "data:",
    table_lines(blocks),
    "blocks:",
    # Beside its tables a figure file needs no folder.
    grep("^ *folder: *$", gsub("../study/?", "", blocks), invert = TRUE, value = TRUE),
    place_lines(field),
    "```",
    ""
  )
}
writeLines(text, file.path("docs", "fields.md"), useBytes = TRUE)
