# Runs code while functions of the package are other ones, named by the arguments. (testthat has
# this from 3.1.7 on.)
with_replaced <- function(code, ...) {
  room <- asNamespace("nelvat")
  others <- list(...)
  kept <- mget(names(others), room)
  put <- function(functions) {
    for (name in names(functions)) {
      get("unlockBinding", baseenv())(name, room)
      assign(name, functions[[name]], room)
      lockBinding(name, room)
    }
  }
  on.exit(put(kept))
  put(others)
  force(code)
}
