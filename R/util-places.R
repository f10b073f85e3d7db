# Where files may be read and written. A path that a person wrote goes where they say; a name that
# is made of values, such as the levels of a column, stays in the folder that was written before it.
# An input is never an output.

# A path in a figure or house file is seen from its folder.
beside_file <- function(path, folder) {
  if (grepl("^(/|~|[A-Za-z]:)", path)) {
    path.expand(path)
  } else if (folder == ".") {
    path
  } else {
    file.path(folder, path)
  }
}

# A value as a part of a file's name: nothing in it leads to another folder, hides the file, or
# means something to a shell or a file system. Unlike values may become one name; then two files
# would have it, which check_apart() tells.
name_of_value <- function(value) {
  value <- enc2utf8(as.character(value))
  name <- gsub("(*UTF)[\\p{C}/\\\\:*?\"'<>|&;$`!]+", "-", value, perl = TRUE)
  name <- sub("^[.~ ]+", "", name)
  name <- sub("[. ]+$", "", name)
  name <- ifelse(grepl("^-", value), name, sub("^-+(?=.)", "", name, perl = TRUE))
  name <- vapply(name, within_bytes, "", most = longest_name, USE.NAMES = FALSE)
  reserved <- "^(con|prn|aux|nul|com[0-9]|lpt[0-9])$"
  name <- ifelse(grepl(reserved, name, ignore.case = TRUE), paste0(name, "_"), name)
  ifelse(nzchar(name), name, "_")
}

longest_name <- 120 # bytes, of the 255 that file systems take

within_bytes <- function(text, most) {
  if (nchar(text, "bytes") <= most) return(text)
  letters <- strsplit(text, "")[[1]]
  paste(letters[cumsum(nchar(letters, "bytes")) <= most], collapse = "")
}

# Words in the name of a file: letters and digits of all scripts, joined by hyphens, each name once.
file_words <- function(names) {
  plain_names <- gsub(
    "(*UCP)[^\\p{L}\\p{N}\\p{M}]+",
    "-",
    enc2utf8(as.character(names)),
    perl = TRUE
  )
  make.unique(name_of_value(gsub("^-|-$", "", plain_names)), sep = "-")
}

# The file itself, wherever links lead: what two paths are told apart by.
file_itself <- function(paths) {
  paths <- vapply(paths, link_target, "", USE.NAMES = FALSE)
  file.path(normalizePath(dirname(paths), "/", mustWork = FALSE), basename(paths))
}

# No output is one of the files that it is drawn from.
check_not_input <- function(outputs, inputs, call = NULL) {
  over <- outputs[file_itself(outputs) %in% file_itself(inputs)]
  if (!length(over)) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0("\"", over[1], "\" is drawn from, so it cannot be written."),
      i = "Save under another name."
    ),
    call
  )
}

# A draft is never written over what somebody may have worked on.
check_new_file <- function(path) {
  if (!file.exists(path)) return(invisible())
  abort_nelvat(
    "file",
    c(
      paste0("\"", path, "\" is there already."),
      i = "Name another file with --output, or remove this one."
    ),
    call = NULL
  )
}

# Says something to whoever listens; nothing where nobody does.
announce <- function(class, ...) {
  signalCondition(structure(class = c(class, "condition"), list(message = "", call = NULL, ...)))
}

# Who reads a file says so: whoever draws listens, and keeps which bytes a figure was drawn from.
# The hash is taken before the file is read: one that is replaced meanwhile is drawn again.
tell_read <- function(path) announce("nelvat_file_read", path = path)

# A pattern stands for the files that there are.
tell_listed <- function(pattern, found) {
  announce("nelvat_files_listed", pattern = pattern, found = found)
}

md5_of_files <- function(paths) {
  stats::setNames(unname(tools::md5sum(paths)), paths)
}

# list(value, files: hashes by path, patterns: files by pattern) of some code.
with_files_read <- function(code) {
  files <- character()
  patterns <- list()
  value <- withCallingHandlers(
    code,
    nelvat_file_read = function(told) {
      if (!told$path %in% names(files)) files[told$path] <<- unname(tools::md5sum(told$path))
    },
    nelvat_files_listed = function(told) patterns[[told$pattern]] <<- told$found
  )
  list(value = value, files = files, patterns = patterns)
}
