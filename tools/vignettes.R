# Makes vignettes/ from docs/, before the package is built: Rscript tools/vignettes.R
# The documents of docs/ as vignettes, so that an installed package has them. Their code is
# shown, not run: the tests run it.
as_vignette <- function(path) {
  lines <- readLines(path, encoding = "UTF-8")
  title <- sub("^# +", "", grep("^# ", lines, value = TRUE)[1])
  # What links to files of the sources is named only; pictures are not shipped.
  lines <- gsub("\\[([^]]*)\\]\\(\\.\\./[^)]*\\)", "\\1", lines)
  lines <- sub("^!\\[([^]]*)\\]\\([^)]*\\)$", "", lines)
  lines <- gsub("\\]\\(([a-z-]+)\\.md\\)", "](\\1.html)", lines)
  head <- c(
    "<!--",
    paste0("%\\VignetteIndexEntry{", title, "}"),
    "%\\VignetteEngine{litedown::vignette}",
    "%\\VignetteEncoding{UTF-8}",
    "-->"
  )
  writeLines(
    enc2utf8(c(head, lines)),
    file.path("vignettes", sub("[.]md$", ".Rmd", basename(path))),
    useBytes = TRUE
  )
}
dir.create("vignettes", showWarnings = FALSE)
for (path in list.files("docs", "[.]md$", full.names = TRUE)) as_vignette(path)
