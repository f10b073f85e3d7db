# A book against its figures drawn singly, in one session: N=40 Rscript bench/book.R
suppressMessages(library(nelvat))
n <- as.integer(Sys.getenv("N", "40"))
loaves <- study("loaves")
measures <- c("rise", "volume", "ph", "acidity", "firmness", "moisture")
figures <- lapply(seq_len(n), function(i) {
  y <- measures[(i - 1) %% length(measures) + 1]
  plate(
    facets(
      panel(loaves, x = flour, y = .data[[y]], colour = hydration, ink_bars()),
      across = bakery
    ),
    width = 176,
    height = 70
  )
})
names(figures) <- paste0("figure-", seq_len(n))
folder <- tempfile()
dir.create(folder)
seconds <- function(code) system.time(code)[["elapsed"]]
quiet <- function(code) suppressWarnings(suppressMessages(code))
quiet(save_plate(figures[[1]], file.path(folder, "first.pdf")))
singly <- seconds(
  for (name in names(figures)) {
    quiet(save_plate(figures[[name]], file.path(folder, paste0(name, ".pdf"))))
    quiet(legend_text(figures[[name]]))
  }
)
invisible(gc(reset = TRUE))
book <- seconds(quiet(save_book(figures, file.path(folder, "book.pdf"))))
cat(
  sprintf(
    "%d figures: singly, with their legends, %.1f s; as a book %.1f s, %.2f times; %.0f MB most\n",
    n,
    singly,
    book,
    book / singly,
    sum(gc()[, 6])
  )
)
