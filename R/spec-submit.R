#' A submission: all that a journal asks for, in one folder
#'
#' Of a folder of figure files: each figure in the formats of its house, numbered in the order of
#' the files, the legends as one document (Markdown, HTML, and Word where the program pandoc is),
#' the source data as one workbook with a sheet that explains, the paragraph on statistics, the
#' filled checklist of the house's limits, and a table of checksums. Of a file with `outputs`, which
#' are versions of a figure, the first is taken. Nothing is written where proof finds anything bad.
#'
#' @param project A folder of figure files, or their paths.
#' @param to The folder that it is written to; it must be empty or not there yet.
#' @param formats Endings to write, such as `c("pdf", "tiff")`; `NULL`: PDF, and the first image
#'   format that the house allows.
#' @param names How figures are called, `{n}` being the number: `"Figure{n}"`.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return The paths written, invisibly.
#' @section Errors: `nelvat_error_proof` where a figure has something bad, with all of it;
#'   `nelvat_error_file` for a folder that is not there, or one to write to that holds something;
#'   the errors of [read_figure()] and [save_plate()].
#' @examples
#' folder <- file.path(tempdir(), "submission")
#' project <- file.path(tempdir(), "project")
#' dir.create(project)
#' file.copy(study_file("loaves.csv"), project)
#' writeLines(c(
#'   "nelvat: 1", "data: {loaves: {file: loaves.csv}}",
#'   "blocks: {a: {panel: {data: loaves, x: flour, y: rise, ink: box}}}",
#'   "plate: {width: single, place: a}", "save: [figure.pdf]"
#' ), file.path(project, "figure-1.yaml"))
#' submit_figures(project, folder, formats = "pdf")
#' list.files(folder)
#' @export
submit_figures <- function(project, to, formats = NULL, names = "Figure{n}", ...) {
  check_rest(...)
  local_number_options()
  call <- rlang::current_env()
  check_string(to, "to", call = call)
  check_string(names, "names", call = call)
  check_formats(formats, call)
  if (!grepl("{n}", names, fixed = TRUE)) {
    abort_nelvat(
      "argument",
      c("`names` must hold `{n}`, the number of the figure.", x = paste0("Found \"", names, "\".")),
      call
    )
  }
  if (file.exists(to) && length(list.files(to, all.files = TRUE, no.. = TRUE))) {
    abort_nelvat(
      "file",
      c(
        paste0("The folder \"", to, "\" is not empty."),
        i = "A submission is written to a folder of its own, so that nothing old stays in it."
      ),
      call
    )
  }
  files <- unlist(
    lapply(project, function(path) if (dir.exists(path)) figure_files(path, call) else path)
  )
  drawings <- unlist(
    lapply(files, function(file) {
      lapply(
        first_drawings(read_figure(file)),
        function(one) list(plate = one$plate, file = basename(file))
      )
    }),
    recursive = FALSE
  )
  figures <- Map(
    function(drawing, n) submitted_figure(drawing, gsub("{n}", n, names, fixed = TRUE)),
    drawings,
    seq_along(drawings)
  )
  check_all_proved(figures, call)
  # The folder is made for the writers to find it, and is gone again where they fail.
  made <- !dir.exists(to) && dir.create(to, recursive = TRUE, showWarnings = FALSE)
  written <- FALSE
  on.exit(if (made && !written) unlink(to, recursive = TRUE))
  contents <- submission_contents(figures, formats, to, call)
  write_together(base::names(contents), contents, call)
  written <- TRUE
  invisible(base::names(contents))
}

check_formats <- function(formats, call) {
  known <- c("pdf", "svg", "eps", "tiff", "png")
  odd <- setdiff(formats, known)
  if (is.null(formats) || is.character(formats) && length(formats) && !length(odd)) {
    return(invisible())
  }
  abort_nelvat(
    "argument",
    c(
      paste0("`formats` must be among ", quoted(known), "."),
      x = paste0("Found ", describe_value(formats), ".")
    ),
    call
  )
}

submitted_figure <- function(drawing, name) {
  scene <- suppressWarnings(whole_scene(resolve_plate(drawing$plate), drawing$plate))
  list(
    name = name,
    file = drawing$file,
    plate = drawing$plate,
    scene = scene,
    findings = as_proof(proof_findings(scene, drawing$plate))
  )
}

check_all_proved <- function(figures, call) {
  bad <- unlist(
    lapply(figures, function(figure) {
      of <- figure$findings[figure$findings$verdict == "bad", ]
      if (nrow(of)) {
        paste0(
          figure$name,
          " (",
          figure$file,
          "): ",
          of$rule,
          ", ",
          of$measured,
          "; ",
          of$limit,
          ". ",
          of$mend
        )
      }
    })
  )
  if (!length(bad)) return(invisible())
  abort_nelvat(
    "proof",
    c(
      "The figures are not ready: proof finds what the house does not allow. Nothing was written.",
      stats::setNames(bad, rep("x", length(bad)))
    ),
    call
  )
}

# Bytes by path.
submission_contents <- function(figures, formats, to, call) {
  pictures <- unlist(
    lapply(figures, function(figure) {
      endings <- formats %||% house_formats(figure$plate$house)
      paths <- file.path(to, paste0(figure$name, ".", endings))
      suppressWarnings(plate_files(figure$plate, paths, call = call))
    }),
    recursive = FALSE
  )
  text <- function(lines) charToRaw(enc2utf8(paste0(paste(lines, collapse = "\n"), "\n")))
  named <- function(file, bytes) stats::setNames(list(bytes), file.path(to, file))
  scenes <- lapply(figures, `[[`, "scene")
  others <- c(
    named("legends.md", text(legend_document(figures, "markdown"))),
    named("legends.html", text(legend_document(figures, "html"))),
    named("methods.md", text(styled(paste(methods_sentences(scenes), collapse = " "), "markdown"))),
    named("checklist.md", text(checklist_document(figures))),
    with_word_document(figures, to)
  )
  sources <- source_workbook(figures, to, call)
  contents <- c(pictures, others, sources)
  c(contents, named("checksums.txt", text(checksum_lines(contents))))
}

house_formats <- function(house) {
  allowed <- house$limits$formats %||% c("pdf", "tiff")
  images <- intersect(c("tiff", "png"), allowed)
  unique(c(if ("pdf" %in% allowed) "pdf" else allowed[1], if (length(images)) images[1]))
}

legend_document <- function(figures, format) {
  each <- lapply(figures, function(figure) {
    text <- legend_text(figure$scene, format)
    if (format == "html") {
      paste0("<h2>", html(figure$name), "</h2>\n<p>", text, "</p>")
    } else {
      c(paste0("## ", figure$name), "", text, "")
    }
  })
  body <- unlist(each)
  if (format != "html") return(c("# Figure legends", "", body))
  c(
    "<!DOCTYPE html>",
    "<html lang=\"en\"><head><meta charset=\"utf-8\"><title>Figure legends</title></head><body>",
    "<h1>Figure legends</h1>",
    body,
    "</body></html>"
  )
}

# The legends as a document of word processors, where the program pandoc is; the same bytes twice.
with_word_document <- function(figures, to) {
  program <- unname(Sys.which("pandoc"))
  if (!nzchar(program)) return(list())
  # pandoc dates what it writes by this variable, where it is set.
  dated <- Sys.getenv("SOURCE_DATE_EPOCH", NA)
  if (is.na(dated)) {
    Sys.setenv(SOURCE_DATE_EPOCH = "315532800")
    on.exit(Sys.unsetenv("SOURCE_DATE_EPOCH"))
  }
  # What Markdown of this or that kind would take for its own is plain there.
  from <- tempfile(fileext = ".html")
  made <- tempfile(fileext = ".docx")
  on.exit(unlink(c(from, made)), add = TRUE)
  write_whole(from, text_bytes(paste(legend_document(figures, "html"), collapse = "\n")))
  status <- suppressWarnings(
    system2(
      program,
      c("--from", "html", "--output", shQuote(made), shQuote(from)),
      stdout = FALSE,
      stderr = FALSE
    )
  )
  if (status != 0 || !file.exists(made)) {
    rlang::inform(c(i = "The program pandoc made no Word document of the legends."))
    return(list())
  }
  stats::setNames(list(file_bytes(made)), file.path(to, "legends.docx"))
}

# Each limit of the house, what was measured, and the verdict; then what reporting asks for.
checklist_document <- function(figures) {
  c(
    "# Checklist",
    "",
    unlist(
      lapply(figures, function(figure) {
        of <- figure$findings
        cell <- function(text) gsub("|", "\\|", text, fixed = TRUE)
        c(
          paste0("## ", figure$name, " (", figure$file, ")"),
          "",
          "| limit | measured | verdict | where |",
          "| --- | --- | --- | --- |",
          paste0(
            "| ",
            cell(paste0(of$rule, ": ", of$limit)),
            " | ",
            cell(of$measured),
            " | ",
            of$verdict,
            " | ",
            cell(ifelse(is.na(of$where), "", of$where)),
            " |"
          ),
          "",
          legend_text(figure$scene, "markdown", "checklist"),
          ""
        )
      })
    )
  )
}

# All numbers in one workbook, a sheet a panel, the first of which says what the others are; folders
# of CSV files where no workbook can be written.
source_workbook <- function(figures, to, call) {
  tables <- lapply(figures, function(figure) source_data(figure$plate))
  sheets <- unlist(
    Map(
      function(of, figure) {
        stats::setNames(of, paste(figure$name, base::names(of)))
      },
      tables,
      figures
    ),
    recursive = FALSE
  )
  about <- data.frame(
    sheet = base::names(sheets),
    figure = rep(vapply(figures, `[[`, "", "name"), lengths(tables)),
    panel = unlist(lapply(tables, base::names)),
    rows = vapply(sheets, nrow, 0L),
    columns = vapply(sheets, function(one) paste(base::names(one), collapse = ", "), "")
  )
  if (requireNamespace("writexl", quietly = TRUE)) {
    all_sheets <- c(list(About = about), sheets)
    base::names(all_sheets) <- trimws(sheet_names(base::names(all_sheets)))
    about$sheet <- base::names(all_sheets)[-1]
    all_sheets[[1]] <- about
    return(stats::setNames(list(xlsx_bytes(all_sheets)), file.path(to, "source-data.xlsx")))
  }
  stats::setNames(
    lapply(c(list(about), sheets), csv_bytes),
    file.path(to, paste0("source-data-", c("about", file_words(base::names(sheets))), ".csv"))
  )
}

checksum_lines <- function(contents) {
  paste0(
    vapply(contents, function(bytes) md5_of(bytes), ""),
    "  ",
    basename(base::names(contents)),
    "  ",
    lengths(contents)
  )
}
