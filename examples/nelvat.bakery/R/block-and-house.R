# A block is a function that gives blocks: two measures of the same loaves beside each other.
loaf_pair <- function(data, group, first, second, ...) {
  side <- function(measure) {
    nelvat::panel(data, x = {{ group }}, y = {{ measure }}, ink_spans(), ink_lollipop(), ...)
  }
  nelvat::beside(side({{ first }}), side({{ second }}))
}

# A house is a function that gives one.
bakery_house <- function() {
  nelvat::house(type_pt = list(base = 7), weight_pt = list(line = 0.75))
}
