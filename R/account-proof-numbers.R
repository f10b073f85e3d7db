# Rules of the statistics: errors defined, n given, rows left out said.

prove_errors <- function(scene, plate) {
  facts <- scene$facts[scene$facts$summarises == "groups", ]
  if (is.null(facts) || !nrow(facts)) return(list())
  with_errors <- vapply(
    scene$marks, function(layer) identical(layer$summarises, "groups") && layer$primitive %in% c("segments", "areas"),
    NA
  )
  if (!any(with_errors)) return(list())
  bare <- !grepl("sd|se|standard|interval|ci|quartile|range|error", facts$shows)
  offending(
    "error bars defined", bare, "in the legend text", c("defined", counted(sum(bare), "layer")), "bad", facts$shows,
    "Name them: `ink_bars(error = \"sd\")`."
  )
}

prove_counts <- function(scene, plate) {
  facts <- scene$facts
  if (is.null(facts) || !nrow(facts)) return(list())
  few <- facts$n < 3 & facts$summarises == "spread"
  n <- range(facts$n)
  offending(
    "n given", few, "3 or more behind a statistic",
    c(if (n[1] == n[2]) paste("n =", n[1]) else paste("n =", n[1], "to", n[2]), paste("n =", min(facts$n[few], Inf))),
    "look", paste0(facts$ink, if (all(is.na(facts$heading))) "" else paste0(", ", facts$heading)),
    "Show the single values with `ink_dots()` where there are so few."
  )
}

prove_dropped <- function(scene, plate) {
  left <- scene$columns
  if (is.null(left) || !nrow(left)) return(list(finding("rows left out", "none", "none unsaid", "good")))
  list(
    finding(
      "rows left out", paste(format(sum(left$n), big.mark = ","), "values"), "none unsaid", "look",
      some_of(paste0(left$column, ": ", left$n, " ", left$what)), "Say so in the legend: `legend_text()` does."
    )
  )
}
