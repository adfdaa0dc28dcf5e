#pragma once
#include "core/base/circle_fit.h"
#include "core/base/curve.h"

namespace prism {

/// The arc of a circle along points that lie on it within the tolerance; none when one does not.
std::optional<Arc> arcOn(const Circle& circle, const std::vector<Vec2>& points, double tolerance,
                         bool closed);

/// The arc, circle, ellipse or line that a spline follows: within `touch`, or as cubics drawn for an arc do.
std::optional<Curve> simplerCurve(const Spline& s, double touch);

/// The arc or circle that an ellipse is, within `touch`; none for one that is flatter.
std::optional<Arc> roundOf(const EllipseArc& e, double touch);

} // namespace prism
