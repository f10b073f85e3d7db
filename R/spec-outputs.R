# What a figure file asks to be drawn: a plate or several, for each of some values, in several
# outputs.
#
#   plates:    {main: {place: a, save: a.pdf}, extra: {place: b, save: b.pdf}}
#   for_each:  {response: [rise, volume]}      "{response}" in any text below stands for each
#   for_each:  {flour: {data: loaves, levels_of: flour}}
#   outputs:   {journal: {width: single}, talk: {house: projected, key: right, formats: [png]}}

# The drawings of a document: a list of list(name, plate, save). stem: the figure file's path
# without its ending.
build_drawings <- function(document, tables, folder, stem) {
  unlist(
    lapply(each_document(document, tables), function(one) {
      blocks <- build_blocks(one$document, tables)
      plates <- asked_plates(one$document)
      unlist(
        lapply(seq_along(plates), function(i) {
          named <- c(Filter(nzchar, names(plates)[i]), one$value)
          plate_outputs(plates[[i]], one$document, blocks, folder, stem, named)
        }),
        recursive = FALSE
      )
    }),
    recursive = FALSE
  )
}

build_blocks <- function(document, tables) {
  blocks <- used_blocks(lapply(named_list(document[["blocks"]], "blocks"), identity))
  Map(function(block, name) build_block(block, tables, c("blocks", name)), blocks, names(blocks))
}

# The plates of a file by name, "" for the only one.
asked_plates <- function(document) {
  if (is.null(document[["plate"]]) == is.null(document[["plates"]])) {
    abort_figure(
      character(),
      "A figure has one of the keys \"plate\" and \"plates\".",
      names(document)
    )
  }
  if (!is.null(document[["plate"]])) {
    check_keys(document[["plate"]], names(plate_rows()), at = "plate")
    return(stats::setNames(list(document[["plate"]]), ""))
  }
  plates <- named_list(document[["plates"]], "plates")
  for (name in names(plates)) {
    check_keys(
      plates[[name]],
      names(plate_rows()),
      needs = c("place", "save"),
      at = c("plates", name)
    )
  }
  plates
}

# A plate in each output that is asked for: by the file itself, and by its project for all figures.
plate_outputs <- function(plate, document, blocks, folder, stem, named) {
  where <- if (is.null(document[["plates"]])) "plate" else c("plates", named[1])
  save <- plate[["save"]] %||% document[["save"]]
  plate[["save"]] <- NULL
  outputs <- document[["outputs"]]
  in_output <- function(name, output, at) {
    plate_output(
      name,
      as.list(output),
      plate,
      blocks,
      folder,
      at,
      function(changes) {
        output_paths(changes, save, c(named, name), folder, stem)
      },
      named
    )
  }
  own_drawings <- if (is.null(outputs)) {
    list(
      list(
        name = named,
        plate = build_plate(plate, blocks, folder, where),
        save = build_save(save, folder)
      )
    )
  } else {
    outputs <- named_list(outputs, "outputs")
    lapply(names(outputs), function(name) in_output(name, outputs[[name]], c("outputs", name)))
  }
  of_project <- project_outputs(folder)
  others <- setdiff(names(of_project$outputs), names(outputs))
  drawings <- c(
    own_drawings,
    lapply(others, function(name) {
      in_figure_file(of_project$path, in_output(name, of_project$outputs[[name]], name))
    })
  )
  Map(function(drawing, i) changed(drawing, first = i == 1), drawings, seq_along(drawings))
}

# Outputs are versions of a figure: where each figure counts once, it is the first of them.
first_drawings <- function(figure) Filter(function(one) !isFALSE(one$first), figure$drawings)

plate_output <- function(name, changes, plate, blocks, folder, at, paths_of, named) {
  check_keys(changes, part_keys("output"), at = at)
  changed_plate <- utils::modifyList(
    plate,
    changes[intersect(names(changes), plate_settings())]
  )
  # A height goes with the width that it was said with.
  if (!is.null(changes[["width"]]) && is.null(changes[["height"]])) changed_plate$height <- NULL
  list(
    name = c(named, name),
    plate = build_plate(changed_plate, blocks, folder, at),
    save = paths_of(changes)
  )
}

# Outputs for all figures of a project: of the file nelvat.outputs.yaml in the figure's folder, or
# in one above it up to the root of the project, such as
#   talk: {house: projected, width: double, height: 140, formats: [png]}
# list(path, outputs), NULL where there is none. A figure's own output of a name goes before.
project_outputs <- function(folder) {
  within <- normalizePath(folder, "/", mustWork = FALSE)
  here <- beside_file("nelvat.outputs.yaml", folder)
  above <- file.path(project_folders(within), "nelvat.outputs.yaml")
  path <- Filter(file.exists, c(here, above))[1]
  if (is.na(path)) return(NULL)
  outputs <- in_figure_file(path, named_list(read_document(path, "figure", NULL), character()))
  if (dirname(path) != folder) outputs <- rebased_paths(outputs, dirname(path))
  list(path = path, outputs = outputs)
}

# Where an output is written: where it says; else under the name that `save` has, else that of the
# figure file, with its own name behind it, in its formats or those of `save`.
output_paths <- function(own, save, named, folder, stem) {
  if (!is.null(own[["save"]])) return(build_save(own[["save"]], folder))
  save <- vapply(as.list(save), string_at, "", at = "save")
  formats <- unlist(own[["formats"]]) %||% unique(tools::file_ext(save))
  formats <- formats[nzchar(formats)]
  if (!length(formats)) formats <- "pdf"
  at_key(
    c("outputs", utils::tail(named, 1)),
    for (format in formats) check_choice(format, names(plate_writers()), "formats", NULL)
  )
  stems <- if (length(save)) unique(tools::file_path_sans_ext(save)) else basename(stem)
  in_file <- file_words(named)
  # A value that stands in the name already is not said twice.
  last <- length(in_file)
  behind <- function(stem) {
    said <- vapply(in_file[-last], grepl, NA, basename(stem), fixed = TRUE)
    paste(c(stem, in_file[-last][!said], in_file[last]), collapse = "-")
  }
  names <- paste0(rep(vapply(stems, behind, ""), each = length(formats)), ".", formats)
  vapply(names, beside_file, "", folder = folder, USE.NAMES = FALSE)
}

# Values ----------------------------------------------------------------------------------

# The document for each value of `for_each`: list(value, document).
each_document <- function(document, tables) {
  each <- document[["for_each"]]
  if (is.null(each)) return(list(list(value = NULL, document = document)))
  each <- named_list(each, "for_each")
  if (length(each) != 1) {
    abort_figure(
      "for_each",
      "One name is expected, such as {response: [rise, volume]}.",
      names(each)
    )
  }
  name <- names(each)
  values <- each_values(each[[1]], tables, c("for_each", name))
  piece <- paste0("{", name, "}")
  saved <- unlist(document[c("save", "plates", "outputs")])
  if (is.null(document[["outputs"]]) && !any(grepl(piece, saved, fixed = TRUE))) {
    abort_figure(
      "save",
      paste0("Each figure is saved under a name of its own: put \"", piece, "\" in it."),
      document[["save"]]
    )
  }
  parts <- setdiff(names(document), c("nelvat", "data", "for_each"))
  for (part in parts) check_placeholders(document[[part]], name, part)
  lapply(values, function(value) {
    list(value = value, document = changed_texts(document, parts, piece, value))
  })
}

# A piece in braces that is hardly another name than that of `for_each` is a slip.
check_placeholders <- function(node, name, at) {
  if (is.list(node)) {
    steps <- if (is.null(names(node))) seq_along(node) else names(node)
    for (i in seq_along(node)) check_placeholders(node[[i]], name, c(at, steps[i]))
    return(invisible())
  }
  if (!is.character(node)) return(invisible())
  pieces <- unlist(regmatches(node, gregexpr("[{][A-Za-z_]+[}]", node)))
  pieces <- setdiff(pieces, c(heading_pieces, paste0("{", name, "}")))
  for (piece in pieces) {
    if (is.null(nearest_name(gsub("[{}]", "", piece), name))) next
    abort_figure(
      at,
      paste0("`for_each` has no \"", piece, "\"."),
      piece,
      hint = paste0("Did you mean \"{", name, "}\"?")
    )
  }
}

each_values <- function(said, tables, at) {
  if (!is.list(said) || is.null(names(said))) {
    values <- unlist(said)
    if (is.atomic(values) && length(values)) return(as.character(values))
    abort_figure(at, "Expected a list of values, or {data: TABLE, levels_of: COLUMN}.", said)
  }
  check_keys(said, part_keys("levels_of"), part_keys("levels_of"), at)
  book <- named_table(said[["data"]], tables, c(at, "data"))
  if (is_source(book)) at_key(c(at, "data"), abort_stays(book, NULL))
  at_key(c(at, "levels_of"), check_column(said[["levels_of"]], book$data, book$label, NULL))
  kind <- book$columns[[said[["levels_of"]]]]
  if (!has_levels(kind)) {
    abort_figure(c(at, "levels_of"), "Expected a column of levels.", said[["levels_of"]])
  }
  intersect(kind$levels, as.character(book$data[[said[["levels_of"]]]]))
}

# Every text in some parts of a document, with a piece replaced; in paths by a name that stays in
# its folder.
changed_texts <- function(document, parts, piece, value) {
  replaced <- function(node, in_path) {
    if (is.character(node)) {
      return(gsub(piece, if (in_path) name_of_value(value) else value, node, fixed = TRUE))
    }
    if (!is.list(node)) return(node)
    Map(
      function(one, key) replaced(one, in_path || key %in% path_keys),
      node,
      rlang::names2(node)
    )
  }
  for (part in parts) {
    document[[part]] <- replaced(document[[part]], part %in% path_keys)
  }
  document
}

# Keys whose texts are paths.
path_keys <- c("save", "path", "file", "files", "codebook", "from", "house")

# Blocks used again -----------------------------------------------------------------------

# Blocks whose `use` names another, with what `with` changes: the document of that block, changed.
used_blocks <- function(blocks) {
  settle <- function(name, seen) {
    block <- blocks[[name]]
    if (!is.list(block)) return(block)
    where <- c("blocks", name)
    if ("use" %in% names(block)) return(used_block(block, where, seen, settle, names(blocks)))
    repeated <- if (is.list(block$facets)) block$facets$panel
    if (is.list(repeated) && "use" %in% names(repeated)) {
      block$facets$panel <- used_block(
        repeated,
        c(where, "facets", "panel"),
        seen,
        settle,
        names(blocks)
      )$panel
    }
    block
  }
  stats::setNames(lapply(names(blocks), function(name) settle(name, name)), names(blocks))
}

longest_chain <- 20

used_block <- function(block, at, seen, settle, names) {
  check_keys(block, c("use", "with"), at = at)
  used <- string_at(block$use, c(at, "use"))
  if (!used %in% names) {
    abort_figure(c(at, "use"), "No block of that name is under `blocks`.", used, names)
  }
  if (used %in% seen) abort_figure(c(at, "use"), "A block cannot be made of itself.", used)
  if (length(seen) > longest_chain) {
    abort_figure(
      c(at, "use"),
      paste0("Blocks are made of each other more than ", longest_chain, " deep."),
      used
    )
  }
  with_changes(settle(used, c(seen, used)), block$with, c(at, "with"))
}

# The document of a block with other keys: those of its word, or of the panel that facets repeat.
with_changes <- function(block, changes, at) {
  word <- intersect(names(block), block_words)
  if (length(word) != 1 || is.null(changes)) return(block)
  changes <- named_list(changes, at)
  if (!is.list(block[[word]])) {
    abort_figure(at, paste0("\"", word, "\" has no keys here."), names(changes))
  }
  facet_words <- if (word == "facets") {
    c("across", "down", facets_settings())
  } else {
    names(changes)
  }
  for (key in names(changes)) {
    if (key == "marginals") {
      block$marginals <- changes$marginals
    } else if (key %in% facet_words) {
      block[[word]][key] <- list(changes[[key]])
    } else {
      block[[word]]$panel[key] <- list(changes[[key]])
    }
  }
  block
}
