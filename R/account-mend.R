# Mends of a plate that need no judgement: list(settings, done), the second in words. findings:
# those of proof.
mended_settings <- function(plate, findings) {
  settings <- plate$made$settings
  style <- plate$house
  done <- character()
  bad <- function(rule) is_found(findings, rule)
  columns <- style$page$width_mm
  nearest <- columns[which.min(abs(columns - plate$width_mm))]
  if (bad("page width") && abs(nearest / plate$width_mm - 1) < 0.15) {
    settings$width <- names(nearest)
    done <- c(
      done,
      paste0("width ", format(plate$width_mm), " mm made ", nearest, " mm (", names(nearest), ")")
    )
  }
  if (bad("page height")) {
    settings$height <- style$page$height_most_mm
    done <- c(
      done,
      paste0("height ", format(plate$height_mm), " mm made ", style$page$height_most_mm, " mm")
    )
  }
  if (bad("letters")) {
    settings$letters <- "block"
    done <- c(done, "letters by block")
  }
  least <- style$limits$line_pt
  if (bad("line weight") && any(unlist(style$weight_pt) < least)) {
    style$weight_pt <- lapply(style$weight_pt, max, least)
    settings$house <- style
    done <- c(done, paste0("line weights of the house raised to ", least, " pt"))
  }
  if (bad("same variable, same range") && !identical(settings$share, FALSE)) {
    of_ranges <- Filter(function(one) one$rule == "same variable, same range", findings)
    variables <- unique(unlist(lapply(of_ranges, `[[`, "variables")))
    settings$share <- share_axis_of(variables)
    done <- c(done, paste0("one range for ", quoted(variables)))
  }
  list(settings = settings, done = done)
}

is_found <- function(findings, rule) {
  any(vapply(findings, function(one) one$rule == rule && one$verdict != "good", NA))
}

#' @rdname proof
#' @return `mend()`: a plate with the mends applied that need no judgement (width of a near
#'   column, height within the page, letters, line weights, shared ranges, dashes of lines that only
#'   colour tells apart), and `done`, what it
#'   did, as an attribute and a message.
#' @export
mend <- function(plate, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_is_plate(plate, call)
  found <- proof_findings(described_scene(plate), plate)
  settled <- mended_settings(plate, found)
  dashed <- if (is_found(found, "groups by more than colour")) lines_by_colour(plate)
  blocks <- mapped_blocks(plate$made$blocks, dashed, function(block, i) {
    own_panel <- if (inherits(block, "nelvat_panel")) block else block$panel
    changed_block(block, list(dash = own_panel$made$channels$colour), NULL, call)
  })
  for (i in dashed) {
    settled$done <- c(
      settled$done,
      paste0(
        "lines",
        if (length(plate$blocks) > 1) paste(" of", block_called(plate, i)),
        " told apart by dashes, too: `dash` is what `colour` is"
      )
    )
  }
  mended <- new_plate(blocks, settled$settings, call)
  rlang::inform(
    if (length(settled$done)) {
      c("Mended:", stats::setNames(settled$done, rep("*", length(settled$done))))
    } else {
      "Nothing to mend without judgement."
    }
  )
  structure(mended, done = settled$done)
}

# Numbers of the blocks whose lines only colour tells apart, and that dashes can.
lines_by_colour <- function(plate) {
  which(
    vapply(
      plate$blocks,
      function(block) {
        if (
          !inherits(block, "nelvat_facets") || is.null(block$panel$made) || !is.null(block$zoom)
        ) {
          return(FALSE)
        }
        colour <- block$panel$variables$colour
        if (is.null(colour) || !is_category(colour) || !is.null(block$panel$variables$dash)) {
          return(FALSE)
        }
        dashed <- any(vapply(block$panel$inks, function(ink) "dash" %in% ink_traits(ink)$shows, NA))
        dashed && length(colour$kind$levels) <= length(plate$house$dashes)
      },
      NA
    )
  )
}
