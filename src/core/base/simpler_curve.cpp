#include "core/base/simpler_curve.h"

#include "core/base/ellipse_fit.h"

namespace prism {

std::optional<Arc> arcOn(const Circle& circle, const std::vector<Vec2>& v, double tolerance, bool closed) {
    for (Vec2 p : v)
        if (std::abs(distance(p, circle.centre) - circle.radius) > tolerance) return std::nullopt;
    Arc a{circle.centre, circle.radius, 0, 2 * kPi};
    if (closed) return a;
    a.start = angleOf(v.front() - a.centre);
    a.sweep = 0;
    for (size_t i = 1; i < v.size(); ++i)
        a.sweep += std::atan2(cross(v[i - 1] - a.centre, v[i] - a.centre),
                              dot(v[i - 1] - a.centre, v[i] - a.centre));
    return a;
}

namespace {

constexpr double kLeastOfEllipse = kPi / 6; ///< radians; flatter bows fit too many curves

std::vector<Vec2> alongSpline(const Spline& s) {
    std::vector<Vec2> v;
    for (int i = 0; i <= 48; ++i) v.push_back(pointAt(s, i / 48.0));
    return v;
}

/// Parameters in [0, 1] where the spans of a spline meet, its ends included.
std::vector<double> spanEnds(const Spline& s) {
    const double from = s.knots[s.degree], to = s.knots[s.poles.size()];
    std::vector<double> r;
    for (size_t i = s.degree; i <= s.poles.size(); ++i)
        if (const double t = (s.knots[i] - from) / (to - from); r.empty() || t > r.back() + 1e-9)
            r.push_back(t);
    return r;
}

/// Cubics drawn for an arc lie on it where their spans meet, and stray from it by up to 2.7e-4 of the radius
/// between, if no span turns more than a quarter. A single span has its end tangents along the arc.
std::optional<Circle> circleThroughSpans(const Spline& s, double touch) {
    std::vector<Vec2> joints;
    for (double t : spanEnds(s)) joints.push_back(pointAt(s, t));
    if (joints.size() > 2 && distance(joints.front(), joints.back()) <= touch) joints.pop_back();
    if (joints.size() > 2) return fitCircle(joints);
    const Vec2 p = joints.front(), q = joints.back(), u = normalized(s.poles[1] - s.poles[0]),
               v = normalized(s.poles.back() - s.poles[s.poles.size() - 2]), n{-u.y, u.x};
    if (std::abs(cross(u, v)) < 1e-3) return std::nullopt;
    const Vec2 c = p + n * (dot(q - p, v) / dot(n, v)); // the normals at both ends cross in the centre
    if (std::abs(distance(c, p) - distance(c, q)) > touch) return std::nullopt;
    return Circle{c, distance(c, p)};
}

} // namespace

std::optional<Curve> simplerCurve(const Spline& s, double touch) {
    std::vector<Vec2> v = alongSpline(s);
    const bool closed = distance(v.front(), v.back()) <= touch;
    const Segment chord{v.front(), v.back()};
    if (!closed && std::all_of(v.begin(), v.end(), [&](Vec2 p) { return distanceTo(chord, p) <= touch; }))
        return chord;
    if (closed) v.pop_back();
    auto bowed = [&](const Circle& c) { return c.radius < 20 * lengthOf(s); }; // flatter ones are left alone
    if (const auto c = fitCircle(v); c && bowed(*c))
        if (const auto arc = arcOn(*c, v, touch, closed)) return *arc;
    // Elsewhere than at its joints another curve strays to either side; these cubics only outwards.
    if (const auto c = circleThroughSpans(s, touch);
        c && bowed(*c) &&
        std::all_of(v.begin(), v.end(), [&](Vec2 p) { return distance(p, c->centre) > c->radius - touch; }))
        if (const auto arc = arcOn(*c, v, 3e-4 * c->radius, closed)) return *arc;
    if (auto e = ellipseOn(alongSpline(s), touch); e && std::abs(e->sweep) > kLeastOfEllipse) {
        if (closed) e->sweep = std::copysign(2 * kPi, e->sweep);
        return *e;
    }
    return std::nullopt;
}

std::optional<Arc> roundOf(const EllipseArc& e, double touch) {
    if (length(e.major) * std::abs(1 - e.ratio) > touch) return std::nullopt;
    return Arc{e.centre, length(e.major), angleOf(e.major) + e.start, e.sweep};
}

} // namespace prism
