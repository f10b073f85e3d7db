# The first family of a house that is really installed. fontconfig answers every name with some
# font; a family counts as installed only where the font that comes back bears that name.

house_font <- function(families) {
  for (family in families) if (family_installed(family)) break
  if (!family_installed(family)) family <- font_facts("sans")$family
  info <- font_facts(family)
  check_font(info, families[1])
  if (family != families[1]) {
    inform_once(
      c(i = paste0("The font \"", families[1], "\" is not installed; \"", family, "\" is used in its place."))
    )
  }
  font <- list(
    family = family, wanted = families[1], ascent = info$max_ascend / 1000, descent = abs(info$max_descend) / 1000,
    files = font_files(family)
  )
  c(font, list(space = word_spaces(font$files), known = measured_in(font$files)))
}

# What has been measured in a font's files, kept from figure to figure, and not without end.
measured <- new.env(parent = emptyenv())
measured_in <- function(files) {
  id <- paste(files$path, files$index, collapse = " ")
  if (length(measured[[id]]) > most_measured) rm(list = id, envir = measured)
  if (is.null(measured[[id]])) assign(id, new.env(parent = emptyenv()), measured)
  measured[[id]]
}
most_measured <- 2e4

# The files of a family in regular, bold, italic, and bold and italic type, found once.
font_files <- function(family) {
  found <- lapply(list(c(FALSE, FALSE), c(TRUE, FALSE), c(FALSE, TRUE), c(TRUE, TRUE)), function(style) {
    systemfonts::match_fonts(family, weight = if (style[1]) "bold" else "normal", italic = style[2])
  })
  list(path = vapply(found, `[[`, "", "path"), index = vapply(found, `[[`, 0L, "index"))
}

# The width of a space in regular and in bold type, in parts of the type size.
word_spaces <- function(files) {
  systemfonts::string_width(c(" ", " "), size = 1000, res = 72, path = files$path[1:2], index = files$index[1:2]) / 1000
}

family_installed <- function(family) identical(tolower(font_facts(family)$family), tolower(family))

# The facts of the font that is found for a family, measured at a thousand units; no glyphs
# where there is no font, or its file cannot be read.
font_facts <- function(family) {
  info <- tryCatch(
    suppressWarnings(systemfonts::font_info(family, size = 1000, res = 72)),
    error = function(error) NULL
  )
  if (is.null(info) || !nrow(info)) return(list(family = "", path = "", n_glyphs = 0))
  as.list(info[1, c("family", "path", "n_glyphs", "max_ascend", "max_descend")])
}

# Where a machine has no font, an empty one comes back: text would be missing from figures.
check_font <- function(info, wanted) {
  if (info$n_glyphs >= least_glyphs) return(invisible())
  abort_nelvat("font", c(
    paste0("No font was found to set text in: neither \"", wanted, "\" nor any other."),
    x = if (
      nzchar(info$path) && basename(info$path) != "unfont.ttf"
    ) paste0("The file \"", info$path, "\" cannot be read as a font."),
    i = "Install one, such as Liberation Sans (Debian: fonts-liberation), and start R again."
  ), call = NULL)
}

# Letters and digits alone are more than this.
least_glyphs <- 60
