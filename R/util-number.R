# Numbers in texts are written alike whatever the session's options are: a point, seven digits,
# powers of ten where R would choose them. A house's decimal mark is set after that.
local_number_options <- function(frame = rlang::caller_env()) {
  rlang::local_options(OutDec = ".", digits = 7, scipen = 0, .frame = frame)
}
