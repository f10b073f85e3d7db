# Eighteen tables as laboratories have them, all invented, made anew from a seed into a folder:
#   make_exports(folder)
# Returns the options with which each is read, by file.

make_exports <- function(folder, seed = 20251103) {
  withr::local_seed(seed)
  put <- function(name, lines, encoding = "UTF-8") {
    connection <- file(file.path(folder, name), "w", encoding = encoding)
    on.exit(close(connection))
    writeLines(lines, connection)
  }
  table <- function(name, data, ...) {
    utils::write.csv(data, file.path(folder, name), row.names = FALSE, ...)
  }
  flours <- c("wheat", "spelt", "rye")
  rounded <- function(mean, sd, digits = 2) round(stats::rnorm(length(mean), mean, sd), digits)

  # A plate reader: title lines, a row of units.
  wells <- expand.grid(minute = seq(0, 600, 30), well = paste0(rep(c("A", "B"), each = 4), 1:4))
  growth <- 0.05 + 1.2 / (1 + exp(-(wells$minute - 300) / 60))
  put(
    "plate-reader.csv",
    c(
      "Reader Kern 4, protocol Starters,,,",
      "Read 2025-11-03 14:02,,,",
      "Well,Time,OD600,Temperature",
      ",min,,\u00b0C",
      paste(
        wells$well,
        wells$minute,
        rounded(growth, 0.02, 3),
        rounded(growth * 0 + 30, 0.1, 1),
        sep = ","
      )
    )
  )
  # A European instrument: semicolons, decimal commas, Latin-1, dates by points.
  comma <- function(x) sub(".", ",", format(x, trim = TRUE), fixed = TRUE)
  days <- format(as.Date("2025-10-13") + 0:29, "%d.%m.%Y")
  put(
    "m\u00fchle.csv",
    c(
      "Datum;Feuchte (%);Z\u00e4higkeit (mPa s);Sorte",
      paste(
        days,
        comma(rounded(rep(14, 30), 0.4)),
        comma(rounded(rep(620, 30), 30, 1)),
        "Wei\u00dfmehl",
        sep = ";"
      )
    ),
    encoding = "latin1"
  )
  # Replicates in columns.
  base <- c(52, 47, 38, 31, 44)
  wide <- data.frame(
    flour = c("wheat", "spelt", "rye", "emmer", "blend"),
    Rep1 = rounded(base, 2, 1),
    Rep2 = rounded(base, 2, 1),
    Rep3 = rounded(base, 2, 1)
  )
  table("replicates.csv", wide)
  # A logger: -9999, a spike of a failed probe, a gap.
  time <- as.POSIXct("2025-11-03 06:00:00", tz = "UTC") + 600 * c(0:70, 95:160)
  core <- round(24 + 3 * sin(seq_along(time) / 20) + stats::rnorm(length(time), 0, 0.2), 1)
  core[41] <- 85
  humidity <- round(71 + stats::rnorm(length(time), 0, 1), 1)
  humidity[c(12, 13, 90)] <- -9999
  table(
    "logger.csv",
    data.frame(time = format(time, "%Y-%m-%d %H:%M:%S"), core_C = core, humidity_pct = humidity)
  )
  # Numeric codes, with a table of what they mean.
  coded <- data.frame(
    loaf_id = 101:148,
    oven = rep(1:3, 16),
    flour = rep(1:4, each = 12),
    rise_mm = rounded(rep(c(60, 55, 48, 40), each = 12), 4, 1)
  )
  table("coded.csv", coded)
  table(
    "coded-codes.csv",
    data.frame(
      column = c(rep("oven", 3), rep("flour", 4)),
      code = c(1:3, 1:4),
      meaning = c("deck", "rack", "stone", "wheat", "spelt", "rye", "emmer")
    )
  )
  # Names that a spreadsheet made dates.
  genes <- c(
    "1-Mar", "2-Sep", "malP", "mapA", "lamB", "adhE", "pflB", "ldhD", "ackA", "pta", "gltA", "acnA",
    "icd"
  )
  table(
    "expression.csv",
    data.frame(gene = genes, wheat = rounded(rep(5, 13), 2), rye = rounded(rep(6, 13), 2))
  )
  # 300 measures of 24 samples.
  measures <- matrix(rounded(rep(10, 24 * 300), 2), 24)
  colnames(measures) <- paste0("peak_", sprintf("%.2f", seq(50, 349, length.out = 300)))
  table("peaks.csv", data.frame(sample = sprintf("S%02d", 1:24), measures, check.names = FALSE))
  # An empty and a repeated column.
  ph <- rounded(rep(4.1, 24), 0.2)
  put(
    "twice.csv",
    c("flour,pH,notes,pH", paste(rep(flours, 8), ph, "", ph, sep = ","))
  )
  # Paired, before and after.
  before <- rounded(rep(6, 14), 1, 1)
  table(
    "paired.csv",
    data.frame(
      taster = sprintf("T%02d", 1:14),
      before = before,
      after = before + rounded(rep(0.8, 14), 0.6, 1)
    )
  )
  # Times until an event.
  table(
    "keeping.csv",
    data.frame(
      loaf = sprintf("K%02d", 1:40),
      flour = rep(c("wheat", "rye"), 20),
      time_days = round(stats::rweibull(40, 2, rep(c(5, 8), 20)), 1),
      event = stats::rbinom(40, 1, 0.75)
    )
  )
  # A factorial design.
  design <- expand.grid(
    replicate = 1:5,
    salt = c("low", "high"),
    starter = c("young", "old"),
    flour = flours
  )
  design$volume_mL <- rounded(rep(720, nrow(design)), 40, 0)
  table("factorial.csv", design[c("flour", "starter", "salt", "replicate", "volume_mL")])
  # A calibration series.
  conc <- rep(c(0, 5, 10, 20, 40, 80), each = 3)
  table(
    "calibration.csv",
    data.frame(
      Conc_uM = conc,
      `Peak area (mV s)` = rounded(2 + 1.3 * conc, 1.5),
      check.names = FALSE
    )
  )
  # Counts by species and site.
  counts <- expand.grid(
    species = c(
      "L. brevis", "L. plantarum", "S. exiguus", "C. humilis", "P. acidilactici", "W. cibaria"
    ),
    bakery = c("North", "Harbour", "Mill", "Hill")
  )
  counts$count <- stats::rpois(nrow(counts), 20)
  table("species.csv", counts)
  # A time course of subjects.
  course <- expand.grid(day = c(0, 1, 2, 4, 7, 14), jar = sprintf("J%02d", 1:12))
  course$feeding <- rep(c("daily", "weekly"), each = 36)
  course$acidity <- rounded(3 + 0.2 * course$day, 0.4)
  table("jars.csv", course[c("jar", "feeding", "day", "acidity")])
  # Coordinates.
  table(
    "mills.csv",
    data.frame(
      lon = rounded(rep(10.4, 30), 0.8, 4),
      lat = rounded(rep(63.4, 30), 0.3, 4),
      `Ash, %` = rounded(rep(0.6, 30), 0.1),
      check.names = FALSE
    )
  )
  # Answers from 1 to 5.
  answer <- function() sample(1:5, 60, TRUE)
  table(
    "answers.csv",
    data.frame(
      respondent = 1:60,
      crust = answer(),
      crumb = answer(),
      aroma = answer(),
      again = answer()
    )
  )
  # A pivot with totals.
  sold <- matrix(c(120, 80, 60, 95, 70, 44, 130, 90, 52, 88, 61, 40), 4, byrow = TRUE)
  pivot <- data.frame(
    month = c("May", "June", "July", "August"),
    wheat = sold[, 1],
    spelt = sold[, 2],
    rye = sold[, 3]
  )
  pivot$Total <- rowSums(sold)
  table("pivot.csv", rbind(pivot, data.frame(month = "Total", t(colSums(pivot[-1])))))
  # A workbook of two sheets, with dates.
  bakes <- data.frame(
    Date = as.Date("2025-11-03") + rep(0:9, each = 3),
    Flour = rep(flours, 10),
    `Loaf mass [g]` = rounded(rep(c(820, 800, 780), 10), 15, 0),
    check.names = FALSE
  )
  notes <- data.frame(Note = c("Oven 2 was serviced on day 4", "Rye of a new mill"))
  writexl::write_xlsx(list(Notes = notes, Bakes = bakes), file.path(folder, "bakes.xlsx"))
  list("m\u00fchle.csv" = list(encoding = "latin1"), "bakes.xlsx" = list(sheet = "Bakes"))
}
