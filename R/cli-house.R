# nelvat house: a house file from the answers to twelve questions, as options or as a YAML file.

house_questions <- list(
  name = "what the style is called",
  single = "width of a single column in mm",
  middle = "width between single and double in mm",
  double = "width of a double column in mm",
  height = "greatest height of a figure in mm",
  type = "size of type in points",
  least = "least size of type in points",
  fonts = "fonts, parted by commas",
  line = "least line weight in points",
  colour = "printed in colour? true or false",
  formats = "file formats, parted by commas",
  dpi = "dots per inch of images",
  file_mb = "greatest size of a file in MB",
  letters = "how panels are lettered: a, A, (a), (A), a) or A)",
  bold = "are the letters bold? true or false",
  decimal = "the decimal mark",
  legend = "what a legend must define"
)

cli_house <- function(arguments) {
  parsed <- cli_parse(
    arguments,
    "nelvat house [--answers FILE.yaml] [OPTIONS] [HOUSE.yaml]",
    paste(
      "Drafts a house file (nelvat.yaml, where none is named) from what a journal's page on",
      "artwork asks for, and lists what proof cannot measure. Answers are options, or a YAML file",
      "of the same names."
    ),
    c(
      list(
        optparse::make_option(
          "--answers",
          type = "character",
          default = NULL,
          metavar = "FILE",
          help = "a YAML file with answers; options go before it"
        )
      ),
      lapply(names(house_questions), question_option)
    ),
    least = 0,
    most = 1
  )
  if (is.null(parsed)) return(0L)
  path <- if (length(parsed$args)) parsed$args else "nelvat.yaml"
  guarded(
    {
      said <- parsed$options[paste0("q_", names(house_questions))]
      names(said) <- names(house_questions)
      answers <- c(
        as_answers(Filter(Negate(is.null), said)),
        answers_of_file(parsed$options$answers)
      )
      answers <- answers[!duplicated(names(answers))]
      written <- in_words_of_files(
        rlang::inject(draft_house(path, !!!answers)),
        options = names(house_questions)
      )
      writeLines(written)
      0L
    },
    path
  )
}

question_option <- function(name) {
  option <- gsub("_", "-", name)
  optparse::make_option(
    paste0("--", option),
    type = "character",
    default = NULL,
    dest = paste0("q_", name),
    metavar = toupper(option),
    help = house_questions[[name]]
  )
}

answers_of_file <- function(path) {
  if (is.null(path)) return(list())
  answers <- read_document(path, "house", NULL)
  stray <- setdiff(names(answers), names(house_questions))
  if (!is.list(answers) || is.null(names(answers)) || length(stray)) {
    abort_nelvat(
      "house",
      c(
        paste0("\"", path, "\" must hold answers by name."),
        x = if (length(stray)) paste0("There is no question \"", stray[1], "\"."),
        if (length(stray)) offer(stray[1], names(house_questions), "question")
      ),
      call = NULL
    )
  }
  lapply(answers, function(answer) if (is.list(answer)) unlist(answer) else answer)
}

# Texts of options as the values that are meant.
as_answers <- function(said) {
  Map(
    function(text, name) {
      if (name %in% c("fonts", "formats")) return(trimws(strsplit(text, ",", fixed = TRUE)[[1]]))
      if (name %in% c("name", "letters", "decimal", "legend")) return(text)
      if (tolower(text) %in% c("true", "false")) return(tolower(text) == "true")
      number <- suppressWarnings(as.numeric(text))
      if (is.na(number)) text else number
    },
    said,
    names(said)
  )
}
