# What a rule for bins must know of a quantity that stays in its database.

most_distinct <- 5000 # values of a quantity that are counted one by one

# What a rule for bins must know of a quantity: list(range, n, iqr, values: all distinct ones where
# they are few).
asked_about <- function(source, value, wanted, call) {
  known <- asked_where(wanted, paste(value, "IS NOT NULL"))
  ends <- engine_rows(
    source,
    paste0(
      "SELECT COUNT(*) AS n, MIN(",
      value,
      ") AS a, MAX(",
      value,
      ") AS b FROM ",
      source$from,
      known
    ),
    call,
    "Asking for the range"
  )
  if (!ends$n) return(list(range = c(0, 0), n = 0, iqr = 0))
  # A database stops as soon as there are too many.
  distinct <- engine_rows(
    source,
    paste0(
      "SELECT DISTINCT ",
      value,
      " AS v FROM ",
      source$from,
      known,
      " LIMIT ",
      most_distinct + 1
    ),
    call,
    "Asking for the values"
  )
  if (nrow(distinct) <= most_distinct) {
    distinct <- engine_rows(
      source,
      paste0(
        "SELECT ",
        value,
        " AS v, COUNT(*) AS n FROM ",
        source$from,
        known,
        " GROUP BY ",
        value
      ),
      call,
      "Counting values"
    )
    distinct <- distinct[order(distinct$v), ]
    quartiles <- counted_quantiles(distinct$v, distinct$n, c(0.25, 0.75))
  } else {
    place <- (ends$n - 1) * c(0.25, 0.75)
    ranked <- asked_ranked(source, value, wanted, c(floor(place), ceiling(place)), ends, call)
    quartiles <- ranked[1:2] + (place - floor(place)) * (ranked[3:4] - ranked[1:2])
    distinct <- NULL
  }
  list(range = c(ends$a, ends$b), n = ends$n, iqr = diff(quartiles), values = distinct$v)
}

quantile_classes <- 1000
most_ranked <- 20000 # values that are fetched to find one by its rank

# Values by their ranks from 0: counted in ever finer classes until few are left; what is asked once
# serves all ranks. ends: list(a, b, n).
asked_ranked <- function(source, value, wanted, ranks, ends, call) {
  known <- new.env(parent = emptyenv())
  once <- function(question, what) {
    id <- rlang::hash(question)
    if (is.null(known[[id]])) known[[id]] <- engine_rows(source, question, call, what)
    known[[id]]
  }
  of_rank <- function(rank) {
    place <- list(from = ends$a, to = ends$b, before = 0, inside = ends$n)
    while (place$inside > most_ranked && place$to > place$from) {
      place <- finer_place(place, rank, once, source, value, wanted)
    }
    if (place$to <= place$from) return(place$from)
    where <- asked_where(wanted, between_sql(value, place))
    few <- once(paste0("SELECT ", value, " AS v FROM ", source$from, where), "Fetching values")
    sort(few$v)[rank - place$before + 1]
  }
  vapply(ranks, of_rank, 0)
}

between_sql <- function(value, place) {
  paste0(value, " >= ", sql_number(place$from), " AND ", value, " <= ", sql_number(place$to))
}

# The class among many of a place that a rank falls in.
finer_place <- function(place, rank, once, source, value, wanted) {
  width <- (place$to - place$from) / quantile_classes
  class <- paste0(
    "CAST((",
    value,
    " - ",
    sql_number(place$from),
    ") / ",
    sql_number(width),
    " AS INTEGER)"
  )
  question <- paste0(
    "SELECT ",
    class,
    " AS k, COUNT(*) AS n, MIN(",
    value,
    ") AS a, MAX(",
    value,
    ") AS b FROM ",
    source$from,
    asked_where(wanted, between_sql(value, place)),
    " GROUP BY ",
    class
  )
  classes <- once(question, "Counting for quartiles")
  classes <- classes[order(classes$k), ]
  class_at <- which(place$before + cumsum(classes$n) > rank)[1]
  list(
    from = classes$a[class_at],
    to = classes$b[class_at],
    before = place$before + sum(classes$n[seq_len(class_at - 1)]),
    inside = classes$n[class_at]
  )
}
