// The first records of separated text, each as its fields (RFC 4180: a field may stand in quotes, in
// which line breaks and separators count as text and a doubled quote is one). Lines are counted as
// an editor does; blank lines are records without fields. The last record of a text that was cut
// (`whole` false) is left out.

#include <Rcpp.h>
#include <string>
#include <vector>

// [[Rcpp::export]]
Rcpp::List split_records_cpp(const Rcpp::RawVector& bytes, const std::string& separator, int most, bool whole) {
  const unsigned char sep = separator.empty() ? ',' : static_cast<unsigned char>(separator[0]);
  const R_xlen_t n = bytes.size();
  const Rbyte* const text = RAW(bytes);
  std::vector<double> lines;
  std::vector<std::vector<std::string>> records;
  double line = 1;
  R_xlen_t i = 0;
  while (i < n && static_cast<int>(records.size()) < most) {
    const double starts = line;
    std::vector<std::string> fields;
    std::string field;
    bool field_start = true, ended = false;
    for (; i < n; ++i) {
      const unsigned char one = text[i];
      if (one == '\r' && i + 1 < n && text[i + 1] == '\n') continue;
      if (one == '\n' || one == '\r') {
        ended = true;
        break;
      }
      if (one == sep) {
        fields.push_back(field);
        field.clear();
        field_start = true;
      } else if (one == '"' && field_start) {
        field.clear();
        for (++i; i < n; ++i) {
          if (text[i] == '\n') ++line;
          if (text[i] != '"') {
            field += static_cast<char>(text[i]);
          } else if (i + 1 < n && text[i + 1] == '"') {
            field += '"';
            ++i;
          } else {
            break;
          }
        }
        field_start = false;
      } else {
        field += static_cast<char>(one);
        if (one != ' ') field_start = false;
      }
    }
    if (!ended && !whole) break;
    ++i;
    ++line;
    if (!fields.empty() || !field.empty()) fields.push_back(field);
    lines.push_back(starts);
    records.push_back(fields);
  }
  Rcpp::List out(records.size());
  for (std::size_t r = 0; r < records.size(); ++r) {
    Rcpp::CharacterVector one(records[r].size());
    for (std::size_t f = 0; f < records[r].size(); ++f) one[f] = Rf_mkCharCE(records[r][f].c_str(), CE_UTF8);
    out[r] = one;
  }
  return Rcpp::List::create(Rcpp::_["line"] = Rcpp::wrap(lines), Rcpp::_["fields"] = out);
}
