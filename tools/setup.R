# Installs what Nelvat needs and is missing, then Nelvat itself where its sources are
# newer than the installed package. With the word `testing`, also what tests need.
#   Rscript tools/setup.R [testing]

testing <- "testing" %in% commandArgs(trailingOnly = TRUE)

main <- function() {
  library_path <- first_writable_library()
  system_needs()
  install_missing(package_needs(), library_path)
  install_nelvat(library_path)
}

say <- function(...) message("setup: ", ...)

stop_with <- function(...) {
  message("setup: ", ...)
  quit(save = "no", status = 1)
}

# The first library that can be written to; the user's own is made if there is none.
first_writable_library <- function() {
  writable <- Filter(function(path) file.access(path, 2) == 0, .libPaths())
  if (length(writable)) return(writable[1])
  own <- path.expand(strsplit(Sys.getenv("R_LIBS_USER"), .Platform$path.sep)[[1]][1])
  dir.create(own, recursive = TRUE, showWarnings = FALSE)
  if (file.access(own, 2) != 0) stop_with("no R library can be written to; set R_LIBS_USER to a folder of yours.")
  .libPaths(c(own, .libPaths()))
  own
}

# System software -----------------------------------------------------------------

is_debian_root <- function() {
  file.exists("/etc/debian_version") && nzchar(Sys.which("apt-get")) && Sys.info()[["effective_user"]] == "root"
}

has_header <- function(module, header) {
  by_config <- nzchar(Sys.which("pkg-config")) && system2("pkg-config", c("--exists", module), stdout = FALSE, stderr = FALSE) == 0
  by_config || any(file.exists(file.path(c("/usr/include", "/usr/local/include", "/opt/homebrew/include"), header)))
}

has_family <- function(family) {
  nzchar(Sys.which("fc-list")) && length(system2("fc-list", c(shQuote(family), "family"), stdout = TRUE, stderr = FALSE)) > 0
}

# what: how it is named to the user; debian: package that brings it; missing: is it?;
# must: can nothing work without it?
system_needs <- function() {
  build <- !requireNamespace("systemfonts", quietly = TRUE)
  needs <- list(
    list(what = "A C++ compiler", debian = "g++", missing = !nzchar(Sys.which("g++")) && !nzchar(Sys.which("clang++")), must = TRUE),
    list(what = "The program make", debian = "make", missing = !nzchar(Sys.which("make")), must = TRUE),
    list(what = "The fontconfig header", debian = "libfontconfig1-dev",
         missing = build && !has_header("fontconfig", "fontconfig/fontconfig.h"), must = TRUE),
    list(what = "The freetype header", debian = "libfreetype6-dev",
         missing = build && !has_header("freetype2", "freetype2/ft2build.h"), must = TRUE),
    list(what = "The font Liberation Sans", debian = "fonts-liberation", missing = !has_family("Liberation Sans"), must = FALSE),
    list(what = "The PNG header, by which tests read images", debian = "libpng-dev",
         missing = testing && !requireNamespace("png", quietly = TRUE) && !has_header("libpng", "png.h"), must = FALSE),
    list(what = "The HarfBuzz header, by which svglite writes SVG", debian = "libharfbuzz-dev",
         missing = testing && !requireNamespace("svglite", quietly = TRUE) && !has_header("harfbuzz", "harfbuzz/hb.h"), must = FALSE),
    list(what = "The FriBidi header, by which svglite writes SVG", debian = "libfribidi-dev",
         missing = testing && !requireNamespace("svglite", quietly = TRUE) && !has_header("fribidi", "fribidi/fribidi.h"), must = FALSE),
    list(what = "The program pdftotext, by which tests read PDFs", debian = "poppler-utils",
         missing = testing && !nzchar(Sys.which("pdftotext")), must = FALSE)
  )
  missing <- Filter(function(need) need$missing, needs)
  if (!length(missing)) return(invisible())
  if (is_debian_root()) {
    packages <- vapply(missing, `[[`, "", "debian")
    say("installing ", paste(packages, collapse = ", "), " ...")
    log <- tempfile()
    apt <- function(...) system2("env", c("DEBIAN_FRONTEND=noninteractive", "apt-get", "-qq", ...), stdout = log, stderr = log)
    apt("update")
    if (apt("install", "-y", "--no-install-recommends", packages) == 0) return(invisible())
    say("apt-get failed: ", utils::tail(readLines(log), 1))
  }
  for (need in missing) say(need$what, " is missing; on Debian the package ", need$debian, " brings it.")
  if (any(vapply(missing, `[[`, NA, "must"))) quit(save = "no", status = 1)
}

# R packages ----------------------------------------------------------------------

package_needs <- function() {
  fields <- read.dcf("DESCRIPTION", c("Imports", "LinkingTo", if (testing) "Suggests"))
  names_and_versions <- trimws(unlist(strsplit(fields[!is.na(fields)], ",")))
  needs <- data.frame(
    package = sub("[ (\n].*", "", names_and_versions),
    least = ifelse(grepl(">=", names_and_versions), gsub(".*>= *|\\)", "", names_and_versions), "0")
  )
  unique(needs)
}

install_missing <- function(needs, library_path) {
  is_missing <- function(package, least) {
    version <- tryCatch(utils::packageVersion(package), error = function(error) NULL)
    is.null(version) || version < least
  }
  missing <- needs$package[mapply(is_missing, needs$package, needs$least)]
  if (!length(missing)) return(invisible())
  repositories <- getOption("repos")
  if (is.null(repositories) || "@CRAN@" %in% repositories) utils::chooseCRANmirror(ind = 1)
  say("installing ", paste(missing, collapse = ", "), " and what they need ...")
  # What testthat needs asks for a system library, or builds its own when told to.
  if (!has_header("libuv", "uv.h")) Sys.setenv(USE_BUNDLED_LIBUV = "1")
  utils::install.packages(missing, lib = library_path, quiet = TRUE, Ncpus = max(1L, parallel::detectCores()))
  # Readers and writers of other formats are wanted by tests, which are skipped without them.
  missing <- setdiff(missing, c("knitr", "nanoparquet", "png", "readxl", "svglite", "writexl"))
  left <- missing[!vapply(missing, requireNamespace, NA, quietly = TRUE, lib.loc = c(library_path, .libPaths()))]
  if (length(left)) stop_with("could not install ", paste(left, collapse = ", "), "; the messages above say why.")
}

install_nelvat <- function(library_path) {
  sources <- c("DESCRIPTION", "NAMESPACE", list.files(c("R", "src", "inst", "man"), "[.](R|cpp|h|Rd|csv|gz|yaml|json|png|md)$|nelvat$", recursive = TRUE, full.names = TRUE))
  installed <- file.path(library_path, "nelvat", "Meta", "package.rds")
  if (file.exists(installed) && all(file.mtime(sources) < file.mtime(installed))) return(invisible())
  say("installing nelvat ...")
  log <- tempfile()
  status <- system2(file.path(R.home("bin"), "R"), c("CMD", "INSTALL", "--no-test-load", "-l", shQuote(library_path), "."), stdout = log, stderr = log)
  if (status != 0) {
    writeLines(readLines(log), stderr())
    stop_with("nelvat could not be installed; the messages above say why.")
  }
}

main()
