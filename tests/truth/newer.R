# Figures of inks that stand on more than an axis or two, against what is true of them: each a call
# on a random table, and what must be read from source data, legend, marks and page.

# The call of a panel over `data`, drawn on a plate of its own.
judged_panel <- function(call, data, judge) list(call = call, data = data, judge = judge)

# Marks of one ink and primitive as data, in the first panel.
marks_of_ink <- function(plate, ink, primitive) {
  scene <- nelvat::as_scene(plate)
  area <- scene$panels[scene$panels$role == "panel", ][1, ]
  found <- Filter(function(one) one$ink == ink && one$primitive == primitive, scene$marks)
  do.call(rbind, lapply(found, function(one) in_data(scene, area, as.data.frame(one$table))))
}
source_part <- function(plate, part, panel = 1) {
  found <- nelvat::source_data(plate)[[panel]]
  found[found$part == part, ]
}
legend_holds <- function(verdict, plate, ...) {
  text <- nelvat::legend_text(plate)
  for (term in c(...)) {
    holds(verdict, grepl(term, text, ignore.case = TRUE), "the legend lacks \"", term, "\"")
  }
}
complete <- function(data, ...) data[stats::complete.cases(data[c(...)]), ]

# Each number of a text, whatever minus it has.
numbers_in <- function(text) {
  plain <- gsub("\u2212", "-", text)
  as.numeric(regmatches(plain, regexpr("-?[0-9.]+", plain)))
}

# A few rows of the table, so that each has a row of its own on the page.
few_rows <- function(table, ...) utils::head(complete(table$data, ...), one_of(1, 4, 9))

truth_newer <- c(truth_numbers, truth_places, truth_beside)

# One figure of a newer ink: list(seed, checked, false, refused).
judge_newer <- function(seed, name = NULL) {
  set.seed(seed)
  verdict <- new_verdict()
  table <- random_table()
  name <- name %||% sample(names(truth_newer), 1)
  one <- truth_newer[[name]](table)
  refused <- NULL
  tryCatch(
    {
      block <- eval(one$call, list(book = one$data), asNamespace("nelvat"))
      plate <- nelvat::plate(block, width = 120, height = 100)
      one$judge(verdict, plate)
    },
    nelvat_error = function(error) refused <<- rlang::cnd_message(error)
  )
  list(
    seed = seed,
    checked = verdict$checked,
    false = paste0(name, ": ", verdict$false)[seq_along(verdict$false)],
    refused = refused
  )
}
