# An axis as fitted to its length on the page: breaks, where they stand, and their text.
#
#   range, hidden                of the trained axis it is made from;
#   breaks, unit, minor          positions in data units; 0 to 1 along the axis; of minor ticks;
#   treatment, angle, size_pt    how the tick text is set: see fit_tick_text();
#   kept, laid                   which breaks keep their text, and the set text of those;
#   heads                        slots whose names head those after them, which bear no values
#   depth_mm, reach_before, reach_after   room across the axis, and along it;
#   moved                        how far along the axis each text is set from its tick, in mm;
#   found, n_breaks, lost        what the next round of the layout goes on from.
new_fitted_axis <- function(fit) {
  check_record(fit, "fitted_axis", record_fields.nelvat_fitted_axis())
}

#' @export
record_fields.nelvat_fitted_axis <- function(record) {
  numbers <- function(x) is.numeric(x) && !anyNA(x)
  list(
    treatment = is_count,
    angle = is_count,
    size_pt = is_count,
    kept = is.numeric,
    laid = is.list,
    depth_mm = is_count,
    reach_before = numbers,
    reach_after = numbers,
    moved = numbers,
    lost = is_or_null(numbers),
    found = is.list,
    breaks = numbers,
    unit = numbers,
    minor = numbers,
    range = is_range,
    hidden = rlang::is_bool,
    heads = is.numeric,
    n_breaks = is.numeric
  )
}
