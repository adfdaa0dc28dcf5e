#pragma once
#include "core/base/curve_ends.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"

namespace prism {

/// What is left of a curve when the part round `at`, between its crossings with `others`, is cut out. Nothing
/// left when it crosses none. Closed curves need two crossings.
Result<std::vector<Curve>> trimmed(const Curve& c, const std::vector<Curve>& others, Vec2 at,
                                   double tolerance);

/// The curve prolonged, at the end nearer to `at`, to the nearest of the others ahead. Lines and arcs only.
Result<Curve> extended(const Curve& c, const std::vector<Curve>& others, Vec2 at, double tolerance);

/// Two lines made to meet in their common corner, each kept on the side of the place it was picked at.
Result<std::pair<Segment, Segment>> cornered(const Segment& a, Vec2 at_a, const Segment& b, Vec2 at_b);

/// The curve at a distance from this one, on the side of `towards`. Lines, arcs and circles only.
Result<Curve> offsetBy(const Curve& c, double distance, Vec2 towards);

} // namespace prism
