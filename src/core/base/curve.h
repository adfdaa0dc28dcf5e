#pragma once
#include "core/base/geometry.h"

#include <variant>

namespace prism {

struct Segment {
    Vec2 a, b;
    friend bool operator==(const Segment&, const Segment&) = default;
};
/// Circular arc; sweep is signed (counter-clockwise positive), |sweep| == 2 pi for a full circle. Radians.
struct Arc {
    Vec2 centre;
    double radius = 0, start = 0, sweep = 2 * kPi;
    bool full() const { return std::abs(sweep) >= 2 * kPi - 1e-12; }
    friend bool operator==(const Arc&, const Arc&) = default;
};
/// Elliptic arc: centre + major cos t + ratio * perp(major) sin t, t from start over sweep (radians of the
/// parameter).
struct EllipseArc {
    Vec2 centre, major;
    double ratio = 1, start = 0, sweep = 2 * kPi;
    friend bool operator==(const EllipseArc&, const EllipseArc&) = default;
};
/// B-spline, rational when weights are given; knots are the full vector (poles + degree + 1 of them).
struct Spline {
    int degree = 3;
    std::vector<double> knots;
    std::vector<Vec2> poles;
    std::vector<double> weights;
    friend bool operator==(const Spline&, const Spline&) = default;
};

using Curve = std::variant<Segment, Arc, EllipseArc, Spline>;

/// Point at t in [0, 1] along the curve's own parameter.
Vec2 pointAt(const Curve& c, double t);
inline Vec2 startOf(const Curve& c) {
    return pointAt(c, 0);
}
inline Vec2 endOf(const Curve& c) {
    return pointAt(c, 1);
}
/// Unit direction of travel at t in [0, 1].
Vec2 tangentAt(const Curve& c, double t);
bool isClosed(const Curve& c, double tolerance);
double lengthOf(const Curve& c);
/// Tight for segments, arcs and ellipses; by sampling for splines.
Box2 boxOf(const Curve& c);
Curve transformed(const Curve& c, const Affine2& m);
Curve reversed(const Curve& c);
/// The part from t0 to t1 (0 <= t0 < t1 <= 1). Splines are cut by knot insertion.
Curve part(const Curve& c, double t0, double t1);
/// Points along the curve, ends included, with a chord error of at most tolerance.
std::vector<Vec2> sampled(const Curve& c, double tolerance);
/// Parameter in [0, 1] of the point of c nearest to p.
double nearestParameter(const Curve& c, Vec2 p);
inline double distanceTo(const Curve& c, Vec2 p) {
    return distance(pointAt(c, nearestParameter(c, p)), p);
}
/// Arc through a and b with the given bulge (tangent of a quarter of the swept angle); a segment when bulge
/// is 0.
Curve fromBulge(Vec2 a, Vec2 b, double bulge);
/// Interpolating cubic through fit points (centripetal parameters, natural ends).
Spline splineThrough(const std::vector<Vec2>& points);

} // namespace prism
