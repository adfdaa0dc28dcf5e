#pragma once
#include "core/drawing/drawing.h"

#include <set>

namespace prism {

/// In what the further lines are like those chosen.
enum class Likeness {
    chain, ///< connected end to end
    layer,
    line_type,
    size ///< the same length, and for arcs the same radius
};

/// The chosen lines with all others in use that are like one of them.
std::set<int> chooseLike(const Drawing& d, const std::vector<bool>& use, const std::set<int>& chosen,
                         Likeness how, double tolerance);

/// Lines in use that lie within a closed polygon, or with `crossing` also those that it cuts.
std::set<int> chooseWithin(const Drawing& d, const std::vector<bool>& use, const std::vector<Vec2>& polygon,
                           bool crossing);

/// Lines in use that a chain of points crosses.
std::set<int> chooseCrossed(const Drawing& d, const std::vector<bool>& use, const std::vector<Vec2>& chain);

} // namespace prism
