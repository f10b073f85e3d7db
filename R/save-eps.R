# EPS by R's cairo device, which cuts its page to whole points and sets letters on a grid of one
# unit: so it is drawn larger and scaled down at the start of the page (PostScript Language
# Reference, section 4.3), the exact page in %%HiResBoundingBox. EPS knows no transparency:
# cairo makes an image of what is see-through.
eps_scale <- 32

eps_bytes <- function(scene, dpi) {
  # Plots of other packages hold lengths that do not grow.
  scale <- if (NROW(scene$pictures)) 1 else eps_scale
  drawn_pt <- ceiling(page_pt(scene) * scale)
  open <- function(path) {
    grDevices::cairo_ps(
      path,
      width = drawn_pt[1] / 72,
      height = drawn_pt[2] / 72,
      bg = "white",
      onefile = FALSE,
      fallback_resolution = dpi / scale
    )
  }
  bytes <- device_bytes("eps", open, list(scene_grob(scene, scale, corner = TRUE)))
  exact_eps(bytes, page_pt(scene), drawn_pt, scale, about_scene(scene)$title)
}

# The header's comments made right, and the page's drawing put between a scale and its end.
exact_eps <- function(bytes, size_pt, drawn_pt, scale, title) {
  text <- ascii_bytes_cpp(bytes)
  setup <- regexpr("%%EndPageSetup\n", text, fixed = TRUE)
  comments <- regexpr("%%EndComments\n", text, fixed = TRUE)
  end <- utils::tail(gregexpr("showpage\n", text, fixed = TRUE)[[1]], 1)
  if (setup < 0 || comments < 0 || end < 0) {
    abort_nelvat(
      "device",
      "R's cairo device wrote an EPS file of a form that cannot be brought to its exact size.",
      call = NULL
    )
  }
  head <- byte_lines(bytes[seq_len(comments - 1)])
  head <- head[!grepl("^%%(CreationDate|BoundingBox|HiResBoundingBox|Title):", head)]
  head <- append(
    head,
    c(
      paste0("%%Title: ", iconv(title, "UTF-8", "ASCII", sub = "?")),
      paste("%%BoundingBox: 0 0", paste(ceiling(size_pt), collapse = " ")),
      paste("%%HiResBoundingBox: 0 0", format_pt(size_pt))
    ),
    1
  )
  middle <- byte_lines(bytes[seq(comments, setup + nchar("%%EndPageSetup\n") - 1)])
  middle <- sub(
    "^%%PageBoundingBox:.*$",
    paste("%%PageBoundingBox: 0 0", paste(ceiling(size_pt), collapse = " ")),
    middle
  )
  scaled <- paste(
    "gsave",
    format_pt(c(0, size_pt[2] - drawn_pt[2] / scale)),
    "translate",
    format_pt(1 / scale),
    "dup scale"
  )
  page <- bytes[seq(setup + nchar("%%EndPageSetup\n"), end - 1)]
  c(
    text_bytes(c(head, middle, scaled)),
    page,
    text_bytes("grestore"),
    bytes[seq(end, length(bytes))]
  )
}
