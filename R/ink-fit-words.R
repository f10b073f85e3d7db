# What a model is called.

formula_words <- function(ink) paste("y =", paste(deparse(ink$formula, 500L), collapse = " "))

model_name <- function(ink) if (ink$model == "formula") formula_words(ink) else ink$model

model_words <- function(ink) {
  switch(
    ink$model,
    line = "straight line by least squares",
    proportional = "straight line through the origin by least squares",
    polynomial = paste0("polynomial of degree ", ink$degree),
    loess = paste0(
      "local regression (loess)",
      if (ink$span != 0.75) paste0(" over a span of ", format(ink$span))
    ),
    robust = "straight line by Huber's robust regression",
    binomial = "logistic regression",
    formula = paste(formula_words(ink), "by nonlinear least squares"),
    paste0(
      curve_words[[ink$model]],
      if (ink$model %in% c("logistic", "dose-response")) {
        paste0(
          " of ",
          c("three", "four")[(ink$parameters %||% if (ink$model == "logistic") 3 else 4) - 2],
          " parameters"
        )
      },
      " by nonlinear least squares"
    )
  )
}
