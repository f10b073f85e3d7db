# Extracted from test-scene-proof.R:44

# prequel ----------------------------------------------------------------------
loaves <- study("loaves")
verdict_of <- function(fig, rule) {
  found <- suppressMessages(proof(fig))
  found$verdict[found$rule == rule]
}
table <- data.frame(x = c(1, 2, 3, 4), y = c(10, 12, 11, 14), g = c("a", "a", "b", "b"))
book <- function(...) codebook(table, x = quantity("Time", unit = "h"), y = quantity("Mass", unit = "g"), ...)
good <- plate(panel(book(), x = x, y = y, colour = g, shape = g, ink_points()), width = "single", height = 60)
broken <- list(
  "page width" = list("look", quote(plate(panel(book(), x = x, y = y, ink_points()), width = 97, height = 60))),
  "page height" = list("bad", quote(plate(panel(book(), x = x, y = y, ink_points()), width = "single", height = 240))),
  "type size" = list("bad", quote(plate(panel(book(), x = x, y = y, ink_points(), ink_text("small", x = 2, y = 13, size = 3)), width = "single", height = 60))),
  "line weight" = list("bad", quote(plate(panel(book(), x = x, y = y, ink_line(weight = 0.1)), width = "single", height = 60))),
  "texts apart" = list("bad", quote(plate(panel(book(), x = x, y = y, ink_points(), ink_text("one", x = 2, y = 13), ink_text("two", x = 2.02, y = 13)), width = "single", height = 60))),
  "texts on the page" = list("bad", quote(plate(panel(book(), x = x, y = y, ink_points(), ink_text("far too long to stand on the page from here", x = 4, y = 13)), width = "single", height = 60))),
  "texts over data" = list("look", quote(plate(panel(book(), x = x, y = y, ink_points(), ink_text("over", x = 1.99, y = 12)), width = "single", height = 60))),
  "colours told apart" = list("bad", quote(plate(panel(book(g = category(colours = c(a = "#336699", b = "#33669C"))), x = x, y = y, colour = g, shape = g, ink_points()), width = "single", height = 60))),
  "colours in grey" = list("look", quote(plate(panel(book(g = category(colours = c(a = "#B05050", b = "#508850"))), x = x, y = y, colour = g, ink_points()), width = "single", height = 60))),
  "groups by more than colour" = list("look", quote(plate(panel(book(), x = x, y = y, colour = g, ink_points()), width = "single", height = 60))),
  "contrast of text" = list("bad", quote(plate(panel(book(), x = x, y = y, ink_points(), ink_text("pale", x = 2, y = 13, colour = "#C9CED6")), width = "single", height = 60))),
  "axes named" = list("bad", quote(plate(panel(book(), x = x, y = y, y_axis = axis_of(title = ""), ink_points()), width = "single", height = 60))),
  "units given" = list("look", quote(plate(panel(codebook(table, x = quantity("Time", unit = "h"), y = quantity("Mass")), x = x, y = y, ink_points()), width = "single", height = 60))),
  "same variable, same range" = list("look", quote(plate(facets(panel(book(), x = x, y = y, ink_points()), across = g, share = "own"), width = "single", height = 60))),
  "bars from zero" = list("bad", quote(plate(panel(book(), x = g, y = y, y_axis = axis_of(range = c(5, 20)), ink_bars()), width = "single", height = 60))),
  "n given" = list("look", quote(plate(panel(book(), x = g, y = y, ink_box()), width = "single", height = 60))),
  "rows left out" = list("look", quote(plate(panel(rbind(table, NA), x = x, y = y, ink_points()), width = "single", height = 60))),
  "letters" = list("bad", quote(plate(beside(panel(book(), x = x, y = y, ink_points()), panel(book(), x = x, y = y, ink_line())), width = "double", height = 60, letters = c("a", "a")))),
  "characters in the font" = list("look", quote(plate(panel(book(), x = x, y = y, ink_points(), ink_text("bread \U0001F35E", x = 2, y = 13.5)), width = "single", height = 60))),
  "image resolution" = list("bad", quote(plate(image_panel(study_file("crumb.png")), width = "double", height = 120, letters = "none"))),
  "transparency" = list("look", quote(plate(panel(book(), x = x, y = y, ink_points(alpha = 0.5)), width = "single", height = 60, house = house(limits = list(formats = c("eps", "tiff"))))))
)

# test -------------------------------------------------------------------------
for (rule in names(broken)) {
    fig <- eval(broken[[rule]][[2]])
    found <- suppressMessages(proof(fig))
    row <- found[found$rule == rule, ]
    expect_identical(row$verdict[1], broken[[rule]][[1]], label = rule)
    expect_true(nzchar(row$mend[1]) && nzchar(row$where[1]), label = rule)
    expect_false(any(verdict_of(good, rule) != "good"), label = paste(rule, "in the sound figure"))
  }
