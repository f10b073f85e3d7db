# Plurals of English nouns.

odd_plurals <- c(
  loaf = "loaves", leaf = "leaves", calf = "calves", half = "halves", wolf = "wolves",
  mouse = "mice", louse = "lice", goose = "geese", foot = "feet", tooth = "teeth",
  child = "children", person = "people", man = "men", woman = "women", ox = "oxen",
  fish = "fish", sheep = "sheep", series = "series", species = "species",
  bacterium = "bacteria", datum = "data", medium = "media", larva = "larvae", alga = "algae",
  analysis = "analyses", axis = "axes", nucleus = "nuclei", fungus = "fungi", genus = "genera"
)

plural_of <- function(word) {
  last <- sub("^.*[ -]", "", word)
  before <- substr(word, 1, nchar(word) - nchar(last))
  many <- if (last %in% names(odd_plurals)) {
    odd_plurals[[last]]
  } else if (grepl("[^aeiou]y$", last)) {
    sub("y$", "ies", last)
  } else if (grepl("(s|x|z|ch|sh)$", last)) {
    paste0(last, "es")
  } else {
    paste0(last, "s")
  }
  paste0(before, many)
}
