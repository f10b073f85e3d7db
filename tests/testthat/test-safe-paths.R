test_that("names made of levels stay in the folder that was written before them", {
  hostile <- c(
    "../up",
    "/tmp/nelvat-root",
    "~/home",
    "..",
    ".",
    ".hidden",
    "a/b/c",
    "c:\\x",
    "a|b",
    "$(touch x)",
    "`id`",
    "con",
    "-rf",
    "...",
    "x\u0007y",
    strrep("long", 100),
    "caf\u00e9 \u5c0f\u9ea6"
  )
  names <- nelvat:::name_of_value(hostile)
  expect_false(any(grepl("[/\\\\|$`~]|[[:cntrl:]]", names)))
  expect_false(any(names %in% c("", ".", "..", "con") | startsWith(names, ".")))
  expect_true(all(nchar(names, "bytes") <= 125))
  expect_match(names[17], "caf\u00e9 \u5c0f\u9ea6", fixed = TRUE)
  expect_identical(nelvat:::name_of_value(c("-5", "5", "1.5")), c("-5", "5", "1.5"))
})

test_that("no level writes outside of the figure's folder", {
  folder <- folder_within(
    list(
      a.csv = c("f,v", paste0("\"", c("../x", "/abs", "~/y", "..", "a/../../z", "ok"), "\",", 1:6)),
      levels.yaml = figure_lines(
        "for_each: {l: {data: a, levels_of: f}}",
        "save: [\"{l}.pdf\"]",
        panel = "{data: a, x: f, y: v, heading: \"{l}\", ink: points}"
      ),
      outputs.yaml = figure_lines(
        "for_each: {l: {data: a, levels_of: f}}",
        "outputs: {one: {formats: [pdf]}}",
        panel = "{data: a, x: f, y: v, heading: \"{l}\", ink: points}"
      )
    )
  )
  dir.create(file.path(folder, "sub"))
  before <- files_below(dirname(folder))
  home <- list.files(path.expand("~"), all.files = TRUE)
  for (file in c("levels.yaml", "outputs.yaml")) {
    done <- command_in(folder, "draw", file)
    expect_no_bare_error(done$complained)
    written <- setdiff(files_below(dirname(folder)), before)
    expect_true(
      all(grepl("^project/[^/]+[.]pdf$", written)),
      label = paste(written, collapse = " ")
    )
    expect_identical(list.files(path.expand("~"), all.files = TRUE), home)
  }
  expect_false(file.exists("/abs.pdf"))
  expect_true(file.exists(file.path(folder, "ok.pdf")))
})

test_that("what a person wrote may go where they say", {
  folder <- folder_within(list(a.csv = plain_csv, one.yaml = figure_lines("save: ../beside.pdf")))
  done <- command_in(folder, "draw", "one.yaml")
  expect_identical(done$status, 0L)
  expect_true(file.exists(file.path(dirname(folder), "beside.pdf")))
})

test_that("values that become one name are two drawings of one path, told before any is written", {
  folder <- folder_within(
    list(
      a.csv = c("f,v", "a/b,1", "a:b,2"),
      one.yaml = figure_lines(
        "for_each: {l: {data: a, levels_of: f}}",
        "save: \"{l}.pdf\"",
        panel = "{data: a, x: f, y: v, heading: \"{l}\", ink: points}"
      )
    )
  )
  done <- command_in(folder, "draw", "one.yaml")
  expect_identical(done$status, 1L)
  expect_match(done$complained, "Two drawings would be written")
  expect_length(list.files(folder, "pdf$"), 0)
})

test_that("an output is never an input, however it is named", {
  folder <- folder_within(list(a.csv = plain_csv))
  png <- file.path(folder, "pic.png")
  save_plate(
    plate(panel(data.frame(x = 1:2, y = 1:2), x = x, y = y, ink_points()), width = 40, height = 40),
    png,
    dpi = 72
  )
  picture <- tools::md5sum(png)
  file.symlink("pic.png", file.path(folder, "link.png"))
  image <- c(
    "nelvat: 1", "data: {a: a.csv}",
    "blocks: {b: {image_panel: {path: pic.png}}, c: {panel: {data: a, x: f, y: v, ink: bars}}}",
    "plate: {place: {beside: [b, c]}, width: 120, height: 60}"
  )
  for (save in c("pic.png", "./pic.png", "../project/pic.png", "link.png", "[c.pdf, pic.png]")) {
    writeLines(c(image, paste0("save: ", save)), file.path(folder, "one.yaml"))
    done <- command_in(folder, "draw", "one.yaml")
    expect_identical(done$status, 1L, label = save)
    expect_match(done$complained, "is drawn from, so it cannot be written", label = save)
  }
  writeLines(
    c(image, "save: c.pdf", "outputs: {big: {save: pic.png}}"),
    file.path(folder, "one.yaml")
  )
  expect_match(command_in(folder, "draw", "one.yaml")$complained, "cannot be written")
  expect_identical(tools::md5sum(png), picture)
  expect_length(list.files(folder, "c[.]pdf"), 0)
})

test_that("two figure files do not write to one output", {
  folder <- folder_within(
    list(
      a.csv = plain_csv,
      one.yaml = figure_lines("save: out.pdf"),
      two.yaml = figure_lines("save: ./out.pdf", panel = "{data: a, x: f, y: v, ink: box}")
    )
  )
  done <- command_in(folder, "draw", ".")
  expect_identical(done$status, 1L)
  expect_match(done$complained, "\"./two.yaml\".*out.pdf\" is what \"./one.yaml\" draws")
  first <- tools::md5sum(file.path(folder, "out.pdf"))
  # In a call of its own, too.
  expect_identical(command_in(folder, "draw", "two.yaml")$status, 1L)
  expect_identical(tools::md5sum(file.path(folder, "out.pdf")), first)
  expect_identical(command_in(folder, "draw", "one.yaml")$status, 0L)
})

test_that("outputs are named after what save says", {
  folder <- folder_within(
    list(
      a.csv = plain_csv,
      one.yaml = figure_lines(
        "outputs:",
        "  journal: {formats: [pdf]}",
        "  talk: {width: 100, height: 80, formats: [png]}",
        "  same: {}",
        "save: [figure.pdf]"
      ),
      two.yaml = figure_lines(
        "for_each: {k: [x, y]}",
        "outputs: {o: {formats: [pdf]}}",
        "save: \"r-{k}.pdf\"",
        panel = "{data: a, x: f, y: v, heading: \"{k}\", ink: bars}"
      )
    )
  )
  done <- command_in(folder, "draw", "--dpi", "72", "one.yaml", "two.yaml")
  expect_identical(done$status, 0L)
  expect_setequal(
    list.files(folder, "pdf$|png$"),
    c("figure-journal.pdf", "figure-talk.png", "figure-same.pdf", "r-x-o.pdf", "r-y-o.pdf")
  )
})
