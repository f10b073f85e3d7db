// The kernels that compute what is drawn, as one unit.
#include "bin_values.cpp"
#include "group_moments.cpp"
#include "hexagons.cpp"
#include "label_places.cpp"
#include "panel_extent.cpp"
#include "quantiles.cpp"
#include "swarm.cpp"
#include "thin.cpp"
