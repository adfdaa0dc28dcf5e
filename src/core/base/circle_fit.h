#pragma once
#include "core/base/geometry.h"

#include <optional>

namespace prism {

struct Circle {
    Vec2 centre;
    double radius = 0;
};

/// Least-squares circle through three or more points (Kasa 1976: linear in x^2 + y^2); exact for points that
/// lie on one. None for points on a line.
std::optional<Circle> fitCircle(const std::vector<Vec2>& points);

} // namespace prism
