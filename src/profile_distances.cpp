// Euclidean distances between the rows of a matrix without gaps, in the order of `stats::dist`:
// what is below the diagonal, a column after another. Sums are of four at a time, which processors
// work out together.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <cmath>
#include <vector>

// [[Rcpp::export]]
Rcpp::NumericVector profile_distances_cpp(const Rcpp::NumericMatrix& profiles) {
  const R_xlen_t n = profiles.nrow(), k = profiles.ncol();
  kernel::need(n >= 2, "a matrix of less than two rows");
  std::vector<double> rows(n * k);
  for (R_xlen_t j = 0; j < k; ++j) {
    for (R_xlen_t i = 0; i < n; ++i) rows[i * k + j] = profiles(i, j);
  }
  Rcpp::NumericVector distances(n * (n - 1) / 2);
  R_xlen_t at = 0;
  for (R_xlen_t a = 0; a < n - 1; ++a) {
    Rcpp::checkUserInterrupt();
    const double* first = &rows[a * k];
    for (R_xlen_t b = a + 1; b < n; ++b) {
      const double* second = &rows[b * k];
      double sums[4] = {0, 0, 0, 0};
      R_xlen_t j = 0;
      for (; j + 3 < k; j += 4) {
        for (int l = 0; l < 4; ++l) {
          const double apart = first[j + l] - second[j + l];
          sums[l] += apart * apart;
        }
      }
      for (; j < k; ++j) sums[0] += (first[j] - second[j]) * (first[j] - second[j]);
      distances[at++] = std::sqrt(sums[0] + sums[1] + (sums[2] + sums[3]));
    }
  }
  return distances;
}
