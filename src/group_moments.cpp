// Number, mean, sum of squared deviations, least and greatest of each group in
// one pass over the values.
// Method: Welford (1962), "Note on a method for calculating corrected sums of
// squares and products", Technometrics 4(3).

#include <Rcpp.h>
#include "kernel_checks.h"

namespace {

struct Moments {
  double n = 0, mean = 0, squares = 0;
  double least = R_PosInf, greatest = R_NegInf;

  void add(double value) {
    n += 1;
    const double from_old_mean = value - mean;
    mean += from_old_mean / n;
    squares += from_old_mean * (value - mean);
    if (value < least) least = value;
    if (value > greatest) greatest = value;
  }
};

}  // namespace

// `group` holds 1..n_groups or NA; NA values and values of no group are left out.
// [[Rcpp::export]]
Rcpp::List group_moments_cpp(Rcpp::NumericVector values, Rcpp::IntegerVector group, int n_groups) {
  kernel::need_one_length(values.size(), group.size());
  kernel::need_codes(group, n_groups);
  std::vector<Moments> groups(n_groups);
  const R_xlen_t length = values.size();
  for (R_xlen_t i = 0; i < length; ++i) {
    if (group[i] == NA_INTEGER || Rcpp::NumericVector::is_na(values[i])) continue;
    groups[group[i] - 1].add(values[i]);
  }
  Rcpp::NumericVector n(n_groups), mean(n_groups), sd(n_groups), least(n_groups), greatest(n_groups);
  for (int g = 0; g < n_groups; ++g) {
    const Moments& m = groups[g];
    n[g] = m.n;
    mean[g] = m.n > 0 ? m.mean : NA_REAL;
    sd[g] = m.n > 1 ? std::sqrt(m.squares / (m.n - 1)) : NA_REAL;
    least[g] = m.n > 0 ? m.least : NA_REAL;
    greatest[g] = m.n > 0 ? m.greatest : NA_REAL;
  }
  return Rcpp::List::create(Rcpp::_["n"] = n, Rcpp::_["mean"] = mean, Rcpp::_["sd"] = sd,
                            Rcpp::_["least"] = least, Rcpp::_["greatest"] = greatest);
}
