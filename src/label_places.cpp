// Places for text labels beside their points: each label takes, in turn, the candidate
// place that is free of labels and leaders placed before, whose own leader meets none of them, and
// that covers no point; where none is free it stays unplaced. Candidates go round the point at growing distances. Greedy
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

struct Line {
  double x0, y0, x1, y1;
};

// From a point to the nearest of a box's edges.
Line leader_to(double x, double y, const Box& box) {
  return {x, y, std::fmin(std::fmax(x, box.x0), box.x1), std::fmin(std::fmax(y, box.y0), box.y1)};
}

double length_of(const Line& line) { return std::hypot(line.x1 - line.x0, line.y1 - line.y0); }

// Does a part of a line lie within a box? By Liang and Barsky's cutting of its parameter.
bool cuts(const Line& line, const Box& box) {
  double from = 0, to = 1;
  const double dx = line.x1 - line.x0, dy = line.y1 - line.y0;
  const double p[] = {-dx, dx, -dy, dy};
  const double q[] = {line.x0 - box.x0, box.x1 - line.x0, line.y0 - box.y0, box.y1 - line.y0};
  for (int k = 0; k < 4; ++k) {
    if (p[k] == 0) {
      if (q[k] <= 0) return false;
    } else if (p[k] < 0) {
      from = std::fmax(from, q[k] / p[k]);
    } else {
      to = std::fmin(to, q[k] / p[k]);
    }
  }
  return from < to;
}

// Do two lines cross between their ends?
bool cross(const Line& a, const Line& b) {
  auto side = [](const Line& line, double x, double y) {
    return (line.x1 - line.x0) * (y - line.y0) - (line.y1 - line.y0) * (x - line.x0);
  };
  return side(a, b.x0, b.y0) * side(a, b.x1, b.y1) < 0 && side(b, a.x0, a.y0) * side(b, a.x1, a.y1) < 0;
}

// A line without what lies under the symbol it starts at.
Line beyond_symbol(const Line& line) {
  const double share = std::fmin(1, 0.75 / std::fmax(length_of(line), 1e-9));
  return {line.x0 + share * (line.x1 - line.x0), line.y0 + share * (line.y1 - line.y0), line.x1, line.y1};
}

// Degrees to the right of a point and about it: right first, then above and below it, then the rest.
const double near_turns[] = {0, 45, -45, 90, -90, 135, -135, 180, 22, -22, 158, -158};
const int n_near = 12;
const int n_turns = n_near + 36;
double turn_of(int k) { return k < n_near ? near_turns[k] : 10.0 * ((k - n_near) % 2 ? -(k - n_near + 1) / 2 : (k - n_near) / 2); }

struct Points {
  const Rcpp::NumericVector &x, &y, &others_x, &others_y, &width, &height;
};

struct Limits {
  double gap_mm, far_mm, led_mm, wide, high;
};

// Which of many things lie in the squares of the panel that a box meets: few have to be looked at.
class Squares {
 public:
  Squares(double wide, double high)
      : columns_(squares_along(wide)), rows_(squares_along(high)), held_(columns_ * rows_) {}
  void add(const Box& box, int thing) {
    each(box, [&](std::vector<int>& square) { square.push_back(thing); return false; });
  }
  // Is `found` so of anything there?
  template <class Found>
  bool any(const Box& box, Found found) {
    return each(box, [&](std::vector<int>& square) {
      for (int thing : square) if (found(thing)) return true;
      return false;
    });
  }

 private:
  static constexpr double side_mm = 4;
  static int squares_along(double length) { return 1 + static_cast<int>(std::fmin(std::fmax(length, 0), 4000) / side_mm); }
  static int square_of(double at, int n) {
    return static_cast<int>(std::fmin(std::fmax(std::floor(at / side_mm), 0), n - 1));
  }
  template <class Visit>
  bool each(const Box& box, Visit visit) {
    const int to_column = square_of(box.x1, columns_), to_row = square_of(box.y1, rows_);
    for (int row = square_of(box.y0, rows_); row <= to_row; ++row) {
      for (int column = square_of(box.x0, columns_); column <= to_column; ++column) {
        if (visit(held_[row * columns_ + column])) return true;
      }
    }
    return false;
  }
  int columns_, rows_;
  std::vector<std::vector<int>> held_;
};

Box box_of(const Line& line) {
  return {std::fmin(line.x0, line.x1), std::fmin(line.y0, line.y1), std::fmax(line.x0, line.x1), std::fmax(line.y0, line.y1)};
}

// What stands in a panel so far.
struct Placed {
  std::vector<Box> labels;
  std::vector<Line> leaders;
  Squares of_labels, of_leaders;
  Placed(double wide, double high) : of_labels(wide, high), of_leaders(wide, high) {}
  void add(const Box& box, const Line& leader, bool is_led) {
    of_labels.add(box, labels.size());
    labels.push_back(box);
    if (!is_led) return;
    of_leaders.add(box_of(leader), leaders.size());
    leaders.push_back(leader);
  }
};

bool is_free(const Box& box, const Line& leader, double led_mm, Placed& placed) {
  if (placed.of_labels.any(box, [&](int k) { return touch(box, placed.labels[k]); })) return false;
  if (placed.of_leaders.any(box, [&](int k) { return cuts(placed.leaders[k], box); })) return false;
  if (length_of(leader) <= led_mm) return true;
  const Box along = box_of(leader);
  if (placed.of_labels.any(along, [&](int k) { return cuts(leader, placed.labels[k]); })) return false;
  const Line own = beyond_symbol(leader);
  return !placed.of_leaders.any(along, [&](int k) { return cross(own, beyond_symbol(placed.leaders[k])); });
}

bool hides(const Box& box, const Points& points, Squares& of_points) {
  const Box wider{box.x0 - 0.3, box.y0 - 0.3, box.x1 + 0.3, box.y1 + 0.3};
  return of_points.any(wider, [&](int k) {
    const double x = points.others_x[k], y = points.others_y[k];
    return x > wider.x0 && x < wider.x1 && y > wider.y0 && y < wider.y1;
  });
}

const double crowd_reach_mm = 4;
const int crowd_least = 4;

// Points with several others of those with labels near them.
std::vector<bool> in_crowds(const Points& points) {
  const R_xlen_t n = points.x.size();
  std::vector<bool> crowded(n, false);
  for (R_xlen_t i = 0; i < n; ++i) {
    int near = 0;
    for (R_xlen_t k = 0; k < n && near < crowd_least; ++k) {
      if (k != i && std::hypot(points.x[k] - points.x[i], points.y[k] - points.y[i]) < crowd_reach_mm) ++near;
    }
    crowded[i] = near >= crowd_least;
  }
  return crowded;
}

// One greedy pass; labels of points in a crowd start at `crowd_mm` from them. Returns how many found a place.
int place_all(const Points& points, Squares& of_points, const std::vector<bool>& crowded, double crowd_mm, const Limits& limits,
              Rcpp::NumericMatrix& centre) {
  std::fill(centre.begin(), centre.end(), NA_REAL);
  Placed placed(limits.wide, limits.high);
  int n_placed = 0;
  const double pi = std::acos(-1.0);
  for (int i = 0; i < points.x.size(); ++i) {
    const double px = points.x[i], py = points.y[i];
    bool found = false;
    Box best{0, 0, 0, 0};
    const double start = crowded[i] ? crowd_mm : limits.gap_mm;
    for (double away = start; away <= limits.far_mm + 1e-9 && !found; away += limits.gap_mm + 0.7) {
      for (int turn = 0; turn < (away > limits.led_mm ? n_turns : n_near) && !found; ++turn) {
        const double angle = turn_of(turn) * pi / 180;
        const double cx = px + std::cos(angle) * (away + points.width[i] / 2);
        const double cy = py + std::sin(angle) * (away + points.height[i] / 2);
        const Box box{cx - points.width[i] / 2, cy - points.height[i] / 2, cx + points.width[i] / 2, cy + points.height[i] / 2};
        if (box.x0 < 0 || box.y0 < 0 || box.x1 > limits.wide || box.y1 > limits.high) continue;
        // A label that would hide points says less than none.
        if (hides(box, points, of_points)) continue;
        if (!is_free(box, leader_to(px, py, box), limits.led_mm, placed)) continue;
        found = true;
        best = box;
      }
    }
    if (!found) continue;
    ++n_placed;
    const Line leader = leader_to(px, py, best);
    placed.add(best, leader, length_of(leader) > limits.led_mm);
    centre(i, 0) = (best.x0 + best.x1) / 2;
    centre(i, 1) = (best.y0 + best.y1) / 2;
  }
  return n_placed;
}

}  // namespace

// x, y: points in mm; others_x, others_y: all points to keep clear of; width,
// height: of each label in mm; far_mm: greatest distance; led_mm: the distance from which a label is led
// to its point; the panel is wide by high mm.
// Returns centres of labels (NA where unplaced), a row a label.
// [[Rcpp::export]]
Rcpp::NumericMatrix label_places_cpp(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, const Rcpp::NumericVector& others_x,
                                     const Rcpp::NumericVector& others_y, const Rcpp::NumericVector& width, const Rcpp::NumericVector& height, double gap_mm,
                                     double far_mm, double led_mm, double wide, double high) {
  kernel::need_one_length(x.size(), y.size());
  kernel::need_one_length(others_x.size(), others_y.size());
  kernel::need_one_length(x.size(), width.size());
  kernel::need_one_length(x.size(), height.size());
  kernel::need(gap_mm >= 0 && far_mm <= 1e4, "a gap or a distance that is none");
  const int n = x.size();
  const Points points{x, y, others_x, others_y, width, height};
  const Limits limits{gap_mm, far_mm, led_mm, wide, high};
  const std::vector<bool> crowded = in_crowds(points);
  Squares of_points(wide, high);
  for (int k = 0; k < others_x.size(); ++k) of_points.add({others_x[k], others_y[k], others_x[k], others_y[k]}, k);
  Rcpp::NumericMatrix centre(n, 2), tried(n, 2);
  int most = place_all(points, of_points, crowded, gap_mm, limits, centre);
  // Labels close to a crowd stand in the way of those behind: where some have no place, all of it stand off.
  for (double crowd_mm = 3.5; most < n && crowd_mm <= far_mm; crowd_mm += 2.5) {
    const int found = place_all(points, of_points, crowded, crowd_mm, limits, tried);
    if (found <= most) continue;
    most = found;
    std::copy(tried.begin(), tried.end(), centre.begin());
  }
  return centre;
}
