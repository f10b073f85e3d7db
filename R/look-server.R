# The page's server: on this machine only, under a random token, for requests that a page of its own
# makes. It reads and draws, and never writes.

# state: see new_viewing(). Answers one request, as httpuv asks (Rook's environment).
look_answer <- function(state, request) {
  refused <- look_refusal(state, request)
  if (!is.null(refused)) return(look_text(403L, refused))
  path <- request$PATH_INFO
  home <- paste0("/", state$token, "/")
  if (!startsWith(path, home)) return(look_text(403L, "The address has not the right token."))
  what <- substring(path, nchar(home) + 1)
  query <- look_query(request$QUERY_STRING)
  switch(
    what,
    `page.js` = look_file("page.js", "text/javascript"),
    `page.css` = look_file("page.css", "text/css"),
    state = look_json(look_state(state, query)),
    figure = look_json(look_figure(state, query)),
    picture = look_png(state, query),
    if (nzchar(what)) look_text(404L, "There is no such page.") else look_page(state)
  )
}

# NULL where a request may come in. Nothing here speaks over a websocket.
look_door <- function(state, request) {
  refused <- look_refusal(state, request)
  if (is.null(refused) && !is.null(request$HTTP_UPGRADE)) refused <- "The page has no websocket."
  if (!is.null(refused)) look_text(403L, refused)
}

# NULL where a request may be answered. Another host's name that leads here (rebinding), another
# page's request and other methods than reading are refused.
look_refusal <- function(state, request) {
  hosts <- paste0(c("127.0.0.1", "localhost"), ":", state$port)
  # Through a tunnel the port is another.
  host <- request$HTTP_HOST %||% ""
  if (!host %in% hosts && !grepl("^(127[.]0[.]0[.]1|localhost):[0-9]+$", host)) {
    return("Only this machine is answered.")
  }
  origin <- request$HTTP_ORIGIN
  if (!is.null(origin) && !identical(origin, paste0("http://", host))) {
    return("Requests of other pages are not answered.")
  }
  site <- request$HTTP_SEC_FETCH_SITE
  if (!is.null(site) && !site %in% c("same-origin", "none")) {
    return("Requests of other pages are not answered.")
  }
  if (!identical(request$REQUEST_METHOD, "GET")) return("The page is only read.")
  NULL
}

look_query <- function(text) {
  text <- sub("^[?]", "", text %||% "")
  parts <- strsplit(strsplit(text, "&", fixed = TRUE)[[1]], "=", fixed = TRUE)
  parts <- Filter(length, parts)
  values <- lapply(parts, function(part) {
    value <- tryCatch(
      utils::URLdecode(if (length(part) > 1) part[2] else ""),
      warning = function(w) ""
    )
    Encoding(value) <- "UTF-8"
    if (validUTF8(value)) value else ""
  })
  stats::setNames(values, vapply(parts, `[`, "", 1L))
}

# Nothing from outside is loaded, nothing is framed, and no address is told to others.
look_headers <- list(
  `Content-Security-Policy` = paste(
    "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self';",
    "connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
  ),
  `X-Content-Type-Options` = "nosniff",
  `Referrer-Policy` = "no-referrer",
  `Cross-Origin-Resource-Policy` = "same-origin",
  `Cache-Control` = "no-store"
)

look_reply <- function(status, type, body) {
  list(status = status, headers = c(list(`Content-Type` = type), look_headers), body = body)
}
look_text <- function(status, text) look_reply(status, "text/plain; charset=utf-8", text)
look_json <- function(value) {
  if (is.null(value)) return(look_text(404L, "There is no such figure."))
  text <- jsonlite::toJSON(value, auto_unbox = TRUE, null = "null", digits = 6)
  look_reply(200L, "application/json; charset=utf-8", enc2utf8(as.character(text)))
}

look_file <- function(name, type) {
  path <- system.file("look", name, package = "nelvat", mustWork = TRUE)
  look_reply(
    200L,
    paste0(type, "; charset=utf-8"),
    rawToChar(readBin(path, "raw", file.size(path)))
  )
}

look_page <- function(state) {
  path <- system.file("look", "page.html", package = "nelvat", mustWork = TRUE)
  page <- rawToChar(readBin(path, "raw", file.size(path)))
  Encoding(page) <- "UTF-8"
  look_reply(
    200L,
    "text/html; charset=utf-8",
    enc2utf8(sub("<!-- visions -->", vision_filters(), page, fixed = TRUE))
  )
}

# What five kinds of eyes see, as filters of SVG on linear light: the matrices that colours are
# chosen and proved by; and grey, by luminance.
vision_filters <- function() {
  row_of <- function(row) paste(c(format(row, digits = 6, trim = TRUE), "0 0"), collapse = " ")
  filter <- function(name, matrix) {
    paste0(
      "<filter id=\"see-",
      name,
      "\" color-interpolation-filters=\"linearRGB\"><feColorMatrix type=\"matrix\" values=\"",
      paste(apply(matrix, 1, row_of), collapse = " "),
      " 0 0 0 1 0\"/></filter>"
    )
  }
  grey <- matrix(rep(c(0.2126, 0.7152, 0.0722), 3), 3, byrow = TRUE)
  kinds <- vision_matrices[setdiff(names(vision_matrices), "normal")]
  paste(c(Map(filter, names(kinds), kinds), filter("grey", grey)), collapse = "")
}

look_png <- function(state, query) {
  shown <- state$shown[[look_key(query)]]
  if (is.null(shown$png)) return(look_text(404L, "There is no picture yet."))
  look_reply(200L, "image/png", shown$png)
}

# Versions of the figure that the page shows, and, where the page does not know it, the list of
# figures with their verdicts: asked for 25 times a second, so it is small.
look_state <- function(state, query) {
  key <- look_key(query)
  if (!is.null(key)) {
    state$wanted <- key
    state$asked <- Sys.time()
    ask_for_dots(state, query$dots)
  }
  shown <- state$shown[[key %||% ""]]
  list(
    version = shown$version %||% 0L,
    detail = shown$detail %||% 0L,
    drawn = !is.null(shown$png),
    busy = !is.null(state$job),
    listing = state$listing,
    figures = if (!identical(query$listing, as.character(state$listing))) look_listing(state)
  )
}

# Pictures are drawn at the resolution that the page shows them at: the greatest, where several
# pages ask.
ask_for_dots <- function(state, dots) {
  if (!grepl("^[0-9]{1,4}$", dots %||% "")) return()
  dots <- min(most_look_dpi, max(least_look_dpi, as.numeric(dots)))
  now <- as.numeric(Sys.time())
  if (dots >= state$dots || now - state$dots_at > 3) {
    state$dots <- dots
    state$dots_at <- now
  }
}
least_look_dpi <- 96
most_look_dpi <- 450

look_listing <- function(state) {
  verdicts <- vapply(
    state$shown[paste0(state$paths, "#1#")],
    function(one) {
      if (is.null(one)) "" else if (!isTRUE(one$ok)) "error" else one$verdict %||% ""
    },
    ""
  )
  new_table(
    path = state$paths,
    name = tools::file_path_sans_ext(basename(state$paths)),
    verdict = unname(verdicts)
  )
}

# All that is known of one figure, without its picture.
look_figure <- function(state, query) {
  shown <- state$shown[[look_key(query) %||% ""]]
  if (is.null(shown)) return(NULL)
  shown[setdiff(names(shown), c("png", "marks", "path"))]
}

# A figure is known by its file, the number of its drawing and the width it is asked at.
look_key <- function(query) {
  path <- query$path
  if (is.null(path) || !nzchar(path)) return(NULL)
  which <- query$which %||% "1"
  width <- query$width %||% ""
  paste0(
    path,
    "#",
    if (grepl("^[1-9][0-9]{0,3}$", which)) which else "1",
    "#",
    if (width %in% c("single", "middle", "double")) width else ""
  )
}
