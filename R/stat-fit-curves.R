# Curves that are no polynomials, fitted to one group (see stat-fit.R for what comes back).
#
# Nonlinear least squares by stats::nls(), from the best of several starts; the band by the delta
#   method, half = t(n - k) sqrt(g' V g), g the slope of the curve in its parameters, V their
# covariance. Source: Bates and Watts (1988), "Nonlinear Regression Analysis and Its Applications";
# the forms of curves as in Ratkowsky (1990), "Handbook of Nonlinear Regression Models".
# "robust": Huber's M estimate of a line with k = 1.345 and the scale by the median absolute
# residual, errors after Huber (1981), "Robust Statistics", section 7.6. "binomial": logistic
# regression by stats::glm(), its band on the scale of the logit.

# list(words, terms: of the parameters, shown; names: in which they are fitted; value(x, p);
# starts(x, y): list of vectors; log_terms: names of parameters fitted as logarithms; needs(x),
# sound(p): what is wrong, or NULL).
curve_model <- function(model, how) {
  if (model == "formula") return(own_curve(how))
  curves[[model]](how$parameters)
}

curve_words <- c(
  exponential = "exponential curve", power = "power curve", logistic = "logistic curve",
  `dose-response` = "log-logistic dose-response curve",
  `michaelis-menten` = "Michaelis-Menten curve",
  formula = "curve"
)

curves <- list(
  exponential = function(parameters) {
    list(
      terms = c("a", "rate"),
      names = c("a", "rate"),
      value = function(x, p) p[["a"]] * exp(p[["rate"]] * x),
      starts = function(x, y) {
        sign <- if (mean(y) < 0) -1 else 1
        positive <- sign * y > 0
        line <- if (sum(positive) > 1) {
          stats::lm.fit(cbind(1, x[positive]), log(sign * y[positive]))$coefficients
        } else {
          c(0, 0)
        }
        list(
          c(a = sign * exp(line[[1]]), rate = line[[2]]),
          c(a = mean(y), rate = 0.1 / diff(range(x))),
          c(a = mean(y), rate = -1 / diff(range(x)))
        )
      }
    )
  },
  power = function(parameters) {
    list(
      terms = c("a", "exponent"),
      names = c("a", "exponent"),
      value = function(x, p) p[["a"]] * x^p[["exponent"]],
      starts = function(x, y) {
        sign <- if (mean(y) < 0) -1 else 1
        positive <- sign * y > 0 & x > 0
        line <- if (sum(positive) > 1) {
          stats::lm.fit(cbind(1, log(x[positive])), log(sign * y[positive]))$coefficients
        } else {
          c(0, 1)
        }
        list(
          c(a = sign * exp(line[[1]]), exponent = line[[2]]),
          c(a = mean(y) / max(x), exponent = 1)
        )
      },
      needs = function(x) if (any(x < 0)) "a power curve needs x of zero or more"
    )
  },
  logistic = function(parameters) {
    sigmoid(
      parameters %||% 3,
      c("bottom", "top", "rate", "middle"),
      function(x, p) 1 / (1 + exp(-p[["rate"]] * (x - p[["middle"]]))),
      identity
    )
  },
  `dose-response` = function(parameters) {
    changed(
      sigmoid(
        parameters %||% 4,
        c("bottom", "top", "slope", "EC50"),
        function(x, p) 1 / (1 + exp(-p[["slope"]] * (log(x) - p[["EC50"]]))),
        log
      ),
      log_terms = "EC50",
      needs = function(x) if (any(x < 0)) "doses are zero or more"
    )
  },
  `michaelis-menten` = function(parameters) {
    list(
      terms = c("Vmax", "Km"),
      names = c("Vmax", "Km"),
      value = function(x, p) p[["Vmax"]] * x / (p[["Km"]] + x),
      starts = function(x, y) {
        half <- x[which.min(abs(y - max(y) / 2))]
        list(
          c(Vmax = 1.1 * max(y), Km = max(half, max(x) / 100)),
          c(Vmax = 2 * max(y), Km = max(x))
        )
      },
      needs = function(x) if (any(x < 0)) "a Michaelis-Menten curve needs x of zero or more",
      sound = function(p) {
        if (p[["Km"]] <= 0) "the values do not rise to a level: Km is not above zero"
      }
    )
  }
)

# Curves from one level to another: rising(x, p) goes from 0 to 1. With three parameters the bottom
# is zero.
sigmoid <- function(parameters, names, rising, scale) {
  kept <- if (parameters == 3) names[-1] else names
  bottom <- function(p) if (parameters == 3) 0 else p[["bottom"]]
  list(
    terms = kept,
    names = kept,
    value = function(x, p) bottom(p) + (p[["top"]] - bottom(p)) * rising(x, p),
    starts = function(x, y) {
      is_scaled <- is.finite(scale(x))
      scaled <- scale(x[is_scaled])
      low <- if (parameters == 3) 0 else min(y)
      reach <- diff(range(scaled))
      direction <- if (stats::cor(rank(x), rank(y)) < 0) -1 else 1
      middle <- scaled[which.min(abs(y[is_scaled] - (low + max(y)) / 2))]
      grid <- expand.grid(steep = c(2, 5, 10, 30), middle = c(middle, mean(range(scaled))))
      lapply(seq_len(nrow(grid)), function(i) {
        stats::setNames(c(low, max(y), direction * grid$steep[i] / reach, grid$middle[i]), names)[
          kept
        ]
      })
    }
  )
}

# A curve of the user's: how$value(x, p), how$start.
own_curve <- function(how) {
  list(
    terms = names(how$start),
    names = names(how$start),
    value = how$value,
    starts = function(x, y) list(unlist(how$start))
  )
}

# Stops where no start leads to a fit.
fit_nonlinear <- function(x, y, curve, level, how) {
  k <- length(curve$names)
  if (length(x) <= k) return(NULL)
  unfit <- if (!is.null(curve[["needs"]])) curve[["needs"]](x)
  if (!is.null(unfit)) abort_fit(unfit)
  found <- lapply(curve$starts(x, y), fit_from, x = x, y = y, w = how$w, value = curve$value)
  made <- Filter(function(one) inherits(one, "nls"), found)
  if (!length(made)) abort_fit(paste0("R says: ", unlist(found)[1]))
  model <- made[[which.min(vapply(made, stats::deviance, 0))]]
  estimate <- stats::coef(model)
  unsound <- if (!is.null(curve[["sound"]])) curve[["sound"]](estimate)
  if (!is.null(unsound)) abort_fit(unsound)
  df <- length(x) - k
  s <- sqrt(stats::deviance(model) / df)
  covariance <- tryCatch(
    stats::vcov(model),
    error = function(error) abort_fit("its parameters cannot be told apart")
  )
  se <- sqrt(diag(covariance))
  curve_y <- curve$value(how$at, estimate)
  slopes <- parameter_slopes(how$at, estimate, se, curve$value)
  half <- half_band(
    sqrt(pmax(0, rowSums((slopes %*% covariance) * slopes))),
    s,
    df,
    level,
    how$interval
  )
  total <- sum(how$w * (y - stats::weighted.mean(y, how$w))^2)
  list(
    curve = new_table(x = how$at, y = curve_y, lower = curve_y - half, upper = curve_y + half),
    coefficients = unlogged(
      coefficient_table(curve$terms, unname(estimate), unname(se), level, df),
      curve$log_terms
    ),
    r2 = if (total > 0) 1 - stats::deviance(model) / total else NA_real_,
    p = NA_real_,
    n = length(x),
    s = s,
    residuals = y - curve$value(x, estimate)
  )
}

# The model from one start, or what R says of it; made more exact where that can be.
fit_from <- function(start, x, y, w, value) {
  arguments <- paste0(names(start), " = ", names(start), collapse = ", ")
  formula <- stats::as.formula(paste0("y ~ value(x, c(", arguments, "))"), environment())
  run <- function(start, tol) {
    tryCatch(
      suppressWarnings(
        stats::nls(
          formula,
          start = as.list(start),
          weights = w,
          control = stats::nls.control(
            maxiter = 200,
            tol = tol,
            scaleOffset = 1,
            minFactor = 1 / 4096
          )
        )
      ),
      error = conditionMessage
    )
  }
  first <- run(start, 1e-6)
  if (is.character(first)) return(first)
  second <- run(stats::coef(first), 1e-10)
  if (is.character(second)) first else second
}

# The slope of the curve at each x in each parameter.
parameter_slopes <- function(x, estimate, se, value) {
  vapply(
    seq_along(estimate),
    function(k) {
      step <- 1e-5 * max(abs(estimate[k]), se[k], 1e-8, na.rm = TRUE)
      up <- replace(estimate, k, estimate[k] + step)
      down <- replace(estimate, k, estimate[k] - step)
      (value(x, up) - value(x, down)) / (2 * step)
    },
    numeric(length(x))
  )
}

# Parameters fitted as logarithms, told as they are: the interval is that of the logarithm, the
# error by the delta method.
unlogged <- function(table, terms) {
  logged_rows <- which(table$term %in% terms)
  table$estimate[logged_rows] <- exp(table$estimate[logged_rows])
  table$se[logged_rows] <- table$estimate[logged_rows] * table$se[logged_rows]
  table$low[logged_rows] <- exp(table$low[logged_rows])
  table$high[logged_rows] <- exp(table$high[logged_rows])
  table
}

unfitted <- "A curve cannot be fitted."
abort_fit <- function(why) {
  abort_nelvat(
    "fit",
    c(
      unfitted,
      x = paste0(first_upper(sub("[.]$", "", why)), "."),
      i = "Try another `model`, or for a formula a `start` nearer to the answer."
    ),
    call = NULL
  )
}

# Huber's line -----------------------------------------------------------------------------

# Logistic regression ----------------------------------------------------------------------
