# A file among the examples that the package ships.
example_file <- function(...) system.file("examples", ..., package = "nelvat", mustWork = TRUE)

# The plates of an example script, by name.
example_plates <- function(name) {
  script <- example_file(paste0(name, ".R"))
  environment <- new.env()
  for (expression in as.list(parse(script))) {
    if (!identical(expression[[1]], as.name("for")) && !grepl("folder", deparse(expression)[1])) {
      suppressWarnings(eval(expression, environment))
    }
  }
  environment$plates
}

# The plate that an example's figure file makes of one of its blocks.
example_file_plate <- function(name, place, plate) {
  lines <- readLines(example_file(paste0(name, ".yaml")))
  lines <- gsub("../study", system.file("study", package = "nelvat"), lines, fixed = TRUE)
  lines[startsWith(lines, "plate:")] <- paste0(
    "plate: {place: ",
    place,
    ", width: ",
    plate$width_mm,
    ", height: ",
    plate$height_mm,
    "}"
  )
  path <- withr::local_tempfile(fileext = ".yaml")
  writeLines(lines, path)
  suppressWarnings(read_figure(path)$plate)
}
