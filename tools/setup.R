# Installs what Nelvat needs and is missing, then Nelvat itself where its sources are
# newer than the installed package. With the word `testing`, also what tests need.
#   Rscript tools/setup.R [testing]
#
# This process loads no package but R's own: a loaded old version of a package would stand in
# the way of the new one. What is installed is read from files, and whether it works is asked
# of a new R process.

testing <- "testing" %in% commandArgs(trailingOnly = TRUE)

# Readers and writers of other formats: tests that want them are skipped without them.
optional <- c("jpeg", "knitr", "litedown", "nanoparquet", "png", "readxl", "svglite", "tiff", "writexl")

main <- function() {
  library_path <- first_writable_library()
  needs <- package_needs()
  system_needs()
  install_missing(needs, library_path)
  prove_packages(needs, library_path)
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

# What is installed, from its DESCRIPTION file alone; NA where it is not.
installed_version <- function(package) {
  files <- file.path(.libPaths(), package, "DESCRIPTION")
  file <- files[file.exists(files)]
  if (!length(file)) return(NA_character_)
  version <- tryCatch(read.dcf(file[1], "Version")[[1]], error = function(error) NA_character_)
  if (file.exists(file.path(dirname(file[1]), "Meta", "package.rds"))) version else NA_character_
}

is_installed <- function(package, least = "0") {
  version <- installed_version(package)
  !is.na(version) && utils::compareVersion(version, least) >= 0
}

# System software -----------------------------------------------------------------

is_debian_root <- function() {
  file.exists("/etc/debian_version") && nzchar(Sys.which("apt-get")) && Sys.info()[["effective_user"]] == "root"
}

has_program <- function(...) any(nzchar(Sys.which(c(...))))

has_header <- function(module, header) {
  by_config <- has_program("pkg-config") && system2("pkg-config", c("--exists", module), stdout = FALSE, stderr = FALSE) == 0
  by_config || any(file.exists(file.path(c("/usr/include", "/usr/local/include", "/opt/homebrew/include"), header)))
}

has_family <- function(family) {
  has_program("fc-list") && length(system2("fc-list", c(shQuote(family), "family"), stdout = TRUE, stderr = FALSE)) > 0
}

# A header that packages are compiled with: wanted where one of them is missing.
header_need <- function(what, debian, module, header, packages, must = TRUE) {
  missing <- !all(vapply(packages, is_installed, NA)) && !has_header(module, header)
  list(what = paste("The", what, "header"), debian = debian, missing = missing, must = must)
}

program_need <- function(what, debian, missing, must = FALSE) {
  list(what = what, debian = debian, missing = missing, must = must)
}

# what: how it is named to the user; debian: package that brings it; missing: is it?;
# must: can nothing work without it?
system_need_table <- function() {
  images <- "ragg"
  text <- c("systemfonts", "textshaping", "ragg")
  needs <- list(
    program_need("A C++ compiler", "g++", !has_program("g++", "clang++"), TRUE),
    program_need("The program make", "make", !has_program("make"), TRUE),
    program_need("The program pkg-config", "pkg-config", is_debian_root() && !has_program("pkg-config")),
    header_need("fontconfig", "libfontconfig1-dev", "fontconfig", "fontconfig/fontconfig.h", text),
    header_need("freetype", "libfreetype6-dev", "freetype2", "freetype2/ft2build.h", text),
    header_need("HarfBuzz", "libharfbuzz-dev", "harfbuzz", "harfbuzz/hb.h", text),
    header_need("FriBidi", "libfribidi-dev", "fribidi", "fribidi/fribidi.h", text),
    header_need("ICU", "libicu-dev", "icu-i18n", "unicode/utypes.h", "stringi", must = FALSE),
    header_need("PNG", "libpng-dev", "libpng", "png.h", images),
    header_need("TIFF", "libtiff-dev", "libtiff-4", "tiffio.h", images),
    header_need("JPEG", "libjpeg-dev", "libjpeg", "jpeglib.h", images),
    header_need("WebP", "libwebp-dev", "libwebp", "webp/encode.h", images),
    header_need("udunits2", "libudunits2-dev", "udunits", "udunits2.h", "units"),
    program_need("The font Liberation Sans", "fonts-liberation", !has_family("Liberation Sans"))
  )
  if (!testing) return(needs)
  c(needs, list(
    program_need("The program pdftotext, by which tests read PDFs", "poppler-utils", !has_program("pdftotext")),
    program_need("The program qpdf, by which tests write PDFs of another form", "qpdf", !has_program("qpdf")),
    program_need("The program gs, by which tests read EPS", "ghostscript", !has_program("gs"))
  ))
}

system_needs <- function() {
  missing <- Filter(function(need) need$missing, system_need_table())
  if (!length(missing)) return(invisible())
  if (is_debian_root() && install_debian(vapply(missing, `[[`, "", "debian"))) return(invisible())
  for (need in missing) say(need$what, " is missing; on Debian the package ", need$debian, " brings it.")
  if (any(vapply(missing, `[[`, NA, "must"))) quit(save = "no", status = 1)
}

install_debian <- function(packages) {
  say("installing ", paste(packages, collapse = ", "), " ...")
  log <- tempfile()
  apt <- function(...) {
    system2("env", c("DEBIAN_FRONTEND=noninteractive", "apt-get", "-qq", ...), stdout = log, stderr = log)
  }
  apt("update")
  if (apt("install", "-y", "--no-install-recommends", packages) == 0) return(TRUE)
  say("apt-get failed: ", utils::tail(readLines(log), 1))
  FALSE
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
  missing <- needs$package[!mapply(is_installed, needs$package, needs$least)]
  if (length(missing)) install(missing, library_path)
}

install <- function(packages, library_path) {
  repositories <- getOption("repos")
  if (is.null(repositories) || "@CRAN@" %in% repositories) utils::chooseCRANmirror(ind = 1)
  say("installing ", paste(packages, collapse = ", "), " and what they need ...")
  # What testthat needs asks for a system library, or builds its own when told to.
  if (!has_header("libuv", "uv.h")) Sys.setenv(USE_BUNDLED_LIBUV = "1")
  cores <- parallel::detectCores()
  cores <- if (is.na(cores)) 1L else cores
  compile_fast(cores)
  utils::install.packages(packages, lib = library_path, quiet = TRUE, Ncpus = cores)
}

# Without debugging information, and with all cores also where one package is left: a third
# of the time. What users have set for compiling stays as it is.
compile_fast <- function(cores) {
  if (nzchar(Sys.getenv("R_MAKEVARS_USER")) || file.exists("~/.R/Makevars")) return(invisible())
  makevars <- tempfile("Makevars")
  flags <- c("CFLAGS", "CXXFLAGS", "CXX11FLAGS", "CXX14FLAGS", "CXX17FLAGS", "CXX20FLAGS", "FFLAGS")
  writeLines(paste(flags, "= -O2 -pipe"), makevars)
  Sys.setenv(R_MAKEVARS_USER = makevars, MAKEFLAGS = paste0("-j", cores))
}

# Each package is loaded, all in one new process, as the tests will load them.
broken_packages <- function(packages, library_path) {
  code <- paste0(
    ".libPaths(c(", deparse(library_path), ", .libPaths())); ",
    "for (package in commandArgs(TRUE)) if (!requireNamespace(package, quietly = TRUE)) cat(package, '\\n')"
  )
  script <- tempfile(fileext = ".R")
  writeLines(code, script)
  found <- system2(file.path(R.home("bin"), "Rscript"), c("--vanilla", shQuote(script), packages), stdout = TRUE, stderr = FALSE)
  if (is.null(attr(found, "status"))) intersect(trimws(found), packages) else packages
}

with_dependencies <- function(packages) {
  installed <- utils::installed.packages(noCache = TRUE)
  below <- unlist(tools::package_dependencies(packages, installed, recursive = TRUE))
  setdiff(unique(c(packages, below)), rownames(utils::installed.packages(priority = "base")))
}

# What cannot be loaded is installed again, together with whatever it stands on that is
# older than what CRAN has: a library of mixed ages mends itself.
# Packages that are loaded late, by others, are proved too.
prove_packages <- function(needs, library_path) {
  broken <- broken_packages(with_dependencies(needs$package), library_path)
  if (!length(broken)) return(invisible())
  say("cannot be loaded as they are: ", paste(broken, collapse = ", "))
  available <- utils::available.packages()
  below <- unlist(tools::package_dependencies(broken, available, recursive = TRUE))
  behind <- Filter(function(package) !is_installed(package, available[package, "Version"]), intersect(below, rownames(available)))
  install(unique(c(broken, behind)), library_path)
  left <- broken_packages(with_dependencies(needs$package), library_path)
  must <- setdiff(intersect(left, needs$package), optional)
  if (length(must)) stop_with("could not install ", paste(must, collapse = ", "), "; the messages above say why.")
  if (length(left)) say("tests that need ", paste(left, collapse = ", "), " will be skipped.")
}

# Nelvat --------------------------------------------------------------------------

install_nelvat <- function(library_path) {
  endings <- "[.](R|cpp|h|Rd|csv|gz|yaml|json|png|md|Rmd|cmd|css)$|nelvat$|CITATION$"
  folders <- c("R", "src", "inst", "man", "vignettes")
  sources <- c("DESCRIPTION", "NAMESPACE", list.files(folders, endings, recursive = TRUE, full.names = TRUE))
  installed <- file.path(library_path, "nelvat", "Meta", "package.rds")
  if (file.exists(installed) && all(file.mtime(sources) < file.mtime(installed))) return(invisible())
  say("installing nelvat ...")
  log <- tempfile()
  arguments <- c("CMD", "INSTALL", "--no-test-load", "-l", shQuote(library_path), ".")
  status <- system2(file.path(R.home("bin"), "R"), arguments, stdout = log, stderr = log)
  if (status != 0) {
    writeLines(readLines(log), stderr())
    stop_with("nelvat could not be installed; the messages above say why.")
  }
}

main()
