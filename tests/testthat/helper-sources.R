# The sources of the package, beside the tests or where it is checked.
sources <- function() {
  for (folder in c("../../R", "../../../R", "../../00_pkg_src/nelvat/R")) {
    files <- list.files(folder, "[.]R$", full.names = TRUE)
    if (length(files)) return(files[!basename(files) %in% c("RcppExports.R", "nelvat-package.R")])
  }
  character()
}

defined_in <- function(file) {
  expressions <- parse(file, keep.source = FALSE)
  names <- vapply(
    expressions,
    function(one) {
      if (is.call(one) && identical(one[[1]], as.name("<-")) && is.name(one[[2]])) {
        as.character(one[[2]])
      } else {
        ""
      }
    },
    ""
  )
  names[names != ""]
}
