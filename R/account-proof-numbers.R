# Rules of the statistics: errors defined, n of each mark, rows left out said.

prove_errors <- function(scene, plate) {
  with_errors <- Filter(
    function(layer) {
      identical(layer$summarises, "groups") && layer$primitive %in% c("segments", "areas") &&
        NROW(layer$table) > 0
    },
    scene$marks
  )
  if (!length(with_errors)) return(list())
  means <- vapply(
    with_errors,
    function(layer) {
      layer_accounts <- scene$accounts[
        scene$accounts$block == layer$block & scene$accounts$layer == layer$layer,
      ]
      layer_accounts$error[1]
    },
    ""
  )
  offending(
    "error bars defined",
    is.na(means),
    "each says what it spans",
    c(listed(unique(means)), counted(sum(is.na(means)), "layer")),
    "bad",
    vapply(
      with_errors,
      function(layer) paste(layer$ink, "of", sub("block", "block ", layer$block)),
      ""
    ),
    "Let the ink say it as `error_means`, or leave the error out."
  )
}

# Intervals that the table brings are defined by who made it.
prove_intervals <- function(scene, plate) {
  given <- scene$accounts[!is.na(scene$accounts$error) & scene$accounts$summarises == "values", ]
  if (is.null(given) || !nrow(given)) return(list())
  bare <- given$error == "as given in the table"
  offending(
    "intervals defined",
    bare,
    "each says what it spans",
    c(listed(unique(given$error)), "not said"),
    "look",
    account_places(scene, given),
    "Say it in the ink: `means = \"95 % confidence interval\"`."
  )
}

# Stars stand for thresholds, and for tests of as many values as there are.
prove_stars <- function(scene, plate) {
  shown <- scene$contrasts
  if (is.null(shown) || !nrow(shown)) return(list())
  least <- min(shown$n_first, shown$n_second, na.rm = TRUE)
  few <- least < fewest_behind
  stars <- any(shown$show == "stars")
  list(
    finding(
      "comparisons told",
      paste0(if (stars) "stars, " else "", "n = ", least, if (nrow(shown) > 1) " or more" else ""),
      paste0("p, or stars with their thresholds; ", fewest_behind, " or more values"),
      if (stars || few) "look" else "good",
      if (stars || few) some_of(unique(paste(shown$test, "test")))  else "",
      if (few) {
        "Show the single values; no test of so few tells much."
      } else if (stars) {
        "Give the thresholds, test and n in the legend, as `legend_text()` does; or show \"p\"."
      }
    )
  )
}

fewest_behind <- 3 # values from which a centre with its error, or a spread, can be judged

# Of centres with an error and of spreads, n of each mark.
prove_counts <- function(scene, plate) {
  accounts <- scene$accounts
  if (is.null(accounts) || !nrow(accounts)) return(list())
  judged <- accounts[
    accounts$used > 0 & (
      accounts$summarises == "spread" | accounts$summarises == "groups" & !is.na(accounts$error)
    ),
  ]
  if (!nrow(judged)) {
    n <- range(drawn_rows(accounts, scene$panels)[scene$panels$id %in% accounts$area])
    return(list(finding("n given", n_words(n), "no statistic with an error", "good")))
  }
  least <- ifelse(is.na(judged$least), judged$used, judged$least)
  few <- least < fewest_behind
  offending(
    "n given",
    few,
    paste(fewest_behind, "or more behind each mark"),
    c(n_words(range(least)), n_words(range(least[few], Inf, na.rm = TRUE)[1])),
    "look",
    account_places(scene, judged),
    "Show the single values with `ink_dots()` where there are so few."
  )
}

n_words <- function(n) paste("n =", paste(unique(n), collapse = " to "))

# What each row of the accounts is of: ink, heading of its panel, levels.
account_places <- function(scene, accounts) {
  called <- scene$panels$called[match(accounts$area, scene$panels$id)]
  parts <- cbind(
    gsub("_", " ", accounts$ink),
    called,
    accounts$x_level,
    accounts$y_level,
    accounts$colour
  )
  apply(parts, 1, function(row) paste(unique(row[!is.na(row)]), collapse = ", "))
}

prove_dropped <- function(scene, plate) {
  left <- scene$columns
  # What a condition leaves out is left out, too.
  kept <- unique(scene$kept[c("condition", "kept", "given")])
  kept <- kept[kept$kept < kept$given, ]
  if (!NROW(left) && !NROW(kept)) {
    return(list(finding("rows left out", "none", "none unsaid", "good")))
  }
  values <- left$out & nzchar(left$column)
  list(
    finding(
      "rows left out",
      paste(
        c(
          # Rows that are left out whole are among those not kept.
          if (any(values)) counted(sum(left$n[values]), "value"),
          if (NROW(kept)) counted(sum(kept$given - kept$kept), "row"),
          if (NROW(left) && !all(left$out)) {
            counted(sum(!left$out), "thing more to say", "things more to say")
          }
        ),
        collapse = ", "
      ),
      "none unsaid",
      "look",
      some_of(
        c(
          if (NROW(left)) noted_phrases(left, ""),
          if (NROW(kept)) {
            paste0("kept where ", kept$condition, ": ", kept$kept, " of ", kept$given, " rows")
          }
        )
      ),
      "Say so in the legend: `legend_text()` does."
    )
  )
}
