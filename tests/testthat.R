library(testthat)
library(nelvat)

test_check("nelvat")
