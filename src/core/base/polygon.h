#pragma once
#include "core/base/geometry.h"

namespace prism {

/// Whether going along a from b one passes a place on its right an odd number of times: the even-odd rule,
/// edge by edge.
inline bool passesRightOf(Vec2 p, Vec2 a, Vec2 b) {
    return (a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y);
}

/// Whether a place lies within a closed polygon (even-odd rule).
inline bool insidePolygon(const std::vector<Vec2>& points, Vec2 p) {
    bool in = false;
    for (size_t i = 0, j = points.size() - 1; i < points.size(); j = i++)
        if (passesRightOf(p, points[j], points[i])) in = !in;
    return in;
}

} // namespace prism
