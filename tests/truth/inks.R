# What each ink must show of the rows of one mark, by R's own functions: names as in source data.

forward_of <- list(identity = identity, log10 = log10, log2 = log2, ln = log, sqrt = sqrt)
backward_of <- list(
  identity = identity,
  log10 = function(v) 10^v,
  log2 = function(v) 2^v,
  ln = exp,
  sqrt = function(v) v^2
)

# A centre with its error of values v on a scale.
true_centre <- function(v, centre, error, scale, exact = FALSE) {
  at <- forward_of[[scale]](v)
  n <- length(at)
  middle <- switch(centre, mean = mean(at), median = stats::median(at), sum = sum(at))
  if (exact) {
    test <- stats::binom.test(sum(v), n)
    return(c(n = n, centre = mean(v), lower = test$conf.int[1], upper = test$conf.int[2]))
  }
  half <- switch(
    error,
    sd = stats::sd(at),
    se = stats::sd(at) / sqrt(n),
    ci = if (n > 1) stats::qt(0.975, n - 1) * stats::sd(at) / sqrt(n) else NA,
    NA
  )
  ends <- switch(
    error,
    range = range(at),
    quartiles = stats::quantile(at, c(0.25, 0.75), names = FALSE),
    middle + c(-1, 1) * half
  )
  back <- backward_of[[scale]]
  # A root of less than nothing is none.
  if (scale == "sqrt") ends[!is.na(ends) & ends < 0] <- NA
  c(n = n, centre = back(middle), lower = back(ends[1]), upper = back(ends[2]))
}

true_box <- function(v, scale) {
  at <- forward_of[[scale]](v)
  q <- stats::quantile(at, c(0.25, 0.5, 0.75), names = FALSE)
  reach <- 1.5 * (q[3] - q[1])
  slack <- 1e-9 * (q[3] - q[1])
  inside <- at[at >= q[1] - reach - slack & at <= q[3] + reach + slack]
  back <- backward_of[[scale]]
  c(
    n = length(v),
    q1 = back(q[1]),
    median = back(q[2]),
    q3 = back(q[3]),
    low = back(min(inside)),
    high = back(max(inside))
  )
}

# Each ink: what it can stand on, how it is called, what is true of the rows of one mark (a named
# vector, NULL where nothing is drawn of them), by which columns its rows are parted into marks, and
# terms that the legend must hold.
#   axes    x and y of the panel: "level" a category, "value" a quantity, "ones" zeros and ones,
#           "when" dates or times, "hour" few whole numbers, NA none
#   parts   columns that part marks: of "x", "y", "colour"
centre_words <- list(
  sd = "standard deviation",
  se = "standard error",
  ci = "95 % confidence interval",
  range = "range|least",
  quartiles = "quartiles",
  exact = "exact 95 % interval",
  none = NULL
)

truth_inks <- list(
  points = function() {
    list(axes = c("value", "value"), call = quote(ink_points()), raw = TRUE, shapes = TRUE)
  },
  dots = function() {
    list(axes = c("level", "value"), call = quote(ink_dots()), raw = TRUE, may_lie = TRUE)
  },
  swarm = function() {
    list(axes = c("level", "value"), call = quote(ink_swarm()), raw = TRUE, may_lie = TRUE)
  },
  line = function() {
    list(axes = c(one_of("value", "when"), "value"), call = quote(ink_line()), raw = TRUE)
  },
  step = function() {
    list(axes = c("when", "value"), call = quote(ink_step()), raw = TRUE)
  },
  mean_line = function() {
    band <- one_of("sd", "se", "ci", "none")
    centre <- one_of("mean", "median")
    if (centre == "median") band <- one_of("quartiles", "range", "none")
    list(
      axes = c(one_of("hour", "when"), "value"),
      call = bquote(ink_line(centre = .(centre), band = .(band))),
      part = "line",
      parts = c("x", "colour"),
      true = function(rows, one) {
        true_centre(rows$value, centre, band, one$scale)
      },
      numbers = c("centre", "lower", "upper"),
      terms = c(centre, centre_words[[band]]),
      error = band
    )
  },
  bars = function() {
    centre <- one_of("mean", "median", "sum")
    error <- switch(
      centre,
      mean = one_of("sd", "se", "ci", "none"),
      median = one_of("quartiles", "range", "none"),
      sum = "none"
    )
    call <- if (centre == "sum") {
      quote(ink_bars(centre = "sum"))
    } else {
      bquote(ink_bars(centre = .(centre), error = .(error)))
    }
    list(
      axes = c("level", "value"),
      call = call,
      part = "bars",
      parts = c("x", "colour"),
      may_lie = TRUE,
      grounded = TRUE,
      true = function(rows, one) {
        true_centre(rows$value, centre, error, if (centre == "sum") "identity" else one$scale)
      },
      numbers = c("centre", "lower", "upper"),
      height = "centre",
      terms = c(centre, centre_words[[error]]),
      error = error
    )
  },
  shares = function() {
    list(
      axes = c("level", "ones"),
      call = quote(ink_bars(error = "exact")),
      part = "bars",
      parts = c("x", "colour"),
      grounded = TRUE,
      true = function(rows, one) true_centre(rows$value, "mean", "exact", "identity", TRUE),
      numbers = c("centre", "lower", "upper"),
      height = "centre",
      terms = centre_words$exact,
      error = "exact"
    )
  },
  counts = function() {
    list(
      axes = c("level", NA),
      call = quote(ink_bars()),
      part = "bars",
      parts = c("x", "colour"),
      grounded = TRUE,
      true = function(rows, one) c(n = nrow(rows), centre = nrow(rows)),
      numbers = "centre",
      height = "centre",
      terms = "count"
    )
  },
  centre = function() {
    centre <- one_of("mean", "median")
    error <- if (centre == "mean") one_of("sd", "se", "ci") else one_of("quartiles", "range")
    on <- one_of("axis", "data")
    list(
      axes = c("level", "value"),
      call = bquote(ink_centre(centre = .(centre), error = .(error), on = .(on))),
      part = "centre",
      parts = c("x", "colour"),
      may_lie = TRUE,
      true = function(rows, one) {
        true_centre(rows$value, centre, error, if (on == "axis") one$scale else "identity")
      },
      numbers = c("centre", "lower", "upper"),
      terms = c(centre, centre_words[[error]]),
      error = error
    )
  },
  box = function() {
    list(
      axes = c("level", "value"),
      call = quote(ink_box()),
      part = "box",
      parts = c("x", "colour"),
      may_lie = TRUE,
      true = function(rows, one) true_box(rows$value, one$scale),
      numbers = c("q1", "median", "q3", "low", "high"),
      terms = c("median", "quartiles", "whiskers")
    )
  },
  violin = function() {
    quartiles <- chance(0.5)
    list(
      axes = c("level", "value"),
      call = bquote(ink_violin(quartiles = .(quartiles))),
      part = "violin",
      parts = c("x", "colour"),
      may_lie = TRUE,
      true = function(rows, one) {
        # Of equal values there is no shape; with quartiles their median stands.
        if (!quartiles && length(unique(rows$value)) < 2) return(NULL)
        at <- stats::quantile(
          forward_of[[one$scale]](rows$value),
          c(0.25, 0.5, 0.75),
          names = FALSE
        )
        at <- backward_of[[one$scale]](at)
        c(n = nrow(rows), if (quartiles) c(q1 = at[1], median = at[2], q3 = at[3]))
      },
      numbers = if (quartiles) c("q1", "median", "q3"),
      terms = c("density", if (quartiles) c("median", "quartiles"))
    )
  },
  ridges = function() {
    list(
      axes = c("value", "level"),
      call = quote(ink_ridges()),
      part = "ridges",
      parts = c("y", "colour"),
      true = function(rows, one) if (length(unique(rows$value)) > 1) c(n = nrow(rows)),
      terms = "density"
    )
  },
  density = function() {
    list(
      axes = c("value", NA),
      call = quote(ink_density()),
      part = "density",
      parts = "colour",
      true = function(rows, one) if (length(unique(rows$value)) > 1) c(n = nrow(rows)),
      terms = "density"
    )
  },
  cumulative = function() {
    list(
      axes = c("value", NA),
      call = quote(ink_cumulative()),
      part = "cumulative",
      parts = "colour",
      true = function(rows, one) c(n = nrow(rows)),
      terms = "cumulative"
    )
  },
  quantiles = function() {
    list(
      axes = c(NA, "value"),
      call = quote(ink_quantiles()),
      part = "quantiles",
      parts = "colour",
      true = function(rows, one) if (nrow(rows) > 1) c(n = nrow(rows)),
      terms = "normal"
    )
  },
  histogram = function() {
    list(
      axes = c("value", NA),
      call = bquote(ink_histogram(arrange = .(one_of("stack", "overlay")))),
      part = "histogram",
      parts = "colour",
      grounded = TRUE,
      sums = TRUE,
      true = function(rows, one) c(n = nrow(rows)),
      terms = "bins"
    )
  },
  hexagons = function() {
    cells <- one_of("hexagons", "bins")
    list(
      axes = c("value", "value"),
      call = call(paste0("ink_", cells), bins = 8),
      part = cells,
      parts = character(),
      colourless = TRUE,
      cells = TRUE,
      true = function(rows, one) c(n = nrow(rows)),
      terms = "counts of values"
    )
  },
  rug = function() {
    list(axes = c("value", NA), call = quote(ink_rug()), raw = TRUE)
  },
  estimate = function() {
    list(
      axes = c("value", "loaf"),
      call = quote(ink_estimate(low, high)),
      raw = TRUE,
      needs = character(),
      of_few = TRUE,
      value = "rise"
    )
  },
  weighed = function() {
    list(
      axes = c("value", "value"),
      call = quote(ink_fit(weigh_by = hour)),
      part = "fit",
      parts = "colour",
      fits = TRUE,
      weights = "hour",
      needs = "hour",
      true = function(rows, one) {
        if (length(unique(rows$along)) < 2) return(NULL)
        c(n = nrow(rows))
      },
      terms = c("least squares", "weighed by hour")
    )
  },
  fit = function() {
    list(
      axes = c("value", "value"),
      call = quote(ink_fit()),
      part = "fit",
      parts = "colour",
      fits = TRUE,
      true = function(rows, one) {
        if (length(unique(rows$along)) < 2) return(NULL)
        c(n = nrow(rows))
      },
      terms = "least squares"
    )
  },
  value = function() {
    list(
      axes = c("value", "value"),
      call = quote(ink_value(n = TRUE)),
      part = "value",
      parts = "colour",
      true = function(rows, one) {
        x <- forward_of[[one$x_scale]](rows$along)
        y <- forward_of[[one$scale]](rows$value)
        constant <- length(unique(x)) < 2 || length(unique(y)) < 2
        if (nrow(rows) < 3 || constant) return(NULL)
        r <- stats::cor(x, y)
        ends <- if (nrow(rows) > 3) {
          tanh(atanh(r) + c(-1, 1) * stats::qnorm(0.975) / sqrt(nrow(rows) - 3))
        }
        c(n = nrow(rows), r = r, lower = ends[1], upper = ends[2])
      },
      numbers = "r",
      terms = "correlation"
    )
  },
  contrasts = function() {
    test <- one_of("welch", "student", "rank sum")
    adjust <- one_of("holm", "none", "bonferroni")
    list(
      axes = c("level", "value"),
      call = bquote(ink_contrasts(test = .(test), adjust = .(adjust))),
      also = quote(ink_dots()),
      compares = test,
      adjust = adjust,
      true = NULL,
      may_lie = TRUE
    )
  },
  pie = function() {
    list(
      axes = c(NA, NA),
      call = quote(ink_pie()),
      part = "pie",
      parts = "colour",
      must_colour = TRUE,
      true = function(rows, one) c(n = nrow(rows)),
      terms = "shares"
    )
  },
  residuals = function() {
    list(
      axes = c("value", "value"),
      call = quote(ink_residuals()),
      part = "residuals",
      parts = "colour",
      true = function(rows, one) {
        # A line needs three places to have residuals that say something; two have none.
        if (length(unique(rows$along)) < 2) return(NULL)
        c(n = nrow(rows))
      },
      replaces = TRUE,
      terms = "residual"
    )
  },
  contours = function() {
    list(
      axes = c("value", "value"),
      call = quote(ink_contours()),
      part = "contours",
      parts = "colour",
      true = function(rows, one) {
        lone <- length(unique(rows$along)) < 2 || length(unique(rows$value)) < 2
        if (nrow(rows) < 5 || lone) return(NULL)
        c(n = nrow(rows))
      },
      terms = "contours"
    )
  },
  classes = function() {
    list(
      axes = c(NA, NA),
      needs = c("mass", "passed"),
      call = quote(ink_classes(mass, passed)),
      part = "classes",
      parts = "colour",
      true = function(rows, one) {
        high <- rows$mass[rows$passed == 1]
        low <- rows$mass[rows$passed == 0]
        if (!length(high) || !length(low)) return(NULL)
        area <- mean(outer(high, low, function(a, b) (a > b) + 0.5 * (a == b)))
        c(n = nrow(rows), estimate = area)
      },
      numbers = "estimate",
      terms = c("receiver operating", "passed is 1")
    )
  },
  agreement = function() {
    list(
      axes = c(NA, NA),
      needs = c("rise", "again"),
      call = quote(ink_agreement(rise, again)),
      part = "agreement",
      parts = character(),
      true = function(rows, one) {
        if (nrow(rows) < 2) return(NULL)
        c(n = nrow(rows), centre = mean(rows$rise - rows$again))
      },
      numbers = "centre",
      colourless = TRUE,
      terms = c("bias", "limits")
    )
  }
)
