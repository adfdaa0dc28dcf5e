#pragma once
#include "core/base/curve.h"

#include <optional>

namespace prism {

/// The arc of an ellipse along points in order, six or more, that lie on it within the tolerance; none when
/// one does not. Least squares of the general conic, exact for points that lie on one.
std::optional<EllipseArc> ellipseOn(const std::vector<Vec2>& points, double tolerance);

} // namespace prism
