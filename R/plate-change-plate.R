# A plate with something changed in it or in its blocks.

# A plate with other settings, and with other data, meanings, inks or arguments in its blocks.
changed_plate <- function(plate, new, ink, block, call) {
  leaves <- leaf_blocks(plate$made$blocks)
  numbers <- leaf_numbers(leaves)
  path <- block_path(plate, block)
  chosen <- chosen_blocks(plate, path$block, call)
  taken <- lapply(chosen, function(i) block_arguments(leaves[[match(i, numbers)]], path$part))
  # What both have is the block's where a block is named, else the plate's.
  of_plate <- setdiff(intersect(names(new), plate_settings()), if (!is.null(block)) unlist(taken))
  for_blocks <- new[!names(new) %in% of_plate]
  known <- unique(c(plate_settings(), unlist(taken)))
  check_stray(setdiff(names(for_blocks), unlist(taken)), known, "change", call)
  settings <- with_values(plate$made$settings, new, of_plate)
  blocks <- plate$made$blocks
  if (length(for_blocks) || !is.null(ink)) {
    check_one_table(plate, chosen, for_blocks, block, call)
    blocks <- mapped_blocks(blocks, chosen, function(one, i) {
      own_new <- for_blocks[names(for_blocks) %in% taken[[match(i, chosen)]]]
      if (is.null(block)) own_new <- meanings_of(one, own_new)
      if (!length(own_new) && is.null(ink)) return(one)
      changed_block(one, own_new, ink, call, path$part)
    })
  } else if (!is.null(block)) {
    abort_nelvat(
      "argument",
      c("`block` says where something is changed.", x = "Nothing else is given."),
      call
    )
  }
  new_plate(blocks, settings, call)
}

# list(block, part) of what `block` says: a path ends with the part of a block that is meant.
block_path <- function(plate, block) {
  n <- length(block)
  part <- if (n && is.character(block) && !block[n] %in% plate$names) {
    intersect(block[n], c("panel", "marginals"))
  }
  if (!length(part)) return(list(block = block, part = NULL))
  list(block = if (n > 1) block[-n], part = part)
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

# Of new meanings of columns those of a block's own table.
meanings_of <- function(block, new) {
  if (!"codebook" %in% names(new)) return(new)
  kinds <- rlang::eval_tidy(new$codebook)
  if (!is.list(kinds)) return(new)
  book <- (if (inherits(block, "nelvat_panel")) block else block$panel)$book
  of_block <- kinds[names(kinds) %in% names(book$data)]
  if (!length(of_block)) return(new[names(new) != "codebook"])
  changed(new, codebook = rlang::quo(!!of_block))
}

# New meanings must be of columns that some block has; a new table for several blocks must be meant
# for all of them.
check_one_table <- function(plate, chosen, new, block, call) {
  if (!is.null(block)) return(invisible())
  if ("codebook" %in% names(new)) {
    columns <- unique(
      unlist(lapply(plate$blocks[chosen], function(one) names(one$panel$book$data)))
    )
    kinds <- names(rlang::eval_tidy(new$codebook))
    absent <- setdiff(kinds, columns)
    if (length(absent)) {
      abort_nelvat(
        "column",
        c(
          paste0("`codebook`: no table of the plate has a column \"", absent[1], "\"."),
          offer(absent[1], columns, "column")
        ),
        call
      )
    }
  }
  if (!"data" %in% names(new)) return(invisible())
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
  numbers <- leaf_numbers(leaf_blocks(children))
  seen <- 0L
  over_leaves(children, function(leaf) {
    seen <<- seen + 1L
    if (numbers[seen] %in% chosen) f(leaf, numbers[seen]) else leaf
  })
}

leaf_numbers <- function(leaves) {
  is_inset <- vapply(
    leaves,
    function(leaf) inherits(leaf, "nelvat_zoom") && !isFALSE(leaf$inset),
    NA
  )
  order(order(is_inset))
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
    holds <- intersect(c("block", "child"), names(node))
    node <- replace(node, holds, lapply(unclass(node)[holds], over_leaves, f))
    if (is.null(node$children)) return(node)
    return(changed(node, children = lapply(node$children, over_leaves, f)))
  }
  if (is_bare_group(node)) return(lapply(node, over_leaves, f))
  f(node)
}
