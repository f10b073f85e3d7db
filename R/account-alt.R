#' @rdname legend_text
#' @export
alt_text <- function(plate, length = "short", ...) {
  check_rest(...)
  local_number_options()
  check_choice(length, c("short", "full"), "length")
  describe_scene(described_scene(plate), length == "full")
}

most_alt <- 250 # characters that a screen reader is given to read at once

# What is seen of each letter, in as few words as a sighted reader takes away; `full`: all of it
# with its numbers.
describe_scene <- function(scene, full = FALSE) house_words(description(scene, full), scene)

description <- function(scene, full) {
  said <- vapply(
    read_blocks(scene),
    function(block) {
      letters <- block_letters(scene, block)
      shows <- sub("[.]$", "", legend_shows(scene, block))
      seen <- scene$seen[scene$seen$block == block, ]
      text <- if (!NROW(seen)) {
        shows
      } else if (full) {
        paste0(shows, ". ", begun(seen$full))
      } else {
        seen$short
      }
      paste0(
        if (length(letters)) paste0(letters_said(letters, scene), ", "),
        if (length(letters)) text else begun(text),
        "."
      )
    },
    ""
  )
  lead <- paste0(sub("[.]?$", ". ", scene$title %||% ""), counted_panels(scene), ". ")
  lead <- sub("^[.] ", "", lead)
  if (full) return(paste0(lead, paste(said, collapse = " ")))
  within_characters(lead, said, most_alt)
}

# "12 panels": margins are parts of theirs, words show nothing.
counted_panels <- function(scene) {
  counted(sum(!scene$panels$role %in% c("marginal", "words")), "panel")
}

# As many whole sentences as have room, the first shortened where not even that has.
within_characters <- function(lead, sentences, most) {
  room <- most - nchar(lead)
  total <- cumsum(nchar(sentences) + 1) - 1
  kept <- sum(total <= room)
  if (kept == length(sentences)) return(paste0(lead, paste(sentences, collapse = " ")))
  if (kept > 0) return(paste0(lead, paste(sentences[seq_len(kept)], collapse = " ")))
  pieces <- strsplit(sentences[1], " ", fixed = TRUE)[[1]]
  fitting <- sum(cumsum(nchar(pieces) + 1) <= room - 2)
  paste0(lead, paste(utils::head(pieces, max(1, fitting)), collapse = " "), " \u2026")
}
