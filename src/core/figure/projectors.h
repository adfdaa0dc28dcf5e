#pragma once
#include "core/figure/figure.h"

namespace prism {

/// One place in space that a feature may have, and where each view that shows it shows it.
struct Projector {
    Vec3 at;                                 ///< model coordinates, mm
    std::vector<std::pair<int, Vec2>> shown; ///< view and place in its own coordinates
};

/// The places of a figure curve's ends, or of its centre for arcs and circles, found again in the other
/// views: the depth that a view does not show is taken from points of other views that share its coordinates,
/// and only depths that most views bear out are told.
std::vector<Projector> projectorsOf(const Figure& f, int curve);

} // namespace prism
