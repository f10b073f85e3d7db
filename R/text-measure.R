# Widths of text, measured with systemfonts at high resolution: no device is
# needed, and the result is the same everywhere the font is.
#
# font: list(family, ascent, descent), the last two in parts of the type size.

mm_per_pt <- 25.4 / 72
leading <- 1.2  # baseline to baseline, in type sizes

# Width in mm of each string at `size_pt`.
text_width_mm <- function(strings, size_pt, font, bold = FALSE, italic = FALSE) {
  if (!length(strings)) return(numeric())
  per_em <- systemfonts::string_width(
    strings, family = font$family, weight = ifelse(bold, "bold", "normal"), italic = italic, size = 1000, res = 72
  ) / 1000
  per_em * size_pt * mm_per_pt
}

# Widths of runs (see markup_runs) in parts of their line's type size.
run_widths <- function(runs, font) {
  scale <- ifelse(runs$script == 0, 1, script_scale)
  text_width_mm(runs$string, 1 / mm_per_pt, font, runs$bold, runs$italic) * scale
}
