# A block as resolved: all of it that does not depend on the page.
#
#   id, design, title      its number on the plate ("block1"), what was asked, what to call it;
#   areas, panels          all its areas (see block-area.R); those that stand in its matrix;
#   rows                   rows of the data of each area;
#   layers, axes           as trained;
#   accounts               what its layers show: see scene-account.R;
#   parts                  of the matrix: spans, sides, heads_measure, free_half, n_variables,
#   more_gap; heading_words          measured headings of its panels;
#   letters, keys, direct  letter of each panel (NA for none); keys that stay with it; levels named
#                          at the ends of lines;
#   inside                 keys that stand in its panel;
#   equal, aspect          are lengths equal both ways; height over width of panels, or NULL;
#   around                 room around a finished picture: left, right, top, bottom in mm, or NULL;
#   least_mm               least width and height of a plot area, NULL for the house's;
#   scale_note             of values that take little of a shared range;
#   relies                 axes whose tick text another block draws: see scene-rely.R.
new_resolved_block <- function(id, design, cells, layers, axes, accounts, font) {
  areas <- cells$areas
  panels <- standing_areas(areas)
  block <- list(
    id = id,
    design = design,
    title = block_label(design),
    areas = areas,
    panels = panels,
    rows = cells$rows,
    layers = layers,
    axes = axes,
    accounts = accounts,
    parts = cells[setdiff(names(cells), c("areas", "rows", "sets", "per_row"))],
    heading_words = lapply(
      panels$heading,
      function(text) if (!is.na(text)) measure_words(text, font, bold = TRUE)
    ),
    letters = rep(NA_character_, nrow(panels)),
    keys = list(),
    direct = list(),
    inside = list(),
    equal = any(vapply(layers, function(layer) isTRUE(layer$ink$equal), NA)),
    aspect = design$aspect,
    around = if (!is.null(design$reach)) as.data.frame(design$reach),
    least_mm = if (of_text(layers)) least_of_role("words") else least_of_role(panels$role[1]),
    scale_note = character(),
    relies = list()
  )
  check_record(block, "resolved_block", record_fields.nelvat_resolved_block())
}

#' @export
record_fields.nelvat_resolved_block <- function(record) {
  each <- function(class) function(x) is.list(x) && all(vapply(x, inherits, NA, class))
  list(
    id = rlang::is_string,
    design = function(x) inherits(x, "nelvat_block"),
    title = rlang::is_string,
    areas = is.data.frame,
    panels = is.data.frame,
    rows = is.list,
    layers = each("nelvat_trained_layer"),
    axes = each("nelvat_trained_axis"),
    accounts = is_or_null(is.data.frame),
    parts = is.list,
    heading_words = is.list,
    letters = is.character,
    keys = is.list,
    direct = is.list,
    inside = is.list,
    equal = rlang::is_bool,
    aspect = is_or_null(is_count),
    around = is_or_null(is.data.frame),
    least_mm = is_or_null(is.list),
    scale_note = is.character,
    relies = is.list
  )
}

# Do layers write columns of text only, which are as wide as their text?
of_text <- function(layers) {
  length(layers) > 0 &&
    !any(vapply(layers, function(layer) is.null(ink_traits(layer$ink)$text_at), NA))
}

# A block with one of its axes changed.
with_axis <- function(block, k, ...) {
  changed(block, axes = replace(block$axes, k, list(changed(block$axes[[k]], ...))))
}

# A plate's blocks with everything computed that does not depend on the page: resolved once for
# the page, its source data and all that is said of it. Returns list(blocks, font, keys).
resolve_plate <- function(plate) worked_out(plate, "resolved", resolved_plate(plate))

resolved_plate <- function(plate) {
  font <- house_font(plate$house$families)
  cells <- plate_cells(plate$blocks)
  asked <- Map(
    function(block, own, i) with_block(plate, i, block_layers(block, own)),
    plate$blocks,
    cells,
    seq_along(cells)
  )
  asked <- echoed_layers(asked)
  shared <- plate_scales(asked, plate)
  blocks <- lapply(seq_along(plate$blocks), function(i) {
    design <- without_cells(plate$blocks[[i]])
    with_block(plate, i, resolve_block(design, cells[[i]], asked[[i]], shared, font))
  })
  if (length(blocks) > 1) blocks <- with_columns_beside(share_across(blocks, plate), plate)
  entries <- plate_keys(blocks, plate, plate$house)
  blocks <- Map(
    function(block, letters, own, direct) {
      changed(block, letters = letters, keys = own, direct = direct)
    },
    blocks,
    plate_letters(blocks, plate),
    entries$own,
    entries$direct %||% lapply(blocks, function(block) list())
  )
  list(blocks = blocks, font = font, keys = entries$plate)
}

# The cells of all blocks, their areas numbered through; a zoom's area names the one it is of.
plate_cells <- function(blocks) {
  cells <- lapply(blocks, cells_of)
  first <- 1L + c(0L, cumsum(vapply(cells, function(one) nrow(one$areas), 0L)))
  cells <- Map(
    function(one, i) numbered_cells(one, paste0("block", i), first[i]),
    cells,
    seq_along(cells)
  )
  lapply(seq_along(cells), function(i) {
    zoom_of <- blocks[[i]]$zoom
    if (is.null(zoom_of)) return(cells[[i]])
    areas <- standing_areas(cells[[zoom_of$of]]$areas)
    host <- areas$id[min(zoom_of$panel, nrow(areas))]
    changed(cells[[i]], areas = changed(cells[[i]]$areas, host = host))
  })
}

# Runs `code`, any error saying which block it is of where the plate has several.
with_block <- function(plate, i, code) {
  tryCatch(
    with_place(if (length(plate$blocks) > 1) block_called(plate, i), code),
    nelvat_error = function(error) {
      stop(if (nzchar(plate$names[i])) changed(error, block = plate$names[i]) else error)
    }
  )
}

block_called <- function(plate, i) {
  paste("block", if (nzchar(plate$names[i])) paste0("\"", plate$names[i], "\"") else i)
}

# Trained layers and axes of a block; all that does not depend on the page.
resolve_block <- function(design, cells, asked, shared, font) {
  kept_step(
    "resolve_block",
    list(design, cells, asked, shared, typeface(font)),
    resolved_block(design, cells, asked, shared, font)
  )
}

resolved_block <- function(design, cells, asked, shared, font) {
  check_some_left(asked, design)
  layers <- in_panel(
    design,
    cells,
    lapply(asked, function(layer) {
      train_layer(layer, layer_looks(layer, shared), layer_scales(layer, shared))
    })
  )
  found <- block_axes(design, cells, layers, font)
  accounts <- layer_accounts(layers, found$areas, found$axes)
  cells <- block_headings(
    design,
    changed(cells, areas = found$areas),
    drawn_rows(accounts, found$areas)
  )
  called <- area_names(design, cells)
  cells <- changed(cells, areas = changed(cells$areas, called = called))
  cells <- with_block_title(cells, design$title_over)
  axes <- with_counted_levels(found$axes, cells$areas, accounts, font)
  block <- new_resolved_block(cells$areas$block[1], design, cells, layers, axes, accounts, font)
  if (is.null(design$zoom)) block else as_zoomed(block)
}

# Runs `code`, an error of one panel naming it by its heading.
in_panel <- function(design, cells, code) {
  tryCatch(code, nelvat_error_fit = function(error) {
    called <- area_names(design, cells)[match(error$panel, cells$areas$id)]
    if (is.na(called)) stop(error)
    stop(changed(error, message = paste0("In the panel ", quoted(called), ": ", error$message)))
  })
}

# A zoom of a panel with equal lengths both ways gets a plot area of the part's shape; an inset
# shows the variables of the panel it stands in, so it does not name them.
as_zoomed <- function(block) {
  inset <- block$panels$role[1] == "inset"
  block <- changed(
    block,
    axes = lapply(block$axes, function(axis) {
      changed(axis, zoomed = TRUE, title = if (inset) "" else axis$title)
    })
  )
  if (!block$equal) return(block)
  ends <- lapply(
    c("x_axis", "y_axis"),
    function(axis) abs(diff(block$axes[[block$panels[[axis]][1]]]$range))
  )
  changed(block, aspect = ends[[2]] / ends[[1]], equal = FALSE)
}

# A block of which no row has both its x and y, where it has both, shows nothing.
check_some_left <- function(layers, design) {
  first <- if (length(layers)) layers[[1]]
  if (is.null(first) || !nrow(first$table)) return(invisible())
  given <- Filter(function(direction) !first[[direction]]$supplied, c("x", "y"))
  if (!length(given) || any(complete_rows(first$table[given], given))) return(invisible())
  notes <- block_notes(design)
  notes <- notes[which(notes$out), ]
  abort_nelvat(
    "data",
    c(
      paste0(
        "Nothing is left to draw of ",
        block_label(design),
        ": no row has ",
        listed(paste0("`", given, "`")),
        "."
      ),
      stats::setNames(
        if (NROW(notes)) plain_text(noted_phrases(notes)),
        rep("x", NROW(notes))
      )
    ),
    call = NULL
  )
}
