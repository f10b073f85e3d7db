// The kernels that read, as one unit: the headers of Rcpp take most of the time of compiling.
#include "RcppExports.cpp"
#include "ascii_bytes.cpp"
#include "count_fields.cpp"
#include "count_lines.cpp"
#include "crc32.cpp"
#include "describe_column.cpp"
#include "file_kind.cpp"
#include "split_records.cpp"
