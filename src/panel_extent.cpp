// Least and greatest value of each panel, missing values aside. NA where a panel has none.

#include <Rcpp.h>
#include "kernel_checks.h"

// [[Rcpp::export]]
Rcpp::NumericMatrix panel_extent_cpp(const Rcpp::IntegerVector& at, const Rcpp::NumericVector& values, int n_panels) {
  kernel::need_codes(at, n_panels);
  if (values.size() != 1) kernel::need_one_length(values.size(), at.size());
  Rcpp::NumericMatrix ends(2, n_panels);
  std::fill(ends.begin(), ends.end(), NA_REAL);
  const bool lone = values.size() == 1;
  for (R_xlen_t i = 0; i < at.size(); ++i) {
    const double value = values[lone ? 0 : i];
    if (ISNAN(value) || at[i] == NA_INTEGER) continue;
    const int panel = at[i] - 1;
    if (ISNAN(ends(0, panel)) || value < ends(0, panel)) ends(0, panel) = value;
    if (ISNAN(ends(1, panel)) || value > ends(1, panel)) ends(1, panel) = value;
  }
  return ends;
}
