# The mean of each group with its error.
#
# Definitions: sd, the sample standard deviation with denominator n - 1;
# se = sd / sqrt(n), the standard error of the mean. Both are missing for n < 2.
# Source: Altman and Bland (2005), "Standard deviations and standard errors",
# BMJ 331.
#
# values: numbers; group: whole numbers 1..n_groups, NA for none.
# Returns one row a group that has a value: group, n, centre, lower, upper.
mean_error <- function(values, group, n_groups = max(group, 0, na.rm = TRUE), error = "sd") {
  moments <- group_moments_cpp(values, group, n_groups)
  half <- mean_error_impl(error, moments$sd, moments$n)
  held <- which(moments$n > 0)
  new_table(
    group = held, n = moments$n[held], centre = moments$mean[held],
    lower = (moments$mean - half)[held], upper = (moments$mean + half)[held]
  )
}

mean_error_impl <- function(error, sd, n) {
  switch(error, sd = sd, se = sd / sqrt(n), none = rep(NA_real_, length(n)))
}

# The words for a centre with its error, for the key, the legend and the facts.
mean_error_words <- function(centre, error) {
  name <- c(sd = "standard deviation", se = "standard error of the mean")[error]
  if (error == "none") centre else paste0(centre, " \u00b1 ", name)
}
