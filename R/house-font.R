# The first family of a house that is really installed. fontconfig answers every
# name with some font; a family counts as installed only where the font that comes
# back bears that name.

house_font <- function(families) {
  for (family in families) if (family_installed(family)) break
  if (!family_installed(family)) {
    family <- systemfonts::font_info("sans")$family[1]
  }
  if (family != families[1]) {
    rlang::inform(
      c(i = paste0("The font \"", families[1], "\" is not installed; \"", family, "\" is used in its place.")),
      .frequency = "once", .frequency_id = paste("nelvat font", families[1])
    )
  }
  info <- systemfonts::font_info(family, size = 1000, res = 72)
  list(family = family, wanted = families[1], ascent = info$max_ascend / 1000, descent = abs(info$max_descend) / 1000)
}

family_installed <- function(family) {
  identical(tolower(systemfonts::font_info(family)$family[1]), tolower(family))
}
