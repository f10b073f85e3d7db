library(testthat)
library(nelvat.bakery)
test_check("nelvat.bakery")
