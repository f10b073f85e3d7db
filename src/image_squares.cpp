// Colours of an image, of many pixels the means of squares of them.

#include <Rcpp.h>
#include "kernel_checks.h"
#include <cstdint>
#include <vector>

// `native`: rows of whole numbers, the top one first, each the bytes red, green, blue, opacity from
// the lowest on. Returns a matrix of "#RRGGBB", or "#RRGGBBAA" where any is see-through; the squares
// at the right and the lower edge may be of fewer pixels.
// [[Rcpp::export]]
Rcpp::CharacterMatrix image_squares_cpp(Rcpp::IntegerVector native, int wide, int tall, int side) {
  kernel::need(wide >= 1 && tall >= 1 && side >= 1, "an image of no pixels");
  kernel::need(native.size() == static_cast<R_xlen_t>(wide) * tall, "pixels that are not as many as its sides say");
  const int columns = (wide + side - 1) / side, rows = (tall + side - 1) / side;
  const int *pixels = native.begin();
  std::vector<std::uint32_t> means(static_cast<std::size_t>(rows) * columns);
  std::vector<std::uint64_t> sums(4 * static_cast<std::size_t>(columns));
  bool solid = true;
  for (int r = 0; r < rows; ++r) {
    std::fill(sums.begin(), sums.end(), 0);
    const int first = r * side, last = std::min(tall, first + side);
    for (int line = first; line < last; ++line) {
      const int *row = pixels + static_cast<R_xlen_t>(line) * wide;
      for (int x = 0; x < wide; ++x) {
        const std::uint32_t v = static_cast<std::uint32_t>(row[x]);
        std::uint64_t *sum = &sums[4 * static_cast<std::size_t>(x / side)];
        for (int k = 0; k < 4; ++k) sum[k] += (v >> (8 * k)) & 0xff;
      }
    }
    for (int c = 0; c < columns; ++c) {
      const std::uint64_t n = static_cast<std::uint64_t>(last - first) * (std::min(wide, (c + 1) * side) - c * side);
      std::uint32_t mean = 0;
      for (int k = 0; k < 4; ++k) {
        const std::uint32_t byte = static_cast<std::uint32_t>((sums[4 * static_cast<std::size_t>(c) + k] + n / 2) / n);
        mean |= byte << (8 * k);
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
