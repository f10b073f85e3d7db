# Words found by the terms of the trade, with what they take: from the schema of figure files, the
# help pages and the examples, so that nothing is said here twice. Only the terms stand here.

trade_terms <- list(
  ink_agreement = paste(
    "bland-altman, method comparison, limits of agreement, bias, tukey mean difference"
  ),
  ink_arrow = "arrow, annotation, pointer",
  ink_bars = paste(
    "bar chart, column chart, error bar, standard deviation, standard error, confidence",
    "interval, stacked bars, percentage, proportion, counts, mean"
  ),
  ink_bins = "2d histogram, binned scatter, rectangular bins, overplotting, density of points",
  ink_box = "box plot, boxplot, whiskers, quartiles, outliers, median, notch",
  ink_centre = paste(
    "mean, median, error bar, point range, confidence interval, standard error, mean and",
    "error"
  ),
  ink_classes = paste(
    "roc, receiver operating characteristic, auc, area under the curve, precision recall,",
    "sensitivity, specificity, classifier, c statistic"
  ),
  ink_column = "forest plot text, table beside a plot, numbers beside a plot, column of text",
  ink_contours = "density contours, isolines, 2d density, level lines, overplotting",
  ink_contrasts = paste(
    "significance, p value, t test, welch, wilcoxon, mann-whitney, tukey, dunnett, anova,",
    "kruskal-wallis, stars, asterisks, brackets, compact letter display, multiple comparisons,",
    "paired test"
  ),
  ink_limits = "error bars from columns, horizontal error bars, ribbon, uncertainty of x and y",
  ink_survival = paste(
    "kaplan-meier, survival curve, time to event, log-rank, numbers at risk, censoring"
  ),
  ink_tally = "numbers under the axis, n per group, row of numbers",
  ink_area = "stacked area, area chart, composition over time",
  ink_answers = "likert, agreement scale, survey, diverging stacked bars, questionnaire",
  ink_ellipse = "ellipse, hull, ordination, principal components, pca, groups of points",
  ink_cumulative = "ecdf, empirical distribution, cumulative distribution, cumulative share",
  ink_curve = "function, theoretical curve, model curve, formula",
  ink_density = "density, kernel density, kde, distribution, smoothed histogram",
  ink_depth = "3d scatter, three dimensions",
  ink_dots = "strip chart, jitter, raw values, single values, dot plot, raincloud",
  ink_estimate = paste(
    "forest plot, odds ratio, hazard ratio, effect size, meta-analysis, coefficient plot"
  ),
  ink_fit = paste(
    "regression, trend line, linear model, smoother, loess, dose-response, ec50, ic50,",
    "michaelis-menten, logistic regression, curve fit, confidence band, prediction interval,",
    "r squared"
  ),
  ink_hexagons = "hexagonal bins, hexagonal binning, overplotting, density of points, big data",
  ink_histogram = "histogram, distribution, frequency, bins",
  ink_image = "micrograph, photo, picture, raster",
  ink_labels = "labels, names of points, volcano plot labels, annotation",
  ink_line = "line chart, time series, trace, spaghetti plot, mean line, confidence band, ribbon",
  ink_mesh = "mesh, triangulation, finite elements",
  ink_pie = "pie chart, shares, composition",
  ink_points = "scatter plot, scatterplot, points, bubble chart, dot",
  ink_polygons = "polygons, map, regions, shapes",
  ink_quantiles = "q-q, qq plot, quantile-quantile, normal probability plot, normality",
  ink_region = "outline, rectangle, region of interest",
  ink_residuals = "residuals, diagnostics, residual plot",
  ink_ridges = "ridgeline, densities in rows",
  ink_rug = "rug, marginal ticks",
  ink_rule = "reference line, threshold, horizontal line, vertical line, identity line, diagonal",
  ink_shade = "shaded band, highlight, treatment period, background",
  ink_strip = "annotation bar, colour bar beside a heat map, sample groups, side colours",
  ink_isolines = "contour lines, isotherms, isobars, level curves, elevation lines, gridded field",
  ink_lanes = "swimmer plot, swimlane, follow-up of patients, timelines of subjects",
  ink_events = "events on lanes, swimmer plot, progression, death, response",
  ink_vectors = "biplot, loadings, ordination arrows, environmental fit",
  estimates_of = "model coefficients, regression table, tidy a model, odds ratios, hazard ratios",
  ink_tree = "dendrogram, cluster tree, hierarchical clustering, clustered heat map",
  ink_phases = "treatment periods, day and night, light and dark, protocol bar, epochs, stages",
  ink_step = "step plot, staircase",
  ink_swarm = "swarm, bee swarm, raw values, single values",
  ink_text = "text, note, annotation",
  ink_tiles = "heat map, heatmap, matrix of values, tile plot, correlation matrix",
  ink_value = "correlation, pearson, spearman, kendall, correlation coefficient, r",
  ink_violin = "violin plot, distribution, half violin, raincloud",
  facets = "small multiples, faceted grid, split by group, panels by level, conditioning",
  every_pair = "scatter-plot matrix, scatterplot matrix, pairs, correlogram, all pairs",
  joint = "joint figure, marginal histograms, scatter with marginals, marginal plot",
  marginals = "marginal histograms, marginal densities, distribution at the edge",
  zoom = "inset, enlargement, magnified region, close-up",
  panel = "plot, chart, graph, single panel",
  plate = "figure, multi-panel figure, layout, page, arrange panels, panel letters",
  axis_of = paste(
    "axis, axis limits, axis range, breaks, ticks, log scale, reversed axis, axis title, axis",
    "label"
  ),
  correlations = "correlation matrix, correlation heat map",
  counts = "counts, contingency table, crosstab",
  codebook = "data dictionary, variable names, units, labels, factor levels",
  category = "factor, nominal variable, level order, level names, level colours",
  ordinal = "ordered factor, likert, grades",
  quantity = "unit, numeric variable, unit conversion",
  moment = "date, time, datetime, time zone",
  house = "style, house style, journal style, fonts, palette, colours, journal limits",
  key_place = "legend position, key position",
  save_plate = "export, save, pdf, png, tiff, svg, eps, resolution, dpi",
  source_data = "source data, numbers behind a figure, data availability",
  legend_text = "caption, figure legend, figure caption",
  alt_text = "alternative text, accessibility, screen reader",
  proof = "check, journal requirements, colour blindness, font size check, artwork",
  in_bins = "hourly means, daily means, monthly means, binned averages, round times",
  cut_into = "bin a variable, quantile groups, tertiles, age groups",
  running_mean = "moving average, rolling mean, smoothing",
  running_median = "moving median, rolling median, smoothing",
  without_spikes = "spikes, outlier removal, despiking",
  long_data = "reshape, wide to long, long format",
  join_data = "merge, join, lookup table",
  image_panel = "micrograph, photo, scale bar, blot, gel",
  ink_images = "micrographs, image grid, rows of images, montage, brightness, contrast of images",
  scale_bar = "scale bar, micrograph",
  draft_house = "journal style, artwork guidelines, author guidelines, style file",
  archive_figure = "reproducible figure, data in the pdf, attachments, embedded files",
  look_at = "live preview, interactive, watch, browser, hot reload",
  table_panel = "table of numbers, table in a figure, summary table",
  by_likeness = "cluster, clustering, hierarchical clustering, clustered heat map, order of a tree",
  read_data = "read csv, read excel, spreadsheet, import data, table file, parquet",
  start_figure = "first figure, draft a figure, get started, template",
  study = "example data, demo data, sample data",
  resize = "another size, talk version, poster, slide, column width",
  change = "edit a figure, modify, update, variant, replace an argument",
  beside = "side by side, combine plots, arrange panels, row of panels",
  stacked = "one under the other, combine plots, column of panels",
  share_axis = "shared axis, common axis, same range, independent axes",
  text_panel = "text box, note in a panel",
  blank = "empty panel, spacer, gap",
  measure = "several measures, several columns, pivot",
  fits = "fitted parameters, coefficients, r squared, equation",
  contrast_table = "table of comparisons, p values, test results",
  methods_text = "methods section, statistics paragraph, statistical methods",
  save_book = "supplement, appendix, all figures in one pdf, booklet",
  submit_figures = "submission, upload, figure files for a journal",
  save_source_data = "source data, numbers behind a figure, excel of a figure",
  report = "report, web page of a figure",
  table_in = "database, sql, sqlite, postgres, big data, large table",
  sample_of = "random sample, subsample, thin out",
  reverse = "reversed axis, flip an axis, upside down",
  ln = "logarithm, log scale, natural logarithm",
  logit = "logit scale, log odds, proportions",
  natural = "preferred size, size of a panel",
  set_house = "default style, theme, style of all figures"
)

#' Find a word by what the trade calls it
#'
#' Of each word that is found: what it does, its arguments with what they take, and an example in R
#' and in a figure file.
#'
#' @param term What is looked for, such as `"roc"`, `"error bar"` or `"ink_box"`; `NULL`: all words.
#' @param ... Nothing; a misspelt argument is told with the nearest right name.
#' @return A data frame with a row a word, the best first: `word`, `title`, and `by`, the term that
#'   was met. Printed, up to three words are told whole.
#' @section Errors: `nelvat_error_argument` where nothing is found, with the nearest terms.
#' @examples
#' words("Bland-Altman")
#' words()$word
#' @export
words <- function(term = NULL, ...) {
  check_rest(...)
  check_string(term, "term", or_null = TRUE)
  found <- if (is.null(term)) {
    data.frame(word = all_words(), by = "")
  } else {
    met_words(term, rlang::current_env())
  }
  titles <- vapply(found$word, help_title, "", USE.NAMES = FALSE)
  structure(
    data.frame(word = found$word, title = titles, by = found$by),
    class = c("nelvat_words_met", "data.frame")
  )
}

# Words that the trade has terms for, then all other functions.
all_words <- function() {
  exported <- sort(getNamespaceExports(topenv()), method = "radix")
  c(names(trade_terms), setdiff(exported, names(trade_terms)))
}

plain_term <- function(text) trimws(gsub("[^a-z0-9]+", " ", tolower(text)))

# Words that a term meets, the best first: the word itself, one of its terms, a part of one; where
# none is met, those that take an argument of that name.
met_words <- function(term, call) {
  wanted <- plain_term(term)
  every <- all_words()
  terms <- lapply(stats::setNames(nm = every), function(word) {
    trimws(strsplit(trade_terms[[word]] %||% gsub("_", " ", word), ",")[[1]])
  })
  pieces <- strsplit(wanted, " ")[[1]]
  rank_of <- function(word) {
    called <- c(word, sub("^ink_", "", word), terms[[word]])
    plain <- plain_term(called)
    same <- gsub(" ", "", plain) == gsub(" ", "", wanted)
    begins <- grepl(paste0("\\b", wanted), plain, perl = TRUE)
    all_pieces <- vapply(plain, function(one) all(pieces %in% strsplit(one, " ")[[1]]), NA)
    for (rank in 1:3) {
      hit <- which(list(same, begins, all_pieces)[[rank]])
      if (length(hit)) return(data.frame(word = word, by = called[hit[1]], rank = rank))
    }
  }
  found <- if (nzchar(wanted)) do.call(rbind, lapply(every, rank_of))
  if (NROW(found)) return(found[order(found$rank), ])
  takes <- Filter(function(word) gsub(" ", "_", wanted) %in% arguments_called(word), every)
  if (length(takes)) return(data.frame(word = takes, by = paste("argument", wanted), rank = 4))
  all_terms <- unique(unlist(terms))
  near <- all_terms[order(utils::adist(wanted, plain_term(all_terms), partial = FALSE))][1:3]
  abort_nelvat(
    "argument",
    c(
      paste0("No word is found for \"", term, "\"."),
      i = paste0("Near it are ", listed(paste0("\"", near, "\"")), "; `words()` has all.")
    ),
    call
  )
}

# What a word takes, as its rows or its function name it; of a house its settings, too.
arguments_called <- function(word) {
  known <- if (is_word(word)) names(word_arguments(word))
  settings <- if (word == "house") names(unclass(house()))
  c(known, names(formals(getExportedValue("nelvat", word))), settings)
}

# The help page that tells of a word: its title, its sentences of arguments, its example.
help_page <- function(word) {
  if (is.null(known_help$pages)) known_help$pages <- tools::Rd_db("nelvat")
  pages <- known_help$pages
  tag <- function(page, name) {
    Filter(function(part) identical(attr(part, "Rd_tag"), name), page)
  }
  for (page in pages) {
    aliases <- vapply(tag(page, "\\alias"), function(one) as.character(one[[1]]), "")
    if (word %in% aliases) {
      text <- function(name) paste(unlist(tag(page, name)), collapse = "")
      return(list(title = trimws(text("\\title")), examples = text("\\examples")))
    }
  }
  list(title = "", examples = "")
}
known_help <- new.env(parent = emptyenv())

help_title <- function(word) help_page(word)$title

# An example of a word in a figure file, from those that ship; NULL where none has it.
yaml_example <- function(word) {
  key <- sub("^ink_", "", word)
  is_ink <- startsWith(word, "ink_")
  # Inks stand under the keys that take them, and by name alone.
  takes_inks <- c("ink", "above", "diagonal", "below", "marginal", "x", "y")
  holds <- function(node, under) {
    if (!is.list(node)) return(is_ink && under %in% takes_inks[1:5] && key %in% node)
    named <- key %in% names(node) && (!is_ink || under %in% takes_inks)
    node_keys <- if (is.null(names(node))) rep(under, length(node)) else names(node)
    named || any(unlist(Map(holds, node, node_keys)))
  }
  # y is a key here, and no truth value.
  said <- function(text) if (tolower(text) %in% c("true", "yes")) TRUE else text
  denied <- function(text) if (tolower(text) %in% c("false", "no")) FALSE else text
  for (file in c("inks.yaml", "facets.yaml", "pairs-and-joint.yaml", "plates.yaml")) {
    blocks <- yaml::read_yaml(
      system.file("examples", file, package = "nelvat"),
      handlers = list(`bool#yes` = said, `bool#no` = denied)
    )$blocks
    for (name in names(blocks)) {
      if (!holds(blocks[[name]], "")) next
      text <- yaml::as.yaml(
        blocks[name],
        indent.mapping.sequence = TRUE,
        handlers = list(logical = yaml::verbatim_logical)
      )
      return(gsub("'y':", "y:", text, fixed = TRUE))
    }
  }
}

#' @export
print.nelvat_words_met <- function(x, ...) {
  writeLines(word_lines(x))
  invisible(x)
}

word_lines <- function(found) {
  if (!nrow(found)) return(character())
  if (nrow(found) > 3 && all(found$by == "")) {
    return(paste0(format(found$word), "  ", found$title))
  }
  told <- utils::head(found$word, 3)
  lines <- unlist(lapply(told, function(word) c(lines_of_word(word), "")))
  others <- found$word[-seq_along(told)]
  c(lines, if (length(others)) paste("See also", listed(others)))
}

lines_of_word <- function(word) {
  page <- help_page(word)
  given <- formals(get(word, asNamespace("nelvat")))
  rows <- if (is_word(word)) word_arguments(word)
  called <- if (is.null(rows)) setdiff(names(given), "...") else names(rows)
  told <- lapply(called, function(name) {
    type <- rows[[name]]
    default <- if (name %in% names(given)) paste(deparse(given[[name]]), collapse = " ")
    c(
      paste0(
        "  ",
        name,
        if (identical(default, "")) " (needed)" else if (length(default)) paste0(" = ", default),
        if (!is.null(type)) paste0(": ", type_words(type))
      ),
      if (!is.null(type)) strwrap(plain_says(type), 92, prefix = "      ")
    )
  })
  example <- trimws(strsplit(page$examples, "\n")[[1]], "right")
  example <- example[cumsum(nzchar(example)) > 0]
  yaml_text <- yaml_example(word)
  c(
    paste0(word, "(): ", page$title),
    unlist(told),
    if (length(example)) c("in R:", paste0("  ", utils::head(example, 12))),
    if (!is.null(yaml_text)) {
      c("in a figure file, under `blocks`:", paste0("  ", strsplit(yaml_text, "\n")[[1]]))
    }
  )
}
