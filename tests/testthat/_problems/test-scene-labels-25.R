# Extracted from test-scene-labels.R:25

# prequel ----------------------------------------------------------------------
loaves <- study("loaves")
scene_of <- function(...) suppressWarnings(as_scene(plate(...)))

# test -------------------------------------------------------------------------
font <- nelvat:::house_font("Liberation Sans")
fit <- function(texts, mm) {
    unit <- (seq_along(texts) - 0.5) / length(texts)
    found <- nelvat:::fit_tick_text("x", unit * mm, mm, lapply(texts, nelvat:::measure_words, font), FALSE, 1L, list(base = 7, least = 5.5), font)
    nelvat:::tick_treatments[found$treatment]
  }
expect_identical(fit(c("Wheat", "Spelt", "Rye", "Stone-ground emmer and einkorn blend"), 30), "smaller")
