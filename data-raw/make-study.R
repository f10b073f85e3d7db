# Writes the invented sourdough study to inst/study/. Run from the package root:
#   Rscript data-raw/make-study.R
# Nothing in it was measured: no bakery, loaf or culture here exists.

set.seed(20260412, kind = "Mersenne-Twister", normal.kind = "Inversion", sample.kind = "Rejection")
folder <- file.path("inst", "study")
dir.create(folder, recursive = TRUE, showWarnings = FALSE)

write_table <- function(table, name, gzip = FALSE) {
  path <- file.path(folder, paste0(name, ".csv", if (gzip) ".gz"))
  # A gzip header made by R holds no time stamp, so the bytes are the same each time.
  connection <- if (gzip) gzfile(path, "wb", compression = 9) else file(path, "wb")
  on.exit(close(connection))
  utils::write.csv(table, connection, row.names = FALSE, quote = FALSE, na = "")
}

# rows: what one of them is.
write_book <- function(name, fields, title, rows = NULL) {
  yaml::write_yaml(
    c(
      list(name = name),
      if (!is.null(rows)) list(rows = rows),
      list(
        title = title,
        description = "Invented data; nothing here was measured.",
        missingValues = list(""),
        fields = fields
      )
    ),
    file.path(folder, paste0(name, ".codebook.yaml")),
    indent.mapping.sequence = TRUE,
    handlers = list(logical = yaml::verbatim_logical)
  )
}

levels_of <- function(...) {
  names <- c(...)
  Map(
    function(value, label) list(value = value, label = label),
    names(names),
    unname(names),
    USE.NAMES = FALSE
  )
}
numbers_of <- function(...) lapply(c(...), function(value) value)

# loaves: flour x hydration, six responses ------------------------------------------
flours <- c("wheat", "spelt", "rye", "emmer")
loaves <- expand.grid(
  repeat_no = 1:12,
  hydration = c(60, 80, 100),
  flour = flours,
  stringsAsFactors = FALSE
)
n <- nrow(loaves)
flour_at <- match(loaves$flour, flours)
water <- (loaves$hydration - 80) / 20
loaves$bakery <- c("harbour", "mill", "station")[(loaves$repeat_no - 1) %% 3 + 1]
bakery_at <- match(loaves$bakery, c("harbour", "mill", "station"))
skill <- c(0.4, 0, -0.5)[bakery_at]
loaves$baked <- format(as.Date("2026-02-02") + (loaves$repeat_no - 1) * 3 + sample(0:2, n, TRUE))
loaves$starter_age <- round(stats::rgamma(n, 4, 0.5) + 2)
loaves$rise <- c(74, 58, 34, 49)[flour_at] + c(4, 6, 2, -5)[flour_at] * water + 3 * skill + rnorm(
  n,
  0,
  4.2
)
loaves$volume <- 260 + 9.1 * loaves$rise + 22 * water + rnorm(n, 0, 46)
loaves$ph <- c(4.35, 4.2, 3.8, 4.05)[flour_at] - 0.13 * water + rnorm(n, 0, 0.11)
loaves$acidity <- 7.2 + 9 * (4.6 - loaves$ph) + rnorm(n, 0, 0.8)
loaves$firmness <- 10.5 - 0.085 * loaves$rise - 0.9 * water + rnorm(n, 0, 0.55) +
  0.5 * (bakery_at == 3)
loaves$moisture <- 38.5 + 3.1 * water + c(0, 1.2, 5.4, 2.2)[flour_at] + rnorm(n, 0, 1.1)
loaves$verdict <- as.integer(
  stats::runif(n) < stats::plogis(0.09 * (loaves$rise - 46) - 0.5 * (loaves$firmness - 6.4))
)
loaves$grade <- as.integer(cut(loaves$rise + rnorm(n, 0, 6), c(-Inf, 42, 60, Inf)))
outlier <- c(17, 61, 118)
loaves$rise[outlier] <- loaves$rise[outlier] + c(-24, 19, 26)
loaves$firmness[outlier[2]] <- 13.8
for (column in c("rise", "volume", "firmness", "moisture")) {
  loaves[[column]] <- round(loaves[[column]], 1)
}
for (column in c("ph", "acidity")) loaves[[column]] <- round(loaves[[column]], 2)
loaves$acidity[sample(n, 5)] <- NA
loaves$firmness[sample(n, 4)] <- NA
loaves$bakery[sample(n, 3)] <- NA
loaves <- loaves[sample(n), ]
loaves <- data.frame(
  loaf = sprintf("L%03d", seq_len(n)),
  loaves[
    c(
      "bakery", "baked", "flour", "hydration", "starter_age", "rise", "volume", "ph",
      "acidity", "firmness", "moisture", "verdict", "grade"
    )
  ]
)
write_table(loaves, "loaves")
write_book(
  "loaves",
  title = "Loaves of a sourdough trial",
  rows = "loaf",
  list(
    list(name = "loaf", type = "string", title = "Loaf"),
    list(
      name = "bakery",
      type = "string",
      title = "Bakery",
      categories = levels_of(harbour = "Harbour", mill = "Old Mill", station = "Station")
    ),
    list(name = "baked", type = "date", title = "Baked"),
    list(
      name = "flour",
      type = "string",
      title = "Flour",
      categories = levels_of(
        wheat = "Wheat",
        spelt = "Spelt",
        rye = "Rye",
        emmer = "Stone-ground emmer and einkorn blend"
      )
    ),
    list(
      name = "hydration",
      type = "integer",
      title = "Starter hydration",
      unit = "%",
      categories = numbers_of(60L, 80L, 100L),
      categoriesOrdered = TRUE
    ),
    list(name = "starter_age", type = "integer", title = "Starter age", unit = "d"),
    list(name = "rise", type = "number", title = "Loaf rise", unit = "mm"),
    list(name = "volume", type = "number", title = "Volume", unit = "mL"),
    list(name = "ph", type = "number", title = "Crumb pH"),
    list(name = "acidity", type = "number", title = "Acidity", unit = "mmol/g"),
    list(name = "firmness", type = "number", title = "Firmness", unit = "N"),
    list(name = "moisture", type = "number", title = "Moisture", unit = "%"),
    list(
      name = "verdict",
      type = "integer",
      title = "Baker's verdict",
      categories = list(list(value = 0L, label = "rejected"), list(value = 1L, label = "sold"))
    ),
    list(
      name = "grade",
      type = "integer",
      title = "Crumb grade",
      categoriesOrdered = TRUE,
      categories = list(
        list(value = 1L, label = "dense"),
        list(value = 2L, label = "even"),
        list(value = 3L, label = "open")
      )
    )
  )
)

# probe: four channels every 20 s for three days -------------------------------------
steps <- 3 * 24 * 60 * 3
seconds <- (seq_len(steps) - 1) * 20
day <- seconds / 86400
chamber <- 26 + 2.2 * sin(2 * pi * (day - 0.3)) + as.numeric(
  stats::filter(rnorm(steps, 0, 0.02), 0.995, "recursive")
)
feed <- seconds / 3600 - c(2, 26, 50)[findInterval(seconds / 3600, c(-1, 24, 48))]
vigour <- ifelse(feed < 0, 0, (feed / 7) * exp(1 - feed / 7))
core <- chamber + 3.4 * vigour + rnorm(steps, 0, 0.05)
surface <- chamber + 1.5 * vigour + rnorm(steps, 0, 0.12)
gas <- 0.6 + 9.5 * vigour + as.numeric(stats::filter(rnorm(steps, 0, 0.03), 0.98, "recursive"))
probe <- data.frame(
  time = format(as.POSIXct("2026-03-02", tz = "UTC") + seconds, "%Y-%m-%dT%H:%M:%SZ"),
  chamber = chamber,
  surface = surface,
  core = core,
  gas = pmax(gas, 0)
)
spike <- sample(steps, 70)
probe$core[spike[1:30]] <- probe$core[spike[1:30]] + sample(c(-9, 12), 30, TRUE)
probe$surface[spike[31:70]] <- probe$surface[spike[31:70]] + stats::rexp(40, 0.15)
for (start in c(1900, 6400, 10100)) probe$core[start + 0:240] <- NA
probe$gas[8200 + 0:620] <- NA
probe$surface[sample(steps, 90)] <- NA
for (column in c("chamber", "surface", "core", "gas")) probe[[column]] <- round(probe[[column]], 2)
write_table(probe, "probe", gzip = TRUE)
write_book(
  "probe",
  title = "A dough probe over three days",
  list(
    list(name = "time", type = "datetime", title = "Time"),
    list(name = "chamber", type = "number", title = "Chamber", unit = "\u00b0C"),
    list(name = "surface", type = "number", title = "Dough surface", unit = "\u00b0C"),
    list(name = "core", type = "number", title = "Dough core", unit = "\u00b0C"),
    list(name = "gas", type = "number", title = "Carbon dioxide", unit = "%")
  )
)

# pores: 60,000 crumb pores -----------------------------------------------------------
n <- 60000
flour <- sample(flours, n, TRUE, c(0.34, 0.28, 0.16, 0.22))
flour_at <- match(flour, flours)
depth <- stats::rbeta(n, 1.6, 1.4) * 92
area <- stats::rlnorm(
  n,
  log(c(3.1, 2.2, 0.8, 1.5)[flour_at]) + 0.004 * (depth - 46),
  c(1.15, 1.0, 0.75, 0.95)[flour_at]
)
roundness <- stats::plogis(0.35 - 0.42 * log(area) + rnorm(n, 0, 0.65) + 0.2 * (flour_at == 3))
roundness[area > 60] <- roundness[area > 60] * 0.8
elongation <- 1 + stats::rgamma(n, 2.2, 5) * (1.6 - roundness)
pores <- data.frame(
  flour = flour,
  depth = round(depth, 1),
  area = signif(area, 3),
  roundness = round(roundness, 3),
  elongation = round(elongation, 2)
)
write_table(pores, "pores", gzip = TRUE)
write_book(
  "pores",
  title = "Crumb pores of sixteen slices",
  list(
    list(
      name = "flour",
      type = "string",
      title = "Flour",
      categories = levels_of(
        wheat = "Wheat",
        spelt = "Spelt",
        rye = "Rye",
        emmer = "Stone-ground emmer and einkorn blend"
      )
    ),
    list(name = "depth", type = "number", title = "Depth below crust", unit = "mm"),
    list(name = "area", type = "number", title = "Pore area", unit = "mm^2^"),
    list(name = "roundness", type = "number", title = "Roundness"),
    list(name = "elongation", type = "number", title = "Elongation")
  )
)

# slice: a triangle mesh of a cut loaf ---------------------------------------------------
rings <- 18
node <- data.frame(ring = 0, turn = 0)
for (ring in seq_len(rings)) {
  node <- rbind(node, data.frame(ring = ring, turn = (seq_len(6 * ring) - 1) / (6 * ring)))
}
angle <- 2 * pi * node$turn
radius <- node$ring / rings
node$x <- 55 + 52 * radius * cos(angle) * (1 + 0.08 * pmax(0, sin(angle)))
node$y <- 30 + ifelse(sin(angle) > 0, 48, 28) * radius * sin(angle) * (1 - 0.12 * cos(2 * angle))
node$moisture <- 45 - 21 * radius^3.2 + 2.2 * sin(node$x / 7) * cos(node$y / 6) * (1 - radius) +
  rnorm(
    nrow(node),
    0,
    0.25
  )
first <- function(ring) if (ring == 0) 1 else 2 + 3 * ring * (ring - 1)
corners <- list()
for (ring in seq_len(rings)) {
  for (side in 0:5) {
    for (step in seq_len(ring)) {
      outer <- first(ring) + (side * ring + step - 1 + 0:1) %% (6 * ring)
      inner <- first(ring - 1) + if (ring == 1) {
        c(0, 0)
      } else {
        (side * (ring - 1) + step - 1 + c(0, -1)) %% (6 * (ring - 1))
      }
      corners[[length(corners) + 1]] <- c(outer[1], outer[2], inner[1])
      if (step > 1) corners[[length(corners) + 1]] <- c(outer[1], inner[1], inner[2])
    }
  }
}
corners <- do.call(rbind, corners)
slice <- data.frame(triangle = rep(seq_len(nrow(corners)), each = 3), node = as.vector(t(corners)))
slice <- data.frame(
  slice,
  round(node[slice$node, c("x", "y")], 2),
  moisture = round(node$moisture[slice$node], 2)
)
write_table(slice, "slice")
write_book(
  "slice",
  title = "A cut loaf as a triangle mesh, three rows a triangle",
  list(
    list(name = "triangle", type = "integer", title = "Triangle"),
    list(name = "node", type = "integer", title = "Node"),
    list(name = "x", type = "number", title = "Across the slice", unit = "mm"),
    list(name = "y", type = "number", title = "Height", unit = "mm"),
    list(name = "moisture", type = "number", title = "Moisture", unit = "%")
  )
)

# cultures: counts by hour for microbes with long names -----------------------------------
microbe <- c(
  fsan = "*Fructilactobacillus sanfranciscensis*", lplan = "*Lactiplantibacillus plantarum*",
  lbrev = "*Levilactobacillus brevis*", lreut = "*Limosilactobacillus reuteri*",
  cmill = "*Candida milleri*", khum = "*Kazachstania humilis*", scer = "*Saccharomyces cerevisiae*",
  aceto = "*Acetobacter* (all species together)"
)
hours <- c(0, 2, 4, 6, 8, 9, 10, 12, 16, 20, 24)
cultures <- expand.grid(
  hour = hours,
  dish = 1:5,
  microbe = names(microbe),
  stringsAsFactors = FALSE
)
at <- match(cultures$microbe, names(microbe))
top <- c(9.1, 8.2, 7.6, 7.1, 6.6, 7.3, 6.9, 5.6)[at]
start <- c(6.1, 5.2, 5.4, 4.6, 5.3, 5.6, 4.9, 4.2)[at]
rate <- c(0.55, 0.5, 0.42, 0.4, 0.3, 0.45, 0.6, 0.2)[at]
middle <- c(6, 8, 9, 10, 8, 7, 6, 12)[at]
log_count <- start + (top - start) / (1 + exp(-rate * (cultures$hour - middle))) + rnorm(
  nrow(cultures),
  0,
  0.14
)
cultures$count <- signif(10^log_count, 3)
cultures$count[sample(nrow(cultures), 9)] <- NA
cultures$count[sample(nrow(cultures), 4)] <- 0
cultures <- cultures[sample(nrow(cultures)), c("microbe", "hour", "dish", "count")]
write_table(cultures, "cultures")
write_book(
  "cultures",
  title = "Colony counts of microbes in a fed starter",
  list(
    list(
      name = "microbe",
      type = "string",
      title = "Microbe",
      categories = do.call(levels_of, as.list(microbe))
    ),
    list(name = "hour", type = "number", title = "Time since feeding", unit = "h"),
    list(
      name = "dish",
      type = "integer",
      title = "Dish",
      categories = numbers_of(1L, 2L, 3L, 4L, 5L)
    ),
    list(name = "count", type = "number", title = "Colonies", unit = "CFU/g")
  )
)

# Made-up micrographs of crumb: pores as dark ellipses in a light ground, one pixel being 0.05 mm.
# light: of the ground; pores: how many; wider: their size, as a share.
crumb_image <- function(wide, high, pores, light = 0.82, wider = 1) {
  crumb <- matrix(light, high, wide) + sample(c(-0.02, 0, 0.02), high * wide, TRUE)
  row <- matrix(seq_len(high), high, wide)
  column <- matrix(seq_len(wide), high, wide, byrow = TRUE)
  for (pore in seq_len(pores)) {
    centre <- c(runif(1, 0, wide), runif(1, 0, high))
    radius <- 2 * wider * exp(rnorm(1, 1.9, 0.6)) * c(1, runif(1, 0.6, 1))
    turn <- runif(1, 0, pi)
    along <- (column - centre[1]) * cos(turn) + (row - centre[2]) * sin(turn)
    aside <- (row - centre[2]) * cos(turn) - (column - centre[1]) * sin(turn)
    inside <- (along / radius[1])^2 + (aside / radius[2])^2
    crumb <- ifelse(inside < 1, 0.3 + 0.25 * inside, crumb)
  }
  round(pmin(pmax(crumb, 0), 1) * 50) / 50
}
set.seed(2031)
png::writePNG(crumb_image(640, 480, 110), file.path(folder, "crumb.png"))

# The project to copy has its own tables beside its figure files.
copied <- c(
  "loaves.csv",
  "cultures.csv",
  "probe.csv.gz",
  paste0(c("loaves", "cultures", "probe"), ".codebook.yaml")
)
invisible(file.copy(file.path(folder, copied), file.path("inst", "paper"), overwrite = TRUE))

# Trials of an old against a new starter: ratios of the loaves' rise, and the pooled one
# -----------------
trials <- data.frame(
  bakery = c("North Quay", "South Gate", "Harbour", "Mill Lane", "Stone Bridge", "Upper Town"),
  loaves = c(40, 52, 31, 12, 18, 64)
)
error <- 1.1 / sqrt(trials$loaves)
effect <- rnorm(6, 0.14, 0.06) + rnorm(6, 0, error)
pooled <- sum(effect / error^2) / sum(1 / error^2)
trials <- rbind(trials, data.frame(bakery = "All bakeries", loaves = sum(trials$loaves)))
effect <- c(effect, pooled)
error <- c(error, 1 / sqrt(sum(1 / error^2)))
trials$ratio <- round(exp(effect), 3)
trials$lower <- round(exp(effect - 1.96 * error), 3)
trials$upper <- round(exp(effect + 1.96 * error), 3)
write_table(trials, "trials")
write_book(
  "trials",
  list(
    list(name = "bakery", type = "string", title = "Bakery", categories = as.list(trials$bakery)),
    list(name = "loaves", type = "integer", title = "Loaves", count = TRUE),
    list(name = "ratio", type = "number", title = "Ratio of rise, new to old starter"),
    list(name = "lower", type = "number", title = "Lower end"),
    list(name = "upper", type = "number", title = "Upper end")
  ),
  "Trials of a new starter in six bakeries"
)

# Growth of mould on crumb with acids, four slices a dose
# ------------------------------------------------------
doses <- expand.grid(
  slice = 1:4,
  dose = c(0, 0.3, 1, 3, 10, 30, 100, 300),
  acid = c("acetic", "lactic")
)
half <- c(acetic = 8, lactic = 45)[as.character(doses$acid)]
doses$growth <- pmax(0, round(2 + 98 / (1 + (doses$dose / half)^1.4) + rnorm(nrow(doses), 0, 5), 1))
write_table(doses[c("acid", "dose", "slice", "growth")], "doses")
write_book(
  "doses",
  list(
    list(
      name = "acid",
      type = "string",
      title = "Acid",
      categories = list(
        list(value = "acetic", label = "Acetic"),
        list(value = "lactic", label = "Lactic")
      )
    ),
    list(name = "dose", type = "number", title = "Dose", unit = "mmol/kg"),
    list(name = "slice", type = "integer", title = "Slice", categories = as.list(1:4)),
    list(name = "growth", type = "number", title = "Mould growth", unit = "%")
  ),
  "Mould growth on crumb with two acids"
)

# Sixteen tasters on three days; the pH of their slice by meter and by paper
# ------------------------------------
tasting <- expand.grid(taster = 1:16, day = c(1, 3, 5))
palate <- rnorm(16, 0, 9)
tasting$liking <- round(
  pmin(100, 58 + palate[tasting$taster] + c(0, 6, 3)[(tasting$day + 1) / 2] + rnorm(48, 0, 5))
)
tasting$ph_meter <- round(rnorm(48, 4.3, 0.25), 2)
tasting$ph_paper <- round(tasting$ph_meter + rnorm(48, 0.05, 0.09), 1)
tasting$sour <- ifelse(runif(48) < plogis((4.3 - tasting$ph_meter) * 7), "yes", "no")
tasting$liking[c(11, 30)] <- NA
write_table(tasting, "tasting")
write_book(
  "tasting",
  list(
    list(name = "taster", type = "integer", title = "Taster", categories = as.list(1:16)),
    list(
      name = "day",
      type = "integer",
      title = "Day after baking",
      categories = as.list(c(1, 3, 5)),
      categoriesOrdered = TRUE
    ),
    list(name = "liking", type = "number", title = "Liking"),
    list(name = "ph_meter", type = "number", title = "pH by meter"),
    list(name = "ph_paper", type = "number", title = "pH by paper"),
    list(
      name = "sour",
      type = "string",
      title = "Called sour",
      categories = list(list(value = "yes", label = "Yes"), list(value = "no", label = "No"))
    )
  ),
  "Slices tasted on three days"
)

# keeping: loaves watched until they are stale ----------------------------------------
# A seed of its own, so that the tables above stay as they are.
set.seed(20260212)
keeping <- data.frame(
  loaf = sprintf("K%02d", 1:72),
  flour = rep(flours[1:3], each = 24),
  days = NA_real_,
  stale = NA_integer_
)
until <- stats::rweibull(72, 2.4, rep(c(5.5, 7, 9.5), each = 24))
watched <- runif(72, 4, 14)
keeping$days <- round(pmin(until, watched), 1)
keeping$stale <- as.integer(until <= watched)
write_table(keeping, "keeping")
write_book(
  "keeping",
  rows = "loaf",
  list(
    list(name = "loaf", type = "string", title = "Loaf"),
    list(
      name = "flour",
      type = "string",
      title = "Flour",
      categories = levels_of(wheat = "Wheat", spelt = "Spelt", rye = "Rye")
    ),
    list(name = "days", type = "number", title = "Days kept", unit = "d"),
    list(name = "stale", type = "integer", title = "Found stale")
  ),
  "Loaves kept until they were stale, or the shelf was needed"
)

# strains: growth of microbes on media ------------------------------------------------
set.seed(20260601)
media <- c("rye", "wheat", "spelt", "whey", "malt", "honey", "apple", "brine", "acid", "dry")
groups <- list(
  lactic = c(8, 7, 7, 9, 6, 3, 4, 6, 8, 2),
  yeast = c(6, 7, 7, 4, 9, 9, 8, 2, 3, 4),
  acetic = c(3, 3, 3, 4, 5, 7, 9, 1, 9, 1)
)
of_group <- rep(names(groups), c(11, 8, 5))
strain <- paste0(c(lactic = "L", yeast = "Y", acetic = "A")[of_group], sprintf("%02d", 1:24))
origin <- sample(c("Harbour", "Mill", "Station"), 24, replace = TRUE)
lean <- sapply(c(Harbour = 0, Mill = 1, Station = 2), function(k) rnorm(10, 0, 0.7))
strains <- expand.grid(medium = media, strain = sample(strain), stringsAsFactors = FALSE)
strain_at <- match(strains$strain, strain)
medium_at <- match(strains$medium, media)
strains$kind <- of_group[strain_at]
strains$origin <- origin[strain_at]
strains$growth <- round(
  pmax(
    0,
    mapply(function(group, k) groups[[group]][k], strains$kind, medium_at) / 10 +
      lean[cbind(medium_at, match(strains$origin, colnames(lean)))] / 10 + rnorm(240, 0, 0.08)
  ),
  2
)
strains$growth[c(37, 118)] <- NA
write_table(strains[c("strain", "kind", "origin", "medium", "growth")], "strains")
write_book(
  "strains",
  rows = "culture",
  list(
    list(name = "strain", type = "string", title = "Strain"),
    list(
      name = "kind",
      type = "string",
      title = "Kind",
      categories = levels_of(
        lactic = "Lactic bacteria",
        yeast = "Yeasts",
        acetic = "Acetic bacteria"
      )
    ),
    list(name = "origin", type = "string", title = "Origin"),
    list(
      name = "medium",
      type = "string",
      title = "Medium",
      categories = levels_of(
        rye = "Rye",
        wheat = "Wheat",
        spelt = "Spelt",
        whey = "Whey",
        malt = "Malt",
        honey = "Honey",
        apple = "Apple",
        brine = "Brine",
        acid = "Acid",
        dry = "Dry crust"
      )
    ),
    list(name = "growth", type = "number", title = "Growth rate", unit = "1/h")
  ),
  "Growth of strains from three bakeries on ten media"
)

# stages: what was done to the dough while the probe was in it --------------------------
stage_time <- function(hours) {
  format(as.POSIXct("2026-03-02", tz = "UTC") + hours * 3600, "%Y-%m-%dT%H:%M:%SZ", tz = "UTC")
}
write_table(
  data.frame(
    name = c("Feeding", "Rest", "Folding", "Rest", "Proof", "Cold"),
    from = stage_time(c(0, 12, 24, 34, 44, 56)),
    to = stage_time(c(12, 24, 34, 44, 56, 72))
  ),
  "stages"
)
write_book(
  "stages",
  rows = "stage",
  list(
    list(name = "name", type = "string", title = "Stage"),
    list(name = "from", type = "datetime", title = "Begin"),
    list(name = "to", type = "datetime", title = "End")
  ),
  "Stages of the dough that the probe was in"
)

# aromas: what differs between rye and wheat loaves -------------------------------------
set.seed(20260602)
aromas <- data.frame(
  compound = c(
    paste0("C", sprintf("%03d", 1:288)),
    "maltol",
    "diacetyl",
    "vanillin",
    "furfural",
    "acetoin",
    "hexanal",
    "limonene",
    "guaiacol",
    "nonanal",
    "pyrazine",
    "indole",
    "skatole"
  ),
  change = round(c(rnorm(288, 0, 0.6), rnorm(6, 2.4, 0.5), rnorm(6, -2.2, 0.5)), 3)
)
error <- runif(300, 0.25, 0.6)
aromas$p <- signif(2 * pnorm(-abs(aromas$change) / error), 3)
aromas$class <- ifelse(
  aromas$p < 0.001 & abs(aromas$change) > 1,
  ifelse(aromas$change > 0, "more", "less"),
  "alike"
)
aromas <- aromas[sample(300), ]
write_table(aromas, "aromas")
write_book(
  "aromas",
  rows = "compound",
  list(
    list(name = "compound", type = "string", title = "Compound"),
    list(name = "change", type = "number", title = "Change, log~2~ of rye over wheat"),
    list(name = "p", type = "number", title = "p"),
    list(
      name = "class",
      type = "string",
      title = "In rye",
      categories = levels_of(less = "Less", alike = "Alike", more = "More"),
      colours = list(less = "#2F6F9F", alike = "#A5ACB3", more = "#B5523B")
    )
  ),
  "Aromas of rye and wheat loaves"
)

# starters: how each took to a new flour, and when it was what ---------------------------
set.seed(20260603)
starters <- data.frame(starter = sprintf("S%02d", 1:22), fed = rep(c("daily", "weekly"), 11))
starters$change <- round(rnorm(22, ifelse(starters$fed == "daily", 12, -12), 26), 1)
starters$answer <- ifelse(
  starters$change > 20,
  "gain",
  ifelse(starters$change < -20, "loss", "none")
)
starters$from <- 0
starters$to <- round(runif(22, 8, 40))
starters$doubled <- ifelse(starters$answer == "gain", round(starters$to * runif(22, 0.2, 0.7)), NA)
starters$collapsed <- ifelse(starters$answer == "loss", starters$to, NA)
write_table(starters, "starters")
write_book(
  "starters",
  rows = "starter",
  list(
    list(name = "starter", type = "string", title = "Starter"),
    list(
      name = "fed",
      type = "string",
      title = "Fed",
      categories = levels_of(daily = "Daily", weekly = "Weekly")
    ),
    list(name = "change", type = "number", title = "Best change of rise", unit = "%"),
    list(
      name = "answer",
      type = "string",
      title = "Answer",
      categories = levels_of(gain = "Gain", none = "None", loss = "Loss")
    ),
    list(name = "from", type = "number", title = "First week", unit = "d"),
    list(name = "to", type = "number", title = "Time kept", unit = "d"),
    list(name = "doubled", type = "number", title = "Doubled", unit = "d"),
    list(name = "collapsed", type = "number", title = "Collapsed", unit = "d")
  ),
  "Starters moved to a new flour"
)

# crumb: a slice pressed and let go, three times ------------------------------------------
strain_at <- c(seq(0, 20, 1), seq(20, 6, -1), seq(6, 32, 1), seq(32, 12, -1), seq(12, 45, 1))
up <- c(TRUE, diff(strain_at) >= 0)
top <- cummax(strain_at)
stress <- 0.012 * top^1.6 + 0.1 * top
down <- pmax(0, stress * ((strain_at - 0.45 * top) / (0.55 * top + 1e-9))^1.3)
down[is.nan(down)] <- 0
crumb <- data.frame(
  step = seq_along(strain_at),
  strain = strain_at,
  stress = round(ifelse(strain_at >= top, stress, down), 3)
)
write_table(crumb, "crumb")
write_book(
  "crumb",
  rows = "step",
  list(
    list(name = "step", type = "integer", title = "Step"),
    list(name = "strain", type = "number", title = "Strain", unit = "%"),
    list(name = "stress", type = "number", title = "Stress", unit = "kPa")
  ),
  "A slice pressed and let go"
)

# oven: temperature over the floor of an oven ------------------------------------------
oven <- expand.grid(x = seq(0, 120, 5), y = seq(0, 80, 5))
oven$temperature <- round(
  230 + 25 * exp(-((oven$x - 30)^2 + (oven$y - 55)^2) / 900) -
    30 * exp(-((oven$x - 95)^2 + (oven$y - 20)^2) / 1600) + 0.05 * oven$y,
  1
)
write_table(oven, "oven")
write_book(
  "oven",
  rows = "place",
  list(
    list(name = "x", type = "number", title = "Across the oven", unit = "cm"),
    list(name = "y", type = "number", title = "Into the oven", unit = "cm"),
    list(name = "temperature", type = "number", title = "Temperature", unit = "\u00b0C")
  ),
  "Temperature of an oven's floor"
)

# scores, loadings: the first two components of six measures of loaves --------------------
measures <- c("rise", "volume", "ph", "acidity", "firmness", "moisture")
complete <- stats::complete.cases(loaves[measures])
parts <- stats::prcomp(loaves[complete, measures], scale. = TRUE)
share <- round(100 * parts$sdev^2 / sum(parts$sdev^2))
write_table(
  data.frame(
    loaf = loaves$loaf[complete],
    flour = loaves$flour[complete],
    first = round(parts$x[, 1], 3),
    second = round(parts$x[, 2], 3)
  ),
  "scores"
)
write_book(
  "scores",
  rows = "loaf",
  list(
    list(name = "loaf", type = "string", title = "Loaf"),
    list(
      name = "flour",
      type = "string",
      title = "Flour",
      categories = levels_of(
        wheat = "Wheat",
        spelt = "Spelt",
        rye = "Rye",
        emmer = "Stone-ground emmer and einkorn blend"
      )
    ),
    list(name = "first", type = "number", title = paste0("First component (", share[1], " %)")),
    list(name = "second", type = "number", title = paste0("Second component (", share[2], " %)"))
  ),
  "Principal components of six measures of loaves"
)
write_table(
  data.frame(
    name = c("Rise", "Volume", "pH", "Acidity", "Firmness", "Moisture"),
    x = round(parts$rotation[, 1], 4),
    y = round(parts$rotation[, 2], 4)
  ),
  "loadings"
)
write_book(
  "loadings",
  rows = "measure",
  list(
    list(name = "name", type = "string", title = "Measure"),
    list(name = "x", type = "number", title = "Loading on the first"),
    list(name = "y", type = "number", title = "Loading on the second")
  ),
  "What each measure adds to the components"
)

# terms: what a model of the rise of loaves estimates --------------------------------------
model <- stats::lm(rise ~ flour + hydration + verdict, loaves)
ends <- stats::confint(model)[-1, ]
write_table(
  data.frame(
    term = c(paste0("Flour: ", c("rye", "spelt", "wheat")), "Hydration", "Verdict"),
    estimate = round(stats::coef(model)[-1], 4),
    lower = round(ends[, 1], 4),
    upper = round(ends[, 2], 4)
  ),
  "terms"
)
write_book(
  "terms",
  rows = "term",
  list(
    list(name = "term", type = "string", title = "Term"),
    list(name = "estimate", type = "number", title = "Change of rise", unit = "mm"),
    list(name = "lower", type = "number", title = "Lower end of 95 % interval", unit = "mm"),
    list(name = "upper", type = "number", title = "Upper end of 95 % interval", unit = "mm")
  ),
  "Terms of a linear model of the rise of loaves, against emmer"
)

# Beside figure 6 of the paper.
of_figure_6 <- paste0(rep(c("strains", "stages", "keeping"), each = 2), c(".csv", ".codebook.yaml"))
invisible(file.copy(file.path(folder, of_figure_6), file.path("inst", "paper"), overwrite = TRUE))

# Four of them in rows: two flours, from the middle and the edge of the loaf.
set.seed(2042)
views <- data.frame(
  image = c("view-1.png", "view-2.png", "view-3.png", "view-4.png"),
  flour = rep(c("wheat", "rye"), each = 2),
  part = c("middle", "edge")
)
for (k in seq_len(nrow(views))) {
  image <- crumb_image(
    240,
    180,
    pores = c(40, 26, 60, 40)[k],
    light = 0.7,
    wider = c(1, 0.7, 0.6, 0.45)[k]
  )
  png::writePNG(image, file.path(folder, views$image[k]))
}
write_table(views, "views")
write_book(
  "views",
  list(
    list(name = "image", type = "string", title = "Image"),
    list(
      name = "flour",
      type = "string",
      title = "Flour",
      categories = levels_of(wheat = "Wheat", rye = "Rye")
    ),
    list(
      name = "part",
      type = "string",
      title = "Part of the loaf",
      categories = levels_of(middle = "Middle", edge = "Edge")
    )
  ),
  "Micrographs of crumb",
  rows = "view"
)
