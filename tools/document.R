# Makes NAMESPACE, man/ and the Rcpp glue from the sources: Rscript tools/document.R
Rcpp::compileAttributes(".")
roxygen2::roxygenise(".", load_code = roxygen2::load_source)
