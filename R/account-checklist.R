# What reporting checklists ask for, a line for each letter and statistic.

checklist_lines <- function(scene) {
  lines <- unlist(lapply(read_blocks(scene), function(block) block_checks(scene, block)))
  c(lines, paste0("Software: ", software_text(), "."))
}

block_checks <- function(scene, block) {
  accounts <- scene$accounts[scene$accounts$block == block & scene$accounts$used > 0, ]
  accounts <- accounts[!accounts$role %in% c("zoom", "inset"), ]
  noun <- rows_noun(scene, block)
  letters <- block_letters(scene, block)
  lead <- if (length(letters)) paste0(bold_mark(letters_said(letters, scene)), ", ") else ""
  each <- lapply(
    if (NROW(accounts)) split(accounts, factor(accounts$layer, unique(accounts$layer))),
    function(one) {
      paste0(
        one$marks[1],
        ": ",
        one$shows[1],
        "; n of each: ",
        exact_counts(one, noun),
        if (!is.na(one$error[1])) paste0("; error: ", one$error[1])
      )
    }
  )
  areas <- scene$panels$id[scene$panels$block == block]
  c(
    paste0(lead, begun(legend_shows(scene, block)), "."),
    if (length(each)) paste0(lead, unlist(each), "."),
    test_checks(scene$contrasts[scene$contrasts$panel %in% areas, ], lead),
    fit_checks(scene$fits[scene$fits$panel %in% areas, ], lead)
  )
}

# "Wheat 36, Rye 35": of each group that a layer tells apart; of many their least and greatest.
exact_counts <- function(one, noun) {
  levels_of <- one[c("x_level", "y_level", "colour", "shape", "dash")]
  group <- apply(levels_of, 1, function(of) paste(unique(stats::na.omit(of)), collapse = ", "))
  group[!nzchar(group)] <- "not recorded"
  if (any(!is.na(one$least))) return(of_noun(stats::na.omit(c(one$least, one$most)), noun))
  n <- tapply(one$used, factor(group, unique(group)), count_range)
  if (length(n) == 1 || length(n) > most_counts) return(of_noun(one$used, noun))
  paste0(
    paste(names(n), n, collapse = "; "),
    if (!is.null(noun)) paste0(" ", noun[["many"]])
  )
}
most_counts <- 24

test_checks <- function(contrasts, lead) {
  if (!NROW(contrasts)) return(NULL)
  vapply(
    split(contrasts, paste(contrasts$test, contrasts$adjust)),
    function(of) {
      pairs <- paste0(
        ifelse(is.na(of$within), "", paste0(of$within, ", ")),
        ifelse(is.na(of$second), "all groups", paste0(of$first, " \u2212 ", of$second)),
        ": ",
        exact_p(ifelse(is.na(of$adjusted), of$p, of$adjusted))
      )
      paste0(
        lead,
        "test: ",
        of$test[1],
        # Tests of all groups together have no sides.
        if (!all(of$show == "overall")) ", two-sided",
        "; adjustment: ",
        of$adjust[1],
        "; ",
        paste(pairs, collapse = "; "),
        "."
      )
    },
    "",
    USE.NAMES = FALSE
  )
}

fit_checks <- function(fitted, lead) {
  if (!NROW(fitted)) return(NULL)
  who <- apply(
    fitted[c("heading", "colour", "shape", "dash", "group")],
    1,
    function(of) paste(unique(stats::na.omit(of)), collapse = ", ")
  )
  key <- paste(fitted$panel, fitted$layer, who)
  of_fit <- split(fitted, factor(key, unique(key)))
  vapply(
    of_fit,
    function(one) {
      name <- unique(
        stats::na.omit(unlist(one[1, c("heading", "colour", "shape", "dash", "group")]))
      )
      terms <- !is.na(one$estimate)
      paste0(
        lead,
        "fit",
        if (length(name)) paste0(" of ", paste(name, collapse = ", ")),
        ": ",
        one$model[1],
        ", n = ",
        count_text(one$n[1]),
        if (!is.na(one$r2[1])) paste0(", R\u00b2 ", share_words(one$r2[1])),
        if (!is.na(one$p[1])) paste0(", ", exact_p(one$p[1])),
        if (any(terms)) {
          paste0(
            "; ",
            paste0(
              one$term[terms],
              " ",
              number_text_each(one$estimate[terms], 4),
              ifelse(
                is.na(one$low[terms]),
                "",
                paste0(
                  " (",
                  number_text_each(one$low[terms], 4),
                  " to ",
                  number_text_each(one$high[terms], 4),
                  ")"
                )
              ),
              collapse = "; "
            )
          )
        },
        "."
      )
    },
    "",
    USE.NAMES = FALSE
  )
}

# Three digits, however small.
exact_p <- function(p) {
  text <- vapply(
    p,
    function(one) {
      if (is.na(one)) return("not known")
      if (one >= 0.001) return(number_text_each(one, 3))
      if (one == 0) return("0")
      power <- floor(log10(one))
      raised <- raised_text(as.character(power), 1L)
      paste0(number_text_each(one / 10^power, 3), " \u00d7 10", raised)
    },
    ""
  )
  paste0("p = ", text)
}

software_text <- function() {
  paste0(
    "nelvat ",
    utils::packageVersion("nelvat"),
    " in R ",
    getRversion()
  )
}
