# Random calls made from the table of words: any word that goes into a plate, with any of its
# arguments, of values that their types allow, now and then of others. What comes of each is a plate
# of which everything can be said, or an error of the package's own.

# Text that means something to what figures are written in.
hostile_texts <- c(
  "<b>&amp;</b>",
  "]]>",
  "Tj) ET",
  "\\d",
  "=1+1",
  "@SUM(A1)",
  "../../etc",
  "a\"b",
  "%s%n",
  "${x}",
  "{level}",
  "**",
  "~x^y",
  "a\tb",
  "\u202eabc",
  "line\nbreak",
  "#",
  "1e5",
  "TRUE",
  "-"
)
often <- function(share) stats::runif(1) < share

# A table of the study, small, with what tables have: missing, text, dates, counts.
tree_table <- function() {
  n <- sample(c(1, 4, 30, 90), 1, prob = c(1, 1, 4, 2))
  start <- as.POSIXct("2026-03-02 06:00", tz = "Europe/Oslo")
  table <- data.frame(
    flour = sample(c("wheat", "spelt", "rye"), n, TRUE),
    bakery = sample(c("harbour", "mill"), n, TRUE),
    rise = round(stats::rnorm(n, 50, 12), 1),
    acidity = round(stats::rexp(n, 0.1), 2),
    verdict = sample(0:1, n, TRUE),
    grade = sample(1:3, n, TRUE),
    baked = as.Date("2026-01-05") + sample(0:60, n, TRUE),
    time = start + sort(sample(0:90000, n, TRUE)),
    error = round(stats::runif(n, 0, 5), 1)
  )
  if (often(0.15)) {
    called <- sample(hostile_texts, 3)
    table$flour <- called[match(table$flour, c("wheat", "spelt", "rye"))]
  }
  if (often(0.3)) {
    column <- sample(names(table), 1)
    table[[column]][sample(n, ceiling(n / 5))] <- NA
  }
  table
}

tree_columns <- c(
  "flour", "bakery", "rise", "acidity", "verdict", "grade", "baked", "time", "error"
)
tree_numbers <- c("rise", "acidity", "error", "verdict", "grade")

# Whether something odd is said: never in four trees of five.
wild <- new.env()
odd <- function(share) wild$here && often(share)

tree_column <- function(columns = tree_columns) {
  column <- as.name(sample(columns, 1))
  if (!odd(0.12)) return(column)
  pick(
    call("log10", column),
    call("reverse", column),
    call("category", column),
    call("*", column, 2),
    call("in_bins", column, 5),
    as.name("rice")
  )
}

tree_number <- function(type) {
  least <- type$least %||% -Inf
  most <- type$most %||% Inf
  among <- c(0, 0.05, 0.3, 0.5, 0.95, 1, 2, 3, 5, 12, 40, -3, least, most)
  among <- among[is.finite(among) & among >= least & among <= most]
  if (isTRUE(type$whole)) among <- among[among == round(among)]
  if (!length(among) || odd(0.04)) return(pick(-1, 0, NA, Inf, 1e9, "a"))
  pick_one(among)
}
pick_one <- function(values) values[[sample(length(values), 1)]]

tree_condition <- function() {
  pick(
    quote(rise > 50),
    quote(flour == "rye"),
    quote(baked < "2026-02-01"),
    quote(is.na(acidity)),
    quote(acidity / rise > 0.1 & bakery %in% "mill"),
    quote(flour)
  )
}

# For what only a function of its own can check, by the argument's name; else anything.
tree_own <- function(argument) {
  known <- list(
    range = quote(c(0, 80)),
    every = pick(10, "2 weeks", 0.5),
    minor = pick(5, "1 day"),
    breaks = pick(quote(c(10, 40)), quote(c()), quote(c("rye", "spelt"))),
    format = pick(1, "%d %b", 0),
    from = quote(c(20, 5)),
    to = quote(c(50, 30)),
    colour = pick("navy", "#aa3300", "none"),
    width = pick(0.5, 3, 30),
    whiskers = pick(1.5, "range", 0, 3),
    between = pick(
      "all",
      "neighbours",
      "none",
      "colour",
      quote(list(c("rye", "wheat"))),
      "wheat"
    ),
    formula = pick(quote(y ~ 2 * x), quote(y ~ x^2 / 10), quote(y ~ q)),
    model = pick("line", "loess", "exponential", "dose-response", quote(y ~ a * x + b)),
    gap = pick(3, "2 days"),
    x = pick(20, quote(c(10, 40)), "rye", quote(c(NA, 30)), quote(as.Date("2026-01-20"))),
    y = pick(20, quote(c(10, 40)), "rye", quote(c(NA, 30)))
  )
  known[[argument]] %||% pick(1, "a", TRUE, quote(list(1)))
}

tree_value <- function(type, argument) {
  switch(
    type$kind,
    number = tree_number(type),
    choice = pick_one(type$choices),
    flag = often(0.5),
    text = sample(c(setdiff(nasty_names, "NA "), "Loaf *rise*", "Flour", hostile_texts), 1),
    numbers = as.call(
      c(
        quote(c),
        lapply(seq_len(pick_one(seq(type$n[1], min(type$n[2], type$n[1] + 2)))), function(i) {
          tree_number(type)
        })
      )
    ),
    texts = as.call(c(quote(c), as.list(sample(c("rye", "wheat", "mill", "(Intercept)"), 2)))),
    either = tree_value(pick_one(type$types), argument),
    column = if (length(type$choices) && often(0.3)) pick_one(type$choices) else tree_column(),
    channel = tree_channel(argument),
    condition = tree_condition(),
    own = tree_own(argument),
    tree_part(type$kind, argument)
  )
}

tree_levels <- c("flour", "bakery", "grade", "verdict")
tree_channel <- function(argument) {
  if (odd(0.3)) return(tree_column())
  switch(
    argument,
    colour = if (often(0.7)) tree_column(tree_levels[1:2]) else pick("navy", "none", "#aa3300"),
    size = if (often(0.5)) tree_column(tree_numbers) else 1.2,
    shape = if (often(0.5)) quote(category(verdict)) else pick("disc", "diamond"),
    tree_column(tree_levels[1:2])
  )
}

tree_part <- function(kind, argument) {
  number <- function() tree_number(list(least = 0.1, most = 60))
  switch(
    kind,
    table = quote(table),
    variable = if (argument %in% c("x", "y")) tree_column() else tree_channel(argument),
    columns = as.call(c(quote(c), lapply(sample(tree_columns, sample(3, 1)), as.name))),
    ink = tree_ink(),
    inks = if (often(0.7)) tree_ink() else as.call(c(quote(list), tree_ink(), tree_ink())),
    panel = tree_panel(),
    axis = tree_word("axis_of"),
    derived = quote(c(both = rise + acidity, share = error / rise)),
    order = pick(quote(by_number()), quote(c("rye", "wheat")), quote(by_statistic(rise))),
    orders = quote(list(flour = c("rye", "wheat"))),
    policies = pick("drop", "own", "gap", "bridge"),
    house = if (odd(0.3)) "unknown" else pick("plain", "compact"),
    both = if (odd(0.3)) pick(quote(c(across = "Flours")), TRUE) else FALSE,
    mapping = pick(quote(list(a = 1, b = 2)), quote(c(a = 0.1))),
    scale_bar = quote(scale_bar(2, "mm", per_pixel = 0.1)),
    path = "missing.png",
    width = if (odd(0.3)) 7 else pick("single", "double", 60, 120),
    sizes = pick(quote(c(2, 1)), 1, quote(c(1, NA))),
    names = quote(c(flour = "Meal")),
    values = if (odd(0.3)) "flour" else pick("x", "y", quote(c("x", "y"))),
    pick(1, "a", number())
  )
}

# A word with some of its arguments; `given` stand as they are, unnamed ones last.
tree_word <- function(word, given = list(), without = character(), share = 0.25) {
  rows <- nelvat:::word_arguments(word)
  needed <- names(Filter(function(one) identical(one, quote(expr = )), formals(get(word))))
  for (argument in setdiff(names(rows), c(names(given), without))) {
    type <- rows[[argument]]
    if (isTRUE(type$dots) || !(argument %in% needed || often(share))) next
    value <- tree_value(type, argument)
    given[argument] <- list(value)
  }
  named <- nzchar(names(given) %||% rep("", length(given)))
  as.call(c(as.name(word), given[named], given[!named]))
}

tree_inks <- function() {
  words <- words_with_rows()
  setdiff(words[startsWith(words, "ink_")], c("ink_image", "ink_images", "ink_tree", "ink_strip"))
}

tree_ink <- function(words = tree_inks()) {
  word <- sample(words, 1)
  tree_word(word, if (word == "ink_phases") list(quote(phases)) else list())
}

# The first of some calls that the package takes, or of which it has an error that is not its own.
accepted <- function(make) {
  for (i in seq_len(if (wild$here) 1 else 12)) {
    call <- make()
    refused <- tryCatch(
      {
        suppressMessages(suppressWarnings(eval(call, wild$tables)))
        FALSE
      },
      nelvat_error = function(error) TRUE,
      error = function(error) FALSE
    )
    if (!refused) break
  }
  call
}

tree_panel <- function() accepted(any_panel)
# Axes that most inks can stand on, or only some.
any_panel <- function() {
  numbers <- function() tree_column(tree_numbers)
  levels <- function() as.name(sample(tree_levels[1:2], 1))
  axes <- pick(
    function() list(x = levels(), y = numbers()),
    function() list(x = numbers(), y = numbers()),
    function() list(x = numbers()),
    function() list(x = levels()),
    function() list(x = as.name(sample(c("baked", "time"), 1)), y = numbers()),
    function() list(x = numbers(), y = levels()),
    function() list(y = levels()),
    function() list(),
    function() list(x = levels(), y = levels()),
    function() list(x = tree_column(), y = tree_column())
  )
  inks <- lapply(seq_len(sample(3, 1, prob = c(4, 3, 1))), function(i) tree_ink())
  colour <- if (often(0.4)) list(colour = levels())
  tree_word("panel", c(list(quote(table)), axes, colour, inks), c("data", "ink", "x", "y"), 0.06)
}

tree_block <- function(depth = 0) accepted(function() any_block(depth))
any_block <- function(depth) {
  word <- pick_one(
    c(
      rep("panel", 4),
      rep("facets", 3),
      "every_pair",
      "joint",
      "marginals",
      "table_panel",
      "text_panel",
      if (depth < 2) c("beside", "stacked")
    )
  )
  if (word %in% c("beside", "stacked")) {
    blocks <- lapply(seq_len(sample(2:3, 1)), function(i) tree_block(depth + 1))
    return(as.call(c(as.name(word), blocks)))
  }
  if (word == "panel") return(tree_panel())
  first <- switch(
    word,
    facets = c(list(tree_panel()), if (often(0.8)) list(across = quote(flour))),
    every_pair = list(quote(table), quote(c(rise, acidity, error))),
    joint = list(quote(table), x = quote(rise), y = quote(acidity)),
    marginals = list(
      tree_panel(),
      x = tree_ink(c(tree_inks(), "ink_strip", "ink_strip", "ink_tree"))
    ),
    table_panel = list(quote(table[seq_len(min(4, nrow(table))), c("flour", "rise", "baked")])),
    text_panel = list("Loaves *of* the mill")
  )
  without <- c("panel", "data", "columns", "text", if (word == "facets") "across")
  tree_word(word, first, without, 0.12)
}

tree_plate <- function() {
  blocks <- lapply(seq_len(sample(3, 1)), function(i) tree_block())
  if (often(0.1)) {
    blocks <- c(blocks, tree_word("zoom", list(of = 1, x = quote(c(20, 40)))))
  }
  tree_word("plate", blocks, c("place", "height", if (!wild$here) c("widths", "heights")), 0.1)
}

# A plate changed in one argument of any of its words.
changed_call <- function(call) {
  rows <- nelvat:::word_arguments(sample(c("plate", "panel", "facets", "axis_of", tree_inks()), 1))
  rows <- rows[!names(rows) %in% c("data", "panel", "place", "ink")]
  if (!length(rows)) return(call)
  argument <- sample(names(rows), 1)
  value <- list(tree_value(rows[[argument]], argument))
  as.call(c(quote(change), call, stats::setNames(value, argument)))
}

# In every form, with its report.
written_soundly <- function(fig) {
  folder <- withr::local_tempdir()
  paths <- file.path(folder, paste0("figure.", c("pdf", "svg", "png")))
  written <- save_plate(fig, paths, dpi = 72)
  report(fig, file.path(folder, "report.html"))
  if (any(file.size(written) < 100)) stop("a file is empty")
}

# list(call, found): the call of a seed and NULL, or what came of it that should not.
tree_case <- function(seed) {
  set.seed(seed)
  phases <- data.frame(
    from = as.Date(c("2026-01-10", "2026-02-01")),
    to = as.Date(c("2026-01-20", "2026-02-20")),
    name = c("cold", "warm")
  )
  wild$here <- often(0.2)
  wild$tables <- list2env(list(table = tree_table(), phases = phases), parent = globalenv())
  call <- tree_plate()
  if (often(0.15)) call <- changed_call(call)
  saved <- often(0.1)
  found <- sound_or_told({
    fig <- eval(call, wild$tables)
    broken <- broken_invariants(as_scene(fig))
    if (length(broken)) stop(paste(broken, collapse = "; "))
    said <- c(
      legend_text(fig),
      legend_text(fig, length = "short"),
      legend_text(fig, length = "checklist"),
      alt_text(fig),
      alt_text(fig, length = "full")
    )
    odd <- grep("NA |NaN|NULL|character\\(|list\\(|  |Inf\\b|\\( ?\\)|, ,", said, value = TRUE)
    if (length(odd)) stop("odd words: ", odd[1])
    source_data(fig)
    fits(fig)
    contrast_table(fig)
    proof(fig)
    if (saved) written_soundly(fig)
  })
  list(call = call, found = found)
}
