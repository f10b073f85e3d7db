// What stands at a path: a file, a folder, or something that must be neither read nor
// replaced, such as a named pipe or a device (POSIX stat).

#include <Rcpp.h>
#include <sys/stat.h>
#include <string>

// [[Rcpp::export]]
std::string file_kind_cpp(const std::string& path) {
  struct stat found;
  const std::string native = R_ExpandFileName(path.c_str());
  if (stat(native.c_str(), &found) != 0) return "none";
  if (S_ISREG(found.st_mode)) return "file";
  if (S_ISDIR(found.st_mode)) return "folder";
#ifdef S_ISFIFO
  if (S_ISFIFO(found.st_mode)) return "named pipe";
#endif
#ifdef S_ISSOCK
  if (S_ISSOCK(found.st_mode)) return "socket";
#endif
  return "device";
}
