# What the process beside the server does: draws one figure of a file, and says all of it.

# The figure of a file, kept from drawing its picture until it is described. An environment, as the
# process has one figure at a time.
drawn_last <- new.env(parent = emptyenv())

look_dpi <- 170 # where no page has said what it shows

# list(ok, png, width_mm, height_mm, names, inputs) or list(ok = FALSE, message, file, line,
# inputs). which: the number of a drawing of the file; width: another than its own, or NULL.
look_picture <- function(path, which = 1L, width = NULL, dpi = look_dpi) {
  drawn_last$plate <- NULL
  drawn_last$path <- path
  before <- mget(c("tables", "steps"), kept_work)
  on.exit(list2env(before, kept_work))
  kept_work$tables <- kept_work$steps <- TRUE
  tryCatch(
    {
      figure <- suppressMessages(read_figure(path))
      drawings <- figure$drawings
      chosen <- drawings[[min(which, length(drawings))]]$plate
      shown <- look_plate_picture(chosen, width, dpi)
      c(
        shown,
        list(
          names = as.list(vapply(drawings, function(one) paste(one$name, collapse = " "), "")),
          inputs = as.list(unique(c(path, figure$inputs)))
        )
      )
    },
    nelvat_error = function(error) look_error(error, path)
  )
}

look_plate_picture <- function(plate, width = NULL, dpi = look_dpi) {
  if (!is.null(width)) plate <- suppressWarnings(resize(plate, width = width))
  resolved <- suppressWarnings(resolve_plate(plate))
  scene <- suppressWarnings(whole_scene(resolved, plate))
  drawn_last$plate <- plate
  drawn_last$resolved <- resolved
  drawn_last$scene <- scene
  list(
    ok = TRUE,
    png = png_bytes(scene, dpi),
    width_mm = scene$page$width_mm,
    height_mm = scene$page$height_mm
  )
}

# Lines about the one that is wrong are shown with it.
look_error <- function(error, path) {
  file <- error$line_file %||% path
  line <- error$line
  about <- if (!is.null(line) && file.exists(file)) {
    lines <- byte_lines(file_bytes(file))
    from <- max(1, line - 3)
    to <- min(length(lines), line + 3)
    lapply(from:to, function(k) list(n = k, text = substr(printable(lines[k]), 1, 300)))
  }
  list(
    ok = FALSE,
    message = plain_text(verbatim(rlang::cnd_message(error))),
    file = basename(file),
    line = line,
    about = about,
    inputs = as.list(path)
  )
}

# What is said of the figure that was drawn last, as plain lists.
look_details <- function() {
  of_plate <- drawn_last$plate
  scene <- drawn_last$scene
  if (is.null(of_plate)) return(NULL)
  findings <- in_words_of_files(as_proof(proof_findings(scene, of_plate)))
  verdicts <- table(factor(findings$verdict, c("good", "look", "bad")))
  list(
    verdict = if (verdicts[["bad"]]) "bad" else if (verdicts[["look"]]) "look" else "good",
    counts = as.list(verdicts),
    proof = lapply(which(findings$verdict != "good"), function(i) look_finding(findings, i)),
    good = as.list(paste0(findings$rule, ": ", findings$measured)[findings$verdict == "good"]),
    hits = in_words_of_files(
      page_hits(
        scene,
        drawn_last$resolved,
        c(plate_words(of_plate), list(axis = axis_words)),
        places_of_blocks(of_plate)
      )
    ),
    legend = list(
      short = legend_text(scene, "html", "short"),
      full = legend_text(scene, "html"),
      checklist = paste(legend_text(scene, "html", "checklist"), collapse = "\n")
    ),
    alt = alt_text(scene),
    methods = paste(methods_sentences(list(scene)), collapse = " "),
    source = look_source(source_tables(drawn_last$resolved, scene, of_plate))
  )
}

# Of each block of a plate from a file: "In figure-1.yaml, line 7: block responses".
places_of_blocks <- function(plate) {
  path <- drawn_last$path
  names <- plate$names
  if (is.null(path) || is.null(names) || !file.exists(path)) return(NULL)
  places <- yaml_places(byte_lines(file_bytes(path)))
  key <- vapply(places$place, paste, "", collapse = "\r")
  line <- places$line[match(paste("blocks", names, sep = "\r"), key)]
  said <- ifelse(
    is.na(line),
    paste0("Block ", names),
    paste0("In ", basename(path), ", line ", line, ": block ", names)
  )
  stats::setNames(as.list(said), vapply(drawn_last$resolved$blocks, `[[`, "", "id"))
}

look_finding <- function(findings, i) {
  advice <- findings$mend[i]
  code <- regmatches(advice, gregexpr("(?<=`)[^`]+(?=`)", advice, perl = TRUE))[[1]]
  boxes <- attr(findings, "boxes")[[i]]
  list(
    rule = findings$rule[i],
    measured = findings$measured[i],
    limit = findings$limit[i],
    verdict = findings$verdict[i],
    where = findings$where[i],
    mend = advice,
    copy = if (length(code)) code[1],
    boxes = lapply(
      each_row(boxes),
      function(box) box[intersect(c("x0", "y0", "x1", "y1"), names(box))]
    )
  )
}

look_rows <- 100L # of a table that the page shows

look_source <- function(tables) {
  Map(
    function(table, name) {
      shown <- utils::head(table, look_rows)
      columns <- lapply(shown, function(values) {
        text <- if (is.numeric(values)) number_text_each(values, 5) else as.character(values)
        ifelse(is.na(values), "", text)
      })
      list(
        name = name,
        n = nrow(table),
        columns = as.list(names(table)),
        rows = lapply(unname(each_row(columns_table(columns))), unname)
      )
    },
    unname(tables),
    names(tables)
  )
}

columns_table <- function(columns) do.call(new_table, columns)
