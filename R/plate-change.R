#' A copy with something changed
#'
#' @param figure A [panel()], [facets()], [joint()], [every_pair()] or a [plate()].
#' @param ... Arguments of the function that made it, with new values; for [facets()] also
#'   those of its panel, and for a [joint()] figure those of its margins. `data = ` gives another
#'   table: what is known of the columns of the old one holds for it.
#'   `codebook = list(flour = category(...))` says what columns mean, as [codebook()] amends it.
#' @param ink An ink or a list of them: each takes the place of the ink of the same word,
#'   or is added.
#' @param block In a plate, which blocks `data`, `codebook`, `ink` and arguments of blocks are for,
#'   by name or number; `NULL`: all that draw data and take them. Where facets and their panel, or a
#'   panel and its margins, have an argument of one name, a path says whose is meant, such as
#'   `block = c("responses", "panel")`, `c("responses", "marginals")`, or of a block alone
#'   `"panel"`.
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
  check_needed(change, "change", rlang::current_env())
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
  if (!is.null(block) && !identical(block, "panel") && !identical(block, "marginals")) {
    abort_nelvat(
      "argument",
      c(
        "`block` names blocks of a plate, or here the part \"panel\" or \"marginals\".",
        x = paste0("Found ", describe_value(block), ".")
      ),
      call
    )
  }
  changed_block(figure, new, ink, call, block)
}

# A block, a panel or what else is said by one word, with something changed. part: "panel" or
# "marginals" where only this is meant.
changed_block <- function(figure, new, ink, call, part = NULL) {
  known <- block_arguments(figure, part)
  word <- if (inherits(figure, "nelvat_panel")) "panel" else "change"
  check_stray(setdiff(names(new), known), known, word, call)
  if (!is.null(figure$said)) return(said_anew(figure$said, new))
  if (inherits(figure, "nelvat_panel")) return(changed_panel(figure, new, ink, call))
  if (inherits(figure, "nelvat_facets")) return(changed_facets(figure, new, ink, call, part))
  if (inherits(figure, "nelvat_pairs")) return(changed_pairs(figure, new, ink, call, part))
  abort_nelvat(
    "argument",
    c(
      "`change()` takes a `panel()`, `facets()`, `joint()`, `every_pair()` or a `plate()`.",
      x = paste0("Found ", describe_value(figure), ".")
    ),
    call
  )
}

# What can be changed in a block, by name: the arguments of the words that made it.
block_arguments <- function(figure, part = NULL) {
  of_word <- function(word) setdiff(names(formals(word)), "...")
  panel_words <- c(of_word(panel), "codebook")
  margin_words <- if (is.null(figure$marginals)) {
    character()
  } else if (isTRUE(figure$marginals$made$layout$joint)) {
    setdiff(joint_settings, "heading")
  } else {
    setdiff(of_word(marginals), "panel")
  }
  if (identical(part, "panel")) return(panel_words)
  if (identical(part, "marginals")) return(margin_words)
  if (!is.null(figure$said)) return(of_word(figure$said$word))
  if (inherits(figure, "nelvat_panel")) return(panel_words)
  if (inherits(figure, "nelvat_pairs")) {
    return(c(of_word(every_pair), "codebook", margin_words))
  }
  if (!inherits(figure, "nelvat_facets")) return(character())
  is_joint <- isTRUE(figure$marginals$made$layout$joint)
  facet_words <- if (!is_joint) setdiff(of_word(facets), "panel")
  c(panel_words, facet_words, setdiff(margin_words, c("x", "y")))
}

# A block that one word says, such as a zoom, with other values of its arguments.
said_anew <- function(said, new) {
  do.call(said$word, with_values(said$arguments, new))
}

# A list with the values of the quosures `names` of `new`.
with_values <- function(list, new, names = base::names(new)) {
  found <- intersect(names, base::names(new))
  replace(list, found, lapply(new[found], rlang::eval_tidy))
}

changed_panel <- function(panel, new, ink, call) {
  made <- panel$made
  said_channels <- intersect(names(new), panel_channels)
  channels <- replace(made$channels, said_channels, new[said_channels])
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
  check_same_unit(panel, copy, call)
  copy <- with_house(copy, value("house", panel$house), call)
  with_heading(copy, value("heading", panel$heading), call)
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
  new <- check_inks(list(new), call)
  # Of several inks of one word, the first is for the first of them, the second for the second.
  numbered <- function(inks) {
    called <- vapply(inks, `[[`, "", "ink")
    paste(called, stats::ave(seq_along(called), called, FUN = seq_along))
  }
  replaces <- match(numbered(new), numbered(inks))
  known <- !is.na(replaces)
  c(replace(inks, replaces[known], new[known]), new[!known])
}

changed_facets <- function(block, new, ink, call, part = NULL) {
  margin_words <- if (!is.null(block$marginals)) {
    setdiff(block_arguments(block, "marginals"), if (is.null(part)) c("x", "y"))
  }
  # A joint figure has no facets.
  of_facets <- if (is.null(part) && !isTRUE(block$marginals$made$layout$joint)) {
    c("across", "down", facets_settings())
  }
  for_margins <- if (!identical(part, "panel")) new[names(new) %in% margin_words]
  of_panel <- new[!names(new) %in% c(names(for_margins), of_facets)]
  made <- block$made
  settings <- with_values(made$settings, new, setdiff(of_facets, c("across", "down")))
  one_panel <- if (length(of_panel) || !is.null(ink)) {
    changed_panel(block$panel, of_panel, ink, call)
  } else {
    block$panel
  }
  quosure <- function(name) if (name %in% of_facets) new[[name]] %||% made[[name]] else made[[name]]
  copy <- new_facets(one_panel, quosure("across"), quosure("down"), settings, call)
  marginal <- block$marginals$made
  if (is.null(marginal)) return(copy)
  marginal <- changed_margins(marginal, for_margins)
  check_margin_units(block, one_panel, marginal, call)
  # What a joint figure has at its margins where nothing is said goes by its colours.
  if (isTRUE(marginal$layout$joint)) {
    marginal <- replace(marginal, c("x", "y"), both_margins(marginal$layout$marginal, one_panel))
  }
  new_marginals(copy, marginal$x, marginal$y, marginal$layout, call)
}

# Margins whose bins and bandwidths were said in the unit that an axis showed before.
check_margin_units <- function(block, now, marginal, call) {
  left <- lapply(c(x = "x", y = "y"), function(side) {
    inks <- marginal[[side]]
    if (!identical(inks, block$marginals$made[[side]])) return(NULL)
    if (is_ink(inks)) list(inks) else inks
  })
  bare <- changed(block$panel$made, inks = list(), axes = list())
  check_same_unit(changed(block$panel, made = bare), now, call, left)
}

changed_pairs <- function(block, new, ink, call, part = NULL) {
  made <- block$made
  for_margins <- if (!is.null(block$marginals)) new[names(new) %in% of_margins_alone()]
  new <- new[!names(new) %in% names(for_margins)]
  of_columns <- intersect(names(new), pairs_quosures)
  quosures <- replace(made$quosures, of_columns, new[of_columns])
  parts <- with_values(made$parts, new, pairs_parts)
  settings <- with_values(made$settings, new, setdiff(pairs_settings(), "derive"))
  if ("derive" %in% names(new)) {
    settings <- changed(settings, derive = captured_derive(new$derive, call))
  }
  if (!is.null(ink)) parts <- replaced_pair_inks(parts, check_inks(list(ink), call), call)
  copy <- new_pairs(changed_book(made$book, new, call), quosures, parts, settings, call)
  if (is.null(block$marginals)) return(copy)
  marginal <- changed_margins(block$marginals$made, for_margins)
  new_marginals(copy, marginal$x, marginal$y, marginal$layout, call)
}

of_margins_alone <- function() names(file_arguments("marginals"))

# Margins as they were said, with what is changed of them.
changed_margins <- function(marginal, new) {
  of_sides <- names(new) %in% c("x", "y")
  of_layout <- new[!of_sides]
  names(of_layout) <- sub("^marginal_axis$", "axis", names(of_layout))
  changed(
    with_values(marginal, new[of_sides]),
    layout = with_values(marginal$layout, of_layout)
  )
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
    anew <- lapply(stats::setNames(nm = holds), function(name) {
      if (is.null(parts[[name]])) return(ink)
      replaced_inks(check_inks(list(parts[[name]]), call), ink, call)
    })
    parts <- replace(parts, holds, anew)
  }
  parts
}

# Plates ----------------------------------------------------------------------------------
