# Follows one value from panel() to the bytes of a PDF, and draws its way for docs/developers.md:
#   Rscript tools/way-of-a-value.R [docs/way-of-a-value.png]
# The same figure is made twice, with one value of its table unlike and the ranges of its axes
# fixed. Every function of the package that gives back something else the second time has the value
# in its hands. Told are those functions in the order in which they end, their files, and how often
# the value changes room.

suppressMessages(library(nelvat))
ns <- asNamespace("nelvat")
seen <- new.env()

# Each function also tells what it gives back, and keeps working as it did.
watch <- function(name, f) {
  force(name)
  tell <- function(value) {
    seen$calls[[length(seen$calls) + 1L]] <- list(
      name = name,
      hash = tryCatch(rlang::hash(plain(value)), error = function(e) "")
    )
  }
  body(f) <- bquote({
    on.exit((.(tell))(returnValue()), add = TRUE)
    .(body(f))
  })
  f
}

# What can be compared: closures and environments have contents of their own.
plain <- function(x) {
  if (is.function(x) || is.environment(x)) return(NULL)
  if (is.list(x)) lapply(unclass(x), plain) else x
}

home <- unlist(
  lapply(list.files("R", "[.]R$", full.names = TRUE), function(file) {
    exprs <- as.list(parse(file))
    named <- Filter(
      function(e) is.call(e) && identical(e[[1]], as.name("<-")) && is.name(e[[2]]),
      exprs
    )
    names <- vapply(named, function(e) as.character(e[[2]]), "")
    stats::setNames(rep(sub("[.]R$", "", basename(file)), length(names)), names)
  })
)
home <- home[home != "RcppExports"]
methods <- get(".__S3MethodsTable__.", ns)
for (name in names(home)) {
  f <- get(name, ns)
  if (!is.function(f) || !is.null(attr(f, "class"))) next
  if (name %in% c("$<-.nelvat_record", "[[<-.nelvat_record", "%||%")) next
  watched <- watch(name, f)
  unlockBinding(name, ns)
  assign(name, watched, ns)
  if (exists(name, methods, inherits = FALSE)) assign(name, watched, methods)
}

# One panel of three points, of which one moves.
calls_of <- function(value) {
  seen$calls <- list()
  table <- data.frame(hours = c(0, 12, 24), rise = c(20, value, 60))
  path <- tempfile(fileext = ".pdf")
  invisible(
    ns$save_plate(
      ns$plate(
        ns$panel(
          table,
          x = hours,
          y = rise,
          ns$ink_points(),
          x_axis = ns$axis_of(range = c(0, 24)),
          y_axis = ns$axis_of(range = c(0, 80))
        ),
        width = 80,
        height = 60
      ),
      path
    )
  )
  seen$calls
}
invisible(calls_of(40))
one <- calls_of(40)
other <- calls_of(48)
key <- function(calls) {
  names <- vapply(calls, `[[`, "", "name")
  paste(names, stats::ave(seq_along(names), names, FUN = seq_along))
}
at <- match(key(one), key(other))
carries <- !is.na(at) &
  vapply(one, `[[`, "", "hash") != vapply(other[at], function(x) if (is.null(x)) "" else x$hash, "")
names <- vapply(one[carries], `[[`, "", "name")
files <- unname(home[names])
rooms <- sub("-.*", "", files)
tools <- rooms == "util"
changes <- function(of) sum(of[-1] != of[-length(of)])
cat(
  sprintf(
    paste0(
      "%d calls give the value on, in %d files (%d of them util); ",
      "it changes room %d times (%d without util).\n"
    ),
    length(files),
    length(unique(files)),
    length(unique(files[tools])),
    changes(rooms),
    changes(rooms[!tools])
  )
)
cat(paste(rle(files)$values, collapse = " > "), "\n")

# Drawn by the package itself: each call a point, in the room that it is of.
path <- commandArgs(trailingOnly = TRUE)[1]
if (!is.na(path)) {
  order <- c(
    "util", "data", "stat", "axis", "text", "house", "ink", "panel", "block", "plate", "key",
    "scene", "account",
    "draw", "save"
  )
  way <- data.frame(call = seq_along(rooms), room = rooms)
  book <- codebook(
    way,
    call = quantity("Call that gives the value on"),
    room = ordinal("Room", order = intersect(order, rooms))
  )
  save_plate(
    plate(
      panel(book, x = call, y = room, ink_points(size = 1)),
      width = "double",
      height = 90,
      title = "The way of one value from the table to the PDF"
    ),
    path,
    dpi = 150
  )
}
