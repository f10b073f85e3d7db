// Counting values into bins, in one pass.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <cmath>

// Counts of values in bins between `breaks` (rising), closed on the right but for the
// first, which holds its left end too. Values outside are left out. Even breaks are
// found by division, then set right against the breaks themselves. A value within some ulps
// of a break stands on it, as a person reads decimals: 0.3 is in bins that begin at 3 x 0.1.
// `group` holds 1..n_groups; the result has a row a bin and a column a group.
// [[Rcpp::export]]
Rcpp::NumericMatrix bin_counts_cpp(Rcpp::NumericVector values, Rcpp::IntegerVector group, int n_groups, Rcpp::NumericVector breaks) {
  kernel::need_one_length(values.size(), group.size());
  kernel::need(breaks.size() >= 2, "fewer than two breaks");
  kernel::need_codes(group, n_groups);
  const int bins = breaks.size() - 1;
  Rcpp::NumericMatrix counts(bins, n_groups);
  const double low = breaks[0], high = breaks[bins];
  const double per_unit = bins / (high - low);
  const double slack = 16 * 2.220446e-16 * std::max(std::fabs(low), std::fabs(high));
  const R_xlen_t n = values.size();
  for (R_xlen_t i = 0; i < n; ++i) {
    const double v = values[i];
    if (!(v >= low - slack && v <= high + slack) || group[i] == NA_INTEGER) continue;
    const double place = (v - low) * per_unit;
    int bin = kernel::whole(place, 0, bins - 1);
    while (bin > 0 && v <= breaks[bin] + slack) --bin;
    while (bin < bins - 1 && v > breaks[bin + 1] + slack) ++bin;
    counts(bin, group[i] - 1) += 1;
  }
  return counts;
}

// Each value's weight shared linearly between the two grid points about it; `times` says how many
// each stands for, and is empty where each is one.
// Source: Jones and Lotwick (1984), "A remark on algorithm AS 176: kernel density
// estimation using the fast Fourier transform", Applied Statistics 33(1).
// [[Rcpp::export]]
Rcpp::NumericVector linear_bins_cpp(Rcpp::NumericVector values, Rcpp::NumericVector times, double low, double high, int points) {
  kernel::need(points >= 2 && points <= 1 << 24, "fewer than two points, or too many");
  const bool weighed = times.size() > 0;
  if (weighed) kernel::need_one_length(values.size(), times.size());
  Rcpp::NumericVector weight(2 * points);
  const double step = (high - low) / (points - 1);
  const R_xlen_t n = values.size();
  double held = 0;
  for (R_xlen_t i = 0; i < n; ++i) {
    if (!std::isfinite(values[i])) continue;
    const double w = weighed ? times[i] : 1;
    held += w;
    const double at = (values[i] - low) / step;
    if (!(at >= -1 && at <= points)) continue;
    const int left = static_cast<int>(std::floor(at));
    const double share = at - left;
    if (left >= 0 && left < points - 1) {
      weight[left] += w * (1 - share);
      weight[left + 1] += w * share;
    } else if (left == -1) {
      weight[0] += w * share;
    } else if (left == points - 1) {
      weight[left] += w * (1 - share);
    }
  }
  for (int k = 0; k < points; ++k) weight[k] /= held;
  return weight;
}

// Weights shared bilinearly over a grid of nx by ny points, by column.
// [[Rcpp::export]]
Rcpp::NumericMatrix bilinear_bins_cpp(Rcpp::NumericVector x, Rcpp::NumericVector y, Rcpp::NumericVector x_ends, Rcpp::NumericVector y_ends, int nx, int ny) {
  kernel::need_one_length(x.size(), y.size());
  kernel::need(x_ends.size() == 2 && y_ends.size() == 2 && nx >= 2 && ny >= 2, "no ends of a grid, or one of no cells");
  Rcpp::NumericMatrix weight(nx, ny);
  const double step_x = (x_ends[1] - x_ends[0]) / (nx - 1), step_y = (y_ends[1] - y_ends[0]) / (ny - 1);
  const R_xlen_t n = x.size();
  for (R_xlen_t i = 0; i < n; ++i) {
    const double ax = (x[i] - x_ends[0]) / step_x, ay = (y[i] - y_ends[0]) / step_y;
    if (!(ax >= 0 && ax <= nx - 1 && ay >= 0 && ay <= ny - 1)) continue;
    const int left = std::min(static_cast<int>(ax), nx - 2), below = std::min(static_cast<int>(ay), ny - 2);
    const double u = ax - left, v = ay - below;
    weight(left, below) += (1 - u) * (1 - v);
    weight(left + 1, below) += u * (1 - v);
    weight(left, below + 1) += (1 - u) * v;
    weight(left + 1, below + 1) += u * v;
  }
  return weight;
}

// Columns of a matrix convolved with a symmetric kernel (its right half, the middle
// first). Two passes, the second over the transpose, make a separable convolution.
// [[Rcpp::export]]
Rcpp::NumericMatrix convolve_columns_cpp(Rcpp::NumericMatrix values, Rcpp::NumericVector half_kernel) {
  kernel::need(half_kernel.size() >= 1, "nothing to convolve with");
  const int n = values.nrow(), columns = values.ncol(), reach = half_kernel.size() - 1;
  Rcpp::NumericMatrix out(n, columns);
  for (int c = 0; c < columns; ++c) {
    for (int i = 0; i < n; ++i) {
      const double v = values(i, c);
      if (v == 0) continue;
      const int from = std::max(0, i - reach), to = std::min(n - 1, i + reach);
      for (int k = from; k <= to; ++k) out(k, c) += v * half_kernel[std::abs(k - i)];
    }
  }
  return out;
}
