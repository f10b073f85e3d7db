# Widths of text, measured with systemfonts at high resolution: no device is
# needed, and the result is the same everywhere the font is.
#
# font: list(family, files, ascent, descent, space): see house-font.R; the last three in parts of
# the type size, space in regular and in bold type.

mm_per_pt <- 25.4 / 72
leading <- 1.2 # baseline to baseline, in type sizes

# Width in mm of each string at `size_pt`.
text_width_mm <- function(strings, size_pt, font, bold = FALSE, italic = FALSE) {
  if (!length(strings)) return(numeric())
  style <- rep_len(1L + bold + 2L * italic, length(strings))
  style_of <- script_fonts(strings, font)
  per_em <- numeric(length(strings))
  for (i in unique(style_of)) {
    rows <- style_of == i
    per_em[rows] <- em_width(strings[rows], font_of_script(font, i), style[rows])
  }
  per_em * size_pt * mm_per_pt
}

# Widths in parts of the type size, in one font.
em_width <- function(strings, font, style) {
  per_em <- systemfonts::string_width(
    strings,
    size = 1000,
    res = 72,
    path = font$files$path[style],
    index = font$files$index[style]
  ) / 1000
  shaped <- which(is_shaped(strings))
  if (length(shaped)) per_em[shaped] <- shaped_width(strings[shaped], font, style[shaped])
  per_em
}

# Text of which not every character is a glyph beside the last one, or is in most fonts: joined and
# right-to-left scripts, combining marks, ideographs, rare signs. Plain are Latin, Greek, Cyrillic,
# the usual punctuation, arrows and signs of mathematics.
plain_letters <- paste0(
  "\\x{0000}-\\x{024f}\\x{0370}-\\x{0482}\\x{048a}-\\x{052f}\\x{1e00}-\\x{1eff}",
  "\\x{2000}-\\x{200a}\\x{2010}-\\x{2027}\\x{202f}-\\x{205e}\\x{20ac}\\x{2122}\\x{2126}\\x{2212}"
)
is_shaped <- function(strings) {
  odd <- grepl("[^ -~]", strings)
  odd[odd] <- grepl(paste0("(*UTF)[^", plain_letters, "]"), strings[odd], perl = TRUE)
  odd
}

# As it will be drawn: shaped, and with glyphs of other fonts where this one has none. In parts of
# the type size.
shaped_width <- function(strings, font, style) {
  is_bold <- style %in% c(2, 4)
  setting <- list(strings, family = font$family, italic = style > 2, size = 1000, res = 72)
  # Before textshaping 0.4 the weight was `bold`, and other fonts did not stand in by themselves.
  stands_in <- "weight" %in% names(formals(textshaping::shape_text))
  setting <- c(
    setting,
    if (stands_in) {
      list(weight = ifelse(is_bold, "bold", "normal"))
    } else {
      list(bold = is_bold, path = unlist(lapply(strings, file_for, font$family)))
    }
  )
  do.call(textshaping::shape_text, setting)$metrics$width / 1000
}

# The file of a font that has what a family lacks of a text; that of the family where none has.
file_for <- function(string, family) {
  lacking <- systemfonts::glyph_info(string, family = family)$index == 0
  if (any(lacking)) {
    systemfonts::font_fallback(string, family = family)$path[1]
  } else {
    systemfonts::font_info(family)$path[1]
  }
}

# Characters of `strings` that neither the font nor any that stands in for it has.
lacking_glyphs <- function(strings, family) {
  shown <- unique(unlist(strsplit(gsub("[\\s\\p{C}\\p{Mn}]", "", strings, perl = TRUE), "")))
  if (!length(shown)) return(character())
  shown <- shown[systemfonts::glyph_info(shown, family = family)$index == 0]
  Filter(
    function(character) {
      other <- systemfonts::font_fallback(character, family = family)
      systemfonts::glyph_info(character, path = other$path[1], index = other$index[1])$index == 0
    },
    shown
  )
}

# The same of runs, each in its own family.
lacking_in_runs <- function(runs) {
  unique(
    unlist(
      lapply(unique(runs$family), function(family) {
        lacking_glyphs(unique(runs$string[runs$family == family]), family)
      })
    )
  )
}

# Boxes stand where no font has a character: said, as nothing of the figure is wrong but them.
say_lacking <- function(runs) {
  lacking <- lacking_in_runs(table_rows(runs, which(is_shaped(runs$string))))
  if (length(lacking)) {
    inform_once(
      c(
        i = paste0(
          "No font has ",
          quoted(lacking, 4),
          ": a box is drawn in ",
          if (length(lacking) == 1) "its" else "their",
          " place. Install ",
          font_for(lacking),
          "."
        )
      )
    )
  }
}

# What printable() put there, or was lost when the text was converted before.
say_unprintable <- function(strings) {
  odd <- unique(grep("\ufffd", strings, value = TRUE, fixed = TRUE))
  if (!length(odd)) return(invisible())
  inform_once(
    c(
      i = paste0(
        counted(length(odd), "text"),
        if (length(odd) == 1) " holds" else " hold",
        " control characters, which no page has a form for: \ufffd stands in their place, in ",
        quoted(odd, 3),
        "."
      )
    )
  )
}

# A font that has such characters, for who must install one.
font_for <- function(characters) {
  code <- utf8ToInt(characters[1])
  among <- function(...) {
    any(vapply(list(...), function(ends) code >= ends[1] && code <= ends[2], NA))
  }
  if (
    among(
      c(0x2e80, 0x9fff),
      c(0xac00, 0xd7af),
      c(0xf900, 0xfaff),
      c(0xff00, 0xffef),
      c(0x20000, 0x3ffff)
    )
  ) {
    return("Noto Sans CJK (Debian: fonts-noto-cjk)")
  }
  if (among(c(0x1f000, 0x1faff), c(0x2600, 0x27bf))) return("Symbola (Debian: fonts-symbola)")
  "Noto Sans for its script (Debian: fonts-noto-core)"
}

# Widths of runs (see markup_runs) in parts of their line's type size.
run_widths <- function(runs, font) {
  scale <- ifelse(runs$script == 0, 1, script_scale)
  text_width_mm(without_soft(runs$string), 1 / mm_per_pt, font, runs$bold, runs$italic) * scale
}
