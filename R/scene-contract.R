#' Try an ink
#'
#' Runs an ink against random tables (groups, missing values, facets, categories lying down, other
#' units) and says what it breaks of what every ink keeps.
#'
#' @param ink An ink, as its word makes it, such as `ink_lollipop()`.
#' @param word Its word, the function, so that its arguments are tried, too; or `NULL`.
#' @param tables How many random tables.
#' @param seed A whole number: other tables.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame of class `nelvat_contract`, a row a rule: `rule`, `holds` (`NA` where it
#'   could not be tried), `why`, in words, what was seen where it does not hold.
#' @details The rules:
#' * *arguments*: the word has the arguments of its types, its defaults pass, each has a sentence,
#'   and a value of another sort is refused.
#' * *draws*: it draws at least one of the tables, and what it refuses it refuses in the user's
#'   terms.
#' * *findings*: names are known, no number is infinite, no mark is of no rows, and n sum to the
#'   rows used.
#' * *missing*: rows with a missing value alter nothing; they are not used.
#' * *order*: the order of rows alters nothing.
#' * *panels*: what a panel of facets says is what its rows alone say.
#' * *measures*: of several measures, also on unlike axes, it says what it says of each alone.
#' * *reversed*: on a reversed axis there are the same marks.
#' * *unit*: in another unit of the quantity its numbers on that axis are the same quantities.
#' * *lying*: with the category on `y` it says the same.
#' * *again*: twice the same rows say the same, and neither the state of random numbers nor options
#'   are altered.
#' * *marks*: places are numbers; colours of groups are those of their levels.
#' * *sentence*: what it shows is one text in words, without a full stop or code.
#' @section Errors: `nelvat_error_argument` for an argument of another sort.
#' @examples
#' check_ink_contract(ink_centre(), ink_centre, tables = 1)
#' @export
check_ink_contract <- function(ink, word = NULL, tables = 8, seed = 1, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_needed(check_ink_contract, "check_ink_contract", call)
  if (!is_ink(ink)) {
    abort_nelvat(
      "argument",
      c("`ink` must be an ink.", x = paste0("Found ", describe_value(ink), ".")),
      call
    )
  }
  check_type(a_number(1, 200, whole = TRUE), tables, "tables", call)
  check_type(a_number(0, 1e6, whole = TRUE), seed, "seed", call)
  # What is tried leaves the state of random numbers as it was.
  kept <- get0(".Random.seed", globalenv(), inherits = FALSE)
  on.exit(
    if (is.null(kept)) {
      suppressWarnings(rm(".Random.seed", envir = globalenv()))
    } else {
      assign(".Random.seed", kept, globalenv())
    }
  )
  trial <- new_trial(ink, tables, seed)
  rules <- c(
    list(arguments = function(trial) if (is.null(word)) NA else broken_arguments(ink, word)),
    contract_rules
  )
  found <- lapply(names(rules), function(rule) {
    why <- tryCatch(
      rules[[rule]](trial),
      error = function(error) paste0("It fails: ", first_line(conditionMessage(error)))
    )
    data.frame(
      rule = rule,
      holds = if (is.null(why)) TRUE else if (is.na(why[1])) NA else FALSE,
      why = if (is.null(why) || is.na(why[1])) "" else why[1]
    )
  })
  table <- do.call(rbind, found)
  structure(table, class = c("nelvat_contract", class(table)), ink = ink$ink)
}

#' @export
print.nelvat_contract <- function(x, ...) {
  broken <- which(!x$holds)
  cat(
    "ink_",
    attr(x, "ink"),
    "(): ",
    sum(x$holds, na.rm = TRUE),
    " of ",
    counted(sum(!is.na(x$holds)), "rule"),
    " kept\n",
    sep = ""
  )
  if (length(broken)) cat(paste0("* ", x$rule[broken], ": ", x$why[broken], "\n"), sep = "")
  invisible(x)
}

first_line <- function(text) sub("\n.*", "", text)

# Tables with two categories, quantities, a time, and columns that inks take besides.
random_contract_table <- function(seed) {
  with_seed(seed, {
    n <- 3 * (4 + (seed * 5) %% 17)
    k <- 2 + seed %% 3
    g <- factor(sample(letters[seq_len(k)], n, TRUE), letters[seq_len(k)])
    v <- round(stats::rnorm(n, 20, 4) + as.integer(g), 2)
    spread <- stats::rexp(n) + 0.1
    list(
      g = g,
      s = factor(sample(c("p", "q"), n, TRUE)),
      f = factor(sample(c("one", "two"), n, TRUE)),
      w = round(stats::runif(n, 1, 9), 1),
      # Triangles of three rows each.
      corner = rep(seq_len(n / 3), 3),
      grade = factor(
        sample(c("less", "same", "more"), n, TRUE),
        c("less", "same", "more"),
        ordered = TRUE
      ),
      v = v,
      low = v - spread,
      high = v + spread,
      status = stats::rbinom(n, 1, 0.7),
      label = factor(sprintf("L%02d", seq_len(n))),
      number = seq_len(n),
      picture = rep(study_file("crumb.png"), n),
      across = (seq_len(n) - 1) %% 4 + 1,
      up = (seq_len(n) - 1) %/% 4 + 1
    )
  })
}

# Panels that an ink may suit, as functions of a table.
contract_panels <- list(
  levels = function(t, ink) panel(t, x = g, y = v, colour = s, ink),
  lying = function(t, ink) panel(t, x = v, y = g, colour = s, ink),
  numbers = function(t, ink) panel(t, x = w, y = v, colour = s, ink),
  bare = function(t, ink) panel(t, x = w, y = v, ink),
  x = function(t, ink) panel(t, x = v, colour = s, ink),
  y = function(t, ink) panel(t, y = v, colour = s, ink),
  ramp = function(t, ink) panel(t, x = g, y = f, colour = v, ink),
  # A row a level, and a row a place of a grid.
  each = function(t, ink) panel(t, x = v, y = label, ink),
  standing = function(t, ink) panel(t, x = label, y = v, ink),
  grid = function(t, ink) panel(t, x = across, y = up, colour = v, ink),
  one_each = function(t, ink) panel(t, x = number, y = w, ink),
  rows = function(t, ink) panel(t, y = label, ink),
  counted = function(t, ink) panel(t, y = g, colour = s, ink),
  outlined = function(t, ink) panel(t, x = w, y = v, group = g, ink),
  agreed = function(t, ink) panel(t, y = g, colour = grade, ink),
  meshed = function(t, ink) panel(t, x = w, y = v, group = corner, colour = v, ink),
  likened = function(t, ink) panel(t, y = g, order = list(g = by_likeness(v, s)), ink),
  none = function(t, ink) panel(t, ink)
)
more_panels <- c(
  "each", "standing", "grid", "one_each", "rows", "counted", "outlined", "agreed", "meshed",
  "likened"
)

# What is tried: tables, and of each the panels that the ink takes, with what it refuses.
new_trial <- function(ink, tables, seed) {
  refused <- function(panels) {
    lapply(panels, function(make) {
      answer <- tryCatch(
        trained_of(make, contract_book(seed), ink),
        error = identity
      )
      if (inherits(answer, "error")) answer
    })
  }
  # What the usual panels suit is tried in these alone.
  taken <- refused(contract_panels[setdiff(names(contract_panels), more_panels)])
  if (all(vapply(taken, inherits, NA, "nelvat_error"))) {
    taken <- c(taken, refused(contract_panels[more_panels]))
  }
  list(ink = ink, seeds = seed - 1 + seq_len(tables), taken = taken)
}

contract_book <- function(seed, unit = NULL, alter = identity) {
  table <- as.data.frame(random_contract_table(seed))
  table <- alter(table)
  measured <- function() quantity("Measure", unit = "g", show = unit)
  codebook(table, v = measured(), low = measured(), high = measured())
}

# Layers of a panel, or of facets of it, as trained.
trained_of <- function(make, book, ink, parted = FALSE) {
  block <- make(book, ink)
  block <- as_block(if (parted) facets(block, across = !!as.name("f")) else block, NULL)
  layers <- block_layers(block, cells_of(block))
  lapply(layers, train_layer)
}

# Findings in an order of their own, numbers to eight digits.
plain_findings <- function(layers) {
  found <- layers[[1]]$trained$findings
  # A note says nothing of rows.
  if (is.null(found) && ink_traits(layers[[1]]$ink)$summarises == "nothing") return(data.frame())
  if (is.null(found)) {
    table <- layers[[1]]$table[layers[[1]]$trained$used %||% TRUE, , drop = FALSE]
    found <- table[intersect(finding_channels, names(table))]
  }
  found <- as.data.frame(unclass(found)[vapply(unclass(found), is.atomic, NA)])
  found <- found[vapply(found, function(column) !all(is.na(column)), NA)]
  found[] <- lapply(found, function(column) {
    if (is.numeric(column)) signif(as.numeric(column), 8) else as.character(column)
  })
  found <- found[order(names(found))]
  found <- found[do.call(order, unname(as.list(found))), , drop = FALSE]
  rownames(found) <- NULL
  found
}

same_findings <- function(a, b) isTRUE(all.equal(a, b, tolerance = 1e-6, check.attributes = FALSE))

# For each table and each panel that the ink takes: what a rule says, the first that is broken.
over_trials <- function(trial, rule, panels = names(contract_panels)) {
  tried <- FALSE
  for (name in intersect(panels, names(Filter(Negate(is_error), trial$taken)))) {
    for (seed in trial$seeds) {
      make <- contract_panels[[name]]
      plain <- tryCatch(
        trained_of(make, contract_book(seed), trial$ink),
        nelvat_error = function(error) if (inherits(error, "nelvat_error_record")) stop(error)
      )
      if (is.null(plain)) next
      tried <- TRUE
      why <- rule(make, seed, plain, trial$ink)
      if (!is.null(why)) return(paste0(why, " (table ", seed, ", ", name, ")"))
    }
  }
  if (!tried) NA
}
is_error <- function(x) inherits(x, "error")
is_of_findings <- function(x) {
  inherits(x, "nelvat_error_record") && grepl("^The findings of", conditionMessage(x))
}

contract_rules <- list(
  draws = function(trial) {
    refused <- Filter(is_error, trial$taken)
    bare <- Filter(function(error) !inherits(error, "nelvat_error"), refused)
    if (length(bare)) return(paste0("a bare error: ", first_line(conditionMessage(bare[[1]]))))
    records <- Filter(
      function(error) inherits(error, "nelvat_error_record") && !is_of_findings(error),
      refused
    )
    if (length(records)) return(gsub("\n", " ", conditionMessage(records[[1]])))
    if (length(refused) == length(trial$taken)) "it takes none of the panels"
  },
  findings = function(trial) {
    refused <- Filter(is_of_findings, trial$taken)
    if (length(refused)) return(gsub("\n", " ", conditionMessage(refused[[1]])))
    over_trials(trial, function(make, seed, plain, ink) {
      broken_findings(plain[[1]])
    })
  },
  missing = function(trial) {
    over_trials(
      trial,
      function(make, seed, plain, ink) {
        more <- function(table) {
          lacking <- table[rep(1, 3), ]
          lacking[c("v", "w", "low", "high", "status")] <- NA
          lacking[c("g", "label", "picture", "corner")] <- NA
          rbind(table, lacking)
        }
        wider <- trained_of(make, contract_book(seed, alter = more), ink)
        if (!same_findings(plain_findings(plain), plain_findings(wider))) {
          "rows with a missing value alter what it says"
        }
      }
    )
  },
  order = function(trial) {
    over_trials(
      trial,
      function(make, seed, plain, ink) {
        shuffled <- function(table) table[with_seed(seed, sample(nrow(table))), ]
        other <- trained_of(make, contract_book(seed, alter = shuffled), ink)
        if (!same_findings(plain_findings(plain), plain_findings(other))) {
          "rows in another order say something else"
        }
      }
    )
  },
  panels = function(trial) {
    over_trials(trial, broken_panels, c("levels", "numbers", "bare"))
  },
  measures = function(trial) {
    few <- changed(trial, seeds = trial$seeds[1])
    over_trials(few, broken_measures, names(measure_panels))
  },
  reversed = function(trial) {
    few <- changed(trial, seeds = trial$seeds[1])
    taken <- names(Filter(Negate(is_error), trial$taken))
    over_trials(few, broken_reversed, intersect(c("bare", "levels", "numbers", "x", "y"), taken)[1])
  },
  unit = function(trial) {
    over_trials(trial, broken_unit, c("levels", "numbers", "bare"))
  },
  lying = function(trial) {
    if (is_error(trial$taken$lying) || is_error(trial$taken$levels)) return(NA)
    over_trials(trial, broken_lying, "levels")
  },
  again = function(trial) {
    over_trials(trial, function(make, seed, plain, ink) {
      stats::runif(1)
      before <- list(get(".Random.seed", globalenv()), options())
      other <- trained_of(make, contract_book(seed), ink)
      after <- list(get(".Random.seed", globalenv()), options())
      if (!same_findings(plain_findings(plain), plain_findings(other))) {
        return("it says something else each time")
      }
      if (!identical(before[[1]], after[[1]])) return("it alters the state of random numbers")
      if (!identical(before[[2]], after[[2]])) "it alters options"
    })
  },
  marks = function(trial) over_trials(trial, broken_marks),
  sentence = function(trial) {
    over_trials(trial, function(make, seed, plain, ink) {
      shows <- plain[[1]]$trained$shows
      if (is.null(shows)) return(NULL)
      if (!rlang::is_string(shows) || !nzchar(trimws(shows))) return("it says nothing of its marks")
      if (grepl("[.]\\s*$", shows)) return("its sentence ends with a full stop")
      if (grepl("_|\\(\\)|\\$|NULL|NA\\b", plain_text(shows))) {
        paste0("its sentence holds code: ", shows)
      }
    })
  }
)
