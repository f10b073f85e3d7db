// Quantiles of type 7 by selection, on one copy of the finite values.
// Sources: Hoare (1961), "Algorithm 65: Find", Communications of the ACM 4(7); Hyndman and
// Fan (1996), "Sample quantiles in statistical packages", The American Statistician 50(4).

#include <Rcpp.h>
#include "kernel_checks.h"
#include <algorithm>
#include <cmath>
#include <vector>

// [[Rcpp::export]]
Rcpp::NumericVector quantiles_cpp(Rcpp::NumericVector values, Rcpp::NumericVector probabilities) {
  std::vector<double> held;
  held.reserve(values.size());
  for (double v : values) {
    if (std::isfinite(v)) held.push_back(v);
  }
  Rcpp::NumericVector out(probabilities.size(), NA_REAL);
  if (held.empty()) return out;
  for (R_xlen_t i = 0; i < out.size(); ++i) {
    kernel::need(probabilities[i] >= 0 && probabilities[i] <= 1, "a probability out of 0 to 1");
    const double at = (held.size() - 1) * probabilities[i];
    const std::size_t below = static_cast<std::size_t>(std::floor(at + 4 * 2.22e-16 * at));
    std::nth_element(held.begin(), held.begin() + below, held.end());
    out[i] = held[below];
    const double share = at - below;
    if (share > 1e-12 && below + 1 < held.size()) {
      const double above = *std::min_element(held.begin() + below + 1, held.end());
      out[i] += share * (above - out[i]);
    }
  }
  return out;
}
