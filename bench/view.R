# Time from a file's change to its new picture: as the server has it, in a browser's page, and to
# all that is said of it. The paper's six figures; each saved as it was, and with one argument of
# one block changed; medians of five, with a rest before each. And how long a folder of 200 figures
# takes to open. Run:
#   Rscript bench/view.R
# The times in a page need a browser and its driver, which set-up brings with ALL=1.

suppressMessages(library(nelvat))
library(testthat)
source(file.path("tests", "testthat", "helper-browser.R"))
paper <- list.files(system.file("paper", package = "nelvat"), full.names = TRUE)
folder <- file.path(tempdir(), "paper")
dir.create(folder)
invisible(file.copy(paper, folder))
look <- nelvat:::new_looking(folder, NULL, NULL)
state <- look$state
until <- function(holds) while (!holds()) nelvat:::serve_look(state, 1)
until(function() length(state$shown) == length(state$paths) && is.null(state$job))

# One argument of one block, one way and back.
changes <- list(
  `figure-1.yaml` = c("error: sd", "error: se"),
  `figure-2.yaml` = c("opacity: 0.7", "opacity: 0.6"),
  `figure-3.yaml` = c("weight: 0.7", "weight: 0.8"),
  `figure-4.yaml` = c("band: se", "band: sd"),
  `figure-5.yaml` = c("weight: 0.4", "weight: 0.5"),
  `figure-6.yaml` = c("test: true", "test: false")
)
has_driver <- dir.exists(file.path(".make", "browser", "chromote"))
page <- if (has_driver) {
  Sys.setenv(ALL = "1")
  at_length <- function() TRUE
  setwd(file.path("tests", "testthat"))
  local_browser(look, envir = globalenv())
}
now <- function() as.numeric(Sys.time())
if (!is.null(page)) {
  go_to(page)
  nothing <- in_page(
    page,
    "document.getElementById('picture').addEventListener('load', () => {
      window.seen = (performance.timeOrigin + performance.now()) / 1000; }); null"
  )
}
timed <- function(path, key, write) {
  # Nobody saves again before the page has shown what it was told.
  rest <- now() + 1
  until(function() is.null(state$job) && now() > rest)
  version <- state$shown[[key]]$version
  start <- now()
  write()
  until(function() state$shown[[key]]$version > version)
  picture <- now() - start
  until(function() identical(state$shown[[key]]$detail, state$shown[[key]]$version))
  said <- now() - start
  seen <- NA
  for (i in if (!is.null(page)) 1:20) {
    seen <- in_page(page, "window.seen || 0")
    if (seen > start) break
  }
  c(picture, seen - start, said)
}
for (path in state$paths) {
  key <- paste0(path, "#1#")
  state$wanted <- key
  if (!is.null(page)) nothing <- in_page(page, paste0("choose('", path, "'); null"))
  text <- readLines(path)
  change <- changes[[basename(path)]]
  stopifnot(any(grepl(change[1], text, fixed = TRUE)))
  i <- 0
  ways <- list(
    `saved as it was` = function() Sys.setFileTime(path, Sys.time()),
    `one block changed` = function() {
      i <<- i + 1
      # Numbers go on, so that nothing is seen a second time.
      to <- if (grepl("[0-9]", change[2])) paste0(change[2], i) else change[1 + i %% 2]
      writeLines(sub(change[1], to, text, fixed = TRUE), path)
    }
  )
  for (way in names(ways)) {
    times <- vapply(1:5, function(k) timed(path, key, ways[[way]]), numeric(3))
    cat(
      sprintf(
        "%s, %s: picture %.2f s, in the page %.2f s, all that is said %.2f s\n",
        basename(path),
        way,
        stats::median(times[1, ]),
        stats::median(times[2, ]),
        stats::median(times[3, ])
      )
    )
  }
}
nelvat:::end_looking(state)

many <- file.path(tempdir(), "many")
dir.create(many)
invisible(file.copy(paper, many))
figures <- list.files(many, "^figure.*yaml$", full.names = TRUE)
for (k in seq_len(200 - length(figures))) {
  text <- readLines(figures[1 + k %% length(figures)])
  writeLines(
    gsub("(figure-[0-9])", paste0("\\1-", k), text),
    file.path(many, sprintf("more-%03d.yaml", k))
  )
}
start <- now()
look <- nelvat:::new_looking(many, NULL, NULL)
listed <- nelvat:::look_json(nelvat:::look_state(look$state, list()))
cat(
  sprintf(
    "a folder of %d figures is listed after %.2f s\n",
    length(look$state$paths),
    now() - start
  )
)
until_first <- paste0(look$state$paths[1], "#1#")
while (is.null(look$state$shown[[until_first]])) nelvat:::serve_look(look$state, 1)
cat(sprintf("and its first figure is drawn after %.2f s\n", now() - start))
nelvat:::end_looking(look$state)
