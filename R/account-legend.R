#' A draft of the figure legend, and the text for screen readers
#'
#' Says, from what was computed, what each letter shows, the centre and error, how many
#' values each rests on, the tests and fits, and rows left out and why. What panels share is said
#' once, at the end; what keys show is not said again.
#'
#' @param plate A [plate()] or its scene.
#' @param format `"text"`, `"markdown"` or `"html"`, with letters in bold and statistics in italic
#'   type.
#' @param length `"full"`; `"short"`, without fits and what was left out; or `"checklist"`, a line
#'   for each letter and statistic as reporting checklists ask: every n, centre, error, test, side,
#'   adjustment and exact p, and the software with its versions.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A string; lines of a checklist are parted by line ends. `alt_text()` gives one without
#'   markup, of what is seen.
#' @section Errors: `nelvat_error_argument` for what is no plate, no such format or length; the
#'   errors of [as_scene()].
#' @examples
#' fig <- plate(
#'   panel(study("loaves"), x = flour, y = rise, colour = hydration, ink_bars()),
#'   width = 80,
#'   height = 60
#' )
#' legend_text(fig)
#' legend_text(fig, length = "checklist")
#' alt_text(fig)
#' @export
legend_text <- function(plate, format = "text", length = "full", ...) {
  check_rest(...)
  local_number_options()
  check_choice(format, c("text", "markdown", "html"), "format")
  check_choice(length, c("full", "short", "checklist"), "length")
  scene <- described_scene(plate)
  if (length == "checklist") {
    return(styled_lines(house_words(checklist_lines(scene), scene), format))
  }
  said <- paste(legend_sentences(scene, length == "full"), collapse = " ")
  styled(house_words(said, scene), format)
}

# The sentences of a legend: its title; what each letter shows; what several have in common; what
# was kept and left out.
legend_sentences <- function(scene, full) {
  blocks <- lapply(read_blocks(scene), function(block) block_statements(scene, block))
  said <- lapply(blocks, function(block) if (full) c(block$marks, block$rest) else block$marks)
  times <- table(unlist(lapply(said, unique)))
  shared <- if (length(blocks) > 1) names(times)[times > 1] else character()
  parts <- Map(
    function(block, statements) {
      lead <- if (length(block$letters)) paste0(bold_mark(letters_said(block$letters, scene)), ", ")
      subject <- if (length(block$letters)) block$subject else begun(block$subject)
      paste(
        c(
          paste0(lead, subject, if (!is.null(block$n)) in_brackets(block$n), "."),
          if (block$empty) "Nothing is drawn in it.",
          mark_sentence(setdiff(statements, shared))
        ),
        collapse = " "
      )
    },
    blocks,
    said
  )
  title <- if (!is.null(scene$title)) paste0(sub("[.]$", "", scene$title), ".")
  c(
    title,
    unlist(parts),
    shared_sentences(scene, blocks, said, shared),
    if (full) c(legend_kept(scene), legend_left_out(scene))
  )
}

# Marks of a panel in one sentence, what ends itself in its own.
mark_sentence <- function(statements) {
  whole <- grepl("[.]$", statements)
  marks <- statements[!whole]
  c(if (length(marks)) paste0(begun(paste(marks, collapse = "; ")), "."), statements[whole])
}

# After its letters a sentence goes on small, where its first word is a plain one.
unbegun <- function(sentence) {
  ifelse(grepl("^[A-Z][a-z]+[ ,:;]", sentence), lower_first(sentence), sentence)
}

# What several letters share, those of the same ones together: what all share last.
shared_sentences <- function(scene, blocks, said, shared) {
  if (!length(shared)) return(NULL)
  holders <- lapply(shared, function(one) which(vapply(said, function(of) one %in% of, NA)))
  key <- vapply(holders, paste, "", collapse = " ")
  sentences <- lapply(split(seq_along(shared), factor(key, unique(key))), function(of) {
    who <- holders[[of[1]]]
    letters <- unlist(lapply(blocks[who], `[[`, "letters"))
    sentence <- paste(mark_sentence(shared[of]), collapse = " ")
    all_of_them <- length(who) == length(blocks)
    list(
      order = if (all_of_them) Inf else who[1],
      text = if (all_of_them || !length(letters)) {
        sentence
      } else {
        paste0(bold_mark(letters_said(letters, scene)), ", ", unbegun(sentence))
      }
    )
  })
  unlist(
    lapply(sentences[order(vapply(sentences, `[[`, 0, "order"))], `[[`, "text"),
    use.names = FALSE
  )
}

# Type ----------------------------------------------------------------------------------

# Bold is marked so until the form of the text is known: by characters that no text has.
bold_mark <- function(text) paste0("\ue000", text, "\ue001")

# n, P and what statistics are called are set in italic type.
statistic_pattern <- paste0(
  "(?<![[:alnum:]*])(n|p|P|R\u00b2|F|H|r|t(?= tests?\\b))",
  "(?=(\\([^)]*\\))? ?[=<>\u2264]| tests?\\b| adjusted\\b)"
)

styled <- function(text, format) {
  if (format == "text") return(gsub("[\ue000\ue001]", "", text))
  if (format == "html") {
    text <- gsub(
      ">",
      "&gt;",
      gsub("<", "&lt;", gsub("&", "&amp;", text, fixed = TRUE), fixed = TRUE),
      fixed = TRUE
    )
    pattern <- sub("[=<>", "[=&", statistic_pattern, fixed = TRUE)
  } else {
    # What Markdown would take for its own stands for itself.
    text <- gsub("([\\\\*_`^~])", "\\\\\\1", text)
    pattern <- statistic_pattern
  }
  kind <- if (format == "html") list("<b>", "</b>", "<i>\\1</i>") else list("**", "**", "*\\1*")
  text <- gsub(pattern, kind[[3]], text, perl = TRUE)
  gsub("\ue001", kind[[2]], gsub("\ue000", kind[[1]], text, fixed = TRUE), fixed = TRUE)
}

styled_lines <- function(lines, format) {
  lines <- vapply(lines, styled, "", format, USE.NAMES = FALSE)
  switch(
    format,
    text = paste(lines, collapse = "\n"),
    markdown = paste0("- ", lines, collapse = "\n"),
    html = paste0("<ul>\n", paste0("<li>", lines, "</li>", collapse = "\n"), "\n</ul>")
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

# "a and b", "a\u2013c", "a, c\u2013f and h": three or more that follow each other as their range.
letters_said <- function(letters, scene) {
  runs <- split(letters, cumsum(c(1, diff(match(letters, scene$letters)) != 1)))
  listed(
    unlist(
      lapply(runs, function(run) {
        if (length(run) < 3) run else paste0(run[1], "\u2013", run[length(run)])
      }),
      use.names = FALSE
    )
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
  said <- paste0(
    " are ",
    vapply(kept$block, function(block) c(rows_noun(scene, block)["many"], "rows")[1], ""),
    " where ",
    kept$condition,
    " (",
    count_text(kept$kept),
    " of ",
    count_text(kept$given),
    ")."
  )
  # What is said of several letters is said once.
  vapply(
    unique(said),
    function(one) {
      of <- unlist(letters[said == one])
      paste0("Shown", if (length(of)) paste0(" in ", letters_said(of, scene)), one)
    },
    "",
    USE.NAMES = FALSE
  )
}

# "3 missing values of bakery are left out (b)."
legend_left_out <- function(scene) {
  left <- scene$told
  if (is.null(left) || !nrow(left)) return(NULL)
  left$column <- left$name %||% left$column
  same <- unique(left[c("column", "what", "n")])
  where <- vapply(
    seq_len(nrow(same)),
    function(i) {
      alike <- left$column == same$column[i] & left$what == same$what[i] & left$n == same$n[i]
      of <- setdiff(unique(left$of[alike]), "")
      letters <- unlist(lapply(of, function(block) block_letters(scene, block)))
      if (length(letters)) in_brackets(letters_said(letters, scene)) else ""
    },
    ""
  )
  # What is said of several columns is said once.
  key <- paste(same$what, where)
  said <- vapply(
    split(seq_len(nrow(same)), factor(key, unique(key))),
    function(rows) {
      paste0(note_said(same$what[rows[1]], same$n[rows], same$column[rows]), where[rows[1]])
    },
    ""
  )
  paste0(begun(paste(said, collapse = "; ")), ".")
}
