// Bytes as a string of the same length in which all that is not printable ASCII or a line
// feed is a question mark, so that a binary file can be searched as text.

#include <Rcpp.h>

// [[Rcpp::export]]
Rcpp::String ascii_bytes_cpp(const Rcpp::RawVector& bytes) {
  std::string text(bytes.begin(), bytes.end());
  for (char& one : text) {
    if (one != '\n' && one != '\r' && one != '\t' && (one < 0x20 || one > 0x7e)) one = '?';
  }
  return Rcpp::String(text);
}
