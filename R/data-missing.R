#' Fill missing values
#'
#' A policy for `missing =` of [panel()].
#'
#' @param value A number, or `"median"` or `"mean"` of the values that are there.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A policy.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits.
#' @examples
#' panel(study("loaves"), x = flour, y = firmness, missing = fill_with("median"), ink_bars())
#' @export
fill_with <- function(value, ...) {
  check_rest(...)
  right <- (is.numeric(value) && length(value) == 1 && is.finite(value)) || (
    rlang::is_string(value) && value %in% c("median", "mean")
  )
  if (!right) {
    abort_nelvat(
      "argument",
      c(
        "`fill_with()` takes one number, \"median\" or \"mean\".",
        x = paste0("Found ", describe_value(value), ".")
      )
    )
  }
  structure(list(value = value), class = "nelvat_fill")
}

value_policies <- c("gap", "bridge", "drop")
level_policies <- c("own", "drop")

# Policies by channel from what the user said: one policy for the values of the
# axes, or a list by channel. Values: "gap", "bridge", "drop" or fill_with();
# categories that split or colour: "own" or "drop".
check_missing <- function(missing, channels, call) {
  if (is.null(missing)) return(list())
  if (rlang::is_string(missing) || inherits(missing, "nelvat_fill")) missing <- list(y = missing)
  stray <- setdiff(rlang::names2(missing), channels)
  if (!is.list(missing) || length(stray)) {
    abort_nelvat(
      "argument",
      c(
        paste(
          paste0(
            "`missing` must be a policy, such as \"gap\" or `fill_with(0)`, or a list of policies ",
            "by channel, such as"
          ),
          "`list(y = \"drop\", colour = \"own\")`."
        ),
        x = if (length(stray)) {
          paste0("Found \"", stray[1], "\".")
        } else {
          paste0("Found ", describe_value(missing), ".")
        },
        if (length(stray)) offer(stray[1], channels, "channel")
      ),
      call,
      argument = "missing",
      found = stray[1]
    )
  }
  for (channel in names(missing)) {
    if (channel %in% c("x", "y")) {
      if (!inherits(missing[[channel]], "nelvat_fill")) {
        check_choice(
          missing[[channel]],
          c(value_policies, "own"),
          paste0("missing for ", channel),
          call
        )
      }
    } else {
      check_choice(missing[[channel]], level_policies, paste0("missing for ", channel), call)
    }
  }
  missing
}

# A variable with its missing values treated; what was filled is noted. series: which series each
# row is of, within which a median or mean is taken; NULL for one.
apply_missing <- function(variable, policy, series = NULL) {
  gone <- is.na(variable$values)
  variable <- changed(variable, n_missing = sum(gone))
  if (is.null(policy) || !any(gone)) return(variable)
  values <- variable$values
  note <- NULL
  if (inherits(policy, "nelvat_fill")) {
    fill <- policy$value
    series <- series %||% rep(1L, length(values))
    values[gone] <- if (is.character(fill)) {
      middle <- switch(fill, median = stats::median, mean = mean)
      unlist(lapply(split(values, series), middle, na.rm = TRUE))[as.character(series[gone])]
    } else {
      fill
    }
    several <- length(unique(series)) > 1
    note <- list(
      what = paste0(
        "missing values filled with ",
        if (is.character(fill)) {
          paste0("the ", fill, if (several) " of their series")
        } else {
          format(fill)
        }
      ),
      n = sum(gone)
    )
  } else if (policy == "own" && has_levels(variable$kind)) {
    variable <- changed(variable, kind = with_missing_level(variable$kind))
    values[gone] <- length(variable$kind$levels)
    note <- list(
      what = paste0("missing values shown as \"", variable$kind$missing, "\""),
      n = sum(gone)
    )
  }
  changed(variable, values = values, note = note, policy = if (is.character(policy)) policy)
}

with_missing_level <- function(kind) {
  if (!is.null(kind$colours)) {
    kind$colours <- c(
      stats::setNames(level_colours_given(kind), kind$levels),
      stats::setNames("#8A9099", kind$missing)
    )
  }
  kind$colour_place <- c(kind$colour_place %||% seq_along(kind$levels), NA)
  kind$levels <- c(kind$levels, kind$missing)
  kind$level_names <- c(kind$level_names, kind$missing)
  kind
}
