// Colours of an image, of many pixels the means of squares of them.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <cstdint>
#include <vector>

// `native`: rows of whole numbers, the top one first, each the bytes red, green, blue, opacity from
// the lowest on. Returns a matrix of `rows` by `columns` of "#RRGGBB", or "#RRGGBBAA" where any is
// see-through: each the mean of the pixels that fall into it, at least one. `levels`: what each of 256
// levels of a colour is drawn as.
// [[Rcpp::export]]
Rcpp::CharacterMatrix image_squares_cpp(Rcpp::IntegerVector native, int wide, int tall, int columns, int rows,
                                        Rcpp::IntegerVector levels) {
  kernel::need(columns >= 1 && rows >= 1 && columns <= wide && rows <= tall, "more squares than pixels, or none");
  kernel::need(native.size() == static_cast<R_xlen_t>(wide) * tall, "pixels that are not as many as its sides say");
  kernel::need(levels.size() == 256, "a table of levels that are not 256");
  const int *pixels = native.begin();
  const int *level = levels.begin();
  std::vector<std::uint32_t> means(static_cast<std::size_t>(rows) * columns);
  std::vector<std::uint64_t> sums(4 * static_cast<std::size_t>(columns)), n(columns);
  std::vector<int> column_of(wide);
  for (int x = 0; x < wide; ++x) column_of[x] = static_cast<int>(static_cast<std::int64_t>(x) * columns / wide);
  bool solid = true;
  int line = 0;
  for (int r = 0; r < rows; ++r) {
    std::fill(sums.begin(), sums.end(), 0);
    std::fill(n.begin(), n.end(), 0);
    for (; line < tall && static_cast<std::int64_t>(line) * rows / tall == r; ++line) {
      const int *row = pixels + static_cast<R_xlen_t>(line) * wide;
      for (int x = 0; x < wide; ++x) {
        const std::uint32_t v = static_cast<std::uint32_t>(row[x]);
        const std::size_t c = column_of[x];
        for (int k = 0; k < 3; ++k) sums[4 * c + k] += level[(v >> (8 * k)) & 0xff];
        sums[4 * c + 3] += v >> 24;
        ++n[c];
      }
    }
    for (int c = 0; c < columns; ++c) {
      std::uint32_t mean = 0;
      for (int k = 0; k < 4; ++k) {
        const std::uint64_t sum = sums[4 * static_cast<std::size_t>(c) + k];
        mean |= static_cast<std::uint32_t>((sum + n[c] / 2) / n[c]) << (8 * k);
      }
      if ((mean >> 24) != 0xff) solid = false;
      means[static_cast<std::size_t>(r) * columns + c] = mean;
    }
  }
  Rcpp::CharacterMatrix colours(rows, columns);
  const char *digits = "0123456789ABCDEF";
  char text[10] = "#";
  const int bytes = solid ? 3 : 4;
  for (int c = 0; c < columns; ++c) {
    for (int r = 0; r < rows; ++r) {
      const std::uint32_t v = means[static_cast<std::size_t>(r) * columns + c];
      for (int k = 0; k < bytes; ++k) {
        const std::uint32_t byte = (v >> (8 * k)) & 0xff;
        text[1 + 2 * k] = digits[byte >> 4];
        text[2 + 2 * k] = digits[byte & 15];
      }
      SET_STRING_ELT(colours, static_cast<R_xlen_t>(c) * rows + r, Rf_mkCharLen(text, 1 + 2 * bytes));
    }
  }
  return colours;
}
