# Reading and describing 10 million rows x 4 columns of CSV, against the reader alone
# (data.table::fread), in one process and in turn; and memory after garbage
# collection against the table's own size. Run with `make bench`.

library(nelvat)

rows <- as.numeric(Sys.getenv("NELVAT_BENCH_ROWS", "1e7"))
runs <- as.integer(Sys.getenv("NELVAT_BENCH_RUNS", "3"))
set.seed(1)
path <- tempfile(fileext = ".csv")
data.table::fwrite(
  data.frame(
    flour = sample(c("wheat", "spelt", "rye", "emmer"), rows, TRUE),
    hydration = sample(c(60L, 80L, 100L), rows, TRUE),
    rise = round(rnorm(rows, 60, 10), 2),
    firmness = round(rnorm(rows, 6, 1), 3)
  ),
  path
)
invisible(gc())

read_alone <- function() data.table::fread(path, data.table = FALSE, showProgress = FALSE)
read_described <- function() {
  book <- read_data(path)
  invisible(format(book))
  book
}
peak_mb <- function(read) {
  gc(reset = TRUE)
  before <- sum(gc()[, 2])
  table <- read()
  list(
    peak = sum(gc()[, 6]) - before,
    size = as.numeric(object.size(if (is.data.frame(table)) table else table$data)) / 2^20
  )
}
seconds <- replicate(runs, {
  alone <- system.time(read_alone())[["elapsed"]]
  gc()
  described <- system.time(read_described())[["elapsed"]]
  gc()
  c(alone = alone, described = described)
})
memory <- peak_mb(read_described)
cat(
  format(rows, big.mark = ",", scientific = FALSE),
  "rows x 4 columns; medians of",
  runs,
  "runs, elapsed seconds; R's own peak memory\n"
)
print(
  format(
    data.frame(
      reader_s = median(seconds["alone", ]),
      nelvat_s = median(seconds["described", ]),
      ratio = median(seconds["described", ] / seconds["alone", ]),
      table_mb = memory$size,
      peak_mb = memory$peak,
      memory_ratio = memory$peak / memory$size
    ),
    digits = 3
  ),
  row.names = FALSE
)
