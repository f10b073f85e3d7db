# The page to look at figures, and its server.
looking_at <- function(paths, envir = parent.frame()) {
  look <- nelvat:::new_looking(paths, NULL, NULL)
  withr::defer(nelvat:::end_looking(look$state), envir)
  look
}

# A browser without a window, driven by a process beside the tests, so that the page's server can
# answer from here. The driver is installed in a library of its own (tools/setup.R).

local_browser <- function(look, flags = NULL, envir = parent.frame()) {
  skip_if_not(at_length(), "needs a browser")
  browser <- Sys.which(c("chromium", "chromium-browser", "google-chrome"))
  browser <- browser[nzchar(browser)]
  skip_if(!length(browser), "there is no browser")
  library_path <- file.path("..", "..", ".make", "browser")
  skip_if_not(dir.exists(file.path(library_path, "chromote")), "there is no driver of browsers")
  driver <- callr::r_session$new(
    callr::r_session_options(libpath = c(normalizePath(library_path), .libPaths()))
  )
  withr::defer(driver$close(), envir)
  page <- list(
    look = look,
    driven = function(fun, ...) driven_while_serving(driver, look, fun, list(...))
  )
  page$driven(
    function(browser, flags) {
      Sys.setenv(CHROMOTE_CHROME = browser)
      chromote <- asNamespace("chromote")
      chromote$set_chrome_args(
        c("--no-sandbox", "--disable-gpu", flags, chromote$default_chrome_args())
      )
      assign("session", chromote$ChromoteSession$new(width = 1280, height = 800), globalenv())
      NULL
    },
    browser[[1]],
    flags
  )
  page
}

driven_while_serving <- function(driver, look, fun, arguments, seconds = 60) {
  driver$call(fun, arguments)
  end <- Sys.time() + seconds
  while (driver$poll_process(0) != "ready") {
    if (Sys.time() > end) stop("The browser does not answer.")
    nelvat:::serve_look(look$state, 1)
  }
  heard <- driver$read()
  if (!is.null(heard$error)) stop(heard$error)
  heard$result
}

go_to <- function(page, address = page$look$address) {
  page$driven(
    function(address) {
      session$Page$navigate(address)
      NULL
    },
    address
  )
  page_shows(page, "location.protocol !== 'about:' && document.readyState === 'complete'")
}

# The value of an expression of the page's language, as R has it.
in_page <- function(page, code) {
  page$driven(
    function(code) {
      found <- session$Runtime$evaluate(
        code,
        returnByValue = TRUE,
        awaitPromise = TRUE,
        userGesture = TRUE
      )
      if (!is.null(found$exceptionDetails)) stop(found$exceptionDetails$exception$description)
      found$result$value
    },
    code
  )
}

# Waits until an expression of the page's language is true.
page_shows <- function(page, code, seconds = 30) {
  end <- Sys.time() + seconds
  while (!isTRUE(in_page(page, code)) && Sys.time() < end) NULL
  expect_true(in_page(page, code), label = code)
}

press <- function(page, key, times = 1) {
  page$driven(
    function(key, code, times) {
      for (i in seq_len(times)) {
        for (type in c("rawKeyDown", "keyUp")) {
          session$Input$dispatchKeyEvent(
            type,
            key = key,
            code = key,
            windowsVirtualKeyCode = code
          )
        }
        if (key == "Enter") session$Input$dispatchKeyEvent("char", text = "\r")
      }
      NULL
    },
    key,
    c(Tab = 9, Enter = 13, ArrowRight = 39, ArrowLeft = 37, Home = 36)[[key]],
    times
  )
}

# Moves the pointer to the middle of an element, and presses there where it is asked for.
point_at <- function(page, element, click = FALSE) {
  in_page(page, paste0(element, ".scrollIntoView({ block: \"center\", inline: \"center\" })"))
  box <- in_page(
    page,
    paste0(
      "(() => { const b = ",
      element,
      ".getBoundingClientRect(); ",
      "return [b.x + b.width / 2, b.y + b.height / 2]; })()"
    )
  )
  page$driven(
    function(x, y, click) {
      session$Input$dispatchMouseEvent("mouseMoved", x = x, y = y)
      for (type in if (click) c("mousePressed", "mouseReleased")) {
        session$Input$dispatchMouseEvent(type, x = x, y = y, button = "left", clickCount = 1)
      }
      NULL
    },
    box[[1]],
    box[[2]],
    click
  )
}
