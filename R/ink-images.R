#' Images by rows and columns
#'
#' An image for each panel that [facets()] make of a table of paths: micrographs of each treatment
#' and day, all at one scale, with one scale bar.
#'
#' @eval argument_lines("ink_images")
#' @return An ink, for [panel()] without `x` and `y`.
#' @details Each pixel is as large in all panels; a smaller image stands in the middle of its own.
#'   The scale bar stands in the last panel. Levels between the two of `brightness` are spread
#'   evenly from black to white, what lies beyond them is black or white; the legend says so.
#' @section Errors: `nelvat_error_file` for a path that is no image that can be read, with its row;
#' `nelvat_error_data` for several images in one panel; `nelvat_error_argument` for an argument of
#' another sort, or a panel with `x` or `y`.
#' @examples
#' views <- data.frame(
#'   file = study_file("crumb.png"),
#'   flour = rep(c("Wheat", "Rye"), each = 2),
#'   day = c("Day 1", "Day 3")
#' )
#' crumbs <- panel(views, ink_images(file, scale_bar(length = 5, unit = "mm", per_pixel = 0.05)))
#' plate(facets(crumbs, across = day, down = flour), width = 120)
#' @export
ink_images <- function(path, scale = NULL, brightness = NULL, folder = NULL, ...) {
  said_ink("images", ...)
}

#' @export
word_rows.ink_images <- function(word) {
  list(
    path = a_column(says = "The column with the paths of PNG, JPEG or TIFF files."),
    scale = scale_bar_type(),
    brightness = brightness_type(),
    folder = a_path(
      or_null = TRUE,
      here = TRUE,
      says = c(
        "Where the paths start; `NULL`: in the working directory, or of a figure file in its own",
        "folder."
      )
    )
  )
}

scale_bar_type <- function() {
  a_part(
    "scale_bar",
    ref_to("scale_bar"),
    "a `scale_bar()`",
    says = "A [scale_bar()], or `NULL`."
  )
}

brightness_type <- function() {
  numbers(
    c(2, 2),
    0,
    100,
    words = "two numbers from 0 to 100, the darker first",
    or_null = TRUE,
    says = c(
      "Levels that are drawn black and white, in % of full scale, such as `c(5, 60)`; the legend",
      "says so. `NULL`: as they are."
    )
  )
}

check_brightness <- function(brightness, call) {
  if (is.null(brightness) || brightness[1] < brightness[2]) return(invisible())
  abort_nelvat(
    "argument",
    c(
      "`brightness` must be two levels, the darker first.",
      x = paste0("Found ", paste(brightness, collapse = " and "), ".")
    ),
    call,
    argument = "brightness",
    found = brightness
  )
}

check_scale_bar <- function(scale, call) {
  if (is.null(scale) || inherits(scale, "nelvat_scale_bar")) return(invisible())
  abort_nelvat(
    "argument",
    c("`scale` must be a `scale_bar()`.", x = paste0("Found ", describe_value(scale), ".")),
    call
  )
}

brightness_words <- function(brightness) {
  if (is.null(brightness)) return(NULL)
  ends <- number_text_each(brightness)
  paste0("brightness from ", ends[1], " to ", ends[2], "\u00a0% of full scale, evenly")
}

bar_words <- function(bar) {
  if (!is.null(bar)) paste0("scale bar, ", format(bar$length), "\u00a0", bar$unit)
}

# The images are read when the panel is said, as data are.
#' @export
settled_ink.ink_images <- function(ink, variables) {
  check_scale_bar(ink$scale, NULL)
  check_brightness(ink$brightness, NULL)
  variable <- ink$variables$path
  files <- label_strings(variable, variable$values)
  paths <- unique(files[!is.na(files)])
  images <- lapply(paths, function(path) {
    alone <- is.null(ink$folder) || grepl("^(/|[A-Za-z]:|~)", path)
    whole <- if (alone) path.expand(path) else file.path(ink$folder, path)
    tryCatch(
      {
        check_file(whole, "image", NULL)
        read_image(whole, NULL, ink$brightness)
      },
      nelvat_error = function(error) {
        row <- match(path, files)
        error$body <- c(error$body, i = paste0("It is row ", row, " of \"", variable$id, "\"."))
        stop(error)
      }
    )
  })
  side <- function(what) max(c(1, vapply(images, `[[`, 0, what)))
  changed(
    ink,
    images = stats::setNames(images, paths),
    wide = side("wide"),
    tall = side("tall"),
    shape_is = side("tall") / side("wide"),
    equal = TRUE
  )
}

#' @export
check_ink.ink_images <- function(ink, panel, call) {
  there <- intersect(c("x", "y"), names(Filter(Negate(is.null), panel$variables)))
  if (length(there)) {
    abort_nelvat(
      "argument",
      c(
        paste0("A panel of images has no `", there[1], "`."),
        x = "The panel has one.",
        i = "Say what parts the images in `facets(across = , down = )`."
      ),
      call
    )
  }
  if (!is.null(ink$scale)) check_bar_width(ink$scale, ink$wide, call)
}

#' @export
supplied_axis.ink_images <- function(ink, direction, variables) hidden_axis()

#' @export
train_ink.ink_images <- function(ink, layer) {
  table <- layer$table
  complete <- complete_rows(table, "path")
  shown <- table_rows(table, complete)
  shown$file <- label_strings(ink$variables$path, shown$path)
  shown <- table_rows(shown, !duplicated(paste(shown$panel, shown$file)))
  several <- shown$panel[duplicated(shown$panel)]
  if (length(several)) {
    files <- shown$file[shown$panel == several[1]]
    abort_nelvat(
      "data",
      c(
        "A panel shows one image.",
        x = paste0("One has ", length(files), ": ", quoted(utils::head(files, 3)), "."),
        i = "Say what parts them in `facets(across = , down = )`, or leave some out by `keep`."
      ),
      call = NULL
    )
  }
  shown <- table_rows(shown, order(shown$panel))
  panels <- panels_in(table$panel)
  list(
    table = new_table(panel = shown$panel, file = shown$file, .rows = nrow(shown)),
    extent = new_table(
      panel = panels,
      x0 = 0,
      x1 = ink$wide,
      y0 = 0,
      y1 = ink$tall,
      .rows = length(panels)
    ),
    fills = c("x", "y"),
    zero = character(),
    says = c(
      if (nrow(shown) > 1) "images" else "an image",
      bar_words(ink$scale),
      brightness_words(ink$brightness)
    )
  )
}

#' @export
place_ink.ink_images <- function(ink, trained, site) {
  shown <- trained$table
  if (!nrow(shown)) return(list())
  images <- lapply(seq_len(nrow(shown)), function(k) {
    one <- ink$images[[shown$file[k]]]
    id <- shown$panel[k]
    ends <- function(side, whole, direction) {
      site$unit((whole - side) / 2 + c(0, side), c(id, id), direction)
    }
    x <- ends(one$wide, ink$wide, "x")
    y <- ends(one$tall, ink$tall, "y")
    c(
      new_marks("image", new_table(panel = id, x0 = x[1], x1 = x[2], y0 = y[1], y1 = y[2])),
      list(pixels = one$pixels)
    )
  })
  if (is.null(ink$scale)) return(images)
  last <- nrow(shown)
  c(
    images,
    scale_bar_marks(
      ink$scale,
      shown$panel[last],
      ink$wide,
      ink$images[[shown$file[last]]]$pixels,
      site
    )
  )
}

#' @export
enlarged_says.ink_images <- function(ink, seen) {
  if (!is.null(ink$scale)) bar_words(bar_within(ink$scale, diff(seen)))
}

#' @export
ink_traits.ink_images <- function(ink) note_traits()
