# nelvat proof FIGURE.yaml...: proves figures; exit status 1 where anything is bad.

cli_proof <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat proof [--json] [--picture FILE.png] FIGURE.yaml...",
    paste(
      "Measures figures, and what was written of them, against the limits of their house style.",
      "Exit status 1 where anything is bad."
    ),
    list(
      only_option(),
      optparse::make_option(
        "--json",
        action = "store_true",
        default = FALSE,
        help = "print the findings as JSON"
      ),
      optparse::make_option(
        "--picture",
        type = "character",
        default = NULL,
        metavar = "FILE",
        help = "write a PNG of the figure with the findings outlined"
      )
    ),
    least = 1
  )
  if (is.null(parsed)) return(0L)
  if (!is.null(parsed$options$picture) && length(parsed$args) > 1) {
    abort_nelvat("call", "--picture takes one figure file.")
  }
  status <- vapply(
    parsed$args,
    function(path) guarded(prove_figure_file(path, parsed$options), path),
    0L
  )
  max(status)
}

# Of a plate that is saved as these files, and of those that have been written.
proof_with_files <- function(plate, saved) {
  scene <- described_scene(plate)
  of_files <- unlist(
    lapply(Filter(file.exists, saved), proof_file, scene, plate, NULL),
    recursive = FALSE
  )
  as_proof(c(proof_findings(scene, plate, saved), of_files))
}

prove_figure_file <- function(path, options) {
  figure <- read_figure(path, only = options$only)
  several <- length(figure$drawings) > 1
  findings <- do.call(
    rbind,
    lapply(figure$drawings, function(one) {
      found <- proof_with_files(one$plate, one$save)
      if (several) found$where <- paste0(paste(one$name, collapse = " "), ": ", found$where)
      found
    })
  )
  json <- function() {
    jsonlite::toJSON(
      list(figure = path, findings = as.data.frame(findings)),
      dataframe = "rows",
      auto_unbox = TRUE,
      pretty = TRUE
    )
  }
  if (isTRUE(options$json)) {
    writeLines(json())
  } else {
    writeLines(c(path, format.nelvat_proof(findings)))
  }
  if (!is.null(options$picture)) writeLines(proof_picture(figure$plate, options$picture))
  if (any(findings$verdict == "bad")) 1L else 0L
}
