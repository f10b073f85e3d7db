// What print cannot show is left out of dense marks.
//
// thin_lines_cpp: of the points of a line that fall in one printed column only the first,
// the least, the greatest and the last are kept, in their order, so that no peak is lost.
// Method: Jugel, Jerzak, Hackenbroich and Markl (2014), "M4: A visualization-oriented time
// series data aggregation", Proceedings of the VLDB Endowment 7(10).
//
// hidden_discs_cpp: which discs are covered, at every dot of the print, by discs drawn
// after them.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <algorithm>
#include <cmath>
#include <vector>

// group: lines in runs of equal numbers; x, y in mm, NA where a line breaks; column_mm:
// width of a printed column. Returns which points are kept.
// [[Rcpp::export]]
Rcpp::LogicalVector thin_lines_cpp(const Rcpp::IntegerVector& group, const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, double column_mm) {
  kernel::need_one_length(x.size(), y.size());
  kernel::need_one_length(x.size(), group.size());
  const R_xlen_t n = x.size();
  Rcpp::LogicalVector kept(n, false);
  R_xlen_t from = 0;
  while (from < n) {
    if (ISNAN(x[from]) || ISNAN(y[from])) {
      kept[from++] = true;
      continue;
    }
    const double column = std::floor(x[from] / column_mm);
    R_xlen_t least = from, most = from, to = from;
    while (to + 1 < n && group[to + 1] == group[from] && !ISNAN(x[to + 1]) && !ISNAN(y[to + 1]) && std::floor(x[to + 1] / column_mm) == column) {
      ++to;
      if (y[to] < y[least]) least = to;
      if (y[to] > y[most]) most = to;
    }
    kept[from] = kept[least] = kept[most] = kept[to] = true;
    from = to + 1;
  }
  return kept;
}

// x, y: middles in mm; radius: in mm; wide, high: of the panel; dot_mm: of the print.
// [[Rcpp::export]]
Rcpp::LogicalVector hidden_discs_cpp(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, const Rcpp::NumericVector& radius, double wide, double high, double dot_mm) {
  kernel::need_one_length(x.size(), y.size());
  kernel::need_one_length(x.size(), radius.size());
  const int columns = kernel::whole(std::ceil(wide / dot_mm), 1, 1 << 15), rows = kernel::whole(std::ceil(high / dot_mm), 1, 1 << 15);
  std::vector<char> covered(static_cast<std::size_t>(columns) * rows, 0);
  const R_xlen_t n = x.size();
  Rcpp::LogicalVector hidden(n, false);
  for (R_xlen_t i = n - 1; i >= 0; --i) {
    if (ISNAN(x[i]) || ISNAN(y[i])) continue;
    bool seen = false;
    // Dots at the rim are half covered at most, so a disc hides those well inside it and
    // is hidden when those at its rim are, too.
    const double outer = radius[i] + dot_mm, inner = std::max(0.0, radius[i] - dot_mm);
    const int row0 = kernel::whole((y[i] - outer) / dot_mm, 0, rows), row1 = kernel::whole((y[i] + outer) / dot_mm, -1, rows - 1);
    const int column0 = kernel::whole((x[i] - outer) / dot_mm, 0, columns), column1 = kernel::whole((x[i] + outer) / dot_mm, -1, columns - 1);
    for (int r = row0; r <= row1; ++r) {
      const double dy = (r + 0.5) * dot_mm - y[i];
      for (int c = column0; c <= column1; ++c) {
        const double dx = (c + 0.5) * dot_mm - x[i];
        const double away = dx * dx + dy * dy;
        char& dot = covered[static_cast<std::size_t>(r) * columns + c];
        if (away <= outer * outer && !dot) seen = true;
        if (away <= inner * inner) dot = 1;
      }
    }
    hidden[i] = !seen;
  }
  return hidden;
}
