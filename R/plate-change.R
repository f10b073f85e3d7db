#' A copy with something changed
#'
#' @param figure A [panel()], [facets()], [joint()], [every_pair()] or a [plate()].
#' @param ... Arguments of the function that made it, with new values; for [facets()] also
#'   those of its panel. `data = ` gives another table: what is known of the columns of the old one
#'   holds for it. `codebook = list(flour = category(...))` says what columns mean, as [codebook()]
#'   amends it.
#' @param ink An ink or a list of them: each takes the place of the ink of the same word,
#'   or is added.
#' @param block In a plate, which blocks `data`, `codebook`, `ink` and arguments of panels are for,
#'   by name or number; `NULL`: all that draw data.
#' @return The same sort of thing; `figure` itself stays as it was.
#' @section Errors: `nelvat_error_argument` for a name that is no argument; those of the
#'   function that makes the copy.
#' @examples
#' scatter <- panel(study("loaves"), x = rise, y = volume, ink_points())
#' change(scatter, y = firmness, ink = ink_points(shape = "ring"))
#' change(facets(scatter, across = flour), across = hydration, x = ph)
#' change(
#'   plate(scatter, width = "single"),
#'   data = study("loaves")$data[1:50, ],
#'   ink = ink_points(size = 2)
#' )
#' @export
change <- function(figure, ..., ink = NULL, block = NULL) {
  call <- rlang::current_env()
  new <- rlang::enquos(...)
  if (length(new) && any(rlang::names2(new) == "")) {
    abort_nelvat(
      "argument",
      c("`change()` needs names of arguments.", x = "Found a value without one."),
      call
    )
  }
  if (inherits(figure, "nelvat_plate")) return(changed_plate(figure, new, ink, block, call))
  if (!is.null(block)) {
    abort_nelvat("argument", c("`block` names blocks of a plate.", x = "This is none."), call)
  }
  changed_block(figure, new, ink, call)
}

# A block, a panel or what else holds data, with something changed.
changed_block <- function(figure, new, ink, call) {
  if (inherits(figure, "nelvat_panel")) {
    return(changed_panel(figure, new, ink, panel_arguments, "panel", call))
  }
  if (inherits(figure, "nelvat_facets")) return(changed_facets(figure, new, ink, call))
  if (inherits(figure, "nelvat_pairs")) return(changed_pairs(figure, new, ink, call))
  abort_nelvat(
    "argument",
    c(
      "`change()` takes a `panel()`, `facets()`, `joint()`, `every_pair()` or a `plate()`.",
      x = paste0("Found ", describe_value(figure), ".")
    ),
    call
  )
}

panel_arguments <- c(
  "data", "codebook", "x", "y", "colour", "shape", "dash", "size", "group", "derive", "keep",
  "order", "missing",
  "x_axis", "y_axis", "heading"
)

changed_panel <- function(panel, new, ink, known, of, call) {
  check_stray(setdiff(names(new), known), known, of, call)
  made <- panel$made
  channels <- made$channels
  for (channel in intersect(names(new), panel_channels)) channels[[channel]] <- new[[channel]]
  value <- function(name, old) if (name %in% names(new)) rlang::eval_tidy(new[[name]]) else old
  axes <- list(
    x = check_axis(value("x_axis", made$axes$x), "x_axis", call),
    y = check_axis(value("y_axis", made$axes$y), "y_axis", call)
  )
  copy <- new_panel(
    changed_book(made$book, new, call),
    channels,
    replaced_inks(made$inks, ink, call),
    if ("derive" %in% names(new)) captured_derive(new$derive, call) else made$derive,
    if ("keep" %in% names(new)) new$keep else made$keep,
    value("order", made$order),
    value("missing", made$missing),
    axes,
    call
  )
  check_same_unit(panel$variables, copy$variables, copy$made$axes, copy$made$inks, call)
  with_heading(with_house(copy, panel$house, call), value("heading", panel$heading), call)
}

# The table that `data` and `codebook` make of the one before: what is known of its columns holds
# for a new one, where that has them.
changed_book <- function(book, new, call) {
  if ("data" %in% names(new)) {
    data <- rlang::eval_tidy(new$data)
    if (inherits(data, "nelvat_codebook")) {
      book <- data
    } else {
      kinds <- book$kinds[intersect(names(book$kinds), names(check_table(data, "data", call)))]
      book <- new_codebook(data, kinds, label = book$label, call = call, document = book$document)
    }
  }
  if (!"codebook" %in% names(new)) return(book)
  kinds <- rlang::eval_tidy(new$codebook)
  if (!is.list(kinds) || is_kind(kinds) || !all(rlang::have_name(kinds))) {
    abort_nelvat(
      "argument",
      c(
        paste0(
          "`codebook` must be kinds by column, such as `list(rise = quantity(\"Loaf rise\", unit ",
          "= \"mm\"))`."
        ),
        x = paste0("Found ", describe_value(kinds), ".")
      ),
      call
    )
  }
  new_codebook(book, kinds, label = book$label, call = call)
}

replaced_inks <- function(inks, new, call) {
  if (is.null(new)) return(inks)
  words <- vapply(inks, `[[`, "", "ink")
  taken <- logical(length(inks))
  for (ink in check_inks(list(new), call)) {
    # Of several inks of one word, the first is for the first of them, the second for the second.
    ink_row <- which(words == ink$ink & !taken)[1]
    if (is.na(ink_row)) {
      inks <- c(inks, list(ink))
    } else {
      inks[[ink_row]] <- ink
      taken[ink_row] <- TRUE
    }
  }
  inks
}

changed_facets <- function(block, new, ink, call) {
  facet_words <- c("across", "down", names(facets_settings))
  of_panel <- new[!names(new) %in% facet_words]
  check_stray(
    setdiff(names(of_panel), panel_arguments),
    c(facet_words, panel_arguments),
    "change",
    call
  )
  made <- block$made
  settings <- made$settings
  for (name in setdiff(intersect(names(new), facet_words), c("across", "down"))) {
    settings[name] <- list(rlang::eval_tidy(new[[name]]))
  }
  one_panel <- if (length(of_panel) || !is.null(ink)) {
    changed_panel(block$panel, of_panel, ink, c(facet_words, panel_arguments), "change", call)
  } else {
    block$panel
  }
  copy <- new_facets(
    one_panel,
    new$across %||% made$across,
    new$down %||% made$down,
    settings,
    call
  )
  marginal <- block$marginals$made
  if (is.null(marginal)) return(copy)
  new_marginals(copy, marginal$x, marginal$y, marginal$layout, call)
}

pairs_quosures <- c("columns", "rows", "within", "colour", "shape", "keep")
pairs_parts <- c("above", "diagonal", "below")

changed_pairs <- function(block, new, ink, call) {
  known <- c("data", "codebook", pairs_quosures, pairs_parts, pairs_settings)
  check_stray(setdiff(names(new), known), known, "change", call)
  made <- block$made
  for (name in intersect(names(new), pairs_quosures)) made$quosures[[name]] <- new[[name]]
  for (name in intersect(names(new), pairs_parts)) {
    made$parts[name] <- list(rlang::eval_tidy(new[[name]]))
  }
  for (name in intersect(names(new), pairs_settings)) {
    made$settings[name] <- list(
      if (name == "derive") captured_derive(new$derive, call) else rlang::eval_tidy(new[[name]])
    )
  }
  if (!is.null(ink)) made$parts <- replaced_pair_inks(made$parts, check_inks(list(ink), call), call)
  new_pairs(changed_book(made$book, new, call), made$quosures, made$parts, made$settings, call)
}

# In the parts of a matrix an ink takes the place of that of the same word; it cannot be added, as
# it would not be known where.
replaced_pair_inks <- function(parts, inks, call) {
  for (ink in inks) {
    holds <- Filter(
      function(name) {
        is.list(parts[[name]]) &&
          ink$ink %in% vapply(check_inks(list(parts[[name]]), call), `[[`, "", "ink")
      },
      names(parts)
    )
    if (
      !length(holds) && !"below" %in% names(parts) && identical(
        ink$ink,
        default_pair_ink(0)$ink$ink
      )
    ) {
      holds <- "below"
    }
    if (!length(holds)) {
      abort_nelvat(
        "argument",
        c(
          "A matrix takes an ink in place of one of the same word.",
          x = paste0("None of its parts holds `ink_", ink$ink, "()`."),
          i = "Say the part: `above`, `diagonal` or `below`."
        ),
        call
      )
    }
    for (name in holds) {
      parts[[name]] <- if (is.null(parts[[name]])) {
        ink
      } else {
        replaced_inks(check_inks(list(parts[[name]]), call), ink, call)
      }
    }
  }
  parts
}

# Plates ----------------------------------------------------------------------------------

# A plate with other settings, and with other data, meanings, inks or arguments in its blocks.
changed_plate <- function(plate, new, ink, block, call) {
  for_blocks <- new[!names(new) %in% plate_settings]
  known <- c(
    plate_settings,
    panel_arguments,
    "across",
    "down",
    names(facets_settings),
    pairs_parts,
    pairs_settings
  )
  check_stray(setdiff(names(for_blocks), known), known, "change", call)
  settings <- plate$made$settings
  for (name in setdiff(names(new), names(for_blocks))) {
    settings[name] <- list(rlang::eval_tidy(new[[name]]))
  }
  blocks <- plate$made$blocks
  if (length(for_blocks) || !is.null(ink)) {
    chosen <- chosen_blocks(plate, block, call)
    check_one_table(plate, chosen, for_blocks, block, call)
    blocks <- mapped_blocks(blocks, chosen, function(one) changed_block(one, for_blocks, ink, call))
  } else if (!is.null(block)) {
    abort_nelvat(
      "argument",
      c("`block` says where something is changed.", x = "Nothing else is given."),
      call
    )
  }
  new_plate(blocks, settings, call)
}

# Numbers of the blocks that are meant: those that are named, or all that draw data.
chosen_blocks <- function(plate, block, call) {
  if (is.null(block)) return(which(vapply(plate$blocks, is_changeable, NA)))
  if (is.list(block)) block <- unlist(block)
  n <- length(plate$blocks)
  block_numbers <- if (is.character(block)) match(block, plate$names) else match(block, seq_len(n))
  if (anyNA(block_numbers) || !length(block_numbers)) {
    named <- plate$names[nzchar(plate$names)]
    abort_nelvat(
      "argument",
      c(
        paste0("`block` must name blocks of the plate, or be numbers from 1 to ", n, "."),
        x = paste0("Found ", describe_value(block[is.na(block_numbers)][1]), "."),
        if (is.character(block)) offer(block[is.na(block_numbers)][1], named, "block")
      ),
      call
    )
  }
  block_numbers
}

is_changeable <- function(block) {
  inherits(block, c("nelvat_facets", "nelvat_pairs")) && is.null(block$zoom)
}

# A new table for several blocks must be meant for all of them.
check_one_table <- function(plate, chosen, new, block, call) {
  if (!any(c("data", "codebook") %in% names(new)) || !is.null(block)) return(invisible())
  labels <- unique(vapply(plate$blocks[chosen], function(one) one$panel$book$label %||% "", ""))
  if (length(labels) < 2) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0(
        "The blocks of the plate draw more than one table; `block` says which of them the new one ",
        "is for."
      ),
      x = paste0("Tables are ", quoted(labels), ".")
    ),
    call
  )
}

# Blocks and placements as they were given, `f` done to those of some numbers, as a plate numbers
# them: in the order they stand, insets last.
mapped_blocks <- function(children, chosen, f) {
  is_inset <- vapply(
    leaf_blocks(children),
    function(leaf) {
      inherits(leaf, "nelvat_zoom") && !isFALSE(leaf$inset)
    },
    NA
  )
  number <- integer(length(is_inset))
  number[order(is_inset)] <- seq_along(is_inset)
  seen <- 0L
  over_leaves(children, function(leaf) {
    seen <<- seen + 1L
    if (number[seen] %in% chosen) f(leaf) else leaf
  })
}

leaf_blocks <- function(children) {
  found <- list()
  over_leaves(children, function(leaf) {
    found <<- c(found, list(leaf))
    leaf
  })
  found
}

# Does `f` to every block in placements and lists of them.
over_leaves <- function(node, f) {
  if (inherits(node, "nelvat_placement")) {
    for (part in intersect(c("block", "child"), names(node))) {
      node[[part]] <- over_leaves(node[[part]], f)
    }
    if (!is.null(node$children)) node$children <- lapply(node$children, over_leaves, f)
    return(node)
  }
  if (is_bare_group(node)) return(lapply(node, over_leaves, f))
  f(node)
}
