# What a fit writes in its panel: its equation or coefficients, R^2 and p.

# One line a group, in its colour, for the emptiest corner of its panel.
equation_words <- function(trained, looks, site) {
  fitted_groups <- which(!vapply(trained$fits, is.null, NA))
  many <- max(tabulate(trained$series$panel)) > 1
  c(
    new_marks(
      "words",
      new_table(
        panel = trained$series$panel[fitted_groups],
        string = vapply(
          trained$fits[fitted_groups],
          equation_text,
          "",
          transforms = trained$transforms
        ),
        size_pt = site$house$type_pt$least,
        colour = if (many) legible(looks$colour[fitted_groups]) else site$house$colour$text,
        .rows = length(fitted_groups)
      )
    ),
    list(role = "equation", corner = TRUE)
  )
}

# "y = 12.1 - 0.09 x; R^2 = 0.85; p < 0.001"; of curves the numbers that are read off them.
equation_text <- function(fit, transforms) {
  paste(
    c(
      if (nrow(fit$coefficients)) formula_text(fit, transforms),
      if (!is.na(fit$r2)) paste0("*R*^2^ ", share_words(fit$r2)),
      p_text(fit$p)
    ),
    collapse = "; "
  )
}

formula_text <- function(fit, transforms) {
  estimate <- fit$coefficients$estimate
  if (fits_data(fit$model)) transforms[] <- "identity"
  number <- function(values) vapply(values, coefficient_text, "")
  y <- paste0(axis_symbol("y", transforms), " = ")
  x <- axis_symbol("x", transforms)
  powers <- function(estimate) polynomial_text(estimate, x, fit$curve$x / (fit$x_per %||% 1))
  switch(
    fit$model,
    exponential = paste0(y, number(estimate[1]), " exp(", number(estimate[2]), "\u2009", x, ")"),
    power = paste0(y, number(estimate[1]), "\u2009", x, "^", number(estimate[2]), "^"),
    `michaelis-menten` = paste0(
      "*V*~max~ = ",
      number(estimate[1]),
      "; *K*~m~ = ",
      number(estimate[2])
    ),
    `dose-response` = {
      coefficient <- function(term) fit$coefficients[fit$coefficients$term == term, ]
      paste0(
        "EC~50~ = ",
        number(coefficient("EC50")$estimate),
        " (",
        number(coefficient("EC50")$low),
        " to ",
        number(coefficient("EC50")$high),
        "); slope = ",
        number(coefficient("slope")$estimate)
      )
    },
    logistic =,
    formula = paste0("*", fit$coefficients$term, "* = ", number(estimate), collapse = "; "),
    proportional = paste0(y, powers(c(0, estimate))),
    binomial = paste0("logit *p* = ", powers(estimate)),
    paste0(y, powers(estimate), if (!is.null(fit$x_unit)) paste0(" (*x* in ", fit$x_unit, ")"))
  )
}

# Of three figures; very large and very small ones with a power of ten.
coefficient_text <- function(value) {
  far <- is.finite(value) && value != 0 && (abs(value) >= 1e5 || abs(value) < 1e-3)
  if (!far) return(number_text_each(value, 3))
  power <- floor(log10(abs(signif(value, 3))))
  paste0(number_text_each(value / 10^power, 3), "\u00d710^", sub("-", "\u2212", power), "^")
}

axis_symbol <- function(direction, transforms) {
  name <- transforms[[direction]]
  if (name == "identity") return(paste0("*", direction, "*"))
  scale <- transform_scale(name)
  if (scale == 1) {
    paste0(name, " *", direction, "*")
  } else {
    paste0(sub("/.*", "", name), "(*", direction, "*/", format(scale), ")")
  }
}

# x: how it is written; at: values of x over the fitted range.
polynomial_text <- function(estimate, x, at) {
  estimate <- told_coefficients(estimate, at)
  digits <- attr(estimate, "digits")
  power <- seq_along(estimate) - 1
  written <- estimate != 0 | (power == 0 & all(estimate == 0))
  shown <- even_digits(abs(estimate), digits, attr(estimate, "exact"))
  term <- paste0(
    shown,
    ifelse(power == 0, "", paste0("\u2009", x)),
    ifelse(power > 1, paste0("^", power, "^"), "")
  )
  sign <- ifelse(estimate < 0, " \u2212 ", " + ")
  first <- which(written)[1]
  rest <- setdiff(which(written), first)
  paste0(
    if (estimate[first] < 0) "\u2212",
    term[first],
    paste0(sign[rest], term[rest], collapse = "")
  )
}

# Coefficients as an equation tells them: of three figures, or as many as it takes that who uses
# the equation within the data is off by less than a hundredth of what the curve spans; those
# that are nought but for the machine's rounding are nought.
told_coefficients <- function(estimate, at) {
  power <- seq_along(estimate) - 1
  value <- function(coefficients) as.numeric(outer(at, power, `^`) %*% coefficients)
  size <- max(abs(value(estimate)), vapply(power, function(k) max(abs(estimate[k + 1] * at^k)), 0))
  estimate[vapply(power, function(k) max(abs(estimate[k + 1] * at^k)), 0) < 1e-9 * size] <- 0
  span <- diff(range(value(estimate)))
  allowed <- if (span > 1e-9 * size) span / 100 else size / 1000
  for (digits in 3:12) {
    if (max(abs(value(signif(estimate, digits)) - value(estimate))) <= allowed) break
  }
  told <- signif(estimate, digits)
  structure(told, digits = digits, exact = all(abs(told - estimate) <= 1e-9 * abs(estimate)))
}

# Numbers of one equation with the same number of figures, zeros at the end too; those that are
# exact with so few need none.
even_digits <- function(numbers, digits, exact) {
  if (exact) return(number_text_each(numbers, digits))
  text <- formatC(numbers, digits = digits, format = "fg", flag = "#")
  sub("[.]$", "", text)
}

p_text <- function(p) {
  if (is.na(p)) return(NULL)
  if (p < 0.001) {
    "*p* < 0.001"
  } else {
    paste0("*p* = ", formatC(p, digits = if (p < 0.1) 3 else 2, format = "f"))
  }
}
