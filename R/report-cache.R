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
  # R's parser keeps of long texts only how long they are.
  quoted_texts <- grep("^[rR]?['\"]", of("STR_CONST"), value = TRUE)
  names <- Filter(function(name) exists(name, frame, inherits = FALSE), sort(of("SYMBOL")))
  objects <- Filter(is_shown_data, mget(names, envir = frame))
  texts <- vapply(quoted_texts, function(text) eval(parse(text = text)), "")
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
# its folder; a folder is the tables and figure files in it.
read_endings <- "[.](ya?ml|json|csv|tsv|txt|gz|xlsx?|parquet|sqlite|db)$"
files_read <- function(texts, folder = ".", known = character()) {
  texts <- texts[validUTF8(texts)]
  # What is only ever written is no reason to run again, nor is what a sign alone would stand for.
  texts <- texts[grepl("[[:alnum:]]", texts) & !grepl("[.](pdf|svg|eps|html|md)$", texts)]
  paths <- ifelse(grepl("^(/|[A-Za-z]:|~)", texts), texts, file.path(folder, texts))
  paths <- paths[file.exists(paths)]
  is_folder <- dir.exists(paths)
  paths <- c(paths[!is_folder], list.files(paths[is_folder], read_endings, full.names = TRUE))
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
