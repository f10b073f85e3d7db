# Pictures of the page to look at figures, by a headless browser: docs/screenshots/look.png and
# look-error.png. Run from the package root, with the package, httpuv and callr installed.

browser <- Sys.which(c("chromium", "chromium-browser", "google-chrome"))
browser <- browser[nzchar(browser)]
if (!length(browser)) stop("There is no browser.")
folder <- file.path(tempdir(), "paper")
dir.create(folder)
invisible(file.copy(list.files(file.path("inst", "paper"), full.names = TRUE), folder))
look <- nelvat:::new_looking(folder, NULL, NULL)
state <- look$state
path <- state$paths[1]
shown <- function() state$shown[[paste0(path, "#1#")]]
until <- function(holds) while (!holds()) nelvat:::serve_look(state, 1)
until(function() {
  length(state$shown) == length(state$paths) && is.null(state$job) &&
    identical(shown()$detail, shown()$version)
})
picture <- function(name) {
  page <- callr::r_bg(
    function(browser, arguments) system2(browser, arguments, stdout = FALSE, stderr = FALSE),
    list(
      browser[[1]],
      c(
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--hide-scrollbars",
        "--window-size=1280,890",
        "--timeout=8000",
        "--virtual-time-budget=60000",
        paste0("--screenshot=", normalizePath(file.path("docs", "screenshots"), "/"), "/", name),
        look$address
      )
    )
  )
  until(function() !page$is_alive())
}
picture("look.png")
version <- shown()$version
writeLines(sub("x: flour", "x: flur", readLines(path)), path)
until(function() shown()$version > version)
picture("look-error.png")
nelvat:::end_looking(state)
