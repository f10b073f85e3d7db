# Random tables for the truth check: levels in odd orders and odd texts, blanks in every column,
# groups of none, one and two, ties, dates and times over a change of clocks.

# Codes that look like markup, numbers or formulas, and names that a codebook gives them.
odd_levels <- list(
  c("*1/*1", "*1/*2", "*2/*2"),
  c("a^2^", "a2", "b~i~"),
  c("10", "9", "100"),
  c("HLA-A*02:01", "HLA-B*07:02", "none"),
  c("rye", "Rye", "RYE"),
  c("-1", "0", "+1"),
  c("Spelt, whole", "Einkorn (old)", "Oat & rye"),
  c("NA?", "true", "1e3"),
  c("\u00dcber", "\u03b1-mix", "n\u00b02")
)
given_names <- c("White wheat", "Dark rye", "Old oats")

one_of <- function(...) sample(list(...), 1)[[1]]
chance <- function(p) stats::runif(1) < p

# Of a category: its levels in the codebook's order, and what they are shown as.
random_category <- function(levels = one_of(2, 3), named = TRUE) {
  codes <- sample(odd_levels[[sample(length(odd_levels), 1)]])[seq_len(levels)]
  shown <- if (named && chance(0.3)) sample(given_names)[seq_len(levels)] else codes
  list(codes = codes, shown = shown)
}

# list(data, book, categories): data as they are, the codebook, and of each category its levels.
random_table <- function(categories = NULL) {
  # The unit of the data, and the one that is shown.
  unit <- one_of("g", "g", "kg")
  show <- one_of("g", "g", "kg", "mg")
  n <- one_of(7, 16, 40, 90)
  categories <- categories %||% list(
    flour = random_category(3),
    bakery = random_category(one_of(2, 3)),
    oven = random_category(2)
  )
  draw <- function(one) {
    # Some levels are rare, and some are not there.
    weight <- sample(c(1, 1, 1, 0.12), length(one$codes), TRUE)
    sample(one$codes, n, TRUE, weight)
  }
  data <- data.frame(
    flour = draw(categories$flour),
    bakery = draw(categories$bakery),
    oven = draw(categories$oven),
    mass = round(stats::rlnorm(n, 3, 0.6), one_of(0, 1, 2)) + 1,
    rise = round(stats::rnorm(n, one_of(5, 40), 4), one_of(0, 1)),
    n = round(stats::runif(n, 1, 9), 1),
    passed = stats::rbinom(n, 1, 0.6),
    hour = sample(1:one_of(3, 6), n, TRUE),
    day = as.Date("2025-03-24") + sample(0:one_of(4, 12), n, TRUE),
    time = as.POSIXct("2025-10-26 00:00", tz = "Europe/Berlin") + 1800 * sample(0:8, n, TRUE)
  )
  data$again <- round(data$rise + stats::rnorm(n), 1)
  data$low <- data$rise - 2
  data$high <- data$rise + 3
  data$loaf <- paste("loaf", seq_len(n))
  # Whose each value is, once a flour.
  data$mate <- paste("mate", stats::ave(seq_len(n), data$flour, FUN = seq_along))
  if (unit == "kg") data$mass <- data$mass / 1000
  for (column in sample(
    setdiff(names(data), c("day", "time", "low", "high", "loaf", "mate")),
    one_of(0, 1, 2)
  )) {
    data[[column]][sample(n, one_of(1, 3))] <- NA
  }
  kinds <- Map(
    function(one, name) {
      nelvat::category(
        name,
        order = one$codes,
        names = if (identical(one$codes, one$shown)) NULL else stats::setNames(one$shown, one$codes)
      )
    },
    categories,
    c("Flour", "Bakery", "Oven")
  )
  book <- do.call(
    nelvat::codebook,
    c(
      list(data),
      kinds,
      list(
        mass = nelvat::quantity("Loaf mass", unit = unit, show = if (show != unit) show),
        again = nelvat::quantity("Second rise", unit = "mm"),
        rise = nelvat::quantity("Loaf rise", unit = "mm"),
        n = nelvat::quantity("Crumb number"),
        passed = nelvat::quantity("Passed"),
        hour = nelvat::quantity("Hour", unit = "h")
      )
    )
  )
  list(data = data, book = book, categories = categories, unit = unit, show = show)
}

grams <- c(g = 1, kg = 1000, mg = 1e-3)

shown_name <- function(table, column, codes) {
  one <- table$categories[[column]]
  one$shown[match(codes, one$codes)]
}
