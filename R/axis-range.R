# The range of an axis, in transformed units: what its panels show, zero where
# bars stand on it, and padding so that no mark is cut by the frame.

slot_padding <- 0      # category slots: the slots carry their own room
value_padding <- 0.045 # share of the range, at each end
lone_padding <- 0.5    # half-width of a range of one value

slot_range <- function(n_levels) c(0.5, n_levels + 0.5) + c(-1, 1) * slot_padding

# extent: least and greatest shown; zero: does the axis start at zero?
value_range <- function(extent, zero = FALSE) {
  extent <- extent[is.finite(extent)]
  if (!length(extent)) return(c(0, 1))
  extent <- range(extent, if (zero) 0)
  width <- diff(extent)
  if (width == 0) {
    half <- if (extent[1] == 0) lone_padding else abs(extent[1]) * lone_padding
    return(extent + c(-1, 1) * half)
  }
  padding <- width * value_padding * c(-1, 1)
  if (zero) padding[extent == 0] <- 0
  extent + padding
}

to_unit <- function(values, range) (values - range[1]) / (range[2] - range[1])
