#' @export
print.nelvat_proof <- function(x, ...) {
  writeLines(format(x, ...))
  invisible(x)
}

#' @export
format.nelvat_proof <- function(x, width = NULL, ...) {
  # With columns taken away it is a table like any other.
  if (!all(c("rule", "measured", "limit", "verdict", "where", "mend") %in% names(x))) {
    return(utils::capture.output(print(as.data.frame(unclass(x)))))
  }
  n <- table(factor(x$verdict, c("good", "look", "bad")))
  lines <- unlist(
    lapply(seq_len(nrow(x)), function(i) {
      first <- paste0(
        "  ",
        formatC(x$verdict[i], width = -5),
        " ",
        x$rule[i],
        ": ",
        x$measured[i],
        if (nzchar(x$limit[i])) paste0(" (", x$limit[i], ")")
      )
      if (x$verdict[i] == "good") return(first)
      c(first, paste0("          where: ", x$where[i]), paste0("          mend:  ", x$mend[i]))
    })
  )
  c(
    paste0("Proof: ", n[["good"]], " good, ", n[["look"]], " to look at, ", n[["bad"]], " bad"),
    lines
  )
}
