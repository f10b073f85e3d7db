# Keeps anew what test-kept-marks.R compares with, after a change of marks that is meant and is
# installed: Rscript tools/kept-marks.R
# The difference in the table is the change as it is to be looked at.
suppressMessages(library(nelvat))
for (file in c("helper-examples.R", "helper-kept.R")) source(file.path("tests", "testthat", file))
kept <- kept_table()
utils::write.csv(
  kept,
  file.path("tests", "testthat", "kept-marks.csv"),
  row.names = FALSE,
  fileEncoding = "UTF-8"
)
cat(nrow(kept), "lines of", length(unique(kept$figure)), "figures kept\n")
