#pragma once
#include "core/base/circle_fit.h"
#include "core/base/curve.h"

// Lines and arcs fitted to points of the ink.
namespace prism {

/// Least-squares line through points (orthogonal distances), as far as they reach along it.
Segment fitLine(const std::vector<Vec2>& points);
/// Least-squares circle by distances (Gauss-Newton from the linear fit); none for points on a line.
std::optional<Circle> fitCircleByDistance(const std::vector<Vec2>& points);

/// A shape with how far the points are from it.
struct Fit {
    Curve shape;
    double rms = 0, most = 0;
};
Fit fitOf(Curve shape, const std::vector<Vec2>& points);
Fit lineFit(const std::vector<Vec2>& points);
/// None for fewer than eight points, for points on a line, and for such as run round more than once.
std::optional<Fit> arcFit(const std::vector<Vec2>& points, bool closed);
/// How far the middle of an arc is from its chord: one that hardly bows is a line.
double bowOf(const Arc& a);

/// The one line or arc on which the points of two pieces lie; none when they do not.
std::optional<Fit> fitJoined(const std::vector<Vec2>& points, bool closed, bool two_lines, double pixel);
/// The shape from a to b, which lie near its ends.
Curve alongShape(const Curve& shape, Vec2 a, const std::vector<Vec2>& points, Vec2 b);

} // namespace prism
