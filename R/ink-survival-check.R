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
  check_status(ink, call)
}

check_status <- function(ink, call) {
  status <- ink$variables$status
  if (!has_levels(status$kind)) {
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
  if (length(names) != 2) {
    abort_nelvat(
      "argument",
      c(
        "`status` must have two levels.",
        x = paste0("\"", status$id, "\" has ", length(names), ".")
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

# Whether the event happened, of each row; NA where that is unknown.
event_happened <- function(ink, codes) {
  kind <- ink$variables$status$kind
  if (!has_levels(kind)) return(codes == 1)
  event <- ink$event %||% "TRUE"
  code <- match(event, kind$levels)
  codes == if (is.na(code)) match(event, plain_text(kind$level_names)) else code
}
