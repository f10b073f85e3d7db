# Installs what Nelvat needs and is missing, then Nelvat itself where its sources are
# newer than the installed package. With the word `testing`, also what tests need.
#   Rscript tools/setup.R [testing]
# Where R is Debian's own and one is root, packages come built from Debian; what it lacks, or has
# too old, and everything elsewhere comes from CRAN. NELVAT_FROM_CRAN=1 asks CRAN alone.
#
# This process loads no package but R's own: a loaded old version of a package would stand in
# the way of the new one. What is installed is read from files, and whether it works is asked
# of a new R process.

testing <- "testing" %in% commandArgs(trailingOnly = TRUE)
# Tests that drive other programs run where all is wanted.
everything <- identical(Sys.getenv("CI"), "true") || identical(Sys.getenv("ALL"), "1")

# Readers and writers of other formats: tests that want them are skipped without them.
# The driver of a server is compiled only where servers are wanted.
optional <- c(
  "RPostgres", "jpeg", "knitr", "litedown", "nanoparquet", "png", "readxl", "svglite", "tiff",
  "writexl"
)

main <- function() {
  library_path <- first_writable_library()
  needs <- package_needs()
  install_built(needs)
  system_needs()
  install_missing(needs, library_path)
  prove_packages(needs, library_path)
  if (testing && everything) install_browser_driver()
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
  if (file.access(own, 2) != 0) {
    stop_with("no R library can be written to; set R_LIBS_USER to a folder of yours.")
  }
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
  file.exists("/etc/debian_version") && nzchar(Sys.which("apt-get")) &&
    Sys.info()[["effective_user"]] == "root"
}

has_program <- function(...) any(nzchar(Sys.which(c(...))))

has_header <- function(module, header) {
  by_config <- has_program("pkg-config") &&
    system2("pkg-config", c("--exists", module), stdout = FALSE, stderr = FALSE) == 0
  by_config || any(
    file.exists(file.path(c("/usr/include", "/usr/local/include", "/opt/homebrew/include"), header))
  )
}

has_family <- function(family) {
  has_program("fc-list") &&
    length(system2("fc-list", c(shQuote(family), "family"), stdout = TRUE, stderr = FALSE)) > 0
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
  compiles_text <- is_debian_root() && !all(vapply(text, is_installed, NA))
  needs <- list(
    program_need("A C++ compiler", "g++", !has_program("g++", "clang++"), TRUE),
    program_need("The program make", "make", !has_program("make"), TRUE),
    program_need(
      "The program pkg-config",
      "pkg-config",
      compiles_text && !has_program("pkg-config")
    ),
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
  needs <- c(
    needs,
    list(
      program_need(
        "The program pdftotext, by which tests read PDFs",
        "poppler-utils",
        !has_program("pdftotext")
      )
    )
  )
  if (!everything) return(needs)
  c(
    needs,
    list(
      program_need(
        "The program qpdf, by which tests write PDFs of another form",
        "qpdf",
        !has_program("qpdf")
      ),
      program_need(
        "A server, by which tests read large tables",
        "postgresql",
        !has_program("initdb") && !length(Sys.glob("/usr/lib/postgresql/*/bin/initdb"))
      ),
      header_need("PostgreSQL", "libpq-dev", "libpq", "libpq-fe.h", "RPostgres", must = FALSE),
      # What the driver of that server needs, built.
      program_need(
        "The package lubridate",
        "r-cran-lubridate",
        debian_ships_for_this_r() && !is_installed("lubridate")
      ),
      program_need("The program gs, by which tests read EPS", "ghostscript", !has_program("gs")),
      program_need(
        "A browser, by which tests read the page to look at figures",
        "chromium",
        !any(vapply(c("chromium", "chromium-browser", "google-chrome"), has_program, NA))
      ),
      # What the driver of that browser needs.
      program_need(
        "The package curl",
        "r-cran-curl",
        debian_ships_for_this_r() && !is_installed("curl")
      ),
      header_need("libcurl", "libcurl4-openssl-dev", "libcurl", "curl/curl.h", "curl", FALSE),
      header_need("OpenSSL", "libssl-dev", "openssl", "openssl/ssl.h", "websocket", FALSE)
    )
  )
}

system_needs <- function() {
  missing <- Filter(function(need) need$missing, system_need_table())
  if (!length(missing)) return(invisible())
  if (is_debian_root() && install_debian(vapply(missing, `[[`, "", "debian"))) return(invisible())
  for (need in missing) {
    say(need$what, " is missing; on Debian the package ", need$debian, " brings it.")
  }
  if (any(vapply(missing, `[[`, NA, "must"))) quit(save = "no", status = 1)
}

# Debian's lists of packages, once a run.
refresh_debian <- function() {
  if (!file.exists(apt_log)) apt_get("update")
}

install_debian <- function(packages) {
  say("installing ", paste(packages, collapse = ", "), " ...")
  refresh_debian()
  status <- apt_get("install", "-y", "--no-install-recommends", packages)
  if (status != 0) say("apt-get failed: ", utils::tail(readLines(apt_log), 1))
  status == 0
}

apt_log <- tempfile()
apt_get <- function(...) {
  arguments <- c("DEBIAN_FRONTEND=noninteractive", "apt-get", "-qq", ...)
  system2("env", arguments, stdout = apt_log, stderr = apt_log)
}

# R packages ----------------------------------------------------------------------

package_needs <- function() {
  fields <- read.dcf("DESCRIPTION", c("Imports", "LinkingTo", if (testing) "Suggests"))
  names_and_versions <- trimws(unlist(strsplit(fields[!is.na(fields)], ",")))
  needs <- data.frame(
    package = sub("[ (\n].*", "", names_and_versions),
    least = ifelse(
      grepl(">=", names_and_versions),
      gsub(".*>= *|\\)", "", names_and_versions),
      "0"
    )
  )
  unique(needs[everything | needs$package != "RPostgres", ])
}

lacking <- function(needs) needs[!mapply(is_installed, needs$package, needs$least), ]

install_missing <- function(needs, library_path) {
  missing <- lacking(needs)$package
  if (length(missing)) install(missing, library_path)
}

# Is this R Debian's own, which looks for packages where Debian puts them?
debian_ships_for_this_r <- function() {
  if (nzchar(Sys.getenv("NELVAT_FROM_CRAN")) || !is_debian_root()) return(FALSE)
  program <- file.path(R.home("bin"), "R")
  owned <- suppressWarnings(system2("dpkg", c("-S", program), stdout = FALSE, stderr = FALSE)) == 0
  owned && debian_library %in% .libPaths()
}
debian_library <- "/usr/lib/R/site-library"

debian_name <- function(package) paste0("r-cran-", tolower(package))

# What Debian ships built, new enough, is taken from there, which is seconds; never where that
# would bring another R.
install_built <- function(needs) {
  missing <- lacking(needs)
  if (!nrow(missing) || !debian_ships_for_this_r()) return(invisible())
  refresh_debian()
  shipped <- debian_versions(debian_name(missing$package))
  is_new_enough <- !is.na(shipped) & mapply(
    function(version, least) utils::compareVersion(version, least) >= 0,
    ifelse(is.na(shipped), "0", shipped),
    missing$least
  )
  packages <- debian_name(missing$package)[is_new_enough]
  if (length(packages) && !brings_other_r(packages)) install_debian(packages)
}

# The version that Debian would install, without its own marks ("1.2.0+dfsg-1" is 1.2.0); NA where
# it has none.
debian_versions <- function(packages) {
  told <- suppressWarnings(
    system2("apt-cache", c("policy", packages), stdout = TRUE, stderr = FALSE)
  )
  heads <- grep("^[^ ].*:$", told)
  candidates <- grep("^ +Candidate: ", told)
  found <- rep(NA_character_, length(packages))
  names(found) <- packages
  named <- sub(":$", "", told[heads[findInterval(candidates, heads)]])
  versions <- sub("[+~].*", "", sub("-[^-]*$", "", sub("^ +Candidate: *", "", told[candidates])))
  found[named] <- ifelse(versions == "(none)", NA, sub("^[0-9]+:", "", versions))
  unname(found[packages])
}

brings_other_r <- function(packages) {
  arguments <- c("-s", "install", "--no-install-recommends", packages)
  told <- suppressWarnings(system2("apt-get", arguments, stdout = TRUE, stderr = FALSE))
  !is.null(attr(told, "status")) || any(grepl("^(Inst|Remv) r-base-core ", told))
}

# must: does set-up end where no repository answers?
install <- function(packages, library_path, must = TRUE) {
  repositories <- getOption("repos")
  if (is.null(repositories) || "@CRAN@" %in% repositories) utils::chooseCRANmirror(ind = 1)
  available <- reachable_packages(packages, must)
  if (is.null(available)) return(invisible())
  say("installing ", paste(packages, collapse = ", "), " and what they need ...")
  remove_left_locks(library_path)
  # What testthat needs asks for a system library, or builds its own when told to.
  if (!has_header("libuv", "uv.h")) Sys.setenv(USE_BUNDLED_LIBUV = "1")
  cores <- compile_fast()
  utils::install.packages(
    largest_first(packages, available),
    lib = library_path,
    available = available,
    quiet = TRUE,
    Ncpus = cores
  )
}

# A lock that a killed set-up left would refuse every later one: it goes where nothing is
# being installed.
remove_left_locks <- function(library_path) {
  locks <- Sys.glob(file.path(library_path, "00LOCK*"))
  if (length(locks) && !any(grepl("INSTALL", running_commands()))) unlink(locks, recursive = TRUE)
}

# The command lines of all processes; where they cannot be read, one that stands for any.
running_commands <- function() {
  files <- Sys.glob("/proc/[0-9]*/cmdline")
  if (length(files)) {
    read <- function(file) {
      tryCatch(readLines(file, 1, warn = FALSE, skipNul = TRUE), error = function(error) "")
    }
    return(suppressWarnings(unlist(lapply(files, read))))
  }
  if (!has_program("ps")) return("INSTALL")
  system2("ps", c("-A", "-o", "args"), stdout = TRUE, stderr = FALSE)
}

# What CRAN has; where it does not answer, what lacks and how to bring it.
reachable_packages <- function(packages, must) {
  options(timeout = max(60, getOption("timeout")))
  available <- tryCatch(
    suppressWarnings(utils::available.packages()),
    error = function(error) matrix(character(), 0, 2)
  )
  if (nrow(available)) return(available)
  if (!must) return(NULL)
  debian <- paste("apt-get install", paste(debian_name(packages), collapse = " "))
  stop_with(
    "no package repository answers (",
    paste(getOption("repos"), collapse = ", "),
    "), and these lack: ",
    paste(packages, collapse = ", "),
    ".\n",
    "setup: With a network, call this again; with a mirror of yours, set options(repos = ) in ",
    "~/.Rprofile.\n",
    "setup: On Debian, as root: ",
    debian
  )
}

# What takes longest to compile begins first, so that no core waits for it at the end.
largest_first <- function(packages, available) {
  below <- unlist(tools::package_dependencies(packages, available, recursive = TRUE))
  slow <- c(
    "stringi", "data.table", "nanoparquet", "systemfonts", "ragg", "textshaping", "Rcpp", "vctrs",
    "svglite", "readxl", "rlang", "tiff", "units", "farver", "isoband"
  )
  all <- intersect(unique(c(packages, below)), rownames(available))
  all <- Filter(function(package) package %in% packages || !is_installed(package), all)
  c(intersect(slow, all), setdiff(all, slow))
}

# Without debugging information, and with all cores also where one package is left: a third
# of the time. What users have set for compiling stays as it is.
compile_fast <- function() {
  cores <- parallel::detectCores()
  cores <- if (is.na(cores)) 1L else cores
  Sys.setenv(MAKEFLAGS = paste0("-j", cores))
  if (nzchar(Sys.getenv("R_MAKEVARS_USER")) || file.exists("~/.R/Makevars")) return(cores)
  makevars <- tempfile("Makevars")
  flags <- c("CFLAGS", "CXXFLAGS", "CXX11FLAGS", "CXX14FLAGS", "CXX17FLAGS", "CXX20FLAGS", "FFLAGS")
  writeLines(paste(flags, "= -O2 -pipe"), makevars)
  Sys.setenv(R_MAKEVARS_USER = makevars)
  cores
}

# Each package is loaded, all in one new process, as the tests will load them.
broken_packages <- function(packages, library_path) {
  code <- paste0(
    ".libPaths(c(",
    deparse(library_path),
    ", .libPaths())); ",
    "for (package in commandArgs(TRUE)) {",
    "if (!requireNamespace(package, quietly = TRUE)) cat(package, '\\n')",
    "}"
  )
  script <- tempfile(fileext = ".R")
  writeLines(code, script)
  found <- system2(
    file.path(R.home("bin"), "Rscript"),
    c("--vanilla", shQuote(script), packages),
    stdout = TRUE,
    stderr = FALSE
  )
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
  behind <- Filter(
    function(package) !is_installed(package, available[package, "Version"]),
    intersect(below, rownames(available))
  )
  install(unique(c(broken, behind)), library_path)
  left <- broken_packages(with_dependencies(needs$package), library_path)
  must <- setdiff(intersect(left, needs$package), optional)
  if (length(must)) {
    stop_with("could not install ", paste(must, collapse = ", "), "; the messages above say why.")
  }
  if (length(left)) say("tests that need ", paste(left, collapse = ", "), " will be skipped.")
}

# What drives a browser asks for newer packages than those that Nelvat is tried with: it has a
# library of its own, and a process of its own in the tests, which are skipped without it.
install_browser_driver <- function() {
  if (dir.exists(file.path(browser_library, "chromote"))) return(invisible())
  dir.create(browser_library, showWarnings = FALSE, recursive = TRUE)
  libraries <- .libPaths()
  on.exit(.libPaths(libraries))
  .libPaths(c(browser_library, libraries))
  try(install("chromote", .libPaths()[1], must = FALSE), silent = TRUE)
  if (!dir.exists(file.path(browser_library, "chromote"))) {
    say("tests that drive a browser will be skipped: the package chromote is missing.")
  }
}
browser_library <- file.path(".make", "browser")

# Nelvat --------------------------------------------------------------------------

# Built in a folder of its own beside the packages, and moved to its place when it is whole: no
# lock that a killed set-up leaves, nothing half installed.
install_nelvat <- function(library_path) {
  endings <- "[.](R|cpp|h|Rd|csv|gz|yaml|json|png|md|Rmd|cmd|css)$|nelvat$|CITATION$|Makevars$"
  folders <- c("R", "src", "inst", "man", "vignettes")
  sources <- c(
    "DESCRIPTION",
    "NAMESPACE",
    list.files(folders, endings, recursive = TRUE, full.names = TRUE)
  )
  installed <- file.path(library_path, "nelvat", "Meta", "package.rds")
  if (file.exists(installed) && all(file.mtime(sources) < file.mtime(installed))) {
    return(invisible())
  }
  say("installing nelvat ...")
  compile_fast()
  log <- tempfile()
  unlink(Sys.glob(file.path(library_path, "00NEW-nelvat-*")), recursive = TRUE)
  new <- tempfile("00NEW-nelvat-", library_path)
  dir.create(new)
  on.exit(unlink(new, recursive = TRUE))
  arguments <- c("CMD", "INSTALL", "--no-test-load", "-l", shQuote(new), ".")
  status <- system2(file.path(R.home("bin"), "R"), arguments, stdout = log, stderr = log)
  if (status != 0) {
    writeLines(readLines(log), stderr())
    unlink(new, recursive = TRUE)
    stop_with("nelvat could not be installed; the messages above say why.")
  }
  place <- file.path(library_path, "nelvat")
  unlink(place, recursive = TRUE)
  if (!file.rename(file.path(new, "nelvat"), place)) {
    unlink(new, recursive = TRUE)
    stop_with("nelvat could not be moved to ", library_path, ".")
  }
}

main()
