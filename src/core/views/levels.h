#pragma once
#include "core/views/view_set.h"

// Coordinates of a view's lines, by which it is matched with other views.
namespace prism::views {

/// Distinct coordinates of the ends, the centres and the extent of curves along a unit direction, sorted.
std::vector<double> levelsAlong(const std::vector<Curve>& curves, Vec2 direction, double tolerance);

/// The same for a view's lines along the sheet's axes (0 right, 1 up).
std::vector<double> levelsOf(const Drawing& d, const View& v, int axis, double tolerance);

/// A view's lines through a map.
std::vector<Curve> curvesOf(const Drawing& d, const View& v, const Affine2& map);

/// How many of `a`, shifted, are found in `b`; both sorted.
int matches(const std::vector<double>& a, double shift, const std::vector<double>& b, double tol);

/// The shift of the levels onto `base` that brings most of them together; ends first, then any pair.
double bestShift(const std::vector<double>& levels, const std::vector<double>& base, double tol);

} // namespace prism::views
