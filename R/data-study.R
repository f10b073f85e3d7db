#' The sourdough study
#'
#' Invented data for examples: nothing in it was measured. `loaves` (flour by
#' starter hydration, six responses), `probe` (four channels every 20 s for three
#' days, with dropouts and spikes), `pores` (60,000 crumb pores), `slice` (a
#' triangle mesh of a cut loaf), `cultures` (microbe counts by hour, repeated), `trials` (ratios
#' with intervals of six bakeries, and the pooled one), `doses` (mould growth by dose of two acids),
#' `tasting` (sixteen tasters on three days, the pH of their slices measured twice), `keeping` (days
#' until loaves were stale, some not seen to the end), `strains` (growth of microbes on media),
#' `stages` (of the dough with the probe), `aromas` (compounds in rye against wheat), `starters`
#' (moved to a new flour), `crumb` (a slice pressed and let go), `oven` (temperature over its
#' floor), `scores` and `loadings` (principal components of loaves),
#' `terms` (of a linear model of rise).
#'
#' @param name One of `"loaves"`, `"probe"`, `"pores"`, `"slice"`, `"cultures"`, `"trials"`,
#'   `"doses"`, `"tasting"`, `"keeping"`, `"strains"`, `"stages"`, `"aromas"`, `"starters"`,
#'   `"crumb"`, `"oven"`, `"scores"`, `"loadings"`,
#'   `"terms"`.
#' @param file Name of a file of the study, such as `"loaves.csv"`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return `study()`: a [codebook()] with the data. `study_file()`: the path of the
#'   shipped file.
#' @section Errors: `nelvat_error_argument` for a name of no table; `nelvat_error_file` for a file
#' that the study does not have.
#' @examples
#' study("loaves")
#' study_file("loaves.csv")
#' @export
study <- function(name) {
  check_needed(study, "study", rlang::current_env())
  check_choice(
    name,
    study_tables,
    "name"
  )
  path <- Filter(file.exists, file.path(study_folder(), paste0(name, c(".csv", ".csv.gz"))))
  read_data(path, codebook = study_file(paste0(name, ".codebook.yaml")))
}

study_tables <- c(
  "loaves", "probe", "pores", "slice", "cultures", "trials", "doses", "tasting", "keeping",
  "strains", "stages", "aromas", "starters", "crumb", "oven", "scores", "loadings",
  "terms", "views"
)

#' @rdname study
#' @export
study_file <- function(file, ...) {
  check_rest(...)
  check_string(file, "file")
  path <- file.path(study_folder(), file)
  if (file.exists(path)) return(path)
  abort_nelvat(
    "file",
    c(
      paste0("The study has no file \"", file, "\"."),
      offer(file, list.files(study_folder()), "file")
    )
  )
}

study_folder <- function() system.file("study", package = "nelvat", mustWork = TRUE)
