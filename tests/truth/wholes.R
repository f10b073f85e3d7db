# Figures of more than one kind of panel, against what is true of them: matrices of pairs, joint
# figures with their marginals, maps of tiles, and tests whose groups belong together.

truth_wholes <- list(
  matrix = function(table) {
    columns <- c("mass", "rise", "n")
    coloured <- chance(0.4)
    list(
      call = bquote(
        every_pair(
          book,
          c(mass, rise, n),
          colour = .(if (coloured) quote(bakery)),
          above = ink_value(n = TRUE)
        )
      ),
      judge = function(verdict, plate) {
        data <- kept_rows(table, if (coloured) "bakery")
        source <- nelvat::source_data(plate)
        for (pair in utils::combn(columns, 2, simplify = FALSE)) {
          rows <- data[stats::complete.cases(data[pair]), ]
          groups <- if (coloured) split(rows, rows$bakery) else list(rows)
          # Below all rows stand, above those of groups that have a correlation.
          below <- paste(pair[2], "by", pair[1])
          above <- paste(pair[1], "by", pair[2])
          judge_values(verdict, source[[below]], rows, pair, below)
          with_r <- Filter(function(own) correlates(own, pair), groups)
          judge_values(verdict, source[[above]], do.call(rbind, with_r), pair, above)
          found <- source[[above]]
          for (own in groups) judge_r(verdict, found, own, pair, table, coloured)
        }
        for (column in columns) {
          rows <- data[!is.na(data[[column]]), ]
          if (coloured) {
            groups <- Filter(
              function(own) length(unique(own[[column]])) > 1,
              split(rows, rows$bakery)
            )
            rows <- do.call(rbind, groups)
          }
          judge_values(verdict, source[[column]], rows, column, column)
        }
      }
    )
  },
  joint = function(table) {
    coloured <- chance(0.5)
    list(
      call = bquote(
        joint(book, mass, rise, ink_points(), colour = .(if (coloured) quote(bakery)))
      ),
      judge = function(verdict, plate) {
        rows <- kept_rows(table, c("mass", "rise", if (coloured) "bakery"))
        source <- nelvat::source_data(plate)
        judge_values(verdict, source$panel, rows, c("mass", "rise"), "joint")
        for (side in c("x", "y")) {
          edge <- source[[paste("margin of", side)]]
          value <- c(x = "mass", y = "rise")[[side]]
          groups <- if (coloured) split(rows, rows$bakery) else list(rows)
          groups <- Filter(function(own) length(unique(own[[value]])) > 1, groups)
          judge_edge(verdict, edge, groups, value, table, coloured, side)
        }
        said <- said_counts(nelvat::legend_text(plate))
        holds(verdict, as.character(nrow(rows)) %in% said, "joint: the legend lacks its n")
      }
    )
  },
  tiles = function(table) {
    list(
      call = quote(
        panel(counts(book, flour, bakery), x = flour, y = bakery, ink_tiles(), colour = n)
      ),
      judge = function(verdict, plate) {
        rows <- kept_rows(table, c("flour", "bakery"))
        wanted <- as.data.frame(table(flour = rows$flour, bakery = rows$bakery))
        wanted$flour <- shown_name(table, "flour", wanted$flour)
        wanted$bakery <- shown_name(table, "bakery", wanted$bakery)
        found <- nelvat::source_data(plate)$panel
        at <- match(
          paste(wanted$flour, wanted$bakery, sep = "\r"),
          paste(found$flour, found$bakery, sep = "\r")
        )
        number <- intersect(c("n", "n (column)"), names(found))[1]
        said <- ifelse(is.na(at), 0, found[[number]][at])
        holds(verdict, identical(as.numeric(said), as.numeric(wanted$Freq)), "tiles: other counts")
        words <- Filter(function(one) one$primitive == "words", nelvat::as_scene(plate)$marks)
        written <- unlist(lapply(words, function(one) one$table$label))
        if (length(written)) {
          holds(
            verdict,
            identical(sort(as.numeric(written)), sort(as.numeric(said[!is.na(at)]))),
            "tiles: other numbers written"
          )
        }
      }
    )
  },
  tests = function(table) {
    test <- one_of("tukey", "dunnett", "paired", "signed rank")
    codes <- table$categories$flour$codes
    list(
      call = bquote(
        panel(
          book,
          x = flour,
          y = rise,
          ink_dots(),
          ink_contrasts(
            test = .(test),
            between = .(if (test == "dunnett") codes[1] else "all"),
            subject = .(if (test %in% c("paired", "signed rank")) quote(mate)),
            adjust = "none"
          )
        )
      ),
      judge = function(verdict, plate) {
        judge_family(verdict, plate, table, test, codes)
      }
    )
  }
)

# The rows in which nothing asked is missing, the mass in its shown unit.
kept_rows <- function(table, columns) {
  data <- table$data
  data$mass <- data$mass * grams[[table$unit]] / grams[[table$show]]
  data[stats::complete.cases(data[columns]), ]
}

judge_values <- function(verdict, found, rows, columns, where) {
  if (!holds(verdict, !is.null(found) || !NROW(rows), where, ": no source data")) return()
  values <- found[found$part == "values", ]
  if (!NROW(rows)) {
    holds(verdict, !NROW(values), where, ": values of nothing")
    return()
  }
  for (column in columns) {
    # A column that has a result's name is told apart from it.
    name <- if (column %in% "n" && "n (column)" %in% names(values)) "n (column)" else column
    holds(
      verdict,
      near_sorted(values[[name]], rows[[column]]),
      where,
      ": other values of ",
      column
    )
  }
}

correlates <- function(rows, pair) {
  nrow(rows) > 2 && all(vapply(rows[pair], function(v) length(unique(v)) > 1, NA))
}

judge_r <- function(verdict, found, rows, pair, table, coloured) {
  value <- found[found$part == "value", ]
  if (coloured) value <- value[value$bakery %in% shown_name(table, "bakery", rows$bakery[1]), ]
  where <- paste0(pair[1], " by ", pair[2], ": ")
  if (!correlates(rows, pair)) {
    holds(verdict, all(is.na(value$r)), where, "a correlation of what has none")
    return()
  }
  holds(verdict, near(value$r, stats::cor(rows[[pair[1]]], rows[[pair[2]]])), where, "other r")
  holds(verdict, identical(as.numeric(value$n), as.numeric(nrow(rows))), where, "other n")
}

# What stands at an edge: bins that hold all, or a density a group.
judge_edge <- function(verdict, edge, groups, value, table, coloured, side) {
  if ("histogram" %in% edge$part) {
    rows <- do.call(rbind, groups)
    holds(verdict, sum(edge$n) == nrow(rows), "edge ", side, ": bins of another sum")
    within <- vapply(
      seq_len(nrow(edge)),
      function(k) sum(rows[[value]] >= edge$from[k] & rows[[value]] < edge$to[k]),
      0L
    )
    closed_right <- vapply(
      seq_len(nrow(edge)),
      function(k) sum(rows[[value]] > edge$from[k] & rows[[value]] <= edge$to[k]),
      0L
    )
    closed_right[1] <- closed_right[1] + sum(rows[[value]] == edge$from[1])
    holds(
      verdict,
      identical(as.numeric(edge$n), as.numeric(closed_right)) ||
        identical(as.numeric(edge$n), as.numeric(within)),
      "edge ",
      side,
      ": bins hold others than their edges"
    )
    return()
  }
  # What is not drawn is told as one row, with why.
  edge <- edge[!is.na(edge$density), ]
  curves <- if (is.null(edge)) 0 else nrow(unique(edge[intersect("bakery", names(edge))]))
  wanted <- length(groups)
  if (!coloured && NROW(edge)) curves <- 1
  if (!holds(verdict, curves == wanted, "edge ", side, ": ", curves, " curves for ", wanted)) {
    return()
  }
  for (own in groups) {
    mine <- if (coloured) {
      edge[edge$bakery == shown_name(table, "bakery", own$bakery[1]), ]
    } else {
      edge
    }
    holds(verdict, all(mine$n == nrow(own)), "edge ", side, ": other n")
    wanted <- stats::density(own[[value]], bw = "nrd0")
    at <- stats::approx(wanted$x, wanted$y, mine[[value]], rule = 2)$y
    holds(
      verdict,
      max(abs(at - mine$density)) < 0.02 * max(wanted$y),
      "edge ",
      side,
      ": another density"
    )
  }
}

# p of tests whose groups belong together, by R's own or by integrating the distribution.
judge_family <- function(verdict, plate, table, test, codes) {
  found <- nelvat::contrast_table(plate)
  paired <- test %in% c("paired", "signed rank")
  rows <- kept_rows(table, c("flour", "rise", if (paired) "mate"))
  codes <- codes[codes %in% names(which(table(rows$flour) > 1))]
  name <- function(code) shown_name(table, "flour", code)
  pairs <- if (length(codes) > 1) utils::combn(codes, 2, simplify = FALSE)
  if (test == "dunnett") pairs <- Filter(function(pair) codes[1] %in% pair, pairs)
  legend <- nelvat::legend_text(plate)
  holds(
    verdict,
    grepl(
      c(tukey = "Tukey", dunnett = "Dunnett", paired = "paired t", `signed rank` = "signed rank")[[
        test
      ]],
      legend
    ),
    test,
    ": the legend lacks its test"
  )
  for (pair in pairs) {
    own <- found[found$first == name(pair[1]) & found$second == name(pair[2]), ]
    a <- rows$rise[rows$flour == pair[1]]
    b <- rows$rise[rows$flour == pair[2]]
    wanted <- switch(
      test,
      tukey = {
        model <- stats::aov(rise ~ flour, droplevels(transform(rows, flour = factor(flour))))
        all <- stats::TukeyHSD(model)$flour
        both <- c(paste(pair, collapse = "-"), paste(rev(pair), collapse = "-"))
        all[match(both, rownames(all)), "p adj"][!is.na(match(both, rownames(all)))][1]
      },
      dunnett = NA,
      NA
    )
    if (!is.na(wanted)) {
      holds(verdict, nrow(own) == 1 && near(own$adjusted, unname(wanted), 1e-5), test, ": other p")
    }
    if (!paired && NROW(own)) {
      holds(
        verdict,
        own$n_first == length(a) && own$n_second == length(b),
        test,
        ": other n of ",
        paste(pair, collapse = " and ")
      )
      holds(verdict, near(own$difference, mean(b) - mean(a)), test, ": another difference")
    }
  }
}

judge_whole <- function(seed) {
  set.seed(seed)
  verdict <- new_verdict()
  table <- random_table()
  name <- sample(names(truth_wholes), 1)
  whole <- truth_wholes[[name]](table)
  block <- eval(whole$call, list(book = table$book), asNamespace("nelvat"))
  plate <- nelvat::plate(block, width = 178, height = 160)
  whole$judge(verdict, plate)
  judge_left_out(verdict, nelvat::as_scene(plate))
  list(
    seed = seed,
    checked = verdict$checked,
    false = paste(name, verdict$false)[seq_along(verdict$false)]
  )
}
