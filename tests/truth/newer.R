# Figures of inks that stand on more than an axis or two, against what is true of them: each a call
# on a random table, and what must be read from source data, legend, marks and page.

# The call of a panel over `data`, drawn on a plate of its own.
judged_panel <- function(call, data, judge) list(call = call, data = data, judge = judge)

# Which panel is judged, and whether it is one of several.
judged <- new.env()
judged$area <- 1L
judged$parted <- FALSE

area_of <- function(scene) {
  scene$panels[scene$panels$role == "panel", ][judged$area, ]
}
texts_of <- function(plate) {
  scene <- nelvat::as_scene(plate)
  if (!judged$parted) return(scene$texts)
  scene$texts[scene$texts$panel %in% area_of(scene)$id, ]
}

# Marks of one ink and primitive as data, in the panel that is judged.
marks_of_ink <- function(plate, ink, primitive) {
  scene <- nelvat::as_scene(plate)
  area <- area_of(scene)
  found <- Filter(function(one) one$ink == ink && one$primitive == primitive, scene$marks)
  do.call(rbind, lapply(found, function(one) in_data(scene, area, as.data.frame(one$table))))
}
source_part <- function(plate, part) {
  scene <- nelvat::as_scene(plate)
  found <- nelvat::source_data(plate)
  found <- found[[if (judged$parted) area_of(scene)$heading else 1]]
  found[found$part == part, ]
}
legend_holds <- function(verdict, plate, ...) {
  # Of several panels the legend says what they have in common.
  if (judged$parted) return(invisible())
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

# Figures that are also judged as panels of facets, each against its own rows.
newer_parted <- c("tally", "survival", "limits", "ellipse", "answers")

# One figure of a newer ink: list(seed, checked, false, refused).
judge_newer <- function(seed, name = NULL, parted = NULL) {
  set.seed(seed)
  verdict <- new_verdict()
  table <- random_table()
  name <- name %||% sample(names(truth_newer), 1)
  parted <- name %in% newer_parted && (parted %||% chance(0.4))
  if (parted) table$data <- table$data[!is.na(table$data$oven), ]
  as_asked <- function(table) {
    set.seed(seed)
    truth_newer[[name]](table)
  }
  one <- as_asked(table)
  refused <- NULL
  tryCatch(
    {
      book <- if (parted) nelvat::codebook(table$book) else one$data
      call <- if (parted) bquote(facets(.(one$call), across = oven)) else one$call
      plate <- nelvat::plate(
        eval(call, list(book = book), asNamespace("nelvat")),
        width = if (parted) 178 else 120,
        height = 100
      )
      codes <- if (parted) table$categories$oven$codes
      for (k in if (parted) seq_along(codes) else 1L) {
        judged$area <- k
        judged$parted <- parted
        own <- table
        if (parted) own$data <- table$data[table$data$oven == codes[k], ]
        if (nrow(own$data)) as_asked(own)$judge(verdict, plate)
      }
      judge_left_out(verdict, nelvat::as_scene(plate))
    },
    nelvat_error = function(error) refused <<- rlang::cnd_message(error)
  )
  judged$area <- 1L
  judged$parted <- FALSE
  list(
    seed = seed,
    checked = verdict$checked,
    false = paste0(name, ": ", verdict$false)[seq_along(verdict$false)],
    refused = refused
  )
}
