# What is drawn, and what is said beside it.

# Marks of a panel as data: positions in data units, by its axes.
in_data <- function(scene, area, table) {
  back <- function(direction, values) {
    axis <- scene$axes[[area[[paste0(direction, "_axis")]]]]
    at <- axis$range[1] + values * diff(axis$range)
    scale <- axis$transform
    if (scale %in% names(backward_of)) backward_of[[scale]](at) else at
  }
  table <- table[table$panel == area$id, ]
  for (column in intersect(c("x", "x0", "x1"), names(table))) {
    table[[column]] <- back("x", table[[column]])
  }
  for (column in intersect(c("y", "y0", "y1"), names(table))) {
    table[[column]] <- back("y", table[[column]])
  }
  table
}

judge_marks <- function(verdict, part, where, area, scene, rows, marks) {
  drawn <- Filter(function(one) one$block == area$block && one$primitive != "words", scene$marks)
  of_kind <- function(primitive) {
    found <- Filter(function(one) one$primitive == primitive, drawn)
    lapply(found, function(one) in_data(scene, area, as.data.frame(one$table)))
  }
  key_look <- function(code, what) {
    level <- shown_name(part$table, part$colour, code)
    scene$keys[[what]][scene$keys$key == part$colour & scene$keys$label == level][1]
  }
  at <- part$value
  if (isTRUE(part$ink$raw) && part$name %in% c("points", "dots", "swarm")) {
    points <- of_kind("points")[[1]]
    holds(verdict, near_sorted(points[[at]], rows$value), where, "points stand elsewhere")
    for (code in if (!is.null(part$colour)) unique(rows[[part$colour]])) {
      own <- rows[rows[[part$colour]] == code, ]
      look <- key_look(code, "colour")
      holds(
        verdict,
        near_sorted(points[[at]][points$colour == look], own$value),
        where,
        "colour of ",
        code
      )
      symbol <- key_look(code, "shape")
      if (!is.na(symbol) && part$name == "points") {
        holds(
          verdict,
          all(points$shape[points$colour == look] == symbol),
          where,
          "symbol of ",
          code
        )
      }
    }
  }
  marks <- Filter(function(one) !is.null(one$true), marks)
  heights <- function(name) unname(vapply(marks, function(one) one$true[[name]], 0))
  if (!is.null(part$ink$height)) {
    rects <- of_kind("rects")[[1]]
    long <- if (at == "y") rects$y1 - rects$y0 else rects$x1 - rects$x0
    holds(verdict, near_sorted(long, heights("centre")), where, "bars of other lengths")
    judge_colours(
      verdict,
      part,
      where,
      marks,
      key_look,
      function(look) length(long[rects$fill == look])
    )
  }
  if (part$name == "centre" && length(marks)) {
    points <- of_kind("points")[[1]]
    holds(verdict, near_sorted(points[[at]], heights("centre")), where, "centres stand elsewhere")
    judge_colours(verdict, part, where, marks, key_look, function(look) sum(points$colour == look))
  }
  if (part$name == "box" && length(marks)) {
    outlines <- of_kind("areas")[[1]]
    middle <- vapply(split(outlines[[at]], outlines$area), stats::median, 0)
    wide <- vapply(split(outlines[[at]], outlines$area), function(v) diff(range(v)), 0)
    holds(
      verdict,
      near_sorted(unname(wide), heights("q3") - heights("q1")),
      where,
      "boxes of other heights"
    )
    judge_colours(verdict, part, where, marks, key_look, function(look) {
      length(unique(outlines$area[outlines$colour == look]))
    })
  }
  if (isTRUE(part$ink$sums)) {
    rects <- of_kind("rects")[[1]]
    holds(
      verdict,
      near(sum(rects$y1 - rects$y0), sum(heights("n"))),
      where,
      "bins hold another sum"
    )
  }
  if (part$name %in% c("density", "cumulative", "ridges", "mean_line")) {
    lines <- of_kind(if (part$name == "ridges") "areas" else "lines")
    n <- length(unique(unlist(lapply(lines, function(one) one$line %||% one$area))))
    if (part$name != "mean_line") {
      holds(verdict, n == length(marks), where, n, " curves for ", length(marks))
    }
  }
}

judge_colours <- function(verdict, part, where, marks, key_look, count) {
  if (is.null(part$colour)) return()
  codes <- vapply(marks, function(one) as.character(one$levels[[part$colour]]), "")
  for (code in unique(codes)) {
    holds(
      verdict,
      count(key_look(code, "colour")) == sum(codes == code),
      where,
      "marks of the colour of ",
      code
    )
  }
}

# The legend's words of each block, and what is said of all.
legend_pieces <- function(legend, n) {
  if (n == 1) return(list(blocks = list(legend)))
  at <- regexpr(paste0("\\*\\*", letters[1], "[^*]*\\*\\*, "), legend)
  starts <- vapply(
    seq_len(n),
    function(i) as.integer(regexpr(paste0("**", letters[i], "**, "), legend, fixed = TRUE)),
    0L
  )
  ends <- c(starts[-1] - 1L, nchar(legend))
  list(blocks = as.list(substring(legend, starts, ends)))
}

# Each n that a legend says is one of the panels, of the marks or of the groups.
said_counts <- function(text) {
  found <- regmatches(text, gregexpr("n = [0-9,]+( to [0-9,]+)?", text))[[1]]
  gsub("n = |,", "", found)
}
range_words <- function(counts) paste(unique(range(counts)), collapse = " to ")

judge_legend <- function(verdict, part, i, text, whole, areas) {
  where <- paste0(part$name, ": the legend ")
  rows <- drawn_rows(part)
  groups <- if (!is.null(part$ink$true)) {
    by_panel <- if (is.null(part$split)) list(rows) else split(rows, rows[[part$split]])
    lapply(by_panel, function(own) Filter(function(one) !is.null(one$true), true_marks(part, own)))
  }
  used <- if (is.null(groups)) {
    rows
  } else {
    do.call(
      rbind,
      as.list(
        unlist(lapply(groups, function(panel) lapply(panel, `[[`, "rows")), recursive = FALSE)
      )
    )
  }
  if (!NROW(used)) {
    holds(verdict, !length(said_counts(text)), where, "says an n of nothing")
    return()
  }
  allowed <- character()
  columns <- unique(c(part$split, part$on[[part$along]], part$on$x, part$on$y, part$colour))
  columns <- columns[columns %in% c("flour", "bakery", "oven", "hour", "day", "time")]
  for (m in 0:length(columns)) {
    for (by in utils::combn(length(columns), m, simplify = FALSE)) {
      counts <- if (m) {
        table(
          do.call(
            paste,
            c(
              lapply(
                columns[by],
                function(column) as.character(as_told(part, column, used[[column]]))
              ),
              sep = "\r"
            )
          )
        )
      } else {
        nrow(used)
      }
      # Panels in which nothing is drawn have none.
      if (identical(columns[by], part$split) && length(counts) < NROW(areas)) counts <- c(0, counts)
      allowed <- c(allowed, range_words(counts))
    }
  }
  said <- said_counts(text)
  if (is.null(part$ink$compares)) {
    holds(verdict, length(said) > 0, where, "says no n")
    holds(
      verdict,
      all(said %in% allowed),
      where,
      "says n = ",
      setdiff(said, allowed)[1],
      ", the table ",
      paste(allowed, collapse = " or ")
    )
  }
  plain <- gsub("\\\\", "", text)
  for (term in part$ink$terms) {
    # An error that no mark has is not spoken of.
    if (identical(term, centre_words[[part$ink$error %||% "none"]])) {
      # A band has two sides; a bar may have one.
      sides <- if (identical(part$name, "mean_line")) c("lower", "upper") else "upper"
      limits <- unlist(
        lapply(groups, function(panel) lapply(panel, function(one) sum(one$true[sides])))
      )
      if (all(is.na(limits))) {
        holds(verdict, !grepl(term, plain), where, "speaks of a ", term, " that no mark has")
        next
      }
    }
    # What several letters share is said after them.
    said_in <- paste(plain, gsub("\\\\", "", whole))
    holds(verdict, grepl(term, said_in, ignore.case = TRUE), where, "lacks \"", term, "\"")
  }
  scaled <- unlist(part$scales[lengths(part$on) > 0])
  if (any(scaled %in% c("log10", "log2", "ln"))) {
    holds(verdict, grepl("log|ln", plain), where, "lacks its logarithm")
  }
  if (any(scaled == "sqrt")) holds(verdict, grepl("square", plain), where, "lacks its square root")
  if (!is.null(part$split)) {
    for (level in areas$heading) {
      holds(verdict, grepl(level, plain, fixed = TRUE), where, "lacks the level ", level)
    }
  }
  if (!is.null(part$keep)) {
    given <- nrow(part$table$data)
    kept <- nrow(asked_rows(part))
    if (kept < given) {
      holds(
        verdict,
        grepl(paste0("\\b", kept, "\\b[^.]*\\b", given, "\\b"), whole),
        where,
        "lacks that ",
        kept,
        " of ",
        given,
        " are kept"
      )
    }
  }
  if (part$name == "contrasts") {
    name <- c(welch = "Welch", student = "Student", `rank sum` = "Wilcoxon|rank")[[
      part$ink$compares
    ]]
    tested <- any(
      vapply(
        split(rows, if (is.null(part$colour)) rep(1, nrow(rows)) else rows$flour),
        function(own) {
          group <- own[[if (is.null(part$colour)) "flour" else "bakery"]]
          # Of groups that are each one value over there is no test.
          varied <- any(tapply(own$value, group, function(all) length(unique(all)) > 1))
          varied && sum(table(group) > 1) > 1
        },
        NA
      )
    )
    said_in <- paste(plain, gsub("\\\\", "", whole))
    if (tested) holds(verdict, grepl(name, said_in), where, "lacks its test")
  }
}

# Keys name the levels that are drawn, in the codebook's order.
judge_keys <- function(verdict, parts, scene, legend) {
  coloured <- Filter(function(part) !is.null(part$colour) && part$name != "pie", parts)
  if (!length(coloured)) {
    holds(verdict, !any(scene$keys$key == "bakery"), "a key without colours")
    return()
  }
  shown <- unlist(
    lapply(coloured, function(part) {
      rows <- drawn_rows(part)
      codes <- part$table$categories$bakery$codes
      shown_name(part$table, "bakery", codes[codes %in% rows$bakery])
    })
  )
  entries <- scene$keys$label[scene$keys$key == "bakery" & !is.na(scene$keys$label)]
  holds(verdict, all(shown %in% entries), "the key lacks ", setdiff(shown, entries)[1])
  tables <- unique(lapply(coloured, function(part) part$table$categories$bakery$shown))
  if (length(tables) == 1) {
    holds(
      verdict,
      identical(unique(entries), tables[[1]][tables[[1]] %in% entries]),
      "the key's order is ",
      paste(entries, collapse = ", ")
    )
  }
}

# Every text of the scene can be read in the file.
judge_pdf <- function(verdict, made, scene, areas) {
  path <- tempfile(fileext = ".pdf")
  on.exit(unlink(path))
  nelvat::save_plate(made$plate, path)
  words <- system2("pdftotext", c("-raw", shQuote(path), "-"), stdout = TRUE)
  squeezed <- gsub("[[:space:]\u00a0]", "", paste(words, collapse = ""))
  for (level in unique(
    unlist(
      lapply(made$parts, function(part) if (!is.null(part$split)) part$table$categories$oven$shown)
    )
  )) {
    if (level %in% scene$panels$heading) {
      holds(
        verdict,
        grepl(gsub("[[:space:]]", "", level), squeezed, fixed = TRUE),
        "the page lacks the heading ",
        level
      )
    }
  }
  for (label in unique(stats::na.omit(scene$keys$label))) {
    holds(
      verdict,
      grepl(gsub("[[:space:]]", "", label), squeezed, fixed = TRUE),
      "the page lacks the key entry ",
      label
    )
  }
}
