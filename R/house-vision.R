# How colours look to eyes that lack a kind of cone, and how far apart they are.

# Matrices for full dichromacy on linear RGB. Source: Machado, Oliveira and
# Fernandes (2009), "A physiologically-based model for simulation of color vision
# deficiency", IEEE Transactions on Visualization and Computer Graphics 15(6).
vision_matrices <- list(
  normal = diag(3),
  protan = matrix(
    c(0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998),
    3,
    byrow = TRUE
  ),
  deutan = matrix(
    c(0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.011820, 0.042940, 0.968881),
    3,
    byrow = TRUE
  ),
  tritan = matrix(
    c(1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.303900),
    3,
    byrow = TRUE
  )
)

# Colours as one kind of vision sees them: a matrix of sRGB values 0..255.
seen_as <- function(colours, vision) {
  channel <- t(grDevices::col2rgb(colours)) / 255
  linear <- ifelse(channel <= 0.04045, channel / 12.92, ((channel + 0.055) / 1.055)^2.4)
  seen <- pmin(pmax(linear %*% t(vision_matrices[[vision]]), 0), 1)
  255 * ifelse(seen <= 0.0031308, seen * 12.92, 1.055 * seen^(1 / 2.4) - 0.055)
}

# Least CIEDE2000 between each two colours over the given visions: a symmetric matrix.
vision_distances <- function(colours, visions = names(vision_matrices)) {
  distances <- lapply(visions, function(vision) {
    seen <- seen_as(colours, vision)
    farver::compare_colour(seen, seen, from_space = "rgb", to_space = "rgb", method = "cie2000")
  })
  do.call(pmin, distances)
}

# Contrast ratio with white (WCAG 2).
white_contrast <- function(colours) 1.05 / (relative_luminance(colours) + 0.05)

relative_luminance <- function(colours) {
  channel <- grDevices::col2rgb(colours) / 255
  linear <- ifelse(channel <= 0.04045, channel / 12.92, ((channel + 0.055) / 1.055)^2.4)
  as.numeric(c(0.2126, 0.7152, 0.0722) %*% linear)
}
