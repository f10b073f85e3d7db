# What a paper's methods say of statistics: each statement once for all figures.

methods_sentences <- function(scenes) {
  if (!length(scenes)) return(methods_of(scenes))
  # Of several houses each sentence could be another's: the first one's numbers are those of all.
  house_words(methods_of(scenes), scenes[[1]])
}

methods_of <- function(scenes) {
  stated <- unique(
    do.call(
      rbind,
      lapply(scenes, function(scene) {
        accounts <- scene$accounts
        accounts[accounts$used > 0 & accounts$summarises != "values", c("marks", "shows")]
      })
    )
  )
  by_shows <- split(stated$marks, factor(stated$shows, unique(stated$shows)))
  said <- vapply(
    names(by_shows),
    function(shows) {
      marks <- begun(listed(unique(by_shows[[shows]])))
      paste0(marks, ": ", without_numbers(shows))
    },
    "",
    USE.NAMES = FALSE
  )
  c(
    if (length(said)) paste0(alike_joined(unique(said)), "."),
    paste0(
      "Figures and their statistics were made with ",
      software_text(),
      "."
    )
  )
}

# What is of one figure, such as how many comparisons it has, is no method.
without_numbers <- function(shows) {
  gsub(" \\([0-9,]+( to [0-9,]+)? comparisons?( each)?\\)", "", shows)
}
