# Random figures for tests of what must hold of every figure.

random_words <- function(n, most) {
  vapply(
    seq_len(n),
    function(i) {
      wanted <- sample(most, 1)
      words <- character()
      while (sum(nchar(words)) + length(words) < wanted) {
        words <- c(words, paste(sample(letters, sample(1:11, 1), TRUE), collapse = ""))
      }
      paste0(
        substr(
          paste(words, collapse = sample(c(" ", "-", "/"), 1, prob = c(0.8, 0.1, 0.1))),
          1,
          wanted
        ),
        i
      )
    },
    ""
  )
}

# A figure of random level names, numbers of levels, kinds of ink and page sizes.
random_figure <- function(seed) {
  set.seed(seed)
  n_levels <- sample(c(1:8, 12, 20, 30), 1)
  n_groups <- sample(1:6, 1)
  n_split <- sample(1:6, 1)
  most <- sample(c(6, 20, 60), 1)
  n <- 60
  table <- data.frame(
    f = sample(random_words(n_levels, most), n, TRUE),
    g = sample(random_words(n_groups, most), n, TRUE),
    s = sample(random_words(n_split, most), n, TRUE),
    v = rnorm(n) * 10^sample(-6:7, 1) + sample(c(0, 100), 1),
    w = rexp(n) * 10^sample(-3:4, 1)
  )
  on_y <- runif(1) < 0.3
  split <- runif(1) < 0.6
  design <- switch(
    sample(5, 1),
    if (on_y) panel(table, y = f, x = w, ink_bars()) else panel(table, x = f, y = w, ink_bars()),
    panel(table, x = v, y = w, colour = g, ink_points()),
    if (on_y) {
      panel(table, y = f, x = v, colour = g, ink_box())
    } else {
      panel(table, x = f, y = v, colour = g, ink_box())
    },
    panel(table, x = log10(w), colour = g, ink_histogram(arrange = "stack")),
    panel(table, x = v, y = w, colour = w, size = w, ink_points(), ink_fit(equation = TRUE))
  )
  block <- if (split) facets(design, across = s, per_row = sample(c(1:3), 1)) else design
  width <- runif(1, 45, 200)
  height <- runif(1, 40, 230)
  if (runif(1) < 0.5) {
    return(
      plate(
        block,
        width = width,
        height = height,
        key = sample(list(NULL, "bottom", "right"), 1)[[1]]
      )
    )
  }
  # Several blocks: placements, letters, keys, titles and notes.
  other <- switch(
    sample(4, 1),
    every_pair(table, c(v, w), colour = g),
    joint(table, x = v, y = w, colour = g, ink_points()),
    panel(table, y = f, x = v, ink_dots()),
    text_panel(paste(random_words(3, 20), collapse = " "))
  )
  place <- switch(
    sample(3, 1),
    beside(block, other, widths = c(runif(1, 0.5, 2), 1)),
    stacked(block, other),
    beside(block, stacked(other, design))
  )
  plate(
    place,
    width = width,
    height = height,
    letters = sample(c("block", "panel", "none"), 1),
    key = sample(list(NULL, "top", "bottom", "right", "block"), 1)[[1]],
    title = if (runif(1) < 0.3) paste(random_words(4, 30), collapse = " "),
    note = if (runif(1) < 0.3) paste(random_words(6, 30), collapse = " "),
    house = sample(c("plain", "compact"), 1)
  )
}

# What is wrong with a scene: texts that touch, leave the page, enter a foreign plot area
# or are under the least size.
scene_faults <- function(scene, least_pt = 5.5) {
  texts <- scene$texts
  outside <- texts$x0 < -0.01 | texts$y0 < -0.01 | texts$x1 > scene$page$width_mm + 0.01 |
    texts$y1 > scene$page$height_mm + 0.01
  own <- c("value", "equation", "note", "share", "region letter", "point label", "phase", "cell")
  entering <- vapply(
    seq_len(nrow(scene$panels)),
    function(i) {
      area <- scene$panels[i, ]
      # A key that was placed in this panel.
      placed <- texts$role %in% c("key", "key title") & texts$panel %in% area$id
      any(
        !texts$role %in% own & !placed & texts$x0 < area$x + area$w - 0.01 &
          texts$x1 > area$x + 0.01 &
          texts$y0 < area$y + area$h - 0.01 & texts$y1 > area$y + 0.01 & texts$angle %in% c(0, 90)
      )
    },
    NA
  )
  touching <- nelvat:::touching_texts(scene)
  c(
    if (nrow(touching)) {
      paste0(
        texts$role[touching$a],
        " touches ",
        texts$role[touching$b],
        ": ",
        texts$string[touching$a],
        " | ",
        texts$string[touching$b]
      )
    },
    if (any(outside)) paste0(texts$role[outside], " leaves the page: ", texts$string[outside]),
    if (any(entering)) "a text enters a plot area",
    if (any(texts$size_pt < least_pt)) "a text is too small"
  )
}

random_scene <- function(seed) {
  fig <- random_figure(seed)
  changed <- as_scene(fig)
  changed$least_pt <- fig$house$type_pt$least
  changed
}
