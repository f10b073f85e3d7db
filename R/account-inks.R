# What the inks of a block show and on how many values each mark rests, in words. Read from
# accounts.

# "Bars: mean ± standard deviation; n = 11 to 12 a bar."
legend_inks <- function(scene, block) {
  block_accounts <- scene$accounts[scene$accounts$block == block, ]
  if (is.null(block_accounts) || !nrow(block_accounts)) return(NULL)
  # Statistics in an enlargement rest on the rows of the panel that it is of.
  enlarged <- block_accounts$role %in% c("zoom", "inset")
  main <- ink_sentences(
    block_accounts[
      block_accounts$role != "marginal" & (!enlarged | block_accounts$summarises == "values"),
    ]
  )
  edge <- block_accounts[block_accounts$role == "marginal", ]
  edges <- if (nrow(edge)) paste0("At the edges, ", lower_first(ink_sentences(edge)))
  paste(c(main, edges), collapse = " ")
}

# A sentence for each run of inks that rest on the same values.
ink_sentences <- function(accounts) {
  accounts <- accounts[accounts$used > 0, ]
  if (!nrow(accounts)) return("Nothing is drawn in it.")
  key <- paste(accounts$ink, accounts$shows)
  each <- lapply(split(accounts, factor(key, unique(key))), function(one) {
    list(
      says = paste0(first_upper(gsub("_", " ", one$ink[1])), ": ", one$shows[1]),
      n = n_phrase(one)
    )
  })
  n <- vapply(each, `[[`, "", "n")
  run <- cumsum(c(TRUE, n[-1] != n[-length(n)]))
  sentences <- vapply(
    split(each, run),
    function(of) {
      paste0(paste(vapply(of, `[[`, "", "says"), collapse = ". "), "; ", of[[1]]$n, ".")
    },
    ""
  )
  paste(sentences, collapse = " ")
}

# On how many values one mark, panel or series rests: "n = 11 to 12 a bar".
n_phrase <- function(one) {
  several <- length(unique(one$area)) > 1
  by_slot <- one$summarises[1] %in% c("groups", "spread", "counts") &&
    any(
      !is.na(one$x_level) | !is.na(one$y_level)
    )
  if (one$called[1] == "cell") {
    return(paste0(count_range(tapply(one$used, one$area, sum)), " cells", if (several) " a panel"))
  }
  if (any(!is.na(one$least))) {
    each <- paste0(
      "n = ",
      count_range(stats::na.omit(c(one$least, one$most))),
      " a ",
      one$called[1]
    )
    if (by_slot || all(is.na(one$colour))) return(each)
  }
  if (by_slot) return(paste0("n = ", count_range(one$used), " a ", one$called[1]))
  by_panel <- tapply(one$used, one$area, sum)
  paste0(
    if (any(!is.na(one$least))) paste0(each, ", in all "),
    "n = ",
    count_range(by_panel),
    if (several) " a panel",
    group_phrase(one),
    series_phrase(one)
  )
}

# " (60%: 47, 80%: 46 to 47)": of each level that colour, shape or dash tells apart.
group_phrase <- function(one) {
  channel <- Find(function(channel) any(!is.na(one[[channel]])), c("colour", "shape", "dash"))
  if (is.null(channel)) return("")
  level <- factor(one[[channel]], unique(stats::na.omit(one[[channel]])))
  n <- tapply(one$used, list(one$area, level), sum)
  each <- vapply(
    levels(level),
    function(name) {
      counts_of_level <- n[!is.na(n[, name]), name]
      paste0(name, ": ", count_range(counts_of_level))
    },
    ""
  )
  paste0(" (", paste(each, collapse = ", "), ")")
}

series_phrase <- function(one) {
  if (all(is.na(one$series))) return("")
  total <- tapply(one$series, one$area, sum, na.rm = TRUE)
  paste0(", in ", count_range(total), " series", if (length(total) > 1) " a panel")
}

# Fits ------------------------------------------------------------------------------------

# Of each panel and group, but not of enlargements, which show the fits of their panel.
legend_fits <- function(scene, block) {
  areas <- scene$panels[
    scene$panels$block == block & !scene$panels$role %in% c("zoom", "inset", "marginal"),
  ]
  fitted <- scene$fits[scene$fits$panel %in% areas$id, ]
  if (is.null(fitted) || !nrow(fitted)) return(NULL)
  one <- fitted[!duplicated(fitted[c("panel", "layer", fit_groups_told)]), ]
  # Of curves that have neither, the numbers stand elsewhere.
  one <- one[!is.na(one$r2) | !is.na(one$p), ]
  if (!nrow(one)) return(NULL)
  if (nrow(one) > 8) {
    ends <- share_text(range(one$r2, na.rm = TRUE))
    return(paste0(counted(nrow(one), "fit"), "; R\u00b2 ", paste(ends, collapse = " to "), "."))
  }
  group <- apply(
    one[fit_groups_told],
    1,
    function(levels) paste(unique(stats::na.omit(levels)), collapse = ", ")
  )
  who <- vapply(
    seq_len(nrow(one)),
    function(i) {
      parts <- c(
        if (!is.na(one$heading[i])) gsub("\n", " ", one$heading[i]),
        if (nzchar(group[i])) group[i]
      )
      if (length(parts)) paste0(paste(parts, collapse = ", "), ": ") else ""
    },
    ""
  )
  r2 <- ifelse(is.na(one$r2), "", paste0("R\u00b2 ", share_words(one$r2)))
  said <- paste0(
    who,
    r2,
    ifelse(is.na(one$p), "", paste0(if (any(nzchar(r2))) ", ", p_words(one$p)))
  )
  paste0("Fits: ", paste(said, collapse = "; "), ".")
}

fit_groups_told <- c("colour", "shape", "dash", "group")
