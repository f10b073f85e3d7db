# What an ink says of itself, so that nothing outside asks for its name: a record that each
# ink makes in its own file, `ink_traits.ink_<name>`.
#
#   mark         how a key shows it: of "swatch", "symbol", "line", or "word" for written figures,
#                which are a swatch where nothing else is; none where it needs no key;
#   shows        channels that its marks show: of "colour" (levels), "ramp" (a quantity as colour),
#                "shape", "dash", "size";
#   summarises   what stands behind a mark: "values" (one row a mark), "groups" (a centre of
#                several, with an error that must be defined), "spread" (a distribution or a fit,
#                of which three values are the least), "counts", or "nothing" (no data at all);
#   on_zero      do its marks stand on zero, so that a cut axis would mislead?
#   bins         does it part an axis into bins, which can line up with ticks?
#   behind       does it say something of other panels' rows, so that it may stand behind?
#   read_off     are values read off the axes, or are they written in figures?
#   cells        does it fill cells, one a level, of a size of their own?
#   computed     are the numbers behind its marks computed, or the rows themselves?
#   echoes       does its shape show the levels of colour too, where nothing else is said of it?
#   anywhere     does it write words that may stand anywhere in the panel, such as an equation?
#   as_is        is it of the data as they are, whatever transforms their axes have?
#   parts_rows   do its findings part the rows used, each row in one?
#   called       what one mark is called, as in "n = 12 a bar"; "" where no n is said of them
#   side_by_side do its marks of several colours stand beside each other in one slot of an axis?
#   own_strip    in a margin, does it stand by itself, as deep as its `depth` says?

new_traits <- function(
  mark = character(),
  shows = character(),
  summarises = "values",
  on_zero = FALSE,
  bins = FALSE,
  behind = TRUE,
  read_off = TRUE,
  cells = FALSE,
  echoes = FALSE,
  anywhere = FALSE,
  as_is = FALSE,
  computed = !summarises %in% c("values", "nothing"),
  parts_rows = computed,
  called = "level",
  text_at = NULL,
  side_by_side = FALSE,
  own_strip = FALSE
) {
  traits <- list(
    mark = mark,
    shows = shows,
    summarises = summarises,
    on_zero = on_zero,
    bins = bins,
    behind = behind,
    read_off = read_off,
    cells = cells,
    echoes = echoes,
    anywhere = anywhere,
    as_is = as_is,
    computed = computed,
    parts_rows = parts_rows,
    called = called,
    text_at = text_at,
    side_by_side = side_by_side,
    own_strip = own_strip
  )
  # Asked for again and again, they are checked once.
  id <- rlang::hash(traits)
  if (!is.null(known_traits[[id]])) return(known_traits[[id]])
  known_traits[[id]] <- check_record(
    traits,
    "traits",
    list(
      mark = function(x) all(x %in% c("swatch", "symbol", "line", "word")),
      shows = function(x) all(x %in% c("colour", "ramp", "shape", "dash", "size")),
      summarises = function(x) x %in% c("values", "groups", "spread", "counts", "nothing"),
      on_zero = rlang::is_bool,
      bins = rlang::is_bool,
      behind = rlang::is_bool,
      read_off = rlang::is_bool,
      cells = rlang::is_bool,
      echoes = rlang::is_bool,
      anywhere = rlang::is_bool,
      as_is = rlang::is_bool,
      computed = rlang::is_bool,
      parts_rows = rlang::is_bool,
      called = rlang::is_string,
      text_at = is_or_null(is.numeric),
      side_by_side = rlang::is_bool,
      own_strip = rlang::is_bool
    )
  )
}
known_traits <- new.env(parent = emptyenv())

ink_traits <- function(ink) UseMethod("ink_traits")

# Marks that stand for no data: rules, notes, pictures.
note_traits <- function(...) new_traits(summarises = "nothing", behind = FALSE, ...)
