#pragma once
#include "core/drawing/drawing.h"

namespace prism {

/// What can be said of chosen lines at a glance; sheet units and radians. Empty where it does not apply.
struct Measured {
    int lines = 0;
    double length = 0;            ///< of all of them
    std::optional<double> radius; ///< of a single arc or circle
    std::optional<double> angle;  ///< between two straight lines, 0 to pi / 2
    std::optional<double> apart;  ///< between two parallel lines, or two centres
    std::optional<double> area;   ///< within a closed chain, or a circle
    std::optional<Vec2> across;   ///< width and height of the box round them
};

Measured measured(const Drawing& d, const std::vector<int>& entities, double tolerance);

} // namespace prism
