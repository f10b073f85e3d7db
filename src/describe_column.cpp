// What a careful analyst asks of a column first, in one pass and without memory that
// grows with its length: how many values are missing, the range of numbers, the
// levels of text in the order they appear, each with its count.
//
// Equal strings are one object in R's string cache, so levels are told apart by
// address: open addressing with linear probing (Knuth 1998, "The Art of Computer
// Programming", vol. 3, section 6.4), grown as levels come.

#include <Rcpp.h>
#include <algorithm>
#include <cstdint>
#include <vector>

namespace {

class LevelTable {
 public:
  LevelTable() : slots_(64, -1) {}

  void count(SEXP level) {
    if (level == last_) {
      ++counts_[last_at_];
      return;
    }
    last_ = level;
    last_at_ = find_or_add(level);
    ++counts_[last_at_];
  }

  const std::vector<SEXP>& levels() const { return levels_; }
  const std::vector<double>& counts() const { return counts_; }

 private:
  static std::size_t hash(SEXP level) {
    const std::uint64_t address = reinterpret_cast<std::uintptr_t>(level) >> 3;
    return static_cast<std::size_t>((address * 0x9E3779B97F4A7C15ULL) >> 20);
  }

  int find_or_add(SEXP level) {
    const std::size_t mask = slots_.size() - 1;
    for (std::size_t at = hash(level) & mask;; at = (at + 1) & mask) {
      if (slots_[at] < 0) {
        slots_[at] = static_cast<int>(levels_.size());
        levels_.push_back(level);
        counts_.push_back(0);
        if (levels_.size() * 2 > slots_.size()) grow();
        return static_cast<int>(levels_.size()) - 1;
      }
      if (levels_[slots_[at]] == level) return slots_[at];
    }
  }

  void grow() {
    slots_.assign(slots_.size() * 2, -1);
    const std::size_t mask = slots_.size() - 1;
    for (std::size_t i = 0; i < levels_.size(); ++i) {
      std::size_t at = hash(levels_[i]) & mask;
      while (slots_[at] >= 0) at = (at + 1) & mask;
      slots_[at] = static_cast<int>(i);
    }
  }

  std::vector<int> slots_;
  std::vector<SEXP> levels_;
  std::vector<double> counts_;
  SEXP last_ = nullptr;
  int last_at_ = -1;
};

}  // namespace

// Levels of a character vector in the order they appear, their counts, and how many
// values are missing.
// [[Rcpp::export]]
Rcpp::List text_levels_cpp(Rcpp::CharacterVector values) {
  LevelTable table;
  double missing = 0;
  const R_xlen_t n = values.size();
  SEXP* const strings = reinterpret_cast<SEXP*>(const_cast<void*>(static_cast<const void*>(STRING_PTR_RO(values))));
  for (R_xlen_t i = 0; i < n; ++i) {
    if (strings[i] == NA_STRING) {
      ++missing;
    } else {
      table.count(strings[i]);
    }
  }
  const std::size_t n_levels = table.levels().size();
  Rcpp::CharacterVector levels(n_levels);
  for (std::size_t i = 0; i < n_levels; ++i) SET_STRING_ELT(levels, i, table.levels()[i]);
  return Rcpp::List::create(Rcpp::_["levels"] = levels, Rcpp::_["n"] = Rcpp::wrap(table.counts()), Rcpp::_["missing"] = missing);
}

namespace {

// Four independent chains, so that a comparison need not wait for the one before.
// A missing value fails both comparisons and is counted by not equalling itself.
template <typename Number, typename IsMissing>
void range_of(const Number* x, R_xlen_t n, IsMissing is_missing, double out[3]) {
  const int chains = 4;
  double least[chains], greatest[chains];
  R_xlen_t missing = 0;
  for (int c = 0; c < chains; ++c) {
    least[c] = R_PosInf;
    greatest[c] = R_NegInf;
  }
  const auto add = [&](R_xlen_t i, int c) {
    if (is_missing(x[i])) {
      ++missing;
      return;
    }
    const double value = static_cast<double>(x[i]);
    least[c] = value < least[c] ? value : least[c];
    greatest[c] = value > greatest[c] ? value : greatest[c];
  };
  R_xlen_t i = 0;
  for (; i + chains <= n; i += chains) {
    for (int c = 0; c < chains; ++c) add(i + c, c);
  }
  for (; i < n; ++i) add(i, 0);
  out[0] = *std::min_element(least, least + chains);
  out[1] = *std::max_element(greatest, greatest + chains);
  out[2] = static_cast<double>(missing);
}

}  // namespace

// Least and greatest, and how many values are missing. Integers and doubles are read
// where they stand.
// [[Rcpp::export]]
Rcpp::NumericVector number_range_cpp(SEXP values) {
  double out[3];
  const R_xlen_t n = Rf_xlength(values);
  if (TYPEOF(values) == REALSXP) {
    range_of(REAL(values), n, [](double x) { return x != x; }, out);
  } else if (TYPEOF(values) == INTSXP || TYPEOF(values) == LGLSXP) {
    range_of(INTEGER(values), n, [](int x) { return x == NA_INTEGER; }, out);
  } else {
    Rcpp::stop("number_range_cpp() is for numbers.");
  }
  return Rcpp::NumericVector::create(out[0], out[1], out[2]);
}
