#pragma once
#include "core/base/curve.h"

namespace prism {

/// Points where two curves meet or cross; exact for segments and arcs, refined from samples for other kinds.
/// Overlapping parts give none.
std::vector<Vec2> crossings(const Curve& a, const Curve& b, double tolerance);

} // namespace prism
