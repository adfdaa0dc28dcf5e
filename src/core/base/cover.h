#pragma once
#include "core/base/curve.h"

namespace prism {

/// An interval of a curve's parameter.
struct Interval {
    double from, to;
};

/// The parts of `c` that lie on none of `others`, within a distance. Exact for lines on lines and arcs on
/// arcs of the same carrier; other kinds are compared at close points and where the others end,
/// within twice the distance; free-form curves with all kinds within ten times the distance. Gaps of up to
/// four times the tolerance in length count as covered.
std::vector<Interval> uncovered(const Curve& c, const std::vector<const Curve*>& others, double tolerance);

} // namespace prism
