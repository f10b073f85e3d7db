# Edges of plot areas that stand on one line, and the room that their decorations take.

# Which blocks have even reaches on a side, and in which element of them: blocks over the
# same tracks with as many panels in all of them, blocks that meet the same line of the
# grid in the outermost. A list of list(side, of, at), `at` an index a block, NULL for all.
alignments <- function(blocks, places) {
  standing <- which(!is.na(places$x0))
  if (length(standing) < 2) return(list())
  relied <- relied_sides(blocks)
  inner_and_outer <- unlist(
    lapply(c("left", "right", "top", "bottom"), function(side) {
      across <- side %in% c("left", "right")
      n <- vapply(blocks, function(block) max(block$panels[[if (across) "column" else "row"]]), 0L)
      from <- places[[if (across) "x0" else "y0"]]
      to <- places[[if (across) "x1" else "y1"]]
      weights <- vapply(
        blocks,
        function(block) {
          paste(round(track_weights(block, if (across) "x" else "y"), 6), collapse = " ")
        },
        ""
      )
      first <- side %in% c("left", "top")
      outside <- beside_marginals(blocks, side)
      inner <- split(standing, paste(from, to, n, weights, outside)[standing])
      outer <- split(standing, paste(if (first) from else to, outside)[standing])
      # Of blocks of one panel both are the same.
      lone <- inner[vapply(inner, function(of) all(n[of] == 1), NA)]
      outer <- outer[!unname(outer) %in% unname(lone)]
      c(
        lapply(inner[lengths(inner) > 1], function(of) list(side = side, of = of)),
        lapply(
          outer[lengths(outer) > 1],
          function(of) list(side = side, of = of, at = if (first) rep(1L, length(of)) else n[of])
        )
      )
    }),
    recursive = FALSE
  )
  c(relied, inner_and_outer)
}

# Blocks that leave an axis to another are brought on one line with it before all others, though it
# cost more.
relied_sides <- function(blocks) {
  ids <- vapply(blocks, `[[`, "", "id")
  unlist(
    lapply(seq_along(blocks), function(i) {
      unlist(
        lapply(blocks[[i]]$relies, function(leaves) {
          lapply(
            if (leaves$direction == "x") c("left", "right") else c("top", "bottom"),
            function(side) {
              list(side = side, of = c(i, match(leaves$on, ids)), most = most_lost_for_axis)
            }
          )
        }),
        recursive = FALSE
      )
    }),
    recursive = FALSE
  )
}

# Blocks with marginals at the top (the right), and those that share the axis that these stand
# beside, line up by their plot areas; their neighbours by the outer edge.
beside_marginals <- function(blocks, side) {
  if (!side %in% c("top", "right")) return(rep("", length(blocks)))
  along <- if (side == "top") "y" else "x"
  shown <- function(block) {
    axes <- Filter(function(axis) axis$direction == along && axis$role == "matrix", block$axes)
    vapply(
      axes,
      function(axis) paste(axis$variable, paste(signif(axis$range, 12), collapse = " ")),
      ""
    )
  }
  marginal <- vapply(
    blocks,
    function(block) (if (side == "top") "x" else "y") %in% block$areas$side,
    NA
  )
  shared <- unlist(lapply(blocks[marginal], shown))
  vapply(
    seq_along(blocks),
    function(i) {
      if (marginal[i] || any(shown(blocks[[i]]) %in% shared)) "with marginals" else "without"
    },
    ""
  )
}

# Part by part: ticks to ticks and titles to titles, so that both stand on one line.
even_reaches <- function(reaches, alignments, plate) {
  for (one in alignments) {
    if (costs_too_much(reaches[one$of], one, plate)) next
    reaches[one$of] <- greatest_reaches(reaches[one$of], one$side, one$at)
  }
  reaches
}

# Of the page's width, what a block may lose to align with another, and with one that draws its
# axis.
most_lost <- 0.15
most_lost_for_axis <- 1 / 3

# Blocks one under the other with unlike margins are made even where that costs little.
costs_too_much <- function(reaches, one, plate) {
  if (!one$side %in% c("left", "right") || identical(plate$align, "always")) return(FALSE)
  if (identical(plate$align, "never")) return(TRUE)
  outermost <- one$at %||% vapply(
    reaches,
    function(reach) {
      if (one$side == "left") 1L else length(reach[[one$side]])
    },
    0L
  )
  room_mm <- mapply(function(reach, i) reach[[one$side]][i], reaches, outermost)
  max(room_mm) - min(room_mm) > (one$most %||% most_lost) * plate$width_mm
}

greatest_reaches <- function(reaches, side, at) {
  pieces <- lapply(stats::setNames(nm = paste0(side, "_", reach_pieces(side))), function(name) {
    reaches_at <- lapply(reaches, `[[`, name)
    if (is.null(at)) return(rep(list(Reduce(pmax, reaches_at)), length(reaches)))
    most <- max(mapply(function(values, i) values[i], reaches_at, at))
    Map(function(values, i) replace(values, i, most), reaches_at, at)
  })
  lapply(seq_along(reaches), function(k) {
    totalled(replace(reaches[[k]], names(pieces), lapply(pieces, `[[`, k)), side)
  })
}

reach_pieces <- function(side) if (side %in% c("left", "bottom")) c("ticks", "title") else "all"

totalled <- function(reach, side) {
  switch(
    side,
    left = changed(reach, left = reach$left_ticks + reach$left_title),
    bottom = changed(reach, bottom = reach$bottom_ticks + reach$bottom_title),
    right = changed(reach, right = reach$right_all),
    top = changed(reach, top = reach$top_all)
  )
}
