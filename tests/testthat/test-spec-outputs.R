# A project without R: messy exports, figures of files alone, and their revisions, each in at most
# two places.
loaves_csv <- function() readLines(study_file("loaves.csv"))
messy_folder <- function(envir = parent.frame()) {
  lines <- loaves_csv()
  wide <- c(
    "Growth of doughs, exported 03.11.2026", "", "dough;day_1;day_2;day_3", "a;3,1;5,0;6,2",
    "b;2,9;4,4;5,9", "c;3,3;5,1;6,6"
  )
  folder_with(
    list(
      loaves.csv = lines,
      wide.csv = wide,
      `plate-1.csv` = c("well,od", "A1,0.5", "A2,0.7"),
      `plate-2.csv` = c("well,od", "A1,0.6", "A2,0.9"),
      ovens.csv = c("site,oven", "harbour,deck", "mill,wood", "station,deck")
    ),
    envir
  )
}
top <- c(
  "nelvat: 1", "data:", "  l: {file: loaves.csv}",
  "  wide: {file: wide.csv, long: {columns: {starts_with: day_}, prefix: day_,",
  "      into: {day: {type: number, title: Day}, ph: {title: pH}}}}",
  "  od: {files: \"plate-*.csv\"}",
  "  sites: {file: loaves.csv, join: {file: ovens.csv, by: {bakery: site}}}", "blocks:"
)
figures <- list(
  grid = c(
    "  b: {facets: {panel: {data: l, x: flour, y: [rise, volume, ph], colour: bakery, ink: box},",
    "      per_row: 3, range_per: {y: panel}}}",
    "plate: {place: b, width: double, height: 70}", "save: grid.pdf"
  ),
  pairs = c(
    "  b: {every_pair: {data: l, columns: [rise, volume, ph], colour: flour, above: value}}",
    "plate: {place: b, width: double, height: 120}", "save: pairs.pdf"
  ),
  joint = c(
    "  b: {joint: {data: l, x: rise, y: volume, ink: [points, fit]}}",
    "plate: {place: b, width: single}", "save: joint.pdf"
  ),
  series = c(
    "  b: {panel: {data: wide, x: day, y: ph, colour: dough, ink: {line: {markers: true}}}}",
    "plate: {place: b, width: single, height: 60}", "save: series.pdf"
  ),
  wells = c(
    "  b: {panel: {data: od, x: well, y: od, colour: file, ink: bars}}",
    "plate: {place: b, width: single, height: 60}", "save: wells.pdf"
  ),
  joined = c(
    "  b: {panel: {data: sites, x: oven, y: rise, missing: {x: own}, ink: dots}}",
    "plate: {place: b, width: single, height: 60}", "save: joined.pdf"
  ),
  plate = c(
    "  s: {panel: {data: l, x: rise, y: volume, ink: points}}",
    "  z: {zoom: {of: s, x: [40, 60], y: [500, 700]}}", "  t: {text_panel: \"Some *words*\"}",
    "plate: {place: {beside: [s, {stacked: [z, t], heights: [2, 1]}]}, width: double, height: 90}",
    "save: plate.pdf"
  ),
  again = c(
    "  s: {panel: {data: l, x: rise, y: volume, ink: points}}",
    "  u: {use: s, with: {y: firmness, colour: flour}}",
    "plate: {place: {beside: [s, u]}, width: double, height: 70}", "save: again.pdf"
  )
)
# Each: which figure, what is replaced by what, and what the scene must then show.
title_of <- function(scene, direction) {
  unique(vapply(Filter(function(axis) axis$direction == direction, scene$axes), `[[`, "", "title"))
}
revisions <- list(
  list("grid", "per_row: 3", "per_row: 1", function(scene) max(scene$panels$row) == 3),
  list(
    "grid",
    "ink: box",
    "ink: {bars: {error: se}}",
    function(scene) any(grepl("standard error", scene$accounts$shows))
  ),
  list(
    "joint",
    "x: rise,",
    "x: rise, x_axis: {title: Height, every: 20},",
    function(scene) "Height" %in% title_of(scene, "x")
  ),
  list(
    "series",
    "colour: dough,",
    "colour: dough, keep: dough != \"c\",",
    function(scene) length(unique(na.omit(scene$keys$label))) == 2
  ),
  list(
    "wells",
    "width: single",
    "width: double, key: right, title: Wells",
    function(scene) scene$page$width_mm == 178 && "Wells" %in% scene$texts$string
  ),
  list("plate", "[40, 60]", "[30, 50]", function(scene) {
    all(
      abs(scene$axes[[scene$panels$x_axis[scene$panels$role == "zoom"]]]$range - c(30, 50)) < 1e-9
    )
  }),
  list(
    "again",
    "{y: firmness, colour: flour}",
    "{y: ph, colour: bakery}",
    function(scene) "bakery" %in% scene$keys$key && !"flour" %in% scene$keys$key
  ),
  list(
    "pairs",
    "above: value",
    "above: value, diagonal: density, names: diagonal",
    function(scene) any(scene$accounts$ink == "density")
  ),
  list(
    "again",
    "save: again.pdf",
    paste0(
      "outputs: {journal: {formats: [pdf, png]},\n",
      "  talk: {house: projected, height: 140, formats: [png]}}"
    ),
    function(scene) TRUE
  )
)

test_that(
  "eight figures of messy tables draw from files alone, and nine revisions take one place each",
  {
    folder <- messy_folder()
    for (name in names(figures)) {
      writeLines(c(top, figures[[name]]), file.path(folder, paste0(name, ".yaml")))
    }
    said <- run_nelvat("draw", "--dpi", "60", folder)
    expect_identical(said$status, 0L, label = paste(said$complained, collapse = "\n"))
    expect_true(all(file.exists(file.path(folder, paste0(names(figures), ".pdf")))))
    expect_match(
      said$complained,
      "^grid.yaml +drawn +(good|[0-9]+ to look at) +[0-9.]+$",
      all = FALSE
    )
    expect_match(said$complained, "8 figures: 8 drawn, 0 unchanged, 0 failed", all = FALSE)
    for (one in revisions) {
      path <- file.path(folder, "revised.yaml")
      lines <- c(top, figures[[one[[1]]]])
      expect_identical(sum(grepl(one[[2]], lines, fixed = TRUE)), 1L, label = one[[2]])
      writeLines(sub(one[[2]], one[[3]], lines, fixed = TRUE), path)
      figure <- suppressMessages(suppressWarnings(read_figure(path)))
      expect_true(
        one[[4]](suppressWarnings(as_scene(figure$plate))),
        label = paste(one[[1]], one[[3]])
      )
    }
  }
)

test_that("outputs, plates and values are drawn under names of their own, or one of them alone", {
  folder <- messy_folder()
  path <- file.path(folder, "many.yaml")
  writeLines(
    c(
      top,
      "  s: {panel: {data: l, x: rise, y: \"{m}\", ink: points}}",
      "for_each: {m: [volume, firmness]}",
      "plate: {place: s, height: 70}",
      "outputs: {journal: {width: single, formats: [pdf, png]}, talk: {house: projected,",
      "    width: double, height: 140, save: \"talk-{m}.png\"}}"
    ),
    path
  )
  figure <- suppressWarnings(read_figure(path))
  expect_identical(
    lapply(figure$drawings, `[[`, "name"),
    list(
      c("volume", "journal"),
      c("volume", "talk"),
      c("firmness", "journal"),
      c("firmness", "talk")
    )
  )
  expect_identical(
    basename(unlist(lapply(figure$drawings, `[[`, "save"))),
    c(
      "many-volume-journal.pdf", "many-volume-journal.png", "talk-volume.png",
      "many-firmness-journal.pdf", "many-firmness-journal.png", "talk-firmness.png"
    )
  )
  expect_identical(
    vapply(figure$drawings, function(one) one$plate$width_mm, 0),
    c(86, 290, 86, 290)
  )
  expect_identical(figure$drawings[[3]]$plate$blocks[[1]]$panel$variables$y[[1]]$id, "firmness")
  said <- run_nelvat("draw", "--only", "talk", "--dpi", "60", path)
  expect_identical(basename(said$said), c("talk-volume.png", "talk-firmness.png"))
  none <- run_nelvat("draw", "--only", "poster", path)
  expect_identical(none$status, 1L)
  expect_match(none$complained, "no drawing \"poster\"", all = FALSE)
  writeLines(
    c(
      top,
      "  s: {panel: {data: l, x: rise, y: volume, keep: 'flour == \"{f}\"', ink: points}}",
      "for_each: {f: {data: l, levels_of: flour}}",
      "plate: {place: s, height: 70}",
      "save: \"of-{f}.pdf\""
    ),
    path
  )
  expect_setequal(
    basename(unlist(lapply(suppressWarnings(read_figure(path))$drawings, `[[`, "save"))),
    paste0("of-", c("wheat", "spelt", "rye", "emmer"), ".pdf")
  )
  writeLines(
    c(
      top,
      "  s: {panel: {data: l, x: rise, y: \"{m}\", ink: points}}",
      "for_each: {m: [volume, firmness]}",
      "plate: {place: s}",
      "save: same.pdf"
    ),
    path
  )
  expect_error(
    suppressWarnings(read_figure(path)),
    "put \"{m}\" in it",
    fixed = TRUE,
    class = "nelvat_error_figure"
  )
  writeLines(
    c(
      top,
      "  s: {panel: {data: l, x: rise, y: volume, ink: points}}",
      "  t: {use: u}",
      "plates: {one: {place: s, save: 1.pdf}}"
    ),
    path
  )
  expect_error(
    suppressWarnings(read_figure(path)),
    "No block of that name",
    class = "nelvat_error_figure"
  )
})

test_that(
  "a house of the project is found above the figure, up to the project's root and no further",
  {
    root <- withr::local_tempdir()
    dir.create(file.path(root, "project", "figures", "one"), recursive = TRUE)
    writeLines("name: outer", file.path(root, "nelvat.yaml"))
    writeLines("name: ours", file.path(root, "project", "nelvat.yaml"))
    within <- file.path(root, "project", "figures", "one")
    expect_null(nelvat:::folder_house(within))
    dir.create(file.path(root, "project", ".git"))
    expect_identical(house(nelvat:::folder_house(within))$name, "ours")
    unlink(file.path(root, "project", "nelvat.yaml"))
    expect_null(nelvat:::folder_house(within))
  }
)

test_that("commands say legends, alternative texts, numbers, keys and mends, as JSON too", {
  folder <- messy_folder()
  path <- file.path(folder, "again.yaml")
  writeLines(c(top, sub("width: double", "width: 170", figures$again)), path)
  expect_match(run_nelvat("legend", path)$said, "^a, volume against rise", all = FALSE)
  expect_match(run_nelvat("alt", path)$said, "^2 panels", all = FALSE)
  legend <- jsonlite::fromJSON(run_nelvat("legend", "--json", path)$said)
  expect_identical(legend$figure, path)
  numbers <- jsonlite::fromJSON(run_nelvat("source", "--json", path)$said)
  expect_length(numbers, 2)
  written <- run_nelvat("source", path)$said
  expect_true(all(file.exists(written)))
  keys <- jsonlite::fromJSON(run_nelvat("keys", "--json", folder)$said)
  expect_setequal(keys$level, c("rye", "spelt", "emmer", "wheat"))
  mend <- run_nelvat("mend", path)$said
  expect_match(mend, "width: double", all = FALSE)
  listed <- jsonlite::fromJSON(run_nelvat("list", "--json", folder)$said)
  expect_identical(listed$state, "not drawn")
  run_nelvat("draw", "--only", "nothing", path)
  run_nelvat("draw", folder)
  expect_match(
    run_nelvat("list", folder)$said,
    "again.yaml (up to date)",
    fixed = TRUE,
    all = FALSE
  )
  expect_match(
    run_nelvat("draw", "--nope", path)$complained,
    "Try: nelvat draw --help",
    all = FALSE
  )
})

test_that("two runs on one folder take turns; a lock whose process is gone is taken over", {
  folder <- withr::local_tempdir()
  lock <- file.path(folder, "lock")
  expect_identical(nelvat:::with_lock(folder, file.exists(lock)), TRUE)
  expect_false(file.exists(lock))
  dir.create(lock)
  writeLines("99999999", file.path(lock, "pid"))
  expect_identical(suppressMessages(nelvat:::with_lock(folder, "done")), "done")
  other <- system2(
    file.path(R.home("bin"), "Rscript"),
    c(
      "-e",
      shQuote(
        sprintf(
          paste(
            "dir.create('%s'); writeLines(as.character(Sys.getpid()), '%s');",
            "Sys.sleep(2); unlink('%s', recursive = TRUE)"
          ),
          lock,
          file.path(lock, "pid"),
          lock
        )
      )
    ),
    wait = FALSE
  )
  while (!file.exists(file.path(lock, "pid"))) Sys.sleep(0.05)
  start <- proc.time()[["elapsed"]]
  suppressMessages(nelvat:::with_lock(folder, NULL))
  expect_gt(proc.time()[["elapsed"]] - start, 0.5)
})

test_that("drafts of each kind of figure draw at once", {
  folder <- messy_folder()
  for (kind in c("grid", "pairs", "joint", "plate")) {
    path <- file.path(folder, paste0(kind, ".yaml"))
    expect_identical(
      run_nelvat("start", "--kind", kind, "--output", path, file.path(folder, "loaves.csv"))$status,
      0L
    )
    expect_error(suppressMessages(suppressWarnings(as_scene(read_figure(path)$plate))), NA)
    expect_match(readLines(path), "^# Next:", all = FALSE)
  }
  expect_match(
    run_nelvat(
      "start",
      "--kind",
      "series",
      "--output",
      file.path(folder, "s.yaml"),
      file.path(folder, "plate-1.csv")
    )$complained,
    "needs a time and a quantity",
    all = FALSE
  )
})

test_that("errors of files speak in the words of files", {
  said <- function(...) {
    folder <- messy_folder()
    writeLines(c(top, ...), file.path(folder, "f.yaml"))
    rlang::cnd_message(
      tryCatch(
        suppressMessages(suppressWarnings(read_figure(file.path(folder, "f.yaml")))),
        nelvat_error = identity
      )
    )
  }
  expect_match(
    said(
      "  b: {panel: {data: l, x: rise, y: volume, ink: points}}",
      "plate: {place: b, width: \"120 mm\"}"
    ),
    "Numbers are millimetres here.*Write 120"
  )
  expect_match(
    said("  b: {panel: {data: l, x: verdict, y: rise, ink: box}}", "plate: {place: b}"),
    "{column: verdict, kind: category}",
    fixed = TRUE
  )
  expect_match(
    said(
      "  b: {panel: {data: l, x: rise, y: volume, ink: points}}",
      "plate: {place: b, share: [no_such]}"
    ),
    "No table of the plate has that variable"
  )
  expect_match(
    said(
      "  b: {panel: {data: l, x: rise, y: volume, ink: points}}",
      "plate: {place: b, letters: lower}"
    ),
    "letters"
  )
  for (text in c("TRUE", "c(", "ink_", "quantity(")) {
    expect_no_match(
      said(
        "  b: {facets: {panel: {data: l, x: rise, y: volume, missing: gaps, ink: points},",
        "      behind: maybe}}",
        "plate: {place: b}"
      ),
      text,
      fixed = TRUE
    )
  }
})

test_that("outputs of a project are drawn of every figure, beside what it saves itself", {
  folder <- withr::local_tempdir()
  file.copy(study_file("loaves.csv"), folder)
  figure <- function(name, ...) {
    path <- file.path(folder, name)
    writeLines(
      c(
        "nelvat: 1",
        "data: {l: loaves.csv}",
        "blocks: {b: {panel: {data: l, x: rise, y: volume, ink: points}}}",
        "plate: {width: 80, height: 60}",
        paste0("save: ", sub("yaml", "pdf", name)),
        ...
      ),
      path
    )
    path
  }
  shared <- file.path(folder, "nelvat.outputs.yaml")
  writeLines("talk: {house: projected, width: 200, height: 140, formats: [png]}", shared)
  read <- read_figure(figure("one.yaml"))
  expect_identical(
    basename(unlist(lapply(read$drawings, `[[`, "save"))),
    c("one.pdf", "one-talk.png")
  )
  expect_identical(vapply(read$drawings, function(one) one$plate$width_mm, 0), c(80, 200))
  expect_true(shared %in% read$inputs)
  own <- read_figure(figure("two.yaml", "outputs: {talk: {width: 160, formats: [svg]}}"))
  expect_identical(basename(own$save), "two-talk.svg")
  expect_length(own$drawings, 1)
  writeLines("talk: {widht: 200}", shared)
  expect_error(
    read_figure(figure("one.yaml")),
    "nelvat.outputs.yaml\", line 1: .*no key of that name",
    class = "nelvat_error_figure"
  )
})

test_that("codebooks share levels and colours of one file; what they say themselves goes before", {
  folder <- withr::local_tempdir()
  writeLines(c("flour,mass", "r,1", "w,2", "s,3"), file.path(folder, "a.csv"))
  writeLines(
    "flour: {title: Flour, categories: [w, s, r], colours: [red, navy, gold]}",
    file.path(folder, "levels.yaml")
  )
  codebook_of <- function(field, levels = "levels.yaml") {
    path <- file.path(folder, "a.codebook.yaml")
    writeLines(c(paste("levels:", levels), "fields:", paste("  -", field), "  - name: mass"), path)
    read_data(file.path(folder, "a.csv"), path)
  }
  kind <- codebook_of("name: flour")$columns$flour
  expect_identical(kind$levels, c("w", "s", "r"))
  expect_identical(kind$name, "Flour")
  expect_identical(codebook_of("{name: flour, title: Grain}")$columns$flour$name, "Grain")
  expect_identical(
    codebook_of("{name: flour, categories: [r, s, w]}")$columns$flour$levels,
    c("r", "s", "w")
  )
  expect_error(codebook_of("name: flour", "none.yaml"), "does not exist", class = "nelvat_error")
  expect_error(codebook_of("name: flour", "[a, b]"), "`levels` must be one string")
  writeLines("- flour", file.path(folder, "levels.yaml"))
  expect_error(codebook_of("name: flour"), "must have keys of a field by name")
})

test_that("figures of words and images need no data, and a kind is that of the codebook", {
  folder <- withr::local_tempdir()
  file.copy(c(study_file("loaves.csv"), study_file("loaves.codebook.yaml")), folder)
  path <- file.path(folder, "f.yaml")
  writeLines(
    c("nelvat: 1", "blocks: {a: {text_panel: Words}}", "plate: {width: 60, height: 40}"),
    path
  )
  expect_null(schema_faults(read_yaml_list(path), shipped_schema("figure")))
  expect_match(paste(as_scene(read_figure(path)$plate)$texts$string, collapse = " "), "Words")
  figure <- function(y) {
    writeLines(
      c(
        "nelvat: 1",
        "data: {l: {file: loaves.csv, codebook: loaves.codebook.yaml}}",
        paste0("blocks: {a: {panel: {data: l, x: flour, y: ", y, ", ink: box}}}"),
        "plate: {}"
      ),
      path
    )
    read_figure(path)$plate
  }
  in_cm <- figure("{column: rise, show: cm}")
  expect_match(suppressWarnings(as_scene(in_cm))$axes[[2]]$title, "(cm)", fixed = TRUE)
  expect_error(figure("{column: rize, show: cm}"), "no column of that name.*rise")
})
