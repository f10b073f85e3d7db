# Ramps of colours for quantities, computed in OKLCH: lightness falls evenly, so a ramp
# reads in grey too. Source of the space: Ottosson (2020), "A perceptual color space
# for image processing".

oklch_colours <- function(lightness, chroma, hue) {
  angle <- hue * pi / 180
  rgb <- farver::convert_colour(
    cbind(lightness, chroma * cos(angle), chroma * sin(angle)),
    "oklab",
    "rgb"
  )
  farver::encode_colour(pmin(pmax(round(rgb), 0), 255))
}

# From light to dark along one hue, turning a little as it darkens; chroma is greatest in the
# middle, and everywhere what a screen can show, so that no channel is cut and bends the ramp.
ramp_sequential <- function(n) {
  share <- seq(0, 1, length.out = n)
  oklch_colours(0.94 - 0.66 * share, 0.025 + 0.085 * sin(pi * share), 230 + 30 * share)
}

# Colours of an ordinal's levels: one ramp, dark to light, its hue turning from blue towards green;
# the more levels there are, the farther it reaches.
ordinal_colours <- function(n) {
  share <- if (n == 1) 0 else seq(0, 1, length.out = n)
  dark <- if (n <= 4) 0.34 else 0.29
  light <- if (n <= 3) 0.68 else min(0.72 + 0.04 * (n - 4) * 2, 0.87)
  oklch_colours(dark + (light - dark) * share, 0.11 - 0.02 * share, 275 - 70 * share)
}

# Light in the middle, to two dark ends of unlike hue, without a corner in lightness and chroma:
# away from the middle both go on as a parabola does first, then evenly.
ramp_diverging <- function(n) {
  share <- seq(-1, 1, length.out = n)
  round_off <- 0.15
  away <- (sqrt(share^2 + round_off^2) - round_off) / (sqrt(1 + round_off^2) - round_off)
  oklch_colours(0.95 - 0.53 * away, 0.115 * sin(pi / 2 * away), ifelse(share < 0, 250, 48))
}

# A house's own ramp goes through its colours evenly in OKLab. Each is worked out once.
house_ramp <- function(n, diverging, ramps = NULL) {
  ends <- if (diverging) ramps$diverging else ramps$sequential
  id <- paste(c(n, diverging, ends), collapse = " ")
  if (is.null(known_ramps[[id]])) known_ramps[[id]] <- new_ramp(n, diverging, ends)
  known_ramps[[id]]
}
known_ramps <- new.env(parent = emptyenv())

new_ramp <- function(n, diverging, own) {
  if (length(own) < 2) return(if (diverging) ramp_diverging(n) else ramp_sequential(n))
  lab <- farver::decode_colour(
    grDevices::rgb(t(grDevices::col2rgb(own)), maxColorValue = 255),
    to = "oklab"
  )
  share <- seq(1, length(own), length.out = n)
  rgb <- farver::convert_colour(
    apply(lab, 2, function(channel) stats::approx(seq_along(own), channel, share)$y),
    "oklab",
    "rgb"
  )
  farver::encode_colour(pmin(pmax(round(rgb), 0), 255))
}

# Colours of numbers on a ramp from least to greatest.
# ramps: a house's own, none of which is needed.
ramp_colours <- function(values, range, diverging = FALSE, ramps = NULL, n = 256) {
  ramp <- house_ramp(n, diverging, ramps)
  share <- if (diff(range) > 0) (values - range[1]) / diff(range) else rep(0.5, length(values))
  ramp[1 + round(pmin(pmax(share, 0), 1) * (n - 1))]
}
