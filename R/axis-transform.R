# Transforms of an axis: a pair of functions and the range they hold for. Only
# the identity as yet; `axis_transform()` is where others join.

axis_transform <- function(name = "identity") {
  switch(name, identity = list(name = "identity", forward = identity, backward = identity))
}
