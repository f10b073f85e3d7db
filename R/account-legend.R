#' A draft of the figure legend, and the text for screen readers
#'
#' Says, from what was computed, what each letter shows, the centre and error, how many
#' values each rests on, the fits, transforms, colours, and rows left out and why.
#'
#' @param plate A [plate()] or its scene.
#' @param format `"text"`, or `"markdown"` with letters in bold type.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A string; `alt_text()` gives one without markup, of what is seen.
#' @section Errors: `nelvat_error_argument` for what is no plate or no such format; the errors of
#'   [as_scene()].
#' @examples
#' fig <- plate(
#'   panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars()),
#'   width = 80,
#'   height = 60
#' )
#' legend_text(fig)
#' alt_text(fig)
#' @export
legend_text <- function(plate, format = "text", ...) {
  check_rest(...)
  local_number_options()
  check_choice(format, c("text", "markdown"), "format")
  scene <- described_scene(plate)
  parts <- vapply(
    read_blocks(scene),
    function(block) {
      letters <- block_letters(scene, block)
      lead <- if (length(letters)) {
        paste0(
          if (format == "markdown") {
            paste0("**", range_text(letters), "**")
          } else {
            range_text(letters)
          },
          ", "
        )
      }
      paste0(lead, legend_block(scene, block, lower = length(letters) > 0))
    },
    ""
  )
  title <- if (!is.null(scene$title)) paste0(sub("[.]$", "", scene$title), ".")
  paste(
    c(title, parts, legend_keys(scene), legend_kept(scene), legend_left_out(scene)),
    collapse = " "
  )
}

described_scene <- function(plate, call = rlang::caller_env()) {
  if (inherits(plate, "nelvat_scene")) return(plate)
  check_is_plate(plate, call)
  suppressWarnings(whole_scene(resolve_plate(plate), plate, call))
}

# Blocks in reading order, as their letters go; words of a plate say nothing of data, columns of
# text nothing that is not written.
read_blocks <- function(scene) {
  texts <- unique(scene$accounts$area[scene$accounts$called == "row"])
  said <- !scene$panels$role %in% c("marginal", "words") & !scene$panels$id %in% texts
  panels_said <- scene$panels[said, ]
  first <- panels_said[!duplicated(panels_said$block), ]
  letters <- vapply(first$block, function(block) length(block_letters(scene, block)), 0L)
  sequence <- vapply(
    first$block,
    function(block) {
      letter_rows <- which(
        scene$texts$role == "letter" &
          scene$texts$panel %in% panels_said$id[panels_said$block == block]
      )
      if (length(letter_rows)) {
        match(scene$texts$string[letter_rows[1]], scene$letters)
      } else {
        NA_integer_
      }
    },
    0L
  )
  first$block[order(sequence, first$y, first$x, na.last = TRUE)]
}

# The letters that stand at a block's areas, in order.
block_letters <- function(scene, block) {
  ids <- scene$panels$id[scene$panels$block == block]
  found <- scene$texts$string[scene$texts$role == "letter" & scene$texts$panel %in% ids]
  found[order(match(found, scene$letters))]
}

# a; a and b; a-d.
range_text <- function(letters) {
  if (length(letters) < 3) return(paste(letters, collapse = " and "))
  paste0(letters[1], "\u2013", letters[length(letters)])
}

legend_block <- function(scene, block, lower) {
  shows <- legend_shows(scene, block)
  said <- c(
    paste0(if (lower) shows else begun(shows), "."),
    legend_inks(scene, block),
    legend_fits(scene, block)
  )
  paste(said, collapse = " ")
}

# Keys --------------------------------------------------------------------------------

legend_keys <- function(scene) {
  entries <- scene$keys[!is.na(scene$keys$label), ]
  titles <- scene$texts$string[scene$texts$role == "key title"]
  ids <- unique(scene$keys$key)
  named <- function(id) name_in_sentence(gsub("\n", " ", titles[match(id, ids)]), id)
  of_entries <- if (NROW(entries)) {
    vapply(
      split(entries, factor(entries$key, unique(entries$key))),
      function(key) key_sentence(key, named(key$key[1]), key$key[1] %in% scene$ramps$key),
      ""
    )
  }
  c(of_entries, ramp_sentences(scene, setdiff(scene$ramps$key, entries$key)))
}

# "Colours and symbols show flour: wheat and rye."; of a quantity the ends of its key.
key_sentence <- function(key, name, of_quantity) {
  tells <- function(column) length(unique(key[[column]])) > 1
  what <- c(
    if (tells("colour")) "colours",
    if (tells("shape")) "symbols",
    if (tells("dash")) "dashes",
    if (tells("size_mm")) "sizes"
  )
  measured <- of_quantity || identical(what, "sizes")
  paste0(
    if (length(what)) paste(first_upper(listed(what)), "show ") else "The key shows ",
    name,
    if (measured) {
      paste0(", the key from ", key$label[1], " to ", key$label[nrow(key)])
    } else {
      paste0(": ", listed(key$label))
    },
    "."
  )
}

# What ramps stand for: "Colours show mass (g), from 2 to 40."
ramp_sentences <- function(scene, ids) {
  ramps <- scene$ramps[scene$ramps$key %in% ids, ]
  if (!NROW(ramps)) return(NULL)
  paste0(
    "Shades show ",
    name_in_sentence(gsub("\n", " ", ramps$title), ramps$key),
    ", from ",
    number_text_each(ramps$low, 4),
    " to ",
    number_text_each(ramps$high, 4),
    "."
  )
}

# Rows ----------------------------------------------------------------------------------

# Which rows were asked for, where not all are.
legend_kept <- function(scene) {
  kept <- scene$kept
  if (is.null(kept) || !nrow(kept)) return(NULL)
  # A condition of some panels only is said of these.
  several <- nrow(unique(kept[c("condition", "kept", "given")])) > 1 ||
    !all(read_blocks(scene) %in% kept$block)
  letters <- lapply(kept$block, function(block) if (several) block_letters(scene, block))
  where <- vapply(
    letters,
    function(own) if (length(own)) paste0(" in ", range_text(own)) else "",
    ""
  )
  unique(
    paste0(
      "Shown",
      where,
      " are rows with ",
      kept$condition,
      " (",
      count_text(kept$kept),
      " of ",
      count_text(kept$given),
      ")."
    )
  )
}

legend_left_out <- function(scene) {
  left <- scene$columns
  if (is.null(left) || !nrow(left)) return(NULL)
  left <- paste0(left$column, ", ", mapply(counted_phrase, left$n, left$what))
  paste0("Not drawn as in the data: ", paste(left, collapse = "; "), ".")
}
