# Words into lines: the fewest, the widest as narrow as can be.

cumall <- function(holds) cumsum(!holds) == 0

# The line each unit goes to; `width` of units and `gap` after them in one unit of
# length with `most`.
fewest_lines <- function(width, gap, most, most_lines) {
  if (most_lines == 1L || length(width) == 1L) return(rep(1L, length(width)))
  n <- min(most_lines, max(fill_lines(width, gap, most)))
  if (n == 1L) return(rep(1L, length(width)))
  fill_lines(width, gap, narrowest_for(width, gap, n))
}

# First fit: a unit goes to the present line if there is room.
fill_lines <- function(width, gap, most) {
  line <- integer(length(width))
  now <- 1L
  used <- 0
  for (i in seq_along(width)) {
    wanted <- used + if (i > 1 && line[i - 1] == now) gap[i - 1] + width[i] else width[i]
    if (i > 1 && wanted > most + 1e-9) {
      now <- now + 1L
      wanted <- width[i]
    }
    used <- wanted
    line[i] <- now
  }
  line
}

# How many lines a measured text fills in lines of so many of its sizes: Inf where a word of it is
# wider than that.
lines_filled <- function(measured, most) {
  if (!is.null(measured$parts)) {
    return(sum(vapply(measured$parts, lines_filled, 0, most)))
  }
  most <- most - (measured$indent_em %||% 0)
  if (max(0, measured$unit_width) > most + 1e-9) return(Inf)
  as.numeric(max(1L, fill_lines(measured$unit_width, measured$gap, most)))
}

# The least line width at which the units fill at most `n` lines; it is the width of
# some stretch of units.
narrowest_for <- function(width, gap, n) {
  k <- length(width)
  stretches <- unlist(
    lapply(seq_len(k), function(i) cumsum(width[i:k] + c(0, gap[i:k][-(k - i + 1)])))
  )
  candidates <- sort(unique(stretches[stretches >= max(width)]))
  for (candidate in candidates) if (max(fill_lines(width, gap, candidate)) <= n) return(candidate)
}

# Words of one line and style joined to runs, single spaces between.
join_words <- function(words, line, font) {
  n <- length(line)
  new_line <- c(TRUE, line[-1] != line[-n])
  style <- paste(words$bold, words$italic, words$script, script_fonts(words$string, font))
  new_run <- new_line | c(TRUE, style[-1] != style[-n])
  run <- cumsum(new_run)
  space_before <- c(FALSE, words$space[-n]) & !new_line
  strings <- vapply(
    split(paste0(ifelse(space_before & !new_run, " ", ""), words$string), run),
    paste,
    "",
    collapse = ""
  )
  first <- which(new_run)
  joined <- table_rows(words, first)
  joined$line <- line[first]
  joined$string <- unname(strings)
  joined$after_space <- space_before[first]
  many <- tabulate(run) > 1
  if (any(many)) joined$width[many] <- run_widths(table_rows(joined, which(many)), font)
  joined
}

run_starts <- function(runs, space) {
  advance <- runs$width + ifelse(runs$after_space, space, 0)
  ends <- stats::ave(advance, runs$line, FUN = cumsum)
  ends - runs$width
}
