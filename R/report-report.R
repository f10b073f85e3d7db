#' A report of a figure: one HTML page
#'
#' The figure at its printed size and enlarged, its proof, legend text, fits, facts, source
#' data and codebook, and how to make it again, in one file that needs nothing else.
#'
#' @param plate A [plate()].
#' @param path Path of an HTML file.
#' @param figure Path of the figure file it was made from, or `NULL`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The path, invisibly.
#' @section Errors: `nelvat_error_file` for a folder that is not there.
#' @examples
#' fig <- plate(
#'   panel(study("loaves"), x = flour, y = rise, ink_bars()),
#'   width = "single",
#'   height = 60
#' )
#' report(fig, tempfile(fileext = ".html"))
#' @export
report <- function(plate, path, figure = NULL, ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_is_plate(plate, call)
  check_string(path, "path")
  if (!grepl("[.]html?$", path)) {
    abort_nelvat(
      "file",
      c(paste0("\"", path, "\" must end in .html."), x = paste0("Found \"", basename(path), "\".")),
      call
    )
  }
  check_folder(path, call)
  page <- report_page(plate, figure)
  write_whole(path, text_bytes(page), call)
}

report_page <- function(plate, figure) {
  resolved <- resolve_plate(plate)
  scene <- suppressWarnings(whole_scene(resolved, plate))
  findings <- as_proof(proof_findings(scene, plate))
  title <- scene$title %||% if (is.null(figure)) {
    "Figure"
  } else {
    tools::file_path_sans_ext(basename(figure))
  }
  sections <- list(
    list("figure", "The figure", report_figure(scene)),
    list("proof", "Proof", report_proof(findings)),
    list(
      "legend",
      "Legend text",
      c(
        paste0("<p>", legend_text(scene, "html"), "</p>"),
        "<details><summary>As a checklist</summary>",
        legend_text(scene, "html", "checklist"),
        "</details>",
        "<h3>Alternative text</h3>",
        paste0("<p>", html(alt_text(scene)), "</p>"),
        "<details><summary>In full</summary>",
        paste0("<p>", html(alt_text(scene, "full")), "</p>"),
        "</details>"
      )
    ),
    list(
      "fits",
      "Fits",
      if (!is.null(scene$fits)) {
        html_table(told_fits(scene$fits), "Coefficients of the fitted lines")
      }
    ),
    list(
      "facts",
      "Facts",
      html_table(
        scene$facts[setdiff(names(scene$facts), c("block", "layer"))],
        "Rows behind each ink, by panel"
      )
    ),
    list("source", "Source data", report_source(source_tables(resolved, scene, plate))),
    list("codebook", "Codebook", report_codebook(plate)),
    list("again", "How to make it again", report_again(plate, scene, figure))
  )
  sections <- Filter(function(section) length(section[[3]]) > 0, sections)
  c(
    "<!DOCTYPE html>",
    "<html lang=\"en\">",
    "<head>",
    "<meta charset=\"utf-8\">",
    "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">",
    paste0("<title>", html(title), "</title>"),
    "<style>",
    report_style(),
    "</style>",
    "</head>",
    "<body>",
    "<a class=\"skip\" href=\"#figure\">To the figure</a>",
    "<header>",
    paste0("<h1>", html(title), "</h1>"),
    paste0(
      "<p>",
      format(scene$page$width_mm),
      " by ",
      format(scene$page$height_mm),
      " mm; house style ",
      html(plate$house$name),
      "; ",
      proof_counts(findings),
      "</p>"
    ),
    "<nav aria-label=\"Sections\"><ul>",
    vapply(
      sections,
      function(section) paste0("<li><a href=\"#", section[[1]], "\">", section[[2]], "</a></li>"),
      ""
    ),
    "</ul></nav>",
    "</header>",
    "<main>",
    unlist(
      lapply(sections, function(section) {
        c(
          paste0("<section id=\"", section[[1]], "\" aria-labelledby=\"h-", section[[1]], "\">"),
          paste0("<h2 id=\"h-", section[[1]], "\">", section[[2]], "</h2>"),
          section[[3]],
          "</section>"
        )
      })
    ),
    "</main>",
    "</body>",
    "</html>"
  )
}

# Coefficients with p as it is read.
told_fits <- function(found) {
  changed(found, p = ifelse(is.na(found$p), NA, sub("^p (= )?", "", p_words(found$p))))
}

proof_counts <- function(findings) {
  n <- table(factor(findings$verdict, c("good", "look", "bad")))
  paste0("proof: ", n[["good"]], " good, ", n[["look"]], " to look at, ", n[["bad"]], " bad")
}

# The figure twice: at its printed size, and as wide as the page.
report_figure <- function(scene) {
  image <- paste0("data:image/png;base64,", base64(png_bytes(scene, 300)))
  alt <- html(alt_text(scene))
  c(
    "<figure class=\"true\">",
    paste0(
      "<img src=\"",
      image,
      "\" alt=\"",
      alt,
      "\" style=\"width:",
      format(scene$page$width_mm),
      "mm\">"
    ),
    "<figcaption>At printed size.</figcaption>",
    "</figure>",
    "<details><summary>Enlarged</summary>",
    "<figure>",
    paste0("<img src=\"", image, "\" alt=\"\" style=\"width:100%\">"),
    "</figure>",
    "</details>"
  )
}

base64 <- function(bytes) jsonlite::base64_enc(bytes)

report_proof <- function(findings) {
  table <- as.data.frame(findings)
  marks <- c(good = "\u2713 good", look = "\u25cb look", bad = "\u2717 bad")
  rows <- vapply(
    seq_len(nrow(table)),
    function(i) {
      row <- table[i, ]
      paste0(
        "<tr class=\"",
        row$verdict,
        "\"><td>",
        marks[[row$verdict]],
        "</td><th scope=\"row\">",
        html(row$rule),
        "</th><td>",
        html(row$measured),
        "</td><td>",
        html(row$limit),
        "</td><td>",
        if (row$verdict == "good") "" else paste0(html(row$where), "<br>", html(row$mend)),
        "</td></tr>"
      )
    },
    ""
  )
  c(
    paste0(
      "<div class=\"wide\" tabindex=\"0\" role=\"region\" aria-label=\"Proof\"><table ",
      "class=\"proof\"><thead><tr>"
    ),
    paste0(
      "<th scope=\"col\">",
      c("Verdict", "Rule", "Measured", "Limit", "Where and how to mend"),
      "</th>"
    ),
    "</tr></thead><tbody>",
    rows,
    "</tbody></table></div>"
  )
}

shown_source_rows <- 6

report_source <- function(tables) {
  unlist(
    lapply(names(tables), function(name) {
      table <- tables[[name]]
      link <- paste0("data:text/csv;base64,", base64(csv_bytes(table)))
      c(
        "<details>",
        paste0("<summary>", html(name), ": ", counted(nrow(table), "row"), "</summary>"),
        paste0(
          "<p><a download=\"",
          file_words(name),
          ".csv\" href=\"",
          link,
          "\">Download as CSV</a></p>"
        ),
        html_table(utils::head(table, shown_source_rows), paste("The first rows of", name)),
        "</details>"
      )
    })
  )
}

report_codebook <- function(plate) {
  tables <- codebook_tables(plate)
  unlist(
    lapply(
      names(tables),
      function(label) {
        c(
          paste0("<h3>", html(label), "</h3>"),
          html_table(tables[[label]], paste("Columns of", label))
        )
      }
    )
  )
}

report_again <- function(plate, scene, figure) {
  about <- about_scene(scene)
  c(
    if (!is.null(figure)) {
      c(
        "<p>Draw the figure file again with</p>",
        paste0("<pre><code>nelvat draw ", html(basename(figure)), "</code></pre>"),
        "<details><summary>The figure file</summary>",
        paste0("<pre><code>", html(read_utf8(figure, "figure", NULL)), "</code></pre>"),
        "</details>"
      )
    },
    paste0(
      "<p>Made with nelvat ",
      as.character(utils::packageVersion("nelvat")),
      " and R ",
      getRversion(),
      "; font ",
      html(scene$font$family),
      "; hash of what is drawn: <code>",
      about$hash,
      "</code>.</p>"
    )
  )
}

html <- function(text) gsub("\"", "&quot;", xml_text(text), fixed = TRUE)

html_table <- function(table, caption) {
  if (is.null(table) || !nrow(table)) return(NULL)
  shown <- vapply(table, function(column) is.numeric(column), NA)
  cell <- function(column) {
    text <- if (is.numeric(column)) vapply(column, table_number, "") else as.character(column)
    html(ifelse(is.na(column), "", text))
  }
  cells <- vapply(table, cell, character(nrow(table)))
  if (nrow(table) == 1) cells <- matrix(cells, 1)
  class <- ifelse(shown, " class=\"number\"", "")
  rows <- apply(
    cells,
    1,
    function(row) paste0("<tr>", paste0("<td", class, ">", row, "</td>", collapse = ""), "</tr>")
  )
  c(
    "<div class=\"wide\" tabindex=\"0\" role=\"region\" aria-label=\"",
    html(caption),
    "\"><table>",
    paste0("<caption>", html(caption), "</caption>"),
    paste0(
      "<thead><tr>",
      paste0("<th scope=\"col\"", class, ">", html(names(table)), "</th>", collapse = ""),
      "</tr></thead><tbody>"
    ),
    rows,
    "</tbody></table></div>"
  )
}

# Four figures; powers of ten where the number is too small or too large to be read.
table_number <- function(value) {
  readable <- is.na(value) || value == 0 || abs(value) >= 1e-4 && abs(value) < 1e9
  format(signif(value, 4), scientific = !readable, trim = TRUE)
}

report_style <- function() {
  byte_lines(file_bytes(system.file("report", "style.css", package = "nelvat", mustWork = TRUE)))
}
