# Makes docs/screenshots/colours.png: the sets of category colours as four kinds of vision
# and grey printing see them, and the ramps: Rscript tools/colours-picture.R

library(nelvat)
private <- function(name) get(name, asNamespace("nelvat"))
colours <- house_colours(10)
ragg::agg_png(
  file.path("docs", "screenshots", "colours.png"),
  width = 1280,
  height = 620,
  res = 110
)
par(mar = c(0.5, 7, 0.5, 0.5), family = "Liberation Sans")
plot(0, 0, type = "n", xlim = c(0, 10), ylim = c(0, 8), axes = FALSE, xlab = "", ylab = "")
row <- function(y, fill, label) {
  n <- length(fill)
  rect(
    (seq_len(n) - 1) * 10 / n,
    y,
    seq_len(n) * 10 / n - if (n <= 10) 0.08 else 0,
    y + 0.8,
    col = fill,
    border = NA
  )
  text(-0.15, y + 0.4, label, adj = 1, xpd = TRUE)
}
for (i in 1:4) {
  seen <- private("seen_as")(colours, c("normal", "protan", "deutan", "tritan")[i])
  row(8 - i, rgb(seen, maxColorValue = 255), c("Normal", "Protan", "Deutan", "Tritan")[i])
}
row(3, grey(farver::decode_colour(colours, to = "lab")[, 1] / 100), "In grey")
row(1.6, private("ramp_sequential")(200), "Sequential")
row(0.6, private("ramp_diverging")(200), "Diverging")
invisible(dev.off())
