# The first family of a house that is really installed. fontconfig answers every name with some
# font; a family counts as installed only where the font that comes back bears that name.

# families: names, or those of each script in a list whose first, Latin, is for all that is no
# other's.
house_font <- function(families) {
  of_script <- if (is.list(families)) families[-1]
  if (is.list(families)) families <- families[[1]]
  family <- installed_family(families)
  if (!family_installed(family)) family <- font_facts("sans")$family
  info <- font_facts(family)
  check_font(info, families[1])
  say_other_font(family, families[1])
  font <- list(
    family = family,
    wanted = families[1],
    ascent = info$max_ascend / 1000,
    descent = abs(info$max_descend) / 1000,
    files = font_files(family),
    scripts = Filter(Negate(is.null), Map(script_font, names(of_script), of_script))
  )
  all_files <- c(list(font$files), lapply(font$scripts, `[[`, "files"))
  c(
    font,
    list(space = word_spaces(font$files), known = measured_in(all_files, names(font$scripts)))
  )
}

# What texts look like and measure in a font, without what is measured already.
typeface <- function(font) font[names(font) != "known"]

installed_family <- function(families) {
  for (family in families) if (family_installed(family)) break
  family
}

say_other_font <- function(family, wanted) {
  if (family != wanted) {
    inform_once(
      c(
        i = paste0(
          "The font \"",
          wanted,
          "\" is not installed; \"",
          family,
          "\" is used in its place."
        )
      )
    )
  }
}

# The font of a script; NULL where none of its families is installed: then what the main one has
# stands in.
script_font <- function(script, families) {
  family <- installed_family(families)
  if (!family_installed(family)) {
    inform_once(
      c(
        i = paste0(
          "No font for ",
          script,
          " is installed of ",
          quoted(families),
          "; others stand in for it."
        )
      )
    )
    return(NULL)
  }
  say_other_font(family, families[1])
  list(script = script, family = family, files = font_files(family))
}

# What has been measured in a font's files, kept from figure to figure, and not without end.
measured <- new.env(parent = emptyenv())
measured_in <- function(files, scripts) {
  id <- paste(c(scripts, unlist(files)), collapse = " ")
  if (length(measured[[id]]) > most_measured) rm(list = id, envir = measured)
  if (is.null(measured[[id]])) assign(id, new.env(parent = emptyenv()), measured)
  measured[[id]]
}
most_measured <- 2e4

# The files of a family in regular, bold, italic, and bold and italic type, found once.
font_files <- function(family) {
  found <- Map(
    font_file,
    family,
    bold = c(FALSE, TRUE, FALSE, TRUE),
    italic = c(FALSE, FALSE, TRUE, TRUE)
  )
  list(path = vapply(found, `[[`, "", "path"), index = vapply(found, `[[`, 0L, "index"))
}

# Under the name that systemfonts has for it: `match_fonts()` came with 1.1.0.
font_file <- function(family, bold, italic) {
  fonts <- asNamespace("systemfonts")
  if (!exists("match_fonts", fonts)) return(fonts$match_font(family, italic = italic, bold = bold))
  fonts$match_fonts(family, weight = if (bold) "bold" else "normal", italic = italic)
}

# The width of a space in regular and in bold type, in parts of the type size.
word_spaces <- function(files) {
  systemfonts::string_width(
    c(" ", " "),
    size = 1000,
    res = 72,
    path = files$path[1:2],
    index = files$index[1:2]
  ) / 1000
}

family_installed <- function(family) identical(tolower(font_facts(family)$family), tolower(family))

# The facts of the font that is found for a family, measured at a thousand units; no glyphs
# where there is no font, or its file cannot be read.
font_facts <- function(family) {
  nothing <- list(family = "", path = "", n_glyphs = 0)
  # Where a machine has none at all, early versions of systemfonts end R when asked for one.
  if (!has_fonts()) return(nothing)
  info <- tryCatch(
    suppressWarnings(systemfonts::font_info(family, size = 1000, res = 72)),
    error = function(error) NULL
  )
  if (is.null(info) || !nrow(info)) return(nothing)
  as.list(info[1, c("family", "path", "n_glyphs", "max_ascend", "max_descend")])
}

# Listing all fonts takes a while; once there are some there will be.
has_fonts <- function() {
  if (!fonts_seen$any) fonts_seen$any <- nrow(systemfonts::system_fonts()) > 0
  fonts_seen$any
}
fonts_seen <- new.env(parent = emptyenv())
fonts_seen$any <- FALSE

# Where a machine has no font, an empty one comes back: text would be missing from figures.
check_font <- function(info, wanted) {
  if (info$n_glyphs >= least_glyphs) return(invisible())
  abort_nelvat(
    "font",
    c(
      paste0("No font was found to set text in: neither \"", wanted, "\" nor any other."),
      x = if (nzchar(info$path) && basename(info$path) != "unfont.ttf") {
        paste0("The file \"", info$path, "\" cannot be read as a font.")
      },
      i = "Install one, such as Liberation Sans (Debian: fonts-liberation), and start R again."
    ),
    call = NULL
  )
}

# Letters and digits alone are more than this.
least_glyphs <- 60

# A list of families by script, checked: Latin first, which is the house's own where it is not
# named.
families_by_script <- function(new, old, call) {
  scripts <- rlang::names2(new)
  if (all(scripts == "")) return(checked_value(character(), new, "families", call))
  known <- vapply(scripts, is_script, NA)
  if (!all(known)) {
    abort_nelvat(
      "house",
      c(
        paste0(
          "\"families\" of a house style must be names of fonts, or those of each script, by its ",
          "name in Unicode."
        ),
        x = paste0("Found \"", scripts[!known][1], "\"."),
        offer(scripts[!known][1], common_scripts, "script")
      ),
      call
    )
  }
  new <- Map(
    function(names, script) checked_value(character(), names, c("families", script), call),
    new,
    scripts
  )
  is_latin <- tolower(scripts) == "latin"
  if (is.list(old)) new <- c(new, old[!tolower(names(old)) %in% tolower(scripts)])
  latin <- if (any(is_latin)) {
    new[is_latin][1]
  } else {
    list(Latin = if (is.list(old)) old[[1]] else old)
  }
  c(stats::setNames(latin, "Latin"), new[tolower(names(new)) != "latin"])
}

common_scripts <- c(
  "Latin", "Greek", "Cyrillic", "Arabic", "Hebrew", "Han", "Hiragana", "Katakana", "Hangul", "Jpan",
  "Kore", "Thai",
  "Devanagari", "Bengali", "Tamil", "Armenian", "Georgian", "Ethiopic", "Khmer", "Lao", "Myanmar"
)

# Is it a name that Perl's expressions know a script by, or one of the two of ISO 15924 that stand
# for several?
is_script <- function(name) {
  if (!grepl("^[A-Za-z_]{3,}$", name) || tolower(name) %in% c("common", "inherited", "any")) {
    return(FALSE)
  }
  known <- function(...) {
    !is.null(tryCatch(..., error = function(e) NULL, warning = function(w) NULL))
  }
  known(grepl(script_class(name), "a", perl = TRUE))
}
