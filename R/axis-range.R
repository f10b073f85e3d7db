# The range of an axis, in transformed units: what its panels show, zero where
# bars stand on it, and padding so that no mark is cut by the frame.

value_padding <- 0.045 # share of the range, at each end
lone_padding <- 0.5 # half-width of a range of one value, as a share of the value

slot_range <- function(n_levels) c(0.5, n_levels + 0.5)

# extent: least and greatest shown, in transformed units; zero: does the axis start at zero? tight:
# do marks fill it to its ends?
value_range <- function(extent, zero = FALSE, transform = axis_transform(), tight = FALSE) {
  shown <- c(extent, if (zero && length(extent)) transform$forward(0))
  shown <- shown[is.finite(shown)]
  if (!length(shown)) return(c(0, 1))
  range <- range(shown)
  width <- diff(range)
  if (width == 0) {
    half <- if (range[1] == 0 || transform$name != "identity") {
      lone_padding
    } else {
      abs(range[1]) * lone_padding
    }
    return(range + c(-1, 1) * half)
  }
  if (tight) return(range)
  padding <- width * value_padding * c(-1, 1)
  if (zero) padding[range == transform$forward(0)] <- 0
  range + padding
}

to_unit <- function(values, range) (values - range[1]) / (range[2] - range[1])
