# An axis as trained: which variable stands on it, in which range, for which areas. What was asked
# of it is an axis_of(); what its breaks and texts become on the page is a fitted axis.
#
#   direction, variable, transform   "x" or "y"; the variable's id; see axis_transform();
#   name, title, title_words         what it shows; its name as drawn ("" for none), and measured;
#   areas, drawn_at                  ids of the areas it serves, and of those with its tick text;
#   role                             whose it is: "matrix", "diagonal" (what is counted there) or
#                                    "marginal";
#   range                            of two ends in transformed units, the first at the left or
#                                    the bottom: the larger one, where the axis is turned;
#   unit, plain_name                 the unit that it shows, and its name without it;
#   ticks_in                         the part of it that has ticks, NULL for all: none stand where
#                                    there are brackets alone;
#   slots, slot_levels               does it have levels; codes of those it has, NULL for all;
#   slot_names, slot_texts           names of the levels; their tick text, measured;
#   grounded                         do marks stand on its zero?
#   mirrored                         are its numbers those of both sides of zero, without a sign?
#   quantity, count, moment          is it of numbers, of counts; zone and has_time of times;
#   hidden, named, zoomed, turned    is it not drawn; named elsewhere; part of another; run
#   backwards? bare                             is it there for its name alone, without ticks?
#   asked                            what an axis_of() says of breaks and text, or NULL.
new_axis <- function(
  direction,
  variable,
  areas,
  drawn_at,
  range,
  role = "matrix",
  slot_levels = NULL,
  slot_texts = NULL,
  slot_names = NULL,
  grounded = FALSE
) {
  kind <- variable$kind
  axis <- list(
    direction = direction,
    variable = variable$id,
    transform = variable$transform,
    name = kind_title(kind),
    title = if (isTRUE(kind$no_title)) "" else kind_title(kind),
    title_words = NULL,
    areas = areas,
    drawn_at = drawn_at,
    role = role,
    range = if (variable$reversed) rev(range) else range,
    unit = kind$show %||% kind$unit,
    plain_name = kind$name %||% "",
    ticks_in = NULL,
    slots = has_levels(kind),
    slot_levels = slot_levels,
    slot_texts = slot_texts,
    slot_names = slot_names,
    grounded = grounded,
    quantity = kind$kind == "quantity" && !isTRUE(kind$count),
    count = isTRUE(kind$count),
    mirrored = isTRUE(kind$mirrored),
    moment = if (kind$kind == "moment") kind[c("zone", "has_time", "of_day")],
    hidden = isTRUE(kind$hidden),
    named = isTRUE(kind$no_title),
    zoomed = FALSE,
    turned = variable$reversed,
    bare = FALSE,
    asked = NULL
  )
  check_record(axis, "trained_axis", record_fields.nelvat_trained_axis())
}

#' @export
record_fields.nelvat_trained_axis <- function(record) {
  list(
    direction = function(x) x %in% c("x", "y"),
    variable = rlang::is_string,
    transform = rlang::is_string,
    title = rlang::is_string,
    title_words = is_or_null(is.list),
    areas = is.numeric,
    drawn_at = is.numeric,
    role = function(x) x %in% c("matrix", "diagonal", "marginal"),
    range = function(x) is_range(x) && x[1] != x[2],
    unit = is_or_null(rlang::is_string),
    plain_name = rlang::is_string,
    ticks_in = is_or_null(is_range),
    slots = rlang::is_bool,
    slot_levels = is_or_null(is.numeric),
    slot_texts = is_or_null(is.list),
    slot_names = is_or_null(is.character),
    name = rlang::is_string,
    grounded = rlang::is_bool,
    quantity = rlang::is_bool,
    count = rlang::is_bool,
    mirrored = rlang::is_bool,
    moment = is_or_null(is.list),
    hidden = rlang::is_bool,
    named = rlang::is_bool,
    zoomed = rlang::is_bool,
    turned = rlang::is_bool,
    bare = rlang::is_bool,
    asked = is_or_null(is.list)
  )
}
