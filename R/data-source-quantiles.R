# What a rule for bins must know of a quantity that stays in its database.

most_distinct <- 5000 # values of a quantity that are counted one by one

# What a rule for bins must know of a quantity: list(range, n, iqr, values: all distinct ones where
# they are few).
asked_about <- function(source, value, wanted, call) {
  extent <- asked_extents(source, value, wanted, call)
  if (!extent$n) return(list(range = c(0, 0), n = 0, iqr = 0))
  known <- list(where = c(wanted$where, has_values(source, value, wanted, call)))
  by_value <- changed(known, parts = c(v = value))
  distinct <- asked_distinct(source, by_value, most_distinct + 1, call)
  if (nrow(distinct) <= most_distinct) {
    distinct <- asked_sums(source, c(n = "COUNT(*)"), by_value, call, "Counting values")
    distinct <- distinct[order(distinct$v), ]
    quartiles <- counted_quantiles(distinct$v, distinct$n, c(0.25, 0.75))
  } else {
    place <- (extent$n - 1) * c(0.25, 0.75)
    ranked <- asked_ranked(source, value, known, c(floor(place), ceiling(place)), extent, call)
    quartiles <- ranked[1:2] + (place - floor(place)) * (ranked[3:4] - ranked[1:2])
    distinct <- NULL
  }
  list(
    range = c(extent$least, extent$greatest),
    n = extent$n,
    iqr = diff(quartiles),
    values = distinct$v
  )
}

# Classes in which values are counted to find one by its rank: so many that one of them holds few.
quantile_classes <- function(n) min(10000, max(1000, ceiling(n / 1000)))
most_ranked <- 20000 # values that are fetched to find one by its rank

# Values by their ranks from 0: counted in ever finer classes until few are left; what is asked once
# serves all ranks, and the few are fetched together. wanted: rows that have the value.
asked_ranked <- function(source, value, wanted, ranks, extent, call) {
  places <- lapply(ranks, function(rank) {
    place <- list(
      from = extent$least,
      to = extent$greatest,
      before = 0,
      inside = extent$n,
      parted = FALSE
    )
    while (place$inside > most_ranked && place$to > place$from) {
      place <- finer_place(place, rank, source, value, wanted, call)
    }
    place
  })
  wide <- unique(Filter(function(place) place$to > place$from, places))
  few <- if (length(wide)) {
    within <- vapply(wide, function(place) between_sql(value, place), "")
    where <- asked_where(wanted, paste0("(", within, ")", collapse = " OR "))
    question <- paste0("SELECT ", value, " AS v FROM ", source$from, where)
    sort(engine_rows(source, question, call, "Fetching values")$v)
  }
  mapply(
    function(place, rank) {
      if (place$to <= place$from) return(place$from)
      few[few >= place$from & few <= place$to][rank - place$before + 1]
    },
    places,
    ranks
  )
}

between_sql <- function(value, place) {
  paste0(value, " >= ", sql_number(place$from), " AND ", value, " <= ", sql_number(place$to))
}

# The class among many of a place that a rank falls in.
finer_place <- function(place, rank, source, value, wanted, call) {
  width <- (place$to - place$from) / quantile_classes(place$inside)
  class <- sql_whole(
    paste0("(", value, " - ", sql_number(place$from), ") / ", sql_number(width)),
    source
  )
  classes <- asked_sums(
    source,
    c(n = "COUNT(*)", a = paste0("MIN(", value, ")"), b = paste0("MAX(", value, ")")),
    list(
      where = c(wanted$where, if (place$parted) between_sql(value, place)),
      parts = c(k = class)
    ),
    call,
    "Counting for quartiles"
  )
  classes <- classes[order(classes$k), ]
  class_at <- which(place$before + cumsum(classes$n) > rank)[1]
  list(
    from = classes$a[class_at],
    to = classes$b[class_at],
    before = place$before + sum(classes$n[seq_len(class_at - 1)]),
    inside = classes$n[class_at],
    parted = TRUE
  )
}
