# The page to look at figures, in a real browser.
skip_if_not_installed("httpuv")
skip_if_not_installed("callr")

picture_shown <- "document.getElementById('picture').naturalWidth > 0"
all_said <- "/^Proof: [0-9]+ good/.test(document.getElementById('verdict').textContent)"
told <- "document.getElementById('this').textContent"

test_that("a file is edited, broken and mended, and the page follows", {
  folder <- paper_folder()
  path <- file.path(folder, "figure-1.yaml")
  page <- local_browser(looking_at(path))
  go_to(page)
  page_shows(page, picture_shown)
  page_shows(page, all_said)
  source <- "document.getElementById('picture').src"
  first <- in_page(page, source)
  good <- readLines(path)
  writeLines(sub("hydration", "bakery", good), path)
  page_shows(page, paste0(source, " !== '", first, "' && ", picture_shown))
  page_shows(page, all_said)
  expect_match(in_page(page, "document.getElementById('legend').textContent"), "bakery")
  second <- in_page(page, source)
  writeLines(sub("x: flour", "x: flur", good), path)
  page_shows(page, "!document.getElementById('error').hidden")
  expect_match(in_page(page, "document.getElementById('message').textContent"), "flur")
  line <- grep("x: flour", good)[1]
  expect_match(
    in_page(page, "document.querySelector('#lines .here').textContent"),
    paste0("^ *", line, " +x: flur")
  )
  # The last good picture stays.
  expect_identical(in_page(page, picture_shown), TRUE)
  expect_identical(in_page(page, "document.getElementById('error').getAttribute('role')"), "alert")
  writeLines(good, path)
  page_shows(page, "document.getElementById('error').hidden")
  page_shows(page, all_said)
  # Data are watched, too.
  third <- in_page(page, source)
  data <- file.path(folder, "loaves.csv")
  writeLines(utils::head(readLines(data), 100), data)
  page_shows(page, paste0(source, " !== '", third, "'"))
})

test_that("a bar that is pointed at says its n, and an axis its words", {
  page <- local_browser(looking_at(file.path(paper_folder(), "figure-1.yaml")))
  go_to(page)
  page_shows(page, all_said)
  bars <- "Array.from(document.querySelectorAll('#hits .mark')).find((one) =>
    one.getAttribute('aria-label').startsWith('Bars'))"
  point_at(page, paste0("(", bars, ")"))
  page_shows(page, paste0("/n = [0-9]+/.test(", told, ")"))
  expect_match(in_page(page, told), "^Bars: mean")
  point_at(page, "document.querySelector('#hits .axis')")
  page_shows(page, paste0("/axis/.test(", told, ")"))
  expect_match(in_page(page, told), "`?range`? of `?axis_of")
  # What is said is announced.
  expect_identical(
    in_page(page, "document.getElementById('this').getAttribute('aria-live')"),
    "polite"
  )
})

test_that("a mend is copied, and the page can be gone through by keys alone", {
  page <- local_browser(looking_at(file.path(paper_folder(), "figure-1.yaml")))
  go_to(page)
  page_shows(page, all_said)
  page$driven(
    function(origin) {
      session$Browser$grantPermissions(
        c("clipboardReadWrite", "clipboardSanitizedWrite"),
        origin = origin
      )
      NULL
    },
    sub("/[0-9a-f]+/$", "", page$look$address)
  )
  button <- "document.querySelector('#proof button')"
  wanted <- in_page(page, paste0(button, ".getAttribute('aria-label').replace('Copy ', '')"))
  expect_match(wanted, ":")
  point_at(page, button, click = TRUE)
  page_shows(page, paste0(button, ".dataset.copied !== undefined"))
  expect_identical(in_page(page, "navigator.clipboard.readText()"), wanted)

  # By keys: the first is the way past all that stands before the figure.
  in_page(page, "navigator.clipboard.writeText('nothing')")
  in_page(page, "window.scrollTo(0, 0); document.activeElement.blur()")
  go_to(page)
  page_shows(page, all_said)
  press(page, "Tab")
  expect_identical(in_page(page, "document.activeElement.className"), "skip")
  press(page, "Enter")
  page_shows(page, "document.activeElement.id === 'figure'")
  reached <- function(what) {
    for (i in 1:400) {
      if (isTRUE(in_page(page, paste0("document.activeElement.matches(\"", what, "\")")))) {
        return(TRUE)
      }
      press(page, "Tab")
    }
    FALSE
  }
  expect_true(reached("#hits .axis, #hits .panel, #hits .key, #hits .text"))
  before <- in_page(page, told)
  # Arrow keys go from mark to mark, and what is reached is said.
  for (i in 1:400) {
    press(page, "ArrowRight")
    if (isTRUE(in_page(page, "document.activeElement.matches('#hits .mark')"))) break
  }
  expect_match(in_page(page, told), "n = [0-9]+")
  expect_false(in_page(page, told) == before)
  # What has the keys is seen to have them.
  expect_false(in_page(page, "getComputedStyle(document.activeElement).outlineStyle") == "none")
  expect_true(reached("#proof button"))
  press(page, "Enter")
  page_shows(page, paste0(button, ".dataset.copied !== undefined"))
  expect_identical(in_page(page, "navigator.clipboard.readText()"), wanted)
  expect_true(reached("[role=tab][data-length=short]"))
  press(page, "Enter")
  page_shows(page, "document.querySelector('[data-length=short]').ariaSelected === 'true'")
})

test_that("other pages, names and addresses are refused in a browser, too", {
  fig <- plate(panel(study("loaves"), x = flour, y = rise, ink_bars()), width = 86)
  look <- looking_at(fig)
  other <- looking_at(fig)
  page <- local_browser(look, "--host-resolver-rules=MAP rebound.example 127.0.0.1")
  # Its own page is answered.
  go_to(page)
  page_shows(page, picture_shown)
  # A page of another origin is not, with or without the token.
  tried <- in_page(
    page,
    paste0(
      "fetch('",
      other$address,
      "state').then((reply) => 'answered', (error) => 'refused')"
    )
  )
  expect_identical(tried, "refused")
  asked <- in_page(page, "fetch('state', { method: 'POST' }).then((reply) => reply.status)")
  expect_equal(asked, 403)
  asked <- in_page(page, "fetch('/state').then((reply) => reply.status)")
  expect_equal(asked, 403)
  # Nor a websocket, which nothing here asks for.
  socket <- paste0(
    "new Promise((done) => { const one = new WebSocket('ws://' + location.host + '/'); ",
    "one.onopen = () => done('open'); one.onerror = () => done('refused'); })"
  )
  expect_identical(in_page(page, socket), "refused")
  # A name that leads here is refused, whatever the address says.
  page$driven(
    function(address) {
      session$Page$navigate(address)
      NULL
    },
    sub("127.0.0.1", "rebound.example", look$address, fixed = TRUE)
  )
  page_shows(page, "location.hostname === 'rebound.example' && document.readyState === 'complete'")
  expect_identical(in_page(page, "document.body.textContent"), "Only this machine is answered.")
})
