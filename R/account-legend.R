#' A draft of the figure legend, and the text for screen readers
#'
#' Says, from what was computed, what each letter shows, the centre and error, how many
#' values each rests on, the fits, transforms, colours, and rows left out and why.
#'
#' @param plate A [plate()] or its scene.
#' @param format `"text"`, or `"markdown"` with letters in bold type.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A string; `alt_text()` gives one without markup, of what is seen.
#' @section Errors: `nelvat_error_argument` for what is no plate or no such format; the errors of [as_scene()].
#' @examples
#' fig <- plate(panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars()), width = 80, height = 60)
#' legend_text(fig)
#' alt_text(fig)
#' @export
legend_text <- function(plate, format = "text", ...) {
  check_rest(...)
  local_number_options()
  check_choice(format, c("text", "markdown"), "format")
  scene <- described_scene(plate)
  blocks <- unique(scene$panels$block)
  parts <- vapply(blocks, function(block) {
    letters <- block_letters(scene, block)
    lead <- if (length(letters)) paste0(
      if (format == "markdown") paste0("**", range_text(letters), "**") else range_text(letters), ", "
    )
    paste0(lead, legend_block(scene, block, lower = length(letters) > 0))
  }, "")
  left <- legend_left_out(scene)
  paste(
    c(if (!is.null(scene$title)) paste0(sub("[.]$", "", scene$title), "."), parts, legend_keys(scene), left),
    collapse = " "
  )
}

described_scene <- function(plate, call = rlang::caller_env()) {
  if (inherits(plate, "nelvat_scene")) return(plate)
  check_is_plate(plate, call)
  suppressWarnings(whole_scene(resolve_plate(plate), plate, call))
}

block_letters <- function(scene, block) {
  ids <- scene$panels$id[scene$panels$block == block]
  scene$texts$string[scene$texts$role == "letter" & scene$texts$panel %in% ids]
}

# a; a and b; a-d.
range_text <- function(letters) {
  if (length(letters) < 3) return(paste(letters, collapse = " and "))
  paste0(letters[1], "\u2013", letters[length(letters)])
}

first_upper <- function(text) paste0(toupper(substr(text, 1, 1)), substring(text, 2))

legend_block <- function(scene, block, lower) {
  shows <- legend_shows(scene, block)
  paste(
    c(paste0(if (lower) shows else first_upper(shows), "."), legend_inks(scene, block), legend_fits(scene, block)),
    collapse = " "
  )
}

# "loaf rise (mm) against flour, for 60%, 80% and 100%"
legend_shows <- function(scene, block) {
  panels <- scene$panels[scene$panels$block == block & scene$panels$role == "panel", ]
  titles <- function(direction) {
    index <- panels[[paste0(direction, "_axis")]]
    unique(Filter(nzchar, vapply(unique(index), function(i) axis_phrase(scene$axes[[i]]), "")))
  }
  y <- titles("y")
  x <- titles("x")
  matrix <- length(x) > 1 && length(y) > 1
  what <- if (matrix) paste0("each pair of ", listed(union(x, y)))
  else if (length(y) && length(x)) paste(
    listed(y), "against", listed(x)
  ) else if (length(c(x, y))) listed(c(y, x)) else picture_phrase(scene, panels)
  headings <- unique(panels$heading[!is.na(panels$heading)])
  headings <- headings[!lower_firsts(headings) %in% c(x, y)]
  paste0(what, if (length(headings) && !matrix) paste0(", for ", listed(headings)))
}

axis_phrase <- function(axis) {
  title <- if (nzchar(axis$title)) axis$title else ""
  if (!nzchar(title)) return("")
  scale <- if (!base_transform(axis$transform) %in% c("identity", "reverse")) paste0(
    " on a ",
    c(
      log10 = "logarithmic", log2 = "logarithmic", ln = "logarithmic"
    )[base_transform(axis$transform)] %||% axis$transform,
    " axis"
  )
  paste0(lower_first(title), sub("NA", axis$transform, scale %||% ""))
}

lower_firsts <- function(texts) vapply(texts, lower_first, "", USE.NAMES = FALSE)

# Names begin small in a sentence, abbreviations do not.
lower_first <- function(text) {
  if (grepl("^[A-Z][a-z]", text)) paste0(tolower(substr(text, 1, 1)), substring(text, 2)) else text
}

picture_phrase <- function(scene, panels) {
  inks <- unique(vapply(Filter(function(layer) any(layer$table$panel %in% panels$id), scene$marks), `[[`, "", "ink"))
  if ("image" %in% inks) "an image" else if (length(inks)) paste0("drawn as ", listed(inks)) else "a picture or text"
}

# Each ink once, with the n behind it, by group where colour parts them.
legend_inks <- function(scene, block) {
  facts <- scene$facts[scene$facts$block == block, ]
  if (is.null(facts) || !nrow(facts)) return(NULL)
  shows <- unique(facts[c("ink", "shows")])
  n <- range(facts$n)
  n_words <- if (n[1] == n[2]) paste0("n = ", n[1]) else paste0("n = ", n[1], " to ", n[2])
  several <- length(unique(facts$panel)) > 1
  ink <- paste(
    vapply(
      seq_len(nrow(shows)), function(i) paste0(first_upper(gsub("_", " ", shows$ink[i])), ": ", shows$shows[i]), ""
    ),
    collapse = ". "
  )
  paste0(ink, "; ", n_words, if (several) " a panel", legend_groups(scene, block), ".")
}

legend_groups <- function(scene, block) {
  ids <- scene$panels$id[scene$panels$block == block]
  groups <- scene$groups[scene$groups$panel %in% ids, ]
  if (is.null(groups) || !nrow(groups)) return("")
  groups <- groups[groups$n > 0, ]
  each <- split(groups$n, factor(groups$level, unique(groups$level)))
  paste0(" (", paste(vapply(names(each), function(level) {
    n <- range(each[[level]])
    paste0(level, " ", if (n[1] == n[2]) n[1] else paste0(n[1], "\u2013", n[2]))
  }, ""), collapse = ", "), ")")
}

legend_fits <- function(scene, block) {
  ids <- scene$panels$id[scene$panels$block == block]
  fitted <- scene$fits[scene$fits$panel %in% ids, ]
  if (is.null(fitted) || !nrow(fitted)) return(NULL)
  one <- fitted[!duplicated(fitted[c("panel", "layer", "colour", "shape")]), ]
  if (nrow(one) > 8) {
    return(
      paste0(
        counted(nrow(one), "fit"), "; R\u00b2 ",
        paste(formatC(range(one$r2, na.rm = TRUE), digits = 2, format = "f"), collapse = " to "), "."
      )
    )
  }
  who <- ifelse(is.na(one$colour), ifelse(is.na(one$heading), "", paste0(one$heading, ": ")), paste0(one$colour, ": "))
  p <- ifelse(
    is.na(one$p), "",
    ifelse(
      one$p < 0.001, ", p < 0.001",
      paste0(
        ", p = ",
        ifelse(one$p < 0.1, formatC(one$p, digits = 3, format = "f"), formatC(one$p, digits = 2, format = "f"))
      )
    )
  )
  paste0(
    "Fits: ",
    paste0(
      who, ifelse(is.na(one$r2), "", paste0("R\u00b2 = ", formatC(one$r2, digits = 2, format = "f"))), p,
      collapse = "; "
    ),
    "."
  )
}

legend_keys <- function(scene) {
  entries <- scene$keys[!is.na(scene$keys$label), ]
  if (is.null(entries) || !nrow(entries)) return(NULL)
  titles <- scene$texts$string[scene$texts$role == "key title"]
  ids <- unique(scene$keys$key)
  vapply(split(entries, factor(entries$key, unique(entries$key))), function(key) {
    what <- c(
      if (length(unique(key$colour)) > 1) "Colours", if (length(unique(key$shape)) > 1) "symbols",
      if (length(unique(key$dash)) > 1) "dashes"
    )
    if (!length(what)) what <- "Sizes"
    paste0(
      paste(what, collapse = " and "), " show ", lower_first(gsub("\n", " ", titles[match(key$key[1], ids)])), ": ",
      listed(key$label), "."
    )
  }, "")
}

legend_left_out <- function(scene) {
  left <- scene$columns
  if (is.null(left) || !nrow(left)) return(NULL)
  paste0(
    "Not drawn as in the data: ",
    paste0(left$column, ", ", format(left$n, big.mark = ",", trim = TRUE), " ", left$what, collapse = "; "), "."
  )
}
