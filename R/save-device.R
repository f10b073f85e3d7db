# Drawing on a device that writes a file, and reading back what it wrote. Devices do not say
# where they fail (a full disk, a limit on file size), so each format is looked at for its end.

# ending: of the format; open: opens a device on a path; grobs: one a page. Returns the bytes.
device_bytes <- function(ending, open, grobs) {
  path <- tempfile(fileext = paste0(".", ending))
  on.exit(unlink(path))
  outcome <- tryCatch(
    on_device(
      function() open(path),
      for (grob in grobs) {
        grid::grid.newpage()
        grid::grid.draw(grob)
      }
    ),
    nelvat_error = stop,
    error = function(error) error
  )
  bytes <- if (file.exists(path)) file_bytes(path) else raw()
  if (!inherits(outcome, "error") && is_whole(ending, bytes)) return(bytes)
  abort_nelvat(
    "device",
    c(
      paste0("The figure could not be drawn as ", toupper(ending), "."),
      x = if (inherits(outcome, "error")) {
        conditionMessage(outcome)
      } else {
        paste0("R's device wrote ", counted(length(bytes), "byte"), ", which are no whole file.")
      },
      i = paste0(
        "Is there room in the folder for temporary files, \"",
        tempdir(),
        "\"? The variable TMPDIR names another."
      )
    ),
    call = NULL
  )
}

# Does a file end as its format must?
is_whole <- function(ending, bytes) {
  n <- length(bytes)
  if (n < 16) return(FALSE)
  end <- bytes[seq(max(1, n - 40), n)]
  ends_with <- function(text) length(grepRaw(text, end, fixed = TRUE)) > 0
  switch(
    ending,
    pdf =,
    eps = ends_with("%%EOF"),
    svg = ends_with("</svg>"),
    png = ends_with("IEND"),
    tiff = is_whole_tiff(bytes),
    TRUE
  )
}

# All strips of the first image lie within the file (TIFF 6.0, section 2).
is_whole_tiff <- function(bytes) {
  endian <- if (rawToChar(bytes[1:2]) == "II") "little" else "big"
  number <- function(at, size) {
    value <- as.integer(bytes[at + seq_len(size)])
    sum((if (endian == "little") value else rev(value)) * 256^(seq_len(size) - 1))
  }
  directory <- number(4, 4)
  if (directory + 2 > length(bytes)) return(FALSE)
  entries <- directory + 2 + 12 * (seq_len(number(directory, 2)) - 1)
  if (!length(entries) || max(entries) + 12 > length(bytes)) return(FALSE)
  values <- function(tag) {
    entry <- Filter(function(at) number(at, 2) == tag, entries)
    if (!length(entry)) return(numeric())
    size <- c(1, 1, 2, 4)[number(entry + 2, 2)]
    n <- number(entry + 4, 4)
    from <- if (n * size <= 4) entry + 8 else number(entry + 8, 4)
    if (from + n * size > length(bytes)) return(Inf)
    vapply(from + size * (seq_len(n) - 1), number, 0, size = size)
  }
  strips <- values(273) + values(279)
  length(strips) > 0 && max(strips) <= length(bytes)
}
