// The checksum of PNG chunks: CRC-32 as in the PNG specification, annex D.

#include <Rcpp.h>
#include <cstdint>

// [[Rcpp::export]]
Rcpp::RawVector crc32_cpp(const Rcpp::RawVector& bytes) {
  std::uint32_t crc = 0xFFFFFFFFu;
  for (R_xlen_t i = 0; i < bytes.size(); ++i) {
    crc ^= bytes[i];
    for (int bit = 0; bit < 8; ++bit) crc = (crc & 1u) ? (crc >> 1) ^ 0xEDB88320u : crc >> 1;
  }
  crc ^= 0xFFFFFFFFu;
  Rcpp::RawVector out(4);
  for (int i = 0; i < 4; ++i) out[i] = static_cast<Rbyte>(crc >> (8 * (3 - i)));
  return out;
}
