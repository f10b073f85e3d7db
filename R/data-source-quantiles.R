# What a rule for bins must know of a quantity that stays in its database.

most_distinct <- 5000 # values of a quantity that are counted one by one

# What a rule for bins must know of a quantity: list(range, n, iqr, values: all distinct ones where
# they are few).
asked_about <- function(source, value, wanted, call) {
  extent <- asked_extents(source, value, wanted, call)
  # Of no value any bins will do.
  if (!extent$n) return(list(range = c(0, 0), n = 1, iqr = 0))
  known <- list(where = c(wanted$where, has_values(source, value, wanted, call)))
  by_value <- changed(known, parts = c(v = value))
  if (are_few(source, by_value, most_distinct, call)) {
    distinct <- asked_sums(source, c(n = "COUNT(*)"), by_value, call, "Counting values")
    distinct <- distinct[order(distinct$v), ]
    quartiles <- counted_quantiles(distinct$v, distinct$n, c(0.25, 0.75))
  } else {
    place <- (extent$n - 1) * c(0.25, 0.75)
    ranked <- asked_ranked(source, value, known, c(floor(place), ceiling(place)), extent$n, call)
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
asked_ranked <- function(source, value, wanted, ranks, n, call) {
  places <- lapply(ranks, function(rank) {
    place <- list(where = wanted$where, before = 0, inside = n)
    while (place$inside > most_ranked) {
      extent <- asked_extents(source, value, place, call)
      if (extent$least == extent$greatest) return(list(equal = extent$least))
      place <- finer_place(place, rank, source, value, extent, call)
    }
    place
  })
  unlike <- unique(Filter(function(place) is.null(place$equal), places))
  few <- few_of(source, value, unlike, call)
  mapply(
    function(place, rank) place$equal %||% few[[which(vapply(unlike, identical, NA, place))]][
      rank - place$before + 1
    ],
    places,
    ranks
  )
}

# The values of each place, sorted.
few_of <- function(source, value, places, call) {
  if (!length(places)) return(NULL)
  places_sql <- vapply(places, function(place) paste(place$where, collapse = " AND "), "")
  where <- if (all(nzchar(places_sql))) paste0("(", places_sql, ")", collapse = " OR ")
  question <- paste0("SELECT ", value, " AS v FROM ", source$from, asked_where(list(where = where)))
  few <- sort(engine_rows(source, question, call, "Fetching values")$v)
  # One after another, as their classes are.
  before <- vapply(places, `[[`, 0, "before")
  inside <- vapply(places, `[[`, 0, "inside")
  in_order <- order(before)
  split(few, factor(rep(in_order, inside[in_order]), seq_along(places)))
}

# The class among many of a place that a rank falls in.
finer_place <- function(place, rank, source, value, extent, call) {
  ends <- c(extent$least, extent$greatest)
  class <- even_class(value, ends, quantile_classes(place$inside), source)
  wanted <- list(where = place$where, parts = c(k = class))
  classes <- asked_sums(source, c(n = "COUNT(*)"), wanted, call, "Counting for quartiles")
  classes <- classes[order(classes$k), ]
  class_at <- which(place$before + cumsum(classes$n) > rank)[1]
  list(
    where = c(place$where, paste(class, "=", sprintf("%.0f", classes$k[class_at]))),
    before = place$before + sum(classes$n[seq_len(class_at - 1)]),
    inside = classes$n[class_at]
  )
}
