// Places dots of one slot so that no two overlap: in the order of their values, each dot
// as near to the slot's middle as the dots before it allow. Deterministic.
//
// For a dot at height y, every placed dot closer than one diameter in height forbids an
// interval of offsets; the free offset nearest to the middle is 0 or an end of such an
// interval. Only dots within a diameter below are looked at, as values come sorted.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <algorithm>
#include <cmath>
#include <vector>

// y_mm: rising heights; diameter_mm: of the dots. Returns offsets from the middle in mm.
// [[Rcpp::export]]
Rcpp::NumericVector swarm_offsets_cpp(Rcpp::NumericVector y_mm, double diameter_mm) {
  kernel::need(diameter_mm > 0, "a diameter that is none");
  const int n = y_mm.size();
  Rcpp::NumericVector offset(n);
  std::vector<std::pair<double, double>> forbidden;
  int first = 0;
  const double squared = diameter_mm * diameter_mm;
  for (int i = 0; i < n; ++i) {
    while (y_mm[i] - y_mm[first] >= diameter_mm) ++first;
    forbidden.clear();
    for (int j = first; j < i; ++j) {
      const double dy = y_mm[i] - y_mm[j];
      const double reach = std::sqrt(std::max(0.0, squared - dy * dy));
      forbidden.emplace_back(offset[j] - reach, offset[j] + reach);
    }
    if (forbidden.empty()) continue;
    std::sort(forbidden.begin(), forbidden.end());
    // Walk the merged intervals; the candidate to each side is the end of the stretch
    // of forbidden offsets that holds the middle.
    double left = 0, right = 0;
    bool held = false;
    double from = forbidden[0].first, to = forbidden[0].second;
    const double slack = 1e-9;
    const auto settle = [&]() {
      if (from < -slack && to > slack) {
        held = true;
        left = from;
        right = to;
      }
    };
    for (std::size_t k = 1; k < forbidden.size(); ++k) {
      if (forbidden[k].first < to - slack) {
        to = std::max(to, forbidden[k].second);
      } else {
        settle();
        from = forbidden[k].first;
        to = forbidden[k].second;
      }
    }
    settle();
    if (held) offset[i] = -left < right ? left : right;
  }
  return offset;
}
