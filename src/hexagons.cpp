// Counting points into hexagons: of two lattices of rows, each point belongs to the
// nearer centre. Memory grows with the hexagons that hold points, not with the points.
// Source: Carr, Littlefield, Nicholson and Littlefield (1987), "Scatterplot matrix
// techniques for large N", Journal of the American Statistical Association 82.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <cmath>
#include <cstdint>
#include <unordered_map>

namespace {

struct Hexagon {
  int column, row;
};

// Farther than any page, where a whole number is still one.
int whole(double value) { return kernel::whole(value, -(1 << 29), 1 << 29); }

// x and y in units of the hexagons' spacing across. Even rows of centres stand at whole
// x, odd rows at halves; rows are sqrt(3) / 2 apart.
Hexagon hexagon_of(double x, double y) {
  const double row = std::sqrt(3.0) / 2;
  const int even = 2 * whole(std::round(y / (2 * row)));
  const int odd = 2 * whole(std::floor(y / (2 * row))) + 1;
  const int at_even = whole(std::round(x)), at_odd = whole(std::floor(x));
  const double dxe = x - at_even, dye = y - even * row, dxo = x - at_odd - 0.5, dyo = y - odd * row;
  if (dxe * dxe + dye * dye <= dxo * dxo + dyo * dyo) return {at_even, even};
  return {at_odd, odd};
}

std::uint64_t key_of(Hexagon h) {
  return (static_cast<std::uint64_t>(static_cast<std::uint32_t>(h.column)) << 32) | static_cast<std::uint32_t>(h.row);
}

}  // namespace

// Hexagons that hold points, in the order they are met: column, row and n. x and y are
// counted as often as `times` says, and multiplied by x_scale and y_scale into units of the hexagons' spacing across; points
// that are not finite are left out.
// [[Rcpp::export]]
Rcpp::List hexagon_counts_cpp(Rcpp::NumericVector x, Rcpp::NumericVector y, Rcpp::NumericVector times, double x_scale, double y_scale) {
  kernel::need_one_length(x.size(), y.size());
  kernel::need_one_length(x.size(), times.size());
  std::unordered_map<std::uint64_t, int> place;
  std::vector<int> column, row;
  std::vector<double> count;
  const R_xlen_t n = x.size();
  std::uint64_t last_key = 0;
  int last_place = -1;
  for (R_xlen_t k = 0; k < n; ++k) {
    const double px = x[k] * x_scale, py = y[k] * y_scale;
    if (!std::isfinite(px) || !std::isfinite(py)) continue;
    const Hexagon h = hexagon_of(px, py);
    const std::uint64_t key = key_of(h);
    if (last_place < 0 || key != last_key) {
      const auto found = place.emplace(key, static_cast<int>(count.size()));
      if (found.second) {
        column.push_back(h.column);
        row.push_back(h.row);
        count.push_back(0);
      }
      last_key = key;
      last_place = found.first->second;
    }
    count[last_place] += times[k];
  }
  return Rcpp::List::create(Rcpp::_["column"] = Rcpp::wrap(column), Rcpp::_["row"] = Rcpp::wrap(row), Rcpp::_["n"] = Rcpp::wrap(count));
}
