# Widths of text, measured with systemfonts at high resolution: no device is
# needed, and the result is the same everywhere the font is.
#
# font: list(family, files, ascent, descent, space): see house-font.R; the last three in parts of the
# type size, space in regular and in bold type.

mm_per_pt <- 25.4 / 72
leading <- 1.2  # baseline to baseline, in type sizes

# Width in mm of each string at `size_pt`.
text_width_mm <- function(strings, size_pt, font, bold = FALSE, italic = FALSE) {
  if (!length(strings)) return(numeric())
  style <- rep_len(1L + bold + 2L * italic, length(strings))
  per_em <- systemfonts::string_width(
    strings, size = 1000, res = 72, path = font$files$path[style], index = font$files$index[style]
  ) / 1000
  per_em * size_pt * mm_per_pt
}

# Widths of runs (see markup_runs) in parts of their line's type size.
run_widths <- function(runs, font) {
  scale <- ifelse(runs$script == 0, 1, script_scale)
  text_width_mm(runs$string, 1 / mm_per_pt, font, runs$bold, runs$italic) * scale
}
