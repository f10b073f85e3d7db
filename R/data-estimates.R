#' What a fitted model estimates, as a table
#'
#' The coefficients of a model with their intervals, a row a term, levels that others are compared
#' with as rows of their own: for [ink_estimate()], [ink_column()] and [table_panel()].
#'
#' @param model What [stats::lm()], [stats::glm()] or `survival::coxph()` gave, or another model
#'   with `coef()` and `vcov()`.
#' @param level Of the intervals, 0 to 1.
#' @param scale `"model"`: as estimated; `"ratio"`: `exp()` of it, such as odds or hazard ratios.
#' @param intercept Give the intercept, too?
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A [codebook()] with a row a term: `term` (in the order of the model), `of` (its
#'   variable), `estimate`, `lower`, `upper`, `p`, `n` (rows of the model) and `reference` (is it
#'   the level that the others of its variable are compared with?).
#' @details Intervals of `lm` are by Student's t with the degrees of freedom of the residuals; of
#'   all others by the normal distribution (Wald).
#' @section Errors: `nelvat_error_argument` for what is no such model, or an argument of another
#'   sort.
#' @examples
#' loaves <- study("loaves")$data
#' rise <- estimates_of(stats::lm(rise ~ flour + hydration, loaves))
#' plate(
#'   panel(rise, x = estimate, y = term, ink_estimate(lower, upper, line = 0)),
#'   width = 86, height = 50
#' )
#' @export
estimates_of <- function(model, level = 0.95, scale = "model", intercept = FALSE, ...) {
  check_rest(...)
  call <- rlang::current_env()
  check_needed(estimates_of, "estimates_of", call)
  check_number(level, "level", 0.01, 0.9999)
  check_choice(scale, c("model", "ratio"), "scale")
  check_flag(intercept, "intercept")
  found <- tryCatch(
    list(
      estimate = stats::coef(model),
      error = sqrt(diag(as.matrix(stats::vcov(model))))
    ),
    error = function(error) NULL
  )
  right <- is.numeric(found$estimate) && is.null(dim(found$estimate)) &&
    !is.null(names(found$estimate))
  if (!right) {
    abort_nelvat(
      "argument",
      c(
        "`model` must be a fitted model with coefficients.",
        x = paste0("Found ", describe_value(model), "."),
        i = "Such as `lm(rise ~ flour, data)`; of others make a table of estimate, lower and upper."
      ),
      call
    )
  }
  df <- if (inherits(model, "lm") && !inherits(model, "glm")) stats::df.residual(model) else Inf
  estimate <- found$estimate
  error <- found$error[names(estimate)]
  reach <- stats::qt((1 + level) / 2, df) * error
  rows <- data.frame(
    coefficient = names(estimate),
    estimate = unname(estimate),
    lower = unname(estimate - reach),
    upper = unname(estimate + reach),
    p = unname(2 * stats::pt(-abs(estimate / error), df)),
    reference = FALSE
  )
  rows <- with_terms(rows, model)
  if (!intercept) rows <- rows[rows$coefficient != "(Intercept)", ]
  if (scale == "ratio") {
    rows[c("estimate", "lower", "upper")] <- exp(rows[c("estimate", "lower", "upper")])
  }
  # What nobs() counts of a model of times to an event are the events.
  rows$n <- if (inherits(model, "coxph")) {
    model$n
  } else {
    tryCatch(stats::nobs(model), error = function(error) NA_integer_)
  }
  estimates_book(rows, scale, level, df, call)
}

# Coefficients named by variable and level, with a row for each level that others are compared with,
# before them.
with_terms <- function(rows, model) {
  levels <- tryCatch(model$xlevels, error = function(error) NULL)
  plain <- is_treated(model)
  rows$of <- rows$term <- rows$coefficient
  extra <- list()
  for (variable in names(levels)) {
    coefficients <- paste0(variable, levels[[variable]])
    found <- match(coefficients, rows$coefficient)
    if (!plain[[variable]] || all(is.na(found))) next
    known <- found[!is.na(found)]
    rows$of[known] <- variable
    rows$term[known] <- paste0(tidy_name(variable), ": ", levels[[variable]][!is.na(found)])
    lone <- which(is.na(found))
    if (length(lone) != 1) next
    extra[[variable]] <- data.frame(
      coefficient = coefficients[lone],
      estimate = 0,
      lower = NA_real_,
      upper = NA_real_,
      p = NA_real_,
      reference = TRUE,
      term = paste0(tidy_name(variable), ": ", levels[[variable]][lone]),
      of = variable,
      before = min(known)
    )
  }
  plain_terms <- rows$of == rows$coefficient & rows$coefficient != "(Intercept)"
  rows$term[plain_terms] <- tidy_name(rows$coefficient[plain_terms])
  rows$before <- seq_len(nrow(rows))
  all <- rbind(do.call(rbind, c(list(rows[0, ]), unname(extra)))[names(rows)], rows)
  all[order(all$before, !all$reference), ]
}

# Of each factor of a model, is it compared with one of its levels (treatment contrasts)?
is_treated <- function(model) {
  contrasts <- tryCatch(model$contrasts, error = function(error) NULL)
  names <- names(tryCatch(model$xlevels, error = function(error) NULL))
  stats::setNames(
    lapply(names, function(name) {
      said <- contrasts[[name]]
      is.null(said) || identical(said, "contr.treatment")
    }),
    names
  )
}

estimates_book <- function(rows, scale, level, df, call) {
  interval <- paste0(
    format(100 * level),
    " % ",
    if (is.finite(df)) "confidence interval" else "Wald interval"
  )
  table <- rows[c("term", "of", "estimate", "lower", "upper", "p", "n", "reference")]
  rownames(table) <- NULL
  table$reference <- ifelse(table$reference, "yes", "no")
  new_codebook(
    table,
    list(
      term = category("Term", order = unique(table$term)),
      of = category("Variable"),
      estimate = quantity(if (scale == "ratio") "Ratio" else "Estimate"),
      lower = quantity(paste("Lower end,", interval)),
      upper = quantity(paste("Upper end,", interval)),
      p = quantity("p"),
      n = quantity("Rows", count = TRUE),
      reference = category("Reference")
    ),
    label = "the estimates of a model",
    call = call
  )
}
