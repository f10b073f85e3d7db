# Figures whose marks are numbers worked out of the rows, against R's own functions.

truth_numbers <- list(
  tally = function(table) {
    of <- one_of("n", "mean", "median", "sum", "mean sd", "sd", "least", "most", "median quartiles")
    coloured <- chance(0.5)
    side <- one_of("under", "over", "beside")
    # Counts beside dots are of what the dots show; means want their values.
    judged_panel(
      bquote(
        panel(
          book,
          x = .(as.name(if (side == "beside") "rise" else "flour")),
          y = .(as.name(if (side == "beside") "flour" else "rise")),
          colour = .(if (coloured) quote(bakery)),
          ink_dots(),
          ink_tally(.(of), side = .(if (side == "over") side))
        )
      ),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "flour", "rise", if (coloured) "bakery")
        by <- rows[c("flour", if (coloured) "bakery")]
        told <- source_part(plate, "tally")
        quartile <- function(k) function(v) stats::quantile(v, k / 4, names = FALSE)
        numbers <- list(
          mean = c(centre = mean),
          median = c(centre = stats::median),
          sum = c(centre = sum),
          sd = c(spread = stats::sd),
          least = c(low = min),
          most = c(high = max),
          `mean sd` = c(centre = mean, spread = stats::sd),
          `median quartiles` = c(centre = stats::median, q1 = quartile(1), q3 = quartile(3))
        )[[of]]
        for (own in split(rows, by, drop = TRUE)) {
          same <- told$flour == shown_name(table, "flour", own$flour[1])
          if (coloured) same <- same & told$bakery == shown_name(table, "bakery", own$bakery[1])
          found <- told[same, ]
          if (!holds(verdict, nrow(found) == 1, "a level without its number")) next
          holds(verdict, found$n == nrow(own), "another n")
          for (name in names(numbers)) {
            wanted <- numbers[[name]](own$rise)
            if (is.na(wanted)) next
            holds(verdict, near(found[[name]], wanted), "another ", name, " of the ", of)
          }
        }
        texts <- texts_of(plate)
        under <- texts[texts$role == "under", ]
        none <- under$string %in% "\u2013" | grepl("^\u2212?[0.]+( |$)", under$string)
        written <- under[!none, ]
        wanted <- as.numeric(if (of == "n") told$n else told[[names(numbers)[1]]])
        wanted <- wanted[!is.na(wanted) & abs(wanted) > 1e-9]
        said <- numbers_in(written$string)
        close <- length(said) == length(wanted) &&
          all(abs(sort(said) - sort(wanted)) <= 0.006 * abs(sort(wanted)) + 1e-9)
        holds(verdict, close, "numbers beside the axis are others")
        scene <- nelvat::as_scene(plate)
        for (id in unique(under$panel)) {
          area <- scene$panels[scene$panels$id == id, ]
          here <- under[under$panel == id, ]
          axis <- scene$axes[[if (side == "beside") area$y_axis else area$x_axis]]
          ticks <- if (side == "beside") {
            area$y + (1 - axis$unit) * area$h
          } else {
            area$x + axis$unit * area$w
          }
          at <- if (side == "beside") (here$y0 + here$y1) / 2 else (here$x0 + here$x1) / 2
          off <- vapply(at, function(one) min(abs(one - ticks)), 0)
          holds(verdict, max(off) < 0.01, "numbers beside their ticks")
          outside <- switch(
            side,
            under = here$y0 > area$y + area$h,
            over = here$y1 < area$y,
            beside = here$x0 > area$x + area$w
          )
          holds(verdict, all(outside), "numbers on the wrong side")
        }
        if (of == "mean sd") legend_holds(verdict, plate, "standard deviation")
      }
    )
  },
  survival = function(table) {
    coloured <- chance(0.6)
    judged_panel(
      bquote(
        panel(
          book,
          x = hour,
          colour = .(if (coloured) quote(bakery)),
          ink_survival(passed, test = .(coloured))
        )
      ),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "hour", "passed", if (coloured) "bakery")
        told <- source_part(plate, "survival")
        # A panel without a row that is whole has no curve.
        groups <- Filter(NROW, if (coloured) split(rows, rows$bakery) else list(rows))
        for (own in groups) {
          found <- told
          if (coloured) {
            found <- found[found$bakery == shown_name(table, "bakery", own$bakery[1]), ]
          }
          fit <- summary(
            survival::survfit(survival::Surv(hour, passed) ~ 1, own, conf.type = "log"),
            censored = TRUE
          )
          steps <- found[!is.na(found$share) & found$hour > 0, ]
          at <- match(steps$hour, fit$time)
          if (!holds(verdict, !anyNA(at), "steps at times of no row")) next
          holds(verdict, near(steps$share, fit$surv[at]), "another share")
          inside <- fit$surv[at] > 0
          holds(verdict, near(steps$lower[inside], fit$lower[at][inside]), "another lower limit")
          holds(verdict, near(steps$upper[inside], fit$upper[at][inside]), "another upper limit")
          holds(
            verdict,
            all(fit$time[fit$n.event > 0] %in% steps$hour),
            "an event without a step"
          )
        }
        legend_holds(verdict, plate, "Kaplan-Meier", paste(sum(rows$passed), "events?"))
        tested <- length(groups) > 1 && any(rows$passed == 1)
        if (tested && !judged$parted) {
          test <- tryCatch(
            survival::survdiff(survival::Surv(hour, passed) ~ bakery, rows)$chisq,
            error = function(e) NA
          )
          said <- regmatches(
            nelvat::legend_text(plate),
            regexpr("\u03c7\u00b2\\([0-9]+\\) = [0-9.]+", nelvat::legend_text(plate))
          )
          if (length(said) && !is.na(test)) {
            said <- as.numeric(sub(".*= ", "", said))
            holds(verdict, abs(said - test) < 0.006 * max(0.1, test), "another log-rank test")
          }
        }
        texts <- texts_of(plate)
        ticks <- texts[texts$role == "tick", ]
        ticks <- ticks[abs(ticks$centre_y - max(ticks$centre_y)) < 0.01, ]
        under <- texts[texts$role == "under", ]
        for (k in seq_len(nrow(ticks))) {
          time <- numbers_in(ticks$string[k])
          here <- under[abs(under$centre_x - ticks$centre_x[k]) < 0.01, ]
          wanted <- vapply(groups, function(own) sum(own$hour >= time), 0L)
          holds(
            verdict,
            identical(sort(as.integer(here$string)), sort(unname(wanted))),
            "numbers at risk at ",
            time
          )
        }
      }
    )
  },
  ellipse = function(table) {
    shape <- one_of("ellipse", "hull")
    logarithm <- chance(0.4)
    judged_panel(
      bquote(
        panel(
          book,
          x = .(if (logarithm) quote(log10(n)) else quote(n)),
          y = rise,
          colour = bakery,
          ink_points(),
          ink_ellipse(shape = .(shape), level = 0.9)
        )
      ),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "n", "rise", "bakery")
        told <- source_part(plate, "ellipse")
        for (own in split(rows, rows$bakery)) {
          x <- if (logarithm) log10(own$n) else own$n
          found <- told[told$bakery == shown_name(table, "bakery", own$bakery[1]), ]
          found <- found[!is.na(found$n), ]
          flat <- nrow(own) < 3 || qr(cbind(1, x, own$rise))$rank < 3
          if (flat) {
            drawn <- if (is.null(found[["not drawn"]])) found else found[is.na(found$`not drawn`), ]
            holds(verdict, !nrow(drawn), "an outline of what has none")
            next
          }
          if (!holds(verdict, nrow(found) > 0, "no outline of a group")) next
          holds(verdict, all(found$n == nrow(own)), "another n")
          at <- cbind(
            if (logarithm) log10(found[["n (column)"]]) else found[["n (column)"]],
            found$rise
          )
          at <- at[stats::complete.cases(at), , drop = FALSE]
          if (shape == "ellipse") {
            far <- stats::mahalanobis(
              at,
              c(mean(x), mean(own$rise)),
              stats::cov(cbind(x, own$rise))
            )
            holds(
              verdict,
              length(far) > 10 && max(abs(far / stats::qchisq(0.9, 2) - 1)) < 1e-6,
              "another ellipse"
            )
          } else {
            corners <- grDevices::chull(x, own$rise)
            wanted <- unique(paste(signif(x[corners], 9), signif(own$rise[corners], 9)))
            said <- unique(paste(signif(at[, 1], 9), signif(at[, 2], 9)))
            holds(verdict, setequal(wanted, said), "another hull")
          }
        }
      }
    )
  },
  answers = function(table) {
    middle <- one_of("halved", "aside")
    judged_panel(
      bquote(panel(book, y = flour, colour = bakery, ink_answers(middle = .(middle)))),
      table$book,
      function(verdict, plate) {
        rows <- complete(table$data, "flour", "bakery")
        told <- source_part(plate, "answers")
        codes <- table$categories$bakery$codes
        for (own in split(rows, rows$flour)) {
          found <- told[told$flour == shown_name(table, "flour", own$flour[1]), ]
          for (code in unique(own$bakery)) {
            one <- found[found$bakery == shown_name(table, "bakery", code), ]
            if (!holds(verdict, nrow(one) == 1, "an answer without its bar")) next
            wanted <- mean(own$bakery == code)
            holds(verdict, one$n == sum(own$bakery == code), "another n")
            holds(verdict, near(one$share, wanted) || near(one$share, 100 * wanted), "other shares")
          }
          # What disagrees lies left of the middle, what agrees right of it.
          left <- codes[seq_len(length(codes) %/% 2)]
          right <- utils::tail(codes, length(codes) %/% 2)
          at <- function(set) found[found$bakery %in% shown_name(table, "bakery", set), ]
          holds(verdict, all(at(left)$to <= 1e-9), "what disagrees stands right of the middle")
          holds(verdict, all(at(right)$from >= -1e-9), "what agrees stands left of the middle")
        }
        legend_holds(verdict, plate, "shares of answers")
      }
    )
  },
  area = function(table) {
    arrange <- one_of("stack", "share", "overlay")
    rows <- complete(table$data, "hour", "bakery")
    sums <- as.data.frame(table(hour = rows$hour, bakery = rows$bakery), stringsAsFactors = FALSE)
    sums$hour <- as.numeric(sums$hour)
    sums$bakery <- factor(sums$bakery, table$categories$bakery$codes)
    sums <- sums[sums$Freq > 0 | chance(0.5), ]
    names(sums)[3] <- "loaves"
    # A share of nothing is none.
    keep <- stats::ave(sums$loaves, sums$hour, FUN = sum) > 0
    sums <- sums[keep, ]
    judged_panel(
      bquote(panel(book, x = hour, y = loaves, colour = bakery, ink_area(.(arrange)))),
      sums,
      function(verdict, plate) {
        told <- source_part(plate, "area")
        told <- told[!is.na(told$centre), ]
        whole <- tapply(sums$loaves, sums$hour, sum)
        long <- told$centre
        for (k in seq_len(nrow(sums))) {
          at <- which(told$hour == sums$hour[k] & told$bakery == sums$bakery[k])
          if (!holds(verdict, length(at) == 1, "an amount without its area")) next
          wanted <- sums$loaves[k]
          if (arrange == "share") wanted <- wanted / whole[[as.character(sums$hour[k])]]
          said <- long[at]
          holds(
            verdict,
            near(said, wanted) || arrange == "share" && near(said, 100 * wanted),
            "another amount"
          )
        }
        if (arrange == "share") legend_holds(verdict, plate, "100 %")
      }
    )
  },
  trees = function(table) {
    n <- one_of(2, 5, 12)
    wide <- expand.grid(strain = paste0("s", seq_len(n)), medium = paste0("m", 1:3))
    wide$growth <- round(stats::rnorm(nrow(wide)), 2)
    linkage <- one_of("average", "complete")
    wide$origin <- c("soil", "bark")[1 + as.integer(wide$strain) %% 2]
    judged_panel(
      bquote(
        marginals(
          panel(
            book,
            x = medium,
            y = strain,
            colour = growth,
            ink_tiles(),
            order = list(strain = by_likeness(growth, medium, linkage = .(linkage)))
          ),
          y = list(ink_strip(colour = origin), ink_tree())
        )
      ),
      wide,
      function(verdict, plate) {
        matrix <- tapply(wide$growth, wide[c("strain", "medium")], mean)
        tree <- stats::hclust(stats::dist(matrix), linkage)
        told <- nelvat::source_data(plate)
        joins <- do.call(
          rbind,
          lapply(told, function(one) {
            if ("tree" %in% one$part) one[one$part == "tree", c("n", "estimate")]
          })
        )
        holds(verdict, near_sorted(joins$estimate, tree$height), "a tree of other heights")
        values <- told[[1]]$strain[told[[1]]$part == "values"]
        texts <- texts_of(plate)
        names <- texts[texts$role == "tick" & grepl("^s[0-9]+$", texts$string), ]
        order <- names$string[order(names$centre_y)]
        # What is joined first stands side by side.
        first <- tree$labels[-tree$merge[1, ]]
        holds(
          verdict,
          abs(diff(match(first, order))) == 1,
          "what is most alike does not stand together"
        )
        holds(verdict, setequal(values, order), "rows without a name")
        strip <- nelvat::as_scene(plate)
        rects <- Filter(function(one) one$ink == "strip", strip$marks)[[1]]$table
        keys <- strip$keys
        fills <- rects$fill[order(-(rects$y0 + rects$y1))]
        shown <- keys$label[
          match(fills, keys$colour[keys$key == "origin"]) +
            which(keys$key == "origin")[1] - 1
        ]
        own <- wide$origin[match(order, wide$strain)]
        holds(verdict, identical(shown, own), "a strip of other colours")
        legend_holds(verdict, plate, "Euclidean", paste(linkage, "linkage"))
      }
    )
  },
  model = function(table) {
    rows <- complete(table$data, "rise", "n", "bakery")
    several <- length(unique(rows$bakery)) > 1
    model <- stats::lm(if (several) rise ~ n + bakery else rise ~ n, rows)
    judged_panel(
      quote(panel(book, x = estimate, y = term, ink_estimate(lower, upper, line = 0))),
      nelvat::estimates_of(model),
      function(verdict, plate) {
        values <- source_part(plate, "values")
        told <- cbind(stats::coef(model), stats::confint(model))[-1, , drop = FALSE]
        told <- told[!is.na(told[, 1]), , drop = FALSE]
        holds(
          verdict,
          all(
            vapply(
              told[, 1],
              function(v) any(abs(values$estimate - v) < 1e-6 * max(1, abs(v)), na.rm = TRUE),
              NA
            )
          ),
          "other coefficients"
        )
        limits <- told[!is.na(told[, 2]), , drop = FALSE]
        holds(
          verdict,
          all(
            vapply(
              limits[, 2],
              function(v) any(abs(values$lower - v) < 1e-6 * max(1, abs(v)), na.rm = TRUE),
              NA
            )
          ),
          "other limits"
        )
      }
    )
  }
)
