// What every kernel asks of what it is given: lengths that go together, codes of groups that exist, and
// conversions to whole numbers that are defined for any double.

#ifndef NELVAT_KERNEL_CHECKS_H
#define NELVAT_KERNEL_CHECKS_H

#include <Rcpp.h>

namespace kernel {

inline void need(bool holds, const char* what) {
  if (!holds) Rcpp::stop("A kernel was given %s.", what);
}

inline void need_one_length(R_xlen_t a, R_xlen_t b) { need(a == b, "columns of unlike lengths"); }

// Codes of 1..n, or NA.
inline void need_codes(const Rcpp::IntegerVector& codes, int n) {
  need(n >= 0, "a number of groups below zero");
  for (int code : codes) need(code == NA_INTEGER || (code >= 1 && code <= n), "the code of a group that is not there");
}

// The whole part of a double, at most `most` and at least `least`; NaN is `least`.
inline int whole(double value, int least, int most) {
  if (!(value >= least)) return least;
  return value >= most ? most : static_cast<int>(value);
}

}  // namespace kernel

#endif
