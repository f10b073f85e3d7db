# Lines of keys in YAML, against the parser's own reading.
places_of <- function(lines) {
  found <- nelvat:::yaml_places(lines)
  stats::setNames(found$line, vapply(found$place, paste, "", collapse = "/"))
}
# What the parser finds: all keys and numbers of entries.
parsed_places <- function(node, at = character()) {
  if (!is.list(node)) return(NULL)
  names <- if (is.null(names(node))) as.character(seq_along(node)) else names(node)
  unlist(
    lapply(seq_along(node), function(i) {
      here <- c(at, names[i])
      c(paste(here, collapse = "/"), parsed_places(node[[i]], here))
    })
  )
}
random_node <- function(deep) {
  text <- function() {
    sample(
      list(
        "loaf",
        "a: b",
        "# none",
        "x, y",
        "it's",
        "\"said\"",
        12,
        TRUE,
        "two words",
        "{brace}",
        "a much longer text of several words that goes on and on so that it is broken over lines \
by whoever writes it, as texts are",
        "first\nsecond"
      ),
      1
    )[[1]]
  }
  kind <- if (deep > 3) "text" else sample(c("map", "map", "list", "text"), 1)
  n <- sample(1:3, 1)
  if (kind == "text") return(text())
  nodes <- lapply(seq_len(n), function(i) random_node(deep + 1))
  if (kind == "list") return(nodes)
  stats::setNames(nodes, sample(c("x", "a key", "on: off", "ink", "1", "#no", "it's"), n))
}
# In braces and brackets, over one or several lines.
flow_text <- function(node) {
  quote_text <- function(text) as.character(jsonlite::toJSON(text, auto_unbox = TRUE))
  gap <- function() sample(c(" ", "\n    ", " # so\n      "), 1)
  if (!is.list(node)) return(quote_text(node))
  inner <- vapply(node, flow_text, "")
  if (is.null(names(node))) return(paste0("[", paste(inner, collapse = paste0(",", gap())), "]"))
  pairs <- paste0(vapply(names(node), quote_text, ""), ":", gap(), inner)
  paste0("{", paste(pairs, collapse = paste0(",", gap())), "}")
}

test_that("every key and entry of random documents has its line", {
  set.seed(4)
  read <- function(text) {
    yaml::yaml.load(text, handlers = list(seq = function(x) x, `bool#yes` = identity))
  }
  for (i in 1:150) {
    document <- stats::setNames(
      lapply(1:3, function(i) random_node(1)),
      c("nelvat", "blocks", "plate")
    )
    text <- if (i %% 2) {
      yaml::as.yaml(document, indent.mapping.sequence = i %% 4 == 1)
    } else {
      paste0(names(document), ": ", vapply(document, flow_text, ""), collapse = "\n")
    }
    lines <- strsplit(text, "\n")[[1]]
    found <- places_of(lines)
    expect_setequal(names(found), parsed_places(read(text)))
    for (name in names(found)) {
      key <- basename(name)
      if (!grepl("/", name)) expect_match(lines[found[[name]]], paste0("^", key, ":"))
    }
    expect_false(is.unsorted(found))
  }
})

test_that("entries that stand further behind their dash have their lines, too", {
  lines <- c(
    "blocks:", "-   a: 1", "    b: 2", "-     c:", "        d: 3", "      e: 4", "plate: 5"
  )
  found <- places_of(lines)
  for (name in c("blocks/1/a", "blocks/1/b", "blocks/2/c", "blocks/2/c/d", "blocks/2/e", "plate")) {
    expect_match(lines[found[[name]]], paste0("\\b", basename(name), ":"), label = name)
  }
})

test_that("a mistake is told with the line that it stands on", {
  folder <- withr::local_tempdir()
  file.copy(study_file("loaves.csv"), folder)
  path <- file.path(folder, "f.yaml")
  good <- c(
    "nelvat: 1",
    "data:",
    "  l: {file: loaves.csv}",
    "blocks:",
    "  a:",
    "    panel:",
    "      data: l",
    "      x: flour",
    "      y: rise",
    "      ink:",
    "        - bars:",
    "            error: se",
    "        - dots: {size: 1,",
    "                 opacity: 0.5}",
    "      y_axis: {range: [0, 50]}",
    "  b: {text_panel: {text: 'Words: \"of\" them'}}",
    "plate:",
    "  place: {beside: [a, b], widths: [2, 1]}",
    "  width: double",
    "  height: 60",
    "save: f.pdf"
  )
  said <- function(line, text) {
    lines <- good
    lines[line] <- text
    writeLines(lines, path)
    error <- tryCatch(
      suppressWarnings({
        nelvat:::in_figure_file(path, as_scene(read_figure(path)$plate))
        NULL
      }),
      nelvat_error = identity
    )
    as.integer(sub(".*, line ([0-9]+):.*", "\\1", rlang::cnd_message(error)[1]))
  }
  mistakes <- list(
    list(1, "nelvat: 2"),
    list(3, "  l: {fil: loaves.csv}"),
    list(3, "  l: {file: loafs.csv}"),
    list(6, "    panl:"),
    list(7, "      data: k"),
    list(8, "      x: flur"),
    list(9, "      y: log11(rise)"),
    list(9, "      y: bakery"),
    list(11, "        - barz:"),
    list(12, "            error: std"),
    list(12, "            eror: se"),
    list(12, "            width: wide"),
    list(13, "        - dots: {size: big,"),
    list(14, "                 opacity: 5}"),
    list(14, "                 opacty: 0.5}"),
    list(15, "      y_axis: {range: [0]}"),
    list(15, "      y_axis: {rnge: [0, 50]}"),
    list(15, "      y_axis: {labels: sideways}"),
    list(16, "  b: {text_panel: {txt: a}}"),
    list(18, "  place: {beside: [a, c]}"),
    list(18, "  place: {besides: [a, b]}"),
    list(18, "  place: {beside: [a, b], widths: [2]}"),
    list(19, "  width: triple"),
    list(19, "  widht: double"),
    list(20, "  height: -3"),
    list(20, "  height: 60 mm"),
    list(21, "save: f.gif"),
    list(21, "sav: f.pdf")
  )
  for (one in mistakes) {
    expect_identical(said(one[[1]], one[[2]]), as.integer(one[[1]]), label = trimws(one[[2]]))
  }
})
