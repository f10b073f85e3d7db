# What a plate says and draws against what is true of it. Each comparison is a statement checked;
# one that does not hold is a sentence.

new_verdict <- function() {
  env <- new.env()
  env$checked <- 0L
  env$false <- character()
  env
}
holds <- function(verdict, is_true, ...) {
  verdict$checked <- verdict$checked + 1L
  if (!isTRUE(is_true)) verdict$false <- c(verdict$false, paste0(...))
  isTRUE(is_true)
}

# What a block was given and does not draw is told; of names that are chosen, and of events, the
# rest is not asked for.
judge_left_out <- function(verdict, scene) {
  accounts <- scene$accounts[!scene$accounts$ink %in% c("labels", "events"), ]
  if (!NROW(accounts)) return(invisible())
  missing <- tapply(accounts$missing, accounts$block, sum)
  for (block in names(missing)[missing > 0]) {
    holds(
      verdict,
      block %in% scene$told$of,
      block,
      ": ",
      missing[[block]],
      " rows are left out, and nothing is told of them"
    )
  }
}

# The letters that sentences on what is left out end in are those of the blocks that leave it out.
judge_left_out_letters <- function(verdict, scene, legend) {
  told <- scene$told
  if (is.null(told) || length(scene$letters) < 2) return(invisible())
  of_note <- split(told$of, paste(told$column, told$what, told$n), drop = TRUE)
  letter_of <- function(block) {
    texts <- scene$texts[scene$texts$role == "letter", ]
    texts$string[texts$panel %in% scene$panels$id[scene$panels$block %in% block]]
  }
  wanted <- unique(lapply(unname(of_note), function(blocks) sort(letter_of(blocks))))
  one <- "[a-z](?:\u2013[a-z])?"
  pattern <- paste0("\\((", one, "(?:(?:, | and )", one, ")*)\\)(?=[;.])")
  found <- regmatches(legend, gregexpr(pattern, legend, perl = TRUE))[[1]]
  expanded <- lapply(found, function(text) {
    ends <- strsplit(strsplit(gsub("[()]", "", text), ", | and ")[[1]], "\u2013")
    unlist(lapply(ends, function(ab) letters[match(ab[1], letters):match(ab[length(ab)], letters)]))
  })
  # A unit in brackets is none of the figure's letters.
  expanded <- Filter(function(own) all(own %in% scene$letters), expanded)
  holds(
    verdict,
    setequal(unique(expanded), wanted),
    "left out in ",
    paste(vapply(wanted, paste, "", collapse = " "), collapse = "; "),
    ", said is ",
    paste(found, collapse = " ")
  )
}

near <- function(a, b, slack = 1e-6) {
  length(a) == length(b) && identical(is.na(a), is.na(b)) &&
    all(abs(a - b) <= slack * pmax(1e-7, abs(b)), na.rm = TRUE)
}
near_sorted <- function(a, b) length(a) == length(b) && near(sort(a), sort(b))

# All statements of one plate: the verdict.
judge_plate <- function(made, with_pdf = FALSE) {
  verdict <- new_verdict()
  scene <- nelvat::as_scene(made$plate)
  source <- nelvat::source_data(made$plate)
  legend <- gsub(
    "(?<![*\\\\])[*]([^*]+)[*](?![*])",
    "\\1",
    nelvat::legend_text(made$plate, format = "markdown"),
    perl = TRUE
  )
  fits <- nelvat::fits(scene)
  contrasts <- nelvat::contrast_table(scene)
  pieces <- legend_pieces(legend, length(made$parts))
  areas <- scene$panels[scene$panels$role == "panel", ]
  for (i in seq_along(made$parts)) {
    part <- made$parts[[i]]
    own <- areas[areas$block == unique(areas$block)[i], ]
    judge_panels(verdict, part, i, own, scene, source, length(made$parts), fits, contrasts)
    judge_legend(verdict, part, i, pieces$blocks[[i]], legend, own)
  }
  judge_keys(verdict, made$parts, scene, legend)
  judge_ticks(verdict, scene)
  judge_left_out(verdict, scene)
  judge_left_out_letters(verdict, scene, legend)
  alt <- nelvat::alt_text(scene)
  holds(
    verdict,
    grepl(paste0("\\b", nrow(areas), " panel"), alt),
    "alternative text: not ",
    nrow(areas),
    " panels"
  )
  if (with_pdf) judge_pdf(verdict, made, scene, own)
  verdict
}

judge_panels <- function(verdict, part, i, areas, scene, source, n_blocks, fits, contrasts) {
  levels <- if (is.null(part$split)) {
    list(NULL)
  } else {
    codes <- part$table$categories[[part$split]]$codes
    # Of what is kept only the levels that are there have a panel; else those of the codebook, too.
    as.list(if (is.null(part$keep)) codes else intersect(codes, asked_rows(part)[[part$split]]))
  }
  if (
    !holds(
      verdict,
      nrow(areas) == length(levels),
      part$name,
      ": ",
      nrow(areas),
      " panels for ",
      length(levels),
      " levels"
    )
  ) {
    return()
  }
  letter <- if (n_blocks > 1) letters[i]
  for (k in seq_along(levels)) {
    rows <- drawn_rows(part, levels[[k]])
    heading <- if (!is.null(levels[[k]])) shown_name(part$table, part$split, levels[[k]])
    where <- paste0(part$name, if (!is.null(heading)) paste0(" of ", heading), ": ")
    if (!is.null(heading)) {
      holds(
        verdict,
        identical(areas$heading[k], heading),
        where,
        "its heading is ",
        areas$heading[k]
      )
    }
    name <- paste(c(letter, heading), collapse = " ")
    if (!nzchar(name)) name <- "panel"
    table <- source[[name]]
    marks <- if (!is.null(part$ink$true)) true_marks(part, rows)
    used <- if (is.null(part$ink$true)) {
      rows
    } else {
      do.call(rbind, lapply(marks, function(one) if (!is.null(one$true)) one$rows))
    }
    if (
      holds(
        verdict,
        any(table$part == "values") == (NROW(used) > 0),
        where,
        "source data is",
        if (!NROW(used)) " not",
        " there"
      )
    ) {
      if (NROW(used)) judge_source(verdict, part, where, table, used, marks)
    }
    on_area <- function(found) found[found$panel == areas$id[k], ]
    if (isTRUE(part$ink$fits)) judge_fits(verdict, part, where, on_area(fits), marks)
    if (!is.null(part$ink$compares)) judge_contrasts(verdict, part, where, on_area(contrasts), rows)
    judge_marks(verdict, part, where, areas[k, ], scene, rows, marks)
  }
}

# Levels under their shown names, moments as text.
as_told <- function(part, column, values) {
  if (column %in% names(part$table$categories)) return(shown_name(part$table, column, values))
  if (column == "day") return(format(values))
  if (column == "time") {
    text <- format(values, "%Y-%m-%dT%H:%M:%S%z")
    return(sub("([0-9]{2})$", ":\\1", text))
  }
  values
}

judge_source <- function(verdict, part, where, table, used, marks) {
  # A column of the data that is called as a number of the statistics is told apart from it.
  said_n <- table[["n"]]
  apart <- endsWith(names(table), " (column)")
  plain <- sub(" (column)", "", names(table)[apart], fixed = TRUE)
  table[plain] <- table[apart]
  values <- table[table$part == "values", ]
  said_n <- said_n[table$part == (part$ink[["part"]] %||% "")]
  columns <- unique(c(unlist(part$on), part$colour, part$shape))
  # What an ink shows in place of a column is of another name.
  if (isTRUE(part$ink$replaces)) columns <- setdiff(columns, part$on$y)
  columns_there <- all(columns %in% names(table)) || !nrow(used)
  if (
    !holds(verdict, columns_there, where, "source data lacks ", setdiff(columns, names(table))[1])
  ) {
    return()
  }
  as_rows <- function(data, told) {
    data <- data[columns]
    data[] <- lapply(columns, function(column) {
      at <- if (told) data[[column]] else as_told(part, column, data[[column]])
      if (is.numeric(at)) formatC(at, digits = 10, format = "g") else as.character(at)
    })
    sort(do.call(paste, c(unname(as.list(data)), sep = "|")))
  }
  holds(
    verdict,
    identical(as_rows(values, TRUE), as_rows(used, FALSE)),
    where,
    "source data has ",
    nrow(values),
    " values for ",
    nrow(used),
    ", or others"
  )
  if (is.null(part$ink[["part"]])) return()
  told <- table[table$part == part$ink[["part"]], ]
  if (isTRUE(part$ink$cells)) {
    holds(verdict, sum(said_n) == nrow(used), where, "cells hold ", sum(said_n), " of ", nrow(used))
    return()
  }
  for (one in marks) {
    same <- Reduce(
      `&`,
      lapply(names(one$levels), function(column) {
        wanted <- as_told(part, column, one$levels[[column]])
        if (is.null(told[[column]])) return(rep(FALSE, nrow(told)))
        if (is.numeric(wanted)) abs(told[[column]] - wanted) < 1e-9 else told[[column]] == wanted
      }),
      rep(TRUE, nrow(told))
    )
    if (!is.null(told[["not drawn"]])) same <- same & is.na(told[["not drawn"]])
    found <- told[which(same), ]
    n <- said_n[which(same)]
    group <- paste(vapply(one$levels, format, ""), collapse = ", ")
    if (is.null(one$true)) {
      holds(verdict, !nrow(found), where, "source data of ", group, ", which is not drawn")
      next
    }
    if (!holds(verdict, nrow(found) > 0, where, "no source data of ", group)) next
    holds(
      verdict,
      (if (isTRUE(part$ink$sums)) sum(n) else unique(n)) == one$true[["n"]],
      where,
      "n of ",
      group,
      " is ",
      paste(unique(n), collapse = ", "),
      " for ",
      one$true[["n"]]
    )
    if (isTRUE(part$ink$sums)) {
      held <- mapply(
        function(from, to) sum(one$rows$value > from & one$rows$value <= to),
        found$from,
        found$to
      )
      lowest <- found$from == min(found$from)
      held[lowest] <- held[lowest] + sum(one$rows$value == min(found$from))
      holds(
        verdict,
        all(abs(held - n) == 0),
        where,
        "bins of ",
        group,
        " hold others than their edges"
      )
    }
    for (number in part$ink$numbers) {
      wanted <- unname(one$true[number])
      column <- stats::na.omit(found[[number]])
      said <- if (length(column)) column[1] else NA_real_
      holds(
        verdict,
        near(said, wanted),
        where,
        number,
        " of ",
        group,
        " is ",
        format(said),
        " for ",
        format(wanted)
      )
    }
  }
}

judge_fits <- function(verdict, part, where, fits, marks) {
  for (one in marks) {
    level <- if (!is.null(part$colour)) {
      shown_name(part$table, part$colour, one$levels[[part$colour]])
    }
    own <- if (is.null(level)) fits else fits[fits$colour %in% level, ]
    if (is.null(one$true)) {
      holds(verdict, !NROW(own), where, "coefficients of what has no fit")
      next
    }
    x <- forward_of[[part$scales$x]](one$rows[[part$on$x]])
    y <- forward_of[[part$scales$y]](one$rows[[part$on$y]])
    w <- if (is.null(part$ink$weights)) rep(1, length(x)) else one$rows[[part$ink$weights]]
    model <- stats::lm(y ~ x, weights = w)
    told <- summary(model)
    said <- own$estimate
    wanted <- unname(stats::coef(model))
    scale <- c(max(abs(y), abs(wanted)), max(abs(wanted)))
    holds(
      verdict,
      length(said) == 2 && all(abs(said - wanted) < 1e-7 * scale),
      where,
      "coefficients of ",
      level
    )
    holds(verdict, all(own$n == nrow(one$rows)), where, "n of the fit of ", level)
    if (length(unique(y)) > 1) {
      holds(verdict, abs(own$r2[1] - told$r.squared) < 1e-7, where, "R2 of ", level)
    }
  }
}

judge_contrasts <- function(verdict, part, where, told, rows) {
  told <- told[told$show != "overall", ]
  # Colours that are one at each level of the axis part nothing: then the categories are compared.
  drawn <- drawn_rows(part)
  slot <- do.call(paste, c(unname(drawn[c("flour", part$split)]), sep = "\r"))
  colours <- if (!is.null(part$colour)) {
    tapply(drawn[[part$colour]], slot, function(all) length(unique(all)))
  }
  parted <- any(colours > 1)
  scale <- forward_of[[part$scale]]
  families <- if (parted) split(rows, rows$flour) else list(rows)
  column <- if (parted) "bakery" else "flour"
  wanted <- do.call(
    rbind,
    lapply(families, function(family) {
      codes <- part$table$categories[[column]]$codes
      # The panel's own order says which of two comes first.
      if (column == "flour" && !is.null(part$order)) codes <- eval(part$order)$flour
      # A test needs two values a group.
      codes <- codes[codes %in% names(which(table(family[[column]]) > 1))]
      if (length(codes) < 2) return(NULL)
      do.call(
        rbind,
        apply(
          utils::combn(codes, 2),
          2,
          function(pair) {
            a <- scale(family$value[family[[column]] == pair[1]])
            b <- scale(family$value[family[[column]] == pair[2]])
            p <- tryCatch(
              suppressWarnings(
                if (part$ink$compares == "rank sum") {
                  stats::wilcox.test(b, a)$p.value
                } else {
                  stats::t.test(b, a, var.equal = part$ink$compares == "student")$p.value
                }
              ),
              error = function(e) NA
            )
            data.frame(
              within = if (parted) shown_name(part$table, "flour", family$flour[1]) else NA,
              first = shown_name(part$table, column, pair[1]),
              second = shown_name(part$table, column, pair[2]),
              n_first = length(a),
              n_second = length(b),
              p = p
            )
          },
          simplify = FALSE
        )
      )
    })
  )
  wanted <- wanted[!is.na(wanted$p), ]
  if (
    !holds(
      verdict,
      NROW(told) == NROW(wanted),
      where,
      NROW(told),
      " comparisons for ",
      NROW(wanted)
    ) || !NROW(wanted)
  ) {
    return()
  }
  wanted$adjusted <- stats::p.adjust(wanted$p, part$ink$adjust)
  key <- function(of) paste(of$within, of$first, of$second)
  told <- told[match(key(wanted), key(told)), ]
  if (!holds(verdict, !anyNA(told$p), where, "comparisons are of other groups")) return()
  holds(
    verdict,
    identical(
      as.numeric(c(told$n_first, told$n_second)),
      as.numeric(c(wanted$n_first, wanted$n_second))
    ),
    where,
    "n of comparisons"
  )
  holds(verdict, near(told$p, wanted$p, 1e-5), where, "p of comparisons")
  holds(verdict, near(told$adjusted, wanted$adjusted, 1e-5), where, "adjusted p of comparisons")
}
