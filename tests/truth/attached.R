# What stands beside an axis: random attachments of random panels stand on the axis that they are
# of, to 0.01 mm, and their marks at the places of that axis.

attached_mm <- 0.01

# Inks that may stand along an axis of a sort, as calls.
along_of <- list(
  quantity = list(
    quote(ink_histogram()),
    quote(ink_density()),
    quote(ink_rug()),
    quote(ink_box()),
    quote(ink_dots()),
    quote(ink_violin())
  ),
  level = list(
    quote(ink_strip(colour = bakery)),
    quote(ink_bars(centre = "count")),
    quote(list(ink_strip(colour = bakery), ink_bars(centre = "count")))
  ),
  tree = list(
    quote(ink_tree()),
    # What is the same along a row.
    quote(list(ink_strip(colour = origin), ink_tree())),
    quote(ink_strip(colour = origin))
  )
)

# The call of a host with attachments, its data, and what its axes hold.
random_attached <- function() {
  table <- random_table()
  # A strip shows one colour a level.
  data <- table$data
  data$bakery <- c("North", "South")[1 + (match(data$flour, unique(data$flour)) %% 2)]
  kind <- one_of("pair", "pair", "levels", "heat", "grid")
  hosts <- list(
    pair = quote(panel(book, x = rise, y = n, ink_points())),
    grid = quote(facets(panel(book, x = rise, y = n, ink_points()), across = oven)),
    levels = quote(panel(book, x = flour, y = rise, ink_points())),
    heat = quote(
      panel(
        book,
        x = medium,
        y = strain,
        colour = growth,
        ink_tiles(values = FALSE),
        order = list(strain = by_likeness(growth, medium), medium = by_likeness(growth, strain))
      )
    )
  )
  sorts <- switch(
    kind,
    pair = c(x = "quantity", y = "quantity"),
    grid = c(x = "quantity", y = "quantity"),
    levels = c(x = "level", y = "quantity"),
    heat = c(x = "tree", y = "tree")
  )
  if (kind == "heat") {
    data <- expand.grid(strain = paste0("s", seq_len(one_of(2, 5, 12))), medium = paste0("m", 1:4))
    data$growth <- stats::rnorm(nrow(data))
    data$origin <- c("soil", "bark")[1 + as.integer(data$strain) %% 2]
  }
  host <- hosts[[kind]]
  if (kind == "levels" && chance(0.4)) {
    host <- quote(panel(book, x = rise, y = flour, ink_points()))
    sorts <- stats::setNames(rev(sorts), c("x", "y"))
  }
  sides <- one_of("x", "y", c("x", "y"))
  beside <- lapply(stats::setNames(nm = sides), function(side) {
    choices <- along_of[[sorts[[side]]]]
    if (kind == "heat" && side == "x") choices <- choices[1]
    sample(choices, 1)[[1]]
  })
  more <- list(
    depth = one_of(NULL, 8, 14),
    gap = one_of(NULL, 0, 2),
    outside = if (kind == "grid") TRUE,
    axis = if (chance(0.3)) TRUE
  )
  list(
    call = as.call(c(quote(marginals), host, beside, Filter(Negate(is.null), more))),
    data = data,
    kind = kind,
    sorts = sorts
  )
}

# Places along an axis of a layer's marks in an area, in mm of the page.
places_along <- function(scene, area, layers, direction) {
  from <- if (direction == "x") area$x else area$y
  long <- if (direction == "x") area$w else area$h
  unlist(
    lapply(layers, function(layer) {
      table <- layer$table[layer$table$panel == area$id, ]
      columns <- intersect(paste0(direction, c("", "0", "1")), names(table))
      shares <- rowMeans(as.data.frame(unclass(table)[columns]))
      from + long * (if (direction == "x") shares else 1 - shares)
    })
  )
}

judge_attached <- function(seed) {
  set.seed(seed)
  verdict <- new_verdict()
  refused <- NULL
  one <- random_attached()
  scene <- tryCatch(
    nelvat::as_scene(
      nelvat::plate(
        eval(one$call, list(book = one$data), asNamespace("nelvat")),
        width = one_of(86, 120, 178),
        height = one_of(70, 110)
      )
    ),
    nelvat_error = function(error) {
      refused <<- rlang::cnd_message(error)
      NULL
    }
  )
  if (!is.null(scene)) {
    judge_sides(verdict, scene, one)
    judge_left_out(verdict, scene)
  }
  list(
    seed = seed,
    checked = verdict$checked,
    false = paste0("attached to ", one$kind, ": ", verdict$false)[seq_along(verdict$false)],
    refused = refused
  )
}

judge_sides <- function(verdict, scene, one) {
  areas <- scene$panels
  beside <- areas[!is.na(areas$side), ]
  holds(verdict, nrow(beside) > 0, "nothing stands beside an axis")
  for (i in seq_len(nrow(beside))) {
    area <- beside[i, ]
    side <- area$side
    host <- areas[match(area$host, areas$id), ]
    if (!holds(verdict, nrow(host) == 1 && !is.na(host$id), "an attachment of no panel")) next
    off <- if (side == "x") {
      c(area$x - host$x, area$w - host$w)
    } else {
      c(area$y - host$y, area$h - host$h)
    }
    holds(verdict, max(abs(off)) <= attached_mm, "off its axis by ", max(abs(off)), " mm")
    axis <- paste0(side, "_axis")
    holds(verdict, identical(area[[axis]], host[[axis]]), "another axis than its panel's")
    holds(
      verdict,
      if (side == "x") area$y + area$h <= host$y + 0.01 else area$x >= host$x + host$w - 0.01,
      "it lies over its panel"
    )
    layers <- Filter(
      function(layer) layer$ink %in% c("rug", "strip") && area$id %in% layer$table$panel,
      scene$marks
    )
    if (!length(layers)) next
    at <- sort(unique(round(places_along(scene, area, layers, side), 3)))
    if (layers[[1]]$ink == "rug") {
      points <- Filter(function(layer) layer$primitive == "points", scene$marks)
      # Outside a grid it is of all panels of its row or column.
      hosts <- areas[areas$role == "panel" & areas[[axis]] %in% host[[axis]], ]
      along <- if (side == "x") hosts$x == host$x else hosts$y == host$y
      wanted <- unlist(
        lapply(which(along), function(k) {
          places_along(scene, hosts[k, ], points, side)
        })
      )
      wanted <- sort(unique(round(wanted, 3)))
      holds(
        verdict,
        length(at) >= length(wanted) && all(vapply(wanted, function(x) min(abs(x - at)), 0) < 0.01),
        "a rug beside its points"
      )
    } else {
      ticks <- scene$texts[scene$texts$role == "tick" & scene$texts$panel == host$id, ]
      ticks <- if (side == "x") {
        ticks$centre_x[ticks$centre_y > host$y + host$h]
      } else {
        ticks$centre_y[ticks$centre_x < host$x]
      }
      plain <- length(ticks) && all(abs(scene$texts$angle[scene$texts$role == "tick"]) < 1)
      if (plain && length(ticks) == length(at)) {
        holds(verdict, max(abs(sort(ticks) - at)) < 0.02, "a strip off its names")
      }
    }
  }
}
