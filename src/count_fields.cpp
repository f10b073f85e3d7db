// How many fields the records of separated text have, as runs of records of the same number
// (RFC 4180: a field may stand in quotes, in which line breaks count as text and a doubled
// quote is one). Lines are counted as an editor does. Blank lines have no fields; those at the
// end of the file are left out. `from`: the first line that counts; `records`: how many records have
// fields.

#include <Rcpp.h>
#include <vector>

// [[Rcpp::export]]
Rcpp::List count_fields_cpp(const Rcpp::RawVector& bytes, const std::string& separator, double from = 1) {
  const unsigned char sep = separator.empty() ? ',' : static_cast<unsigned char>(separator[0]);
  const R_xlen_t n = bytes.size();
  const Rbyte* const text = RAW(bytes);
  std::vector<double> lines, fields;
  double line = 1, records = 0;
  R_xlen_t i = 0;
  while (i < n) {
    const double starts = line;
    double count = 1;
    bool empty = true, field_start = true;
    for (; i < n; ++i) {
      const unsigned char one = text[i];
      if (one == '\r' && i + 1 < n && text[i + 1] == '\n') continue;
      if (one == '\n' || one == '\r') break;
      empty = false;
      if (one == sep) {
        ++count;
        field_start = true;
      } else if (one == '"' && field_start) {
        for (++i; i < n; ++i) {
          if (text[i] == '\n') ++line;
          if (text[i] != '"') continue;
          if (i + 1 < n && text[i + 1] == '"') {
            ++i;
          } else {
            break;
          }
        }
        field_start = false;
      } else if (one != ' ') {
        field_start = false;
      }
    }
    ++i;
    ++line;
    if (empty) count = 0;
    if (starts < from) continue;
    if (count > 0) ++records;
    if (fields.empty() || fields.back() != count) {
      lines.push_back(starts);
      fields.push_back(count);
    }
  }
  if (!fields.empty() && fields.back() == 0) {
    lines.pop_back();
    fields.pop_back();
  }
  return Rcpp::List::create(Rcpp::_["line"] = Rcpp::wrap(lines), Rcpp::_["fields"] = Rcpp::wrap(fields),
                            Rcpp::_["records"] = records);
}
