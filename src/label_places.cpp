// Places for text labels beside their points: each label takes, in turn, the candidate
// place that is free of labels placed before and covers the fewest points; where none is
// free it stays unplaced. Candidates go round the point at growing distances. Greedy
// placement by candidate positions: Christensen, Marks and Shieber (1995), "An empirical
// study of algorithms for point-feature label placement", ACM Transactions on Graphics
// 14(3), where it is the baseline.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <cmath>
#include <vector>

namespace {

struct Box {
  double x0, y0, x1, y1;
};

bool touch(const Box& a, const Box& b) {
  return a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1;
}

}  // namespace

// x, y: points in mm; others_x, others_y: all points to keep clear of; width,
// height: of each label in mm; far_mm: greatest distance; the panel is wide by high mm.
// Returns centres of labels (NA where unplaced), a row a label.
// [[Rcpp::export]]
Rcpp::NumericMatrix label_places_cpp(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, const Rcpp::NumericVector& others_x,
                                     const Rcpp::NumericVector& others_y, const Rcpp::NumericVector& width, const Rcpp::NumericVector& height, double gap_mm,
                                     double far_mm, double panel_wide, double panel_high) {
  kernel::need_one_length(x.size(), y.size());
  kernel::need_one_length(others_x.size(), others_y.size());
  kernel::need_one_length(x.size(), width.size());
  kernel::need_one_length(x.size(), height.size());
  kernel::need(gap_mm >= 0 && far_mm <= 1e4, "a gap or a distance that is none");
  const int n = x.size();
  Rcpp::NumericMatrix centre(n, 2);
  std::fill(centre.begin(), centre.end(), NA_REAL);
  std::vector<Box> placed;
  const double pi = std::acos(-1.0);
  for (int i = 0; i < n; ++i) {
    int fewest = -1;
    Box best{0, 0, 0, 0};
    bool found = false;
    for (double away = gap_mm; away <= far_mm + 1e-9 && !(found && fewest == 0); away += gap_mm + 0.7) {
      // Right first, then above and below it, then the rest.
      static const double turns[] = {0, 45, -45, 90, -90, 135, -135, 180, 22, -22, 158, -158};
      for (double turn : turns) {
        const double angle = turn * pi / 180;
        const double cx = x[i] + std::cos(angle) * (away + width[i] / 2);
        const double cy = y[i] + std::sin(angle) * (away + height[i] / 2);
        const Box box{cx - width[i] / 2, cy - height[i] / 2, cx + width[i] / 2, cy + height[i] / 2};
        if (box.x0 < 0 || box.y0 < 0 || box.x1 > panel_wide || box.y1 > panel_high) continue;
        bool free = true;
        for (const Box& other : placed) if (touch(box, other)) { free = false; break; }
        if (!free) continue;
        int covered = 0;
        for (R_xlen_t k = 0; k < others_x.size(); ++k) {
          if (others_x[k] > box.x0 - 0.3 && others_x[k] < box.x1 + 0.3 && others_y[k] > box.y0 - 0.3 && others_y[k] < box.y1 + 0.3) ++covered;
        }
        if (!found || covered < fewest) {
          found = true;
          fewest = covered;
          best = box;
        }
        if (found && fewest == 0) break;
      }
    }
    // A label that would hide points says less than none.
    if (found && fewest == 0) {
      placed.push_back(best);
      centre(i, 0) = (best.x0 + best.x1) / 2;
      centre(i, 1) = (best.y0 + best.y1) / 2;
    }
  }
  return centre;
}
