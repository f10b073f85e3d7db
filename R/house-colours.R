# Colours of categories. The set was searched for by data-raw/make-colours.R; each
# number of levels takes the beginning of it.

house_palette <- c(
  "#26377B", "#B94A00", "#A17EF2", "#2DA58B", "#622925", "#007063", "#7D59B1", "#839A55", "#8A452C",
  "#008A7E"
)

#' Colours for categories
#'
#' The house's set of colours, each number of levels being the beginning of the
#' next. They were searched for in OKLCH so that any two stay apart (CIEDE2000)
#' under normal, protan, deutan and tritan vision (Machado, Oliveira and Fernandes
#' 2009) and differ in lightness for grey printing.
#'
#' @param n Number of colours, 1 to 10.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A character vector of `n` colours, `"#RRGGBB"`.
#' @section Errors: `nelvat_error_argument` for an argument of another sort or out of its limits;
#'   `nelvat_error_level` for more
#' colours than can be told apart.
#' @examples
#' house_colours(4)
#' @export
house_colours <- function(n, ...) {
  check_rest(...)
  check_number(n, "n", 1, length(house_palette), whole = TRUE)
  house_palette[seq_len(n)]
}

# The colours of a kind's levels: those it names, else the house's in level order.
level_colours <- function(kind, palette = house_palette, call = rlang::caller_env()) {
  levels <- kind$levels
  given <- kind$colours
  if (!is.null(given)) {
    by_name <- if (is.null(names(given))) {
      stats::setNames(given, levels[seq_along(given)])
    } else {
      given
    }
    missed <- setdiff(levels, names(by_name))
    if (!length(missed)) return(unname(by_name[levels]))
    abort_nelvat(
      "level",
      c(
        paste0("The colours of \"", kind$name, "\" must name every level."),
        x = paste0("None is given for ", quoted(missed), ".")
      ),
      call
    )
  }
  if (kind$kind == "ordinal" && is.null(kind$given_colours)) return(ramped_levels(kind))
  set <- kind$given_colours[levels]
  if (!is.null(kind$given_colours) && !anyNA(set)) return(unname(set))
  # What tables have given to some levels is not taken again for others.
  palette <- setdiff(palette, unlist(kind$given_colours))
  position <- kind$colour_place %||% seq_along(levels)
  # Of a subset, levels beyond the set take colours that the subset leaves free.
  beyond <- which(position > length(palette))
  position[beyond] <- setdiff(seq_along(palette), position)[seq_along(beyond)]
  if (length(levels) > length(palette)) {
    abort_nelvat(
      "level",
      c(
        paste0(
          "\"",
          kind$name,
          "\" has ",
          length(levels),
          " levels, and the house ",
          length(palette),
          " colours."
        ),
        i = paste(
          paste0(
            "Part series without colours (`group =`), name lines at their ends (`key = ",
            "\"direct\"`, with colours given in"
          ),
          "the codebook), or split it over panels (`facets()`)."
        ),
        i = "Levels that have an order take a ramp: `ordinal()`."
      ),
      call
    )
  }
  found <- ifelse(is.na(position), "#8A9099", palette[position])
  if (is.null(kind$given_colours)) found else unname(ifelse(is.na(set), found, set))
}

# An ordinal's levels take the ramp of all its levels, those that a figure lacks too, each by its
# place.
ramped_levels <- function(kind) {
  position <- kind$colour_place %||% seq_along(kind$levels)
  n <- max(kind$n_levels %||% length(kind$levels), position, na.rm = TRUE)
  ifelse(is.na(position), "#8A9099", ordinal_colours(n)[position])
}

# A colour made darker, its hue kept, until text in it is read on white (contrast of 4.5,
# as WCAG 2 asks).
legible <- function(colours, contrast = 4.5) {
  vapply(
    colours,
    function(colour) {
      if (is.na(colour)) return(NA_character_)
      lch <- farver::decode_colour(substr(colour, 1, 7), to = "oklch")
      while (white_contrast(colour) < contrast && lch[1] > 0.02) {
        lch[1] <- lch[1] - 0.02
        colour <- oklch_colours(lch[1], min(lch[2], 0.12), lch[3])
      }
      colour
    },
    "",
    USE.NAMES = FALSE
  )
}

# White or the house's dark, whichever stands out more against each colour (WCAG 2
# relative luminance).
contrasting <- function(colours, dark) {
  ifelse(relative_luminance(colours) < 0.35, "#FFFFFF", dark)
}
