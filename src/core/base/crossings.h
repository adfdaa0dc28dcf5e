#pragma once
#include "core/base/curve.h"

namespace prism {

/// Points where two curves meet or cross; exact for segments and arcs, refined from samples for other kinds.
/// Overlapping parts give none; lines and circles that come within the tolerance of touching give the one
/// place where they touch: an end of one of them that lies there, else the foot.
std::vector<Vec2> crossings(const Curve& a, const Curve& b, double tolerance);

} // namespace prism
