# The schema and the reader say the same of good and of damaged files.

verdict_folder <- function(envir = parent.frame()) {
  folder_with(
    list(
      a.csv = c(
        "f,g,v,w,day,id",
        paste(
          rep(c("p", "q", "r"), 8),
          rep(c("x", "y"), 12),
          round(sin(1:24), 2) + 2,
          round(cos(1:24), 2) + 3,
          rep(1:4, 6),
          1:24,
          sep = ","
        )
      )
    ),
    envir
  )
}

good_inks <- list(
  list("points"),
  list(list(points = list(size = 1.2, opacity = 0.5))),
  list(list(bars = list(centre = "mean", error = "se", values = TRUE))),
  list(list(bars = list(centre = "median", arrange = "side"))),
  list(list(box = list(whiskers = "range", notch = TRUE))),
  list(list(box = list(whiskers = c(0.05, 0.95)))),
  list(list(dots = list(spread = "line", size = 1))),
  list("violin"),
  list(list(line = list(markers = TRUE, weight = 1))),
  list("line", list(rule = list(y = 2, dash = TRUE))),
  list(list(fit = list(model = "polynomial", degree = 2, equation = TRUE))),
  list(list(text = list(label = "n = {n}", x = 0.1, y = 0.9, at = "panel")), "points"),
  list(list(shade = list(y = c(1, 2), opacity = 0.2)), "points")
)
on_levels <- function(ink) any(grepl("bars|box|dots|violin", c(unlist(ink[1]), names(ink[[1]]))))

good_document <- function() {
  pick <- function(...) sample(list(...), 1)[[1]]
  ink <- sample(good_inks, 1)[[1]]
  panel <- list(data = "a", x = if (on_levels(ink)) "f" else "v", y = "w", ink = ink)
  if (runif(1) < 0.4) panel$colour <- "g"
  if (runif(1) < 0.3) panel$keep <- "id > 2"
  if (runif(1) < 0.3) panel$heading <- "A title"
  if (runif(1) < 0.3) {
    panel$y_axis <- pick(
      list(title = "W", grid = TRUE),
      list(range = c(0, 6)),
      list(padding = 0.1, labels = "as is")
    )
  }
  if (runif(1) < 0.2) panel$missing <- pick("gap", list(y = "drop", colour = "own"))
  if (runif(1) < 0.2) {
    panel$derive <- list(
      half = "w / 2",
      twice = list(expression = "w * 2", title = "Twice", type = "number", unit = "mm")
    )
  }
  block <- switch(
    sample(4, 1),
    list(panel = panel),
    list(
      facets = c(
        list(panel = panel, across = "g"),
        pick(
          list(per_row = 2, room = "even"),
          list(range_per = list(y = "panel")),
          list(heading = "{level} (n = {n})", show_axes = "all"),
          list(missing = "own", empty = "say")
        )
      )
    ),
    list(
      every_pair = c(
        list(data = "a", columns = c("v", "w", "id")),
        pick(
          list(names = "diagonal"),
          list(missing = "complete", above = "value"),
          list(diagonal = "names")
        )
      )
    ),
    list(
      joint = c(
        list(data = "a", x = "v", y = "w"),
        pick(
          list(depth = 8),
          list(marginal = "density", gap = 2),
          list(aspect = 1, marginal_axis = TRUE)
        )
      )
    )
  )
  document <- list(
    nelvat = 1,
    data = list(a = list(file = "a.csv")),
    blocks = list(b = block, t = list(text_panel = "Words")),
    plate = c(
      list(
        place = pick("b", list(beside = c("b", "t"), widths = c(2, 1)), list(stacked = c("b", "t")))
      ),
      pick(
        list(width = "double", height = 120),
        list(width = 150),
        list(width = 170, letters = "none", title = "All"),
        list(key = "bottom", share = FALSE),
        list(note = "A note", per_row = 2),
        list(house = "compact")
      )
    ),
    save = pick("f.pdf", c("f.pdf", "f.png"))
  )
  if (runif(1) < 0.2) {
    document$outputs <- list(
      journal = list(width = "double"),
      talk = list(house = "projected", formats = "png", height = 150)
    )
  }
  if (runif(1) < 0.2) {
    document$data$a <- c(
      document$data$a,
      pick(
        list(zone = "UTC"),
        list(keep = "id > 1"),
        list(rename = list(mass = "day")),
        list(encoding = "UTF-8", skip = 0)
      )
    )
  }
  document
}

# Keys whose values name columns, tables, blocks or expressions, or are free text: what stands there
# is judged with the data.
judged_with_data <- c(
  "x", "y", "colour", "data", "place", "across", "keep", "derive", "file", "beside", "stacked",
  "columns", "label", "rename", "zone", "encoding", "title", "heading", "note", "text_panel",
  "house",
  "unit", "expression", "group", "share", "marginal", "above", "diagonal", "ink"
)

# A random leaf or key of a document damaged: a key misspelt, a word that is none, a value of
# another sort.
damaged_document <- function(document) {
  places <- list()
  walk <- function(node, path) {
    if (is.list(node) && !is.null(names(node))) {
      open <- length(path) > 0 &&
        tail(path, 1) %in% c("data", "blocks", "outputs", "derive", "rename")
      for (name in names(node)) {
        here <- c(path, name)
        if (!open && length(path)) places[[length(places) + 1]] <<- list(path = here, how = "key")
        if (!is.list(node[[name]]) && !name %in% judged_with_data) {
          places[[length(places) + 1]] <<- list(path = here, how = "value")
        }
        if (!name %in% setdiff(judged_with_data, c("data", "ink"))) walk(node[[name]], here)
      }
    } else if (is.list(node)) {
      for (i in seq_along(node)) if (is.list(node[[i]])) walk(node[[i]], c(path, i))
    }
  }
  walk(document, character())
  spot <- sample(places, 1)[[1]]
  index <- function(path) {
    lapply(path, function(step) if (grepl("^[0-9]+$", step)) as.integer(step) else step)
  }
  path <- index(spot$path)
  parent <- if (length(path) > 1) {
    Reduce(function(node, step) node[[step]], path[-length(path)], document)
  } else {
    document
  }
  last <- path[[length(path)]]
  if (spot$how == "key") {
    names(parent)[match(last, names(parent))] <- paste0(last, "zz")
  } else {
    old <- parent[[last]]
    parent[[last]] <- if (is.logical(old)) {
      "perhaps"
    } else if (is.numeric(old)) {
      sample(list("many", list(a = 1)), 1)[[1]]
    } else {
      sample(list("no such word", list(a = list(b = 2))), 1)[[1]]
    }
  }
  if (length(path) == 1) return(list(document = parent, what = paste(last, spot$how)))
  set <- function(node, steps) {
    if (!length(steps)) return(parent)
    node[[steps[[1]]]] <- set(node[[steps[[1]]]], steps[-1])
    node
  }
  list(
    document = set(document, path[-length(path)]),
    what = paste(c(spot$path, spot$how), collapse = " > ")
  )
}

test_that("of good and of damaged figure files the schema says what the reader says", {
  schema <- shipped_schema("figure")
  folder <- verdict_folder()
  path <- file.path(folder, "f.yaml")
  reader <- function(document) {
    writeLines(yaml::as.yaml(document, handlers = list(logical = nelvat:::yaml_logical)), path)
    tryCatch(
      suppressMessages(
        suppressWarnings({
          read_figure(path)
          NULL
        })
      ),
      nelvat_error = function(error) rlang::cnd_message(error)
    )
  }
  by_schema <- function() schema_faults(read_yaml_list(path), schema)
  for (seed in tries(120, 60)) {
    set.seed(seed)
    good <- good_document()
    said <- reader(good)
    expect_identical(said, NULL, label = paste("the reader of good file", seed))
    expect_identical(by_schema(), NULL, label = paste("the schema of good file", seed))
    bad <- damaged_document(good)
    said <- reader(bad$document)
    faults <- by_schema()
    expect_identical(
      is.null(said),
      is.null(faults),
      label = paste0(
        "one verdict on ",
        bad$what,
        " (",
        seed,
        "; reader: ",
        said,
        "; schema: ",
        faults[1],
        ")"
      )
    )
    if (!is.null(said)) {
      expect_match(said, ", line [0-9]+:", label = paste("the line of", bad$what))
      line <- as.integer(sub(".*, line ([0-9]+):.*", "\\1", sub("\n.*", "", said)))
      if (grepl("key$", bad$what)) expect_match(readLines(path)[line], "zz", label = bad$what)
    }
  }
})

test_that("of house and codebook files the schemas say what the readers say", {
  set.seed(9)
  folder <- verdict_folder()
  schema <- shipped_schema("house")
  plain <- unclass(house())
  for (case in 1:40) {
    part <- sample(c("type_pt", "weight_pt", "colour", "letters", "numbers", "limits", "ticks"), 1)
    key <- sample(names(plain[[part]]), 1)
    value <- plain[[part]][[key]]
    damage <- sample(c("none", "key", "value"), 1)
    if (damage == "value") value <- if (is.character(value)) list(a = 1) else "many"
    document <- list(from = "plain")
    document[[part]] <- stats::setNames(
      list(value),
      if (damage == "key") paste0(key, "zz") else key
    )
    path <- file.path(folder, "house.yaml")
    writeLines(yaml::as.yaml(document, handlers = list(logical = nelvat:::yaml_logical)), path)
    refused <- inherits(tryCatch(house(path), nelvat_error = identity), "nelvat_error")
    expect_identical(
      refused,
      !is.null(schema_faults(read_yaml_list(path), schema)),
      label = paste(part, key, damage)
    )
    expect_identical(refused, damage != "none", label = paste(part, key, damage))
  }
  book <- shipped_schema("codebook")
  fields <- list(
    list(
      good = TRUE,
      field = list(name = "f", type = "string", title = "F", categories = c("p", "q", "r"))
    ),
    list(good = TRUE, field = list(name = "v", type = "number", unit = "mm", show = "cm")),
    list(
      good = TRUE,
      field = list(
        name = "f",
        categories = list(
          list(value = "p", label = "P"),
          list(value = "q", label = "Q"),
          list(value = "r", label = "R")
        ),
        categoriesOrdered = TRUE
      )
    ),
    list(good = FALSE, field = list(name = "f", type = "strng")),
    list(good = FALSE, field = list(type = "string")),
    list(good = FALSE, field = list(name = "v", type = "number", unit = 3)),
    list(good = FALSE, field = list(name = "f", categories = list(list(label = "P")))),
    list(good = FALSE, field = list(name = "f", title = list("a", "b")))
  )
  for (one in fields) {
    path <- file.path(folder, "book.yaml")
    writeLines(
      yaml::as.yaml(
        list(fields = list(one$field)),
        handlers = list(logical = nelvat:::yaml_logical)
      ),
      path
    )
    refused <- inherits(
      tryCatch(
        suppressWarnings(read_data(file.path(folder, "a.csv"), codebook = path)),
        nelvat_error = identity
      ),
      "nelvat_error"
    )
    expect_identical(!refused, one$good, label = deparse(one$field)[1])
    expect_identical(
      is.null(schema_faults(read_yaml_list(path), book)),
      one$good,
      label = deparse(one$field)[1]
    )
  }
})

# What a call can say and a file cannot, with the reason.
call_only <- c(
  "panel ink" = "inks stand under `ink`", "plate block" = "blocks stand under `blocks`",
  "read_data path" = "`file`", "every_pair ..." = "", "joint ..." = "",
  "text_panel text" = "the value itself", "image_panel path" = "the value itself",
  "long_data data" = "the entry's own table", "join_data data" = "the entry's own table",
  "join_data other" = "`data` or `file`"
)

test_that("a file can say all that a call can", {
  schema <- shipped_schema("figure")
  text <- paste(
    readLines(system.file("schema", "figure.schema.json", package = "nelvat")),
    collapse = "\n"
  )
  defs <- schema$`$defs`
  of_block <- function(word) defs$block$anyOf[[2]]$properties[[word]]
  of_ink <- function(word) defs$ink$anyOf[[2]]$properties[[word]]$anyOf[[1]]$properties
  of_table <- defs$table$anyOf[[2]]$properties
  known <- list(
    panel = names(defs$panel$properties),
    facets = names(of_block("facets")$properties),
    every_pair = names(of_block("every_pair")$properties),
    joint = names(of_block("joint")$properties),
    zoom = names(of_block("zoom")$properties),
    marginals = c("panel", names(of_block("marginals")$properties)),
    text_panel = c("text", "heading"),
    image_panel = names(of_block("image_panel")$anyOf[[2]]$properties),
    scale_bar = names(defs$scale_bar$properties),
    axis_of = names(defs$axis$properties),
    plate = names(defs$figure$properties$plate$properties),
    read_data = c("path", names(of_table)),
    long_data = c("data", "columns", "prefix"),
    join_data = c("data", "other", "by", "columns"),
    correlations = names(of_table$correlations$properties),
    counts = names(of_table$counts$properties),
    fill_with = "value",
    measure = c("name", "colours", "order"),
    derived = c("expression", "kind"),
    by_statistic = c("column", "statistic", "descending"),
    house = c("from", "times")
  )
  for (word in nelvat:::ink_words()) known[[paste0("ink_", word)]] <- names(of_ink(word))
  for (name in names(known)) {
    said <- nelvat:::argument_names(get(name, asNamespace("nelvat")))
    absent <- setdiff(said, known[[name]])
    absent <- Filter(function(argument) !paste(name, argument) %in% names(call_only), absent)
    expect_identical(
      absent,
      character(),
      label = paste("arguments of", name, "that no file can say")
    )
  }
})
