# Channels of a panel: columns made ready as variables.

resolve_channels <- function(channels, book, missing, call, series = NULL) {
  given <- channels[!vapply(channels, rlang::quo_is_null, NA)]
  measures <- lapply(given, quo_measure)
  of_measure <- names(Filter(Negate(is.null), measures))
  variables <- lapply(stats::setNames(nm = setdiff(names(given), of_measure)), function(channel) {
    if (channel == "y") {
      named <- resolve_variables(given$y, book, "y", call)
      if (!length(named)) {
        abort_nelvat(
          "argument",
          c("`y` must be a column, or several.", x = "Found none."),
          call,
          argument = "y"
        )
      }
      lapply(
        named,
        ready_variable,
        missing$y,
        on_y = TRUE,
        series = series
      )
    } else {
      ready_variable(
        resolve_variable(given[[channel]], book, channel, call),
        missing[[channel]],
        series = series
      )
    }
  })
  if (!length(of_measure)) return(variables)
  if (length(variables$y) < 2 || "y" %in% of_measure) {
    abort_nelvat(
      "argument",
      c(
        "`measure()` tells several `y` apart, by colour, shape, dash or place on `x`.",
        x = if (length(variables$y) < 2) "There is no more than one `y`." else "It stands on `y`."
      ),
      call
    )
  }
  said <- measures[[of_measure[1]]]
  if (!is.null(said$order)) variables$y <- ordered_measures(variables$y, said$order, call)
  for (channel in of_measure) variables[[channel]] <- measure_variable(variables$y, said, call)
  variables$shared_y <- common_measure(variables$y, measures[[of_measure[1]]]$name, call)
  variables
}

# A variable with its missing values treated, and what its axis cannot show taken out.
ready_variable <- function(variable, policy, on_y = FALSE, series = NULL) {
  if (identical(policy, "own") && !has_levels(variable$kind)) {
    abort_nelvat(
      "argument",
      c(
        "A level of their own is for missing levels.",
        x = paste0("Column \"", variable$id, "\" is ", kind_phrase(variable$kind), "."),
        i = paste0("Missing values are left out, or say one of ", quoted(value_policies), ".")
      ),
      call = NULL
    )
  }
  variable <- apply_missing(variable, policy, series)
  # Levels on a vertical axis are read from the top down.
  if (on_y) variable <- read_downwards(variable)
  transform <- axis_transform(variable$transform)
  infinite <- is.infinite(variable$values)
  out <- infinite | (!is.na(variable$values) & !transform$holds(variable$values))
  if (!any(out)) return(variable)
  changed(
    variable,
    values = replace(variable$values, out, NA),
    outside = list(
      what = if (any(infinite)) "infinite values, which no axis can show" else transform$why,
      n = rows_behind(variable, out)
    )
  )
}

read_downwards <- function(variable) {
  if (has_levels(variable$kind)) changed(variable, reversed = TRUE) else variable
}

# Orders of levels without those that `keep` has taken away.
order_left <- function(order, whole, kept) {
  if (!is.list(order)) return(order)
  for (column in intersect(names(order), names(kept$columns))) {
    if (!is.character(order[[column]])) next
    called <- function(book) {
      kind <- book$columns[[column]]
      c(kind$levels, plain_text(kind$level_names))
    }
    gone <- setdiff(called(whole), called(kept))
    order[[column]] <- setdiff(order[[column]], gone)
  }
  order
}

# A codebook with the levels of some columns in another order.
order_columns <- function(book, order, call) {
  if (is.null(order)) return(book)
  if (!is.list(order) || !all(rlang::have_name(order))) {
    abort_nelvat(
      "argument",
      c(
        "`order` must be such as `list(flour = by_number())`.",
        x = paste0("Found ", describe_value(order), ".")
      ),
      call
    )
  }
  for (column in names(order)) {
    check_column(column, book$data, book$label, call, asked_for("order"))
    check_order(order[[column]], "order", call)
    if (!is.null(book$times)) check_summed_order(order[[column]], column, call)
    kind <- book$columns[[column]]
    if (!has_levels(kind)) {
      abort_nelvat(
        "kind",
        c(
          "Only levels can be put in order.",
          x = paste0("Column \"", column, "\" is ", kind_phrase(kind), ".")
        ),
        call
      )
    }
    book$columns[[column]] <- reorder_levels(
      kind,
      order[[column]],
      column,
      book$data[[column]],
      book$data,
      call
    )
  }
  book
}

abort_no_levels <- function(variable, argument, call) {
  abort_nelvat(
    "data",
    c(
      paste0("`", argument, "` has nothing to tell apart."),
      x = paste0("All values of \"", variable$id, "\" are missing.")
    ),
    call
  )
}

check_channels <- function(variables, call) {
  for (channel in intersect(c("colour", "shape", "dash"), names(variables))) {
    variable <- variables[[channel]]
    if (is.null(variable) || !has_levels(variable$kind) || length(variable$kind$levels)) next
    abort_no_levels(variable, channel, call)
  }
  for (channel in intersect(c("shape", "dash"), names(variables))) {
    check_variable_kind(variables[[channel]], channel, c("category", "ordinal"), call)
  }
  if (!is.null(variables$colour)) {
    check_variable_kind(variables$colour, "colour", c("category", "ordinal", "quantity"), call)
  }
  if (!is.null(variables$size)) check_variable_kind(variables$size, "size", "quantity", call)
}
