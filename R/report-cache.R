# Cached chunks of a document: a chunk that knitr keeps is run again where the data, house or files
# that it reads are others, though its code is the same.

.onLoad <- function(libname, pkgname) {
  setHook(packageEvent("knitr", "onLoad"), function(...) watch_cache())
  if (isNamespaceLoaded("knitr")) watch_cache()
}

# A hook of the option `cache`, after one that a document may have set itself.
watch_cache <- function() {
  before <- knitr::opts_hooks$get("cache")
  if (inherits(before, "nelvat_cache_hook")) return(invisible())
  hook <- function(options) {
    if (is.function(before)) options <- before(options)
    with_chunk_state(options, knitr::knit_global())
  }
  knitr::opts_hooks$set(cache = structure(hook, class = c("nelvat_cache_hook", "function")))
}

# `cache.extra` is among what knitr holds a chunk's results to.
with_chunk_state <- function(options, frame) {
  if (!isTRUE(as.logical(options$cache[1]))) return(options)
  state <- chunk_state(options$code, frame)
  if (!is.null(state)) options$cache.extra <- list(options$cache.extra, state)
  options
}

# A hash of what a chunk's code names: tables, codebooks, houses and figures that are there before
# it, files that exist with what is read beside them; and of the session's house.
chunk_state <- function(code, frame) {
  parsed <- tryCatch(
    utils::getParseData(parse(text = code, keep.source = TRUE)),
    error = function(error) NULL
  )
  if (is.null(parsed)) return(NULL)
  of <- function(token) unique(parsed$text[parsed$token == token])
  names <- Filter(function(name) exists(name, frame, inherits = FALSE), sort(of("SYMBOL")))
  objects <- Filter(is_shown_data, mget(names, envir = frame))
  texts <- vapply(of("STR_CONST"), function(text) eval(parse(text = text)), "")
  rlang::hash(
    list(
      lapply(objects, plain_parts),
      files_read(unname(texts)),
      plain_parts(getOption("nelvat.house"))
    )
  )
}

is_shown_data <- function(object) {
  is.data.frame(object) || any(startsWith(class(object), "nelvat_"))
}

# Values without what another session makes anew: environments, functions, where code was written.
plain_parts <- function(object) {
  if (rlang::is_quosure(object)) return(rlang::expr_text(rlang::quo_get_expr(object)))
  if (is.environment(object) || is.function(object)) return(NULL)
  if (is.language(object)) return(rlang::expr_text(object))
  if (!is.list(object)) return(object)
  lapply(unclass(object), plain_parts)
}

# Sums of the files that texts name. A figure file, codebook or house names others, which count from
# its folder; a folder is what stands in it.
files_read <- function(texts, folder = ".", known = character()) {
  # What is only ever written is no reason to run again.
  texts <- texts[nchar(texts) %in% 1:1000 & !grepl("[.](pdf|svg|eps|html|md)$", texts)]
  paths <- ifelse(grepl("^(/|[A-Za-z]:|~)", texts), texts, file.path(folder, texts))
  paths <- paths[file.exists(paths)]
  is_folder <- dir.exists(paths)
  paths <- c(paths[!is_folder], list.files(setdiff(paths[is_folder], "."), full.names = TRUE))
  paths <- c(paths, file.path(dirname(paths), "nelvat.yaml"))
  paths <- unique(normalizePath(paths[file.exists(paths) & !dir.exists(paths)], "/"))
  sums <- known
  for (path in setdiff(paths, names(known))) {
    sums[path] <- unname(tools::md5sum(path))
    if (grepl("[.]ya?ml$", path)) {
      said <- tryCatch(yaml::read_yaml(path), error = function(error) NULL)
      sums <- files_read(as.character(unlist(said)), dirname(path), sums)
    }
  }
  sums
}
