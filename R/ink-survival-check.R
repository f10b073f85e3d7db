# What curves of times to an event ask of their panel.

#' @export
check_ink.ink_survival <- function(ink, panel, call) {
  check_one_quantity(panel, "A curve of times to an event", call)
  if (is.null(panel$variables$x)) {
    abort_nelvat(
      "argument",
      c("A curve of times to an event has its times on `x`.", x = "They are on `y`."),
      call
    )
  }
  times <- panel$variables$x$values
  if (any(times < 0, na.rm = TRUE)) {
    abort_nelvat(
      "argument",
      c(
        "Times to an event begin at 0.",
        x = paste0(
          "\"",
          panel$variables$x$id,
          "\" has ",
          counted(sum(times < 0, na.rm = TRUE), "negative value"),
          ", such as ",
          number_text_each(min(times, na.rm = TRUE)),
          "."
        )
      ),
      call
    )
  }
  if (panel$variables$x$transform != "identity") {
    abort_nelvat(
      "argument",
      c(
        "A curve of times to an event begins at time 0, so its axis is of the times themselves.",
        x = paste0("`x` is on a ", panel$variables$x$transform, " axis.")
      ),
      call
    )
  }
  check_groups_compared(ink, panel, call)
  check_status(ink, call)
}

# What is compared is told apart.
check_groups_compared <- function(ink, panel, call) {
  if (!ink$test && !ink$ratio) return(invisible())
  channels <- c("colour", "shape", "dash", "group")
  apart <- Filter(
    function(channel) is_category(ink$variables[[channel]] %||% panel$variables[[channel]]),
    channels
  )
  if (length(apart)) return(invisible())
  abort_nelvat(
    "argument",
    c(
      paste0("`", if (ink$ratio) "ratio" else "test", "` compares groups."),
      x = "There are none: no category is on `colour`, `dash` or `group`."
    ),
    call
  )
}

check_status <- function(ink, call) {
  status <- ink$variables$status
  if (!has_levels(status$kind)) {
    if (!is.null(ink$competing)) {
      abort_nelvat(
        "argument",
        c(
          "`competing` names levels of `status`.",
          x = paste0("\"", status$id, "\" is ", kind_phrase(status$kind), "."),
          i = paste0("If its numbers are codes, say `status = category(", status$id, ")`.")
        ),
        call
      )
    }
    odd <- setdiff(unique(status$values), c(0, 1, NA))
    if (!length(odd)) return(invisible())
    abort_nelvat(
      "argument",
      c(
        "`status` must be of zeros and ones, or of two levels.",
        x = paste0("\"", status$id, "\" holds ", number_text_each(odd[1], 4), ".")
      ),
      call
    )
  }
  names <- plain_text(status$kind$level_names)
  check_competing(ink, names, call)
  if (length(names) != 2 && is.null(ink$competing)) {
    abort_nelvat(
      "argument",
      c(
        "`status` must have two levels.",
        x = paste0("\"", status$id, "\" has ", length(names), ": ", quoted(names), "."),
        i = "`competing` says which of them are other events."
      ),
      call
    )
  }
  # TRUE needs no name.
  if (is.null(ink$event) && setequal(status$kind$levels, c("FALSE", "TRUE"))) return(invisible())
  if (is.null(ink$event) || !ink$event %in% c(names, status$kind$levels)) {
    abort_nelvat(
      "level",
      c(
        "`event` must say which level of `status` is the event.",
        x = paste0("Found ", describe_value(ink$event), "; there are ", quoted(names), "."),
        if (!is.null(ink$event)) offer(ink$event, names)
      ),
      call
    )
  }
}

# Other events are levels of the status besides the event, and leave one for times cut off.
check_competing <- function(ink, names, call) {
  if (is.null(ink$competing)) return(invisible())
  kind <- ink$variables$status$kind
  for (one in ink$competing) {
    if (one %in% c(names, kind$levels)) next
    abort_nelvat(
      "level",
      c(
        "`competing` names a level that does not exist.",
        x = paste0("Found ", quoted(one), "."),
        offer(one, names, "level")
      ),
      call
    )
  }
  others <- status_codes(kind, ink$competing)
  wrong <- if (any(status_codes(kind, ink$event) %in% others)) {
    "The event is one of them."
  } else if (length(names) > length(others) + 2) {
    said <- c(others, status_codes(kind, ink$event))
    left <- names[-said]
    paste0(quoted(left), " are left; one is for times cut off.")
  }
  if (is.null(wrong) && ink$test) wrong <- "A log-rank test is of one kind of event."
  if (is.null(wrong) && ink$ratio) wrong <- "A hazard ratio is of one kind of event."
  if (is.null(wrong)) return(invisible())
  abort_nelvat("argument", c("`competing` cannot be as it is said.", x = wrong), call)
}

# Codes of levels that are said by code or name.
status_codes <- function(kind, said) {
  by_code <- match(said, kind$levels)
  ifelse(is.na(by_code), match(said, plain_text(kind$level_names)), by_code)
}

# Of each row 0 where the time was cut off, 1 for the event, 2 for another one; NA where that is
# unknown.
event_state <- function(ink, codes) {
  kind <- ink$variables$status$kind
  if (!has_levels(kind)) return(as.numeric(codes == 1))
  event <- status_codes(kind, ink$event %||% "TRUE")
  others <- status_codes(kind, ink$competing)
  ifelse(is.na(codes), NA, ifelse(codes == event, 1, ifelse(codes %in% others, 2, 0)))
}
