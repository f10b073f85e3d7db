#' House style
#'
#' How figures look and what they may not fall short of: type, lines, colours,
#' symbols, numbers, letters, spacing, widths of columns, limits of the artwork. Made from
#' a built-in style or a file, with changes.
#'
#' @param from `"plain"`, `"compact"` (small panels, many of them), `"projected"` (for a screen), or
#'   the path of a house file; or a house.
#' @param times A number that all type, line weights and spaces are multiplied by, such as 3.5 for
#'   a printed conference sheet.
#' @param ... Changes by name, as lists where the style has them: `type_pt = list(base = 8)`.
#'   `unclass(house())` shows all names and values.
#' @return A list with class `nelvat_house`: `families` (of type; the first that is installed
#'   is used; or a list of those of each script, `list(Latin = "Arial", Han = "Noto Sans CJK JP")`),
#'   `key` (where keys stand: `"auto"`, or as in [plate()]), `type_pt`, `weight_pt` (points),
#'   `colour`, `palette`, `ramps`, `symbols`, `dashes`,
#'   `points`, `ticks`, `grid`, `axis_lines`, `numbers`, `letters`, `space_mm`, `least_panel_mm`,
#'   `page` (mm) and `limits`.
#' @details A house file is YAML with these names, `from:` naming the style it changes. A
#'   project's own is `nelvat.yaml` beside its figure files; `set_house()` sets one for the
#'   session, the `house` of [plate()] and of [panel()] for one plate or for what is drawn in
#'   one panel.
#' @section Errors: `nelvat_error_house` for a name that a style does not have, or a value of
#'   another sort.
#' @examples
#' house("compact", type_pt = list(base = 6.5))$type_pt$base
#' house(numbers = list(decimal_mark = ","))$numbers$decimal_mark
#' @export
house <- function(from = "plain", ..., times = 1) {
  call <- rlang::current_env()
  times_house(changed_house(house_from(from, call), list(...), character(), call), times, call)
}

times_house <- function(house, times, call) {
  check_number(times, "times", 0.2, 10, call = call)
  if (times == 1) house else changed_house(house, multiplied(house, times), character(), call)
}

# above: the files whose base it is, the first of them first.
house_from <- function(from, call, above = character()) {
  if (inherits(from, "nelvat_house")) return(from)
  changes <- house_changes()
  if (rlang::is_string(from) && from %in% names(changes)) {
    return(
      changed_house(
        structure(house_plain(), class = "nelvat_house"),
        c(list(name = from), changes[[from]]),
        character(),
        call
      )
    )
  }
  if (!rlang::is_string(from)) {
    abort_nelvat(
      "house",
      c(
        "`from` must be a style, the path of a house file, or a house.",
        x = paste0("Found ", describe_value(from), ".")
      ),
      call
    )
  }
  if (!grepl("[.](ya?ml|json)$", from)) {
    abort_nelvat(
      "house",
      c(
        paste0("`from` must be one of ", quoted(names(changes)), " or a file that ends in .yaml."),
        x = paste0("Found \"", from, "\"."),
        if (from %in% names(former_houses)) {
          c(i = former_houses[[from]])
        } else {
          offer(from, names(changes))
        }
      ),
      call
    )
  }
  check_house_chain(from, above, call)
  document <- read_document(from, "house", call)
  if (!is.list(document) || is.null(names(document))) {
    abort_nelvat(
      "house",
      c(paste0("\"", from, "\" must hold names of a house style."), x = "Found none."),
      call
    )
  }
  base <- document[["from"]] %||% "plain"
  with_place(paste0("\"", from, "\""), {
    if (!rlang::is_string(base)) {
      wrong_sort("from", "the name of a style, or the path of a house file", base, call)
    }
    if (grepl("[.](ya?ml|json)$", base)) base <- file.path(dirname(from), base)
    changed <- changed_house(
      house_from(base, call, c(above, from)),
      changed_names(document, from),
      character(),
      call
    )
    times_house(changed, document$times %||% 1, call)
  })
}

# A house that takes from itself would have no end.
check_house_chain <- function(from, above, call) {
  if (file_itself(from) %in% file_itself(above)) {
    abort_nelvat(
      "house",
      c(
        paste0("\"", from, "\" takes from itself."),
        x = paste0("By way of ", quoted(c(above, from)), ".")
      ),
      call
    )
  }
  if (length(above) > longest_house_chain) {
    abort_nelvat(
      "house",
      c(
        paste0("Houses take from each other more than ", longest_house_chain, " deep."),
        x = paste0("It begins at \"", above[1], "\".")
      ),
      call
    )
  }
}

longest_house_chain <- 10

changed_names <- function(document, path) {
  document[c("from", "times")] <- NULL
  if (is.null(document$name)) document$name <- sub("[.][^.]*$", "", basename(path))
  document
}

# Replaces values by name, all the way down; what is new must be of the sort of the old.
changed_house <- function(house, changes, at, call) {
  for (name in names(changes)) {
    key_path <- c(at, name)
    if (!length(at) && name == "families" && is.list(changes[[name]])) {
      house$families <- families_by_script(changes[[name]], house$families, call)
      next
    }
    if (!name %in% names(house)) {
      abort_nelvat(
        "house",
        c(
          paste0("A house style has no \"", paste(key_path, collapse = " > "), "\"."),
          offer(name, names(house), "name")
        ),
        call
      )
    }
    old <- house[[name]]
    new <- changes[[name]]
    house[[name]] <- if (is.list(old)) {
      if (!is.list(new)) wrong_sort(key_path, "a mapping", new, call)
      changed_house(old, new, key_path, call)
    } else {
      checked_value(old, new, key_path, call)
    }
  }
  house
}

# Styles that had other names, and what to say now.
former_houses <- list(
  slides = "It is called \"projected\" now.",
  wall = "Say `house(\"plain\", times = 3.5)` now, and the widths of its columns."
)

house_choices <- list(
  "key" = c("auto", "top", "bottom", "left", "right", "inside", "block", "direct", "none"),
  "ticks > side" = c("out", "in"),
  "grid" = c("none", "x", "y", "both"),
  "letters > case" = c("lower", "upper"),
  "letters > weight" = c("bold", "plain"),
  "letters > bracket" = c("none", "round", "right"),
  "numbers > decimal_mark" = c(".", ",")
)

checked_value <- function(old, new, key_path, call) {
  key <- paste(key_path, collapse = " > ")
  if (is.list(new)) new <- unlist(new)
  if (is.numeric(old)) {
    if (
      !is.numeric(new) || anyNA(new) || any(new <= 0 & key_path[1] != "space_mm") || (
        length(old) == 1 && length(new) != 1
      )
    ) {
      wrong_sort(
        key_path,
        if (length(old) == 1) "one number above 0" else "numbers above 0",
        new,
        call
      )
    }
    if (!is.null(names(old)) && is.null(names(new))) {
      wrong_sort(key_path, paste("numbers named such as", quoted(names(old))), new, call)
    }
    return(
      if (is.null(names(old))) as.numeric(new) else c(new, old[setdiff(names(old), names(new))])
    )
  }
  if (is.logical(old)) {
    return(if (rlang::is_bool(new)) new else wrong_sort(key_path, "true or false", new, call))
  }
  if (!is.character(new) || anyNA(new)) wrong_sort(key_path, "text", new, call)
  if (key %in% names(house_choices) && !(rlang::is_string(new) && new %in% house_choices[[key]])) {
    wrong_sort(key_path, paste("one of", quoted(house_choices[[key]])), new, call)
  }
  if (key_path[1] %in% c("colour", "palette", "ramps")) check_colours(new, key, call)
  if (key_path[1] == "ramps" && length(new) == 1) {
    wrong_sort(key_path, "two colours or more, or none for the built-in ramp", new, call)
  }
  if (key == "numbers > months" && (length(new) != 12 || !all(nzchar(new)))) {
    wrong_sort(key_path, "twelve names, January's first", new, call)
  }
  if (key == "dashes" && !all(is_dash(new))) {
    wrong_sort(key_path, "\"solid\" or lengths such as \"4 2\"", new[!is_dash(new)][1], call)
  }
  if (key == "symbols" && !all(new %in% symbol_names)) {
    wrong_sort(key_path, paste("among", quoted(symbol_names)), setdiff(new, symbol_names)[1], call)
  }
  new
}

wrong_sort <- function(key_path, expected, found, call) {
  abort_nelvat(
    "house",
    c(
      paste0(
        "\"",
        paste(key_path, collapse = " > "),
        "\" of a house style must be ",
        expected,
        "."
      ),
      x = paste0("Found ", if (length(found) > 1) quoted(found) else describe_value(found), ".")
    ),
    call
  )
}

check_colours <- function(colours, key, call) {
  right <- grepl("^#[0-9A-Fa-f]{6}$", colours) | colours %in% grDevices::colors()
  if (all(right)) return(invisible())
  abort_nelvat(
    "house",
    c(
      paste0("\"", key, "\" of a house style must be colours such as \"#20242B\"."),
      x = paste0("Found \"", colours[!right][1], "\".")
    ),
    call
  )
}

#' @rdname house
#' @param house A house, a built-in style's name or the path of a house file; `NULL` goes back to
#'   plain.
#' @export
set_house <- function(house = "plain", ...) {
  check_rest(...)
  before <- project_house()
  options(nelvat.house = if (is.null(house)) NULL else house_from(house, rlang::current_env()))
  invisible(before)
}

# The style of the session: what set_house() set, else plain.
project_house <- function() {
  getOption("nelvat.house") %||% structure(house_plain(), class = "nelvat_house")
}

# A house that an argument names, or the session's.
settled_house <- function(house, call) {
  if (is.null(house)) project_house() else house_from(house, call)
}

#' @export
print.nelvat_house <- function(x, ...) {
  cat(
    "House style \"",
    x$name,
    "\": ",
    unlist(x$families)[1],
    " ",
    x$type_pt$base,
    " pt, least ",
    x$type_pt$least,
    " pt; columns ",
    paste(paste0(names(x$page$width_mm), " ", x$page$width_mm), collapse = ", "),
    " mm; ",
    length(x$palette),
    " colours\n",
    sep = ""
  )
  invisible(x)
}

# Times as the house writes them, in text of ours with months in English.
house_times <- function(text, numbers) {
  if (identical(numbers$months, month.abb)) return(text)
  months_in <- gregexpr(paste0("\\b(", paste(month.abb, collapse = "|"), ")\\b"), text)
  regmatches(text, months_in) <- lapply(regmatches(text, months_in), function(found) {
    numbers$months[match(found, month.abb)]
  })
  text
}

# Numbers as the house writes them, in text that holds them.
house_numbers <- function(text, numbers) {
  if (!length(text)) return(text)
  if (!numbers$leading_zero) text <- gsub("(?<![0-9.])0(?=\\.[0-9])", "", text, perl = TRUE)
  if (numbers$decimal_mark != ".") {
    # Not of versions, which have several points.
    point <- "[0-9]+(?:[.][0-9]+){2,}(*SKIP)(*F)|(?<=[0-9])[.](?=[0-9])|(?<![0-9])[.](?=[0-9])"
    text <- gsub(point, numbers$decimal_mark, text, perl = TRUE)
  }
  if (!numbers$thin_space) text <- gsub("(?<=[0-9])\u2009(?=[0-9])", "", text, perl = TRUE)
  if (!numbers$true_minus) text <- gsub("\u2212", "-", text, fixed = TRUE)
  text
}
