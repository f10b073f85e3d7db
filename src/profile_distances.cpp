// Euclidean distances between the rows of a matrix without gaps, in the order of `stats::dist`:
// what is below the diagonal, a column after another. Each is summed in the order of the columns, as
// there, so that equal distances stay equal; of many rows at once, which lie side by side.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <algorithm>
#include <cmath>
#include <vector>

// [[Rcpp::export]]
Rcpp::NumericVector profile_distances_cpp(const Rcpp::NumericMatrix& profiles) {
  const R_xlen_t n = profiles.nrow(), k = profiles.ncol();
  kernel::need(n >= 2, "a matrix of less than two rows");
  // Compilers work out a loop of so many at several a time; after the last row there is room for it.
  constexpr R_xlen_t together = 32;
  const R_xlen_t deep = n + together;
  std::vector<double> values(deep * k, 0.0);
  for (R_xlen_t j = 0; j < k; ++j) {
    std::copy_n(profiles.begin() + j * n, n, values.begin() + j * deep);
  }
  Rcpp::NumericVector distances(n * (n - 1) / 2);
  R_xlen_t at = 0;
  for (R_xlen_t a = 0; a < n - 1; ++a) {
    Rcpp::checkUserInterrupt();
    for (R_xlen_t from = a + 1; from < n; from += together) {
      double sums[together] = {0};
      for (R_xlen_t j = 0; j < k; ++j) {
        const double own = values[j * deep + a];
        const double* other = &values[j * deep + from];
        for (R_xlen_t l = 0; l < together; ++l) {
          const double apart = own - other[l];
          sums[l] += apart * apart;
        }
      }
      const R_xlen_t rows = std::min(together, n - from);
      for (R_xlen_t l = 0; l < rows; ++l) distances[at++] = std::sqrt(sums[l]);
    }
  }
  return distances;
}
