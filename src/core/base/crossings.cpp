#include "core/base/crossings.h"

namespace prism {
namespace {

void segments(const Segment& s, const Segment& t, std::vector<Vec2>& out) {
    const Vec2 u = s.b - s.a, v = t.b - t.a;
    const double det = cross(u, v);
    if (std::abs(det) < 1e-12 * length(u) * length(v)) return;
    out.push_back(s.a + u * (cross(t.a - s.a, v) / det));
}

/// Where two curves touch that come nearest to each other at `foot`. Digits of a file move it along the
/// curves by far more than across them: an end that lies on both says it better.
Vec2 touchingPlace(Vec2 foot, double radius, const Curve& a, const Curve& b, double tol) {
    const double reach = 3 * std::sqrt(2 * radius * tol);
    Vec2 best = foot;
    double nearest = reach;
    for (const Curve* c : {&a, &b})
        for (Vec2 p : {startOf(*c), endOf(*c)})
            if (distance(p, foot) < nearest && distanceTo(a, p) <= tol && distanceTo(b, p) <= tol)
                nearest = distance(p, foot), best = p;
    return best;
}

void lineCircle(const Segment& s, const Arc& a, double tol, std::vector<Vec2>& out) {
    const Vec2 d = normalized(s.b - s.a), w = s.a - a.centre;
    const double along = dot(w, d), off = std::abs(cross(d, w));
    if (std::abs(off - a.radius) <= tol) {
        const Vec2 foot = a.centre + normalized(s.a + d * -along - a.centre) * a.radius;
        return out.push_back(touchingPlace(foot, a.radius, s, a, tol));
    }
    if (off > a.radius) return;
    const double half = std::sqrt(a.radius * a.radius - off * off);
    out.push_back(s.a + d * (-along - half));
    out.push_back(s.a + d * (-along + half));
}

void circles(const Arc& a, const Arc& b, double tol, std::vector<Vec2>& out) {
    const Vec2 d = b.centre - a.centre;
    const double l = length(d);
    if (l < 1e-12) return;
    const Vec2 u = d * (1 / l), n{-u.y, u.x};
    const bool outside = std::abs(l - a.radius - b.radius) <= tol;
    if (outside || (l > 10 * tol && std::abs(l - std::abs(a.radius - b.radius)) <= tol)) {
        const double side = outside || a.radius > b.radius ? 1 : -1;
        const double bend = outside ? a.radius * b.radius / (a.radius + b.radius)
                                    : a.radius * b.radius / std::max(std::abs(a.radius - b.radius), tol);
        return out.push_back(touchingPlace(a.centre + u * (side * a.radius), bend, a, b, tol));
    }
    const double x = (l * l + a.radius * a.radius - b.radius * b.radius) / (2 * l);
    const double y2 = a.radius * a.radius - x * x;
    if (y2 < 0) return;
    const double y = std::sqrt(y2);
    out.push_back(a.centre + u * x + n * y);
    out.push_back(a.centre + u * x - n * y);
}

/// In the ellipse's own frame, where it is the unit circle.
void lineEllipse(const Segment& s, const EllipseArc& e, std::vector<Vec2>& out) {
    const double mm = dot(e.major, e.major);
    if (!(mm > 0) || !(std::abs(e.ratio) > 0)) return;
    const Vec2 minor{-e.major.y, e.major.x};
    const auto own = [&](Vec2 p) { return Vec2{dot(p, e.major) / mm, dot(p, minor) / (mm * e.ratio)}; };
    const Vec2 w = own(s.a - e.centre), d = own(s.b - s.a);
    const double a = dot(d, d), b = dot(w, d), c = dot(w, w) - 1, under = b * b - a * c;
    if (!(a > 0) || under < 0) return;
    const double root = std::sqrt(under);
    for (double t : {(-b - root) / a, (-b + root) / a}) out.push_back(s.a + (s.b - s.a) * t);
}

Vec2 speedAt(const Curve& c, double t) {
    const double lo = std::max(0.0, t - 1e-5), hi = std::min(1.0, t + 1e-5);
    return (pointAt(c, hi) - pointAt(c, lo)) * (1 / (hi - lo));
}

/// The crossing near places s and t of the curves, by Newton's method in their parameters.
Vec2 refined(const Curve& a, const Curve& b, double s, double t) {
    for (int k = 0; k < 20; ++k) {
        const Vec2 off = pointAt(b, t) - pointAt(a, s), u = speedAt(a, s), v = speedAt(b, t);
        const double det = cross(u, v);
        if (std::abs(det) < 1e-14 * length(u) * length(v)) break;
        s = std::clamp(s + cross(off, v) / det, 0.0, 1.0);
        t = std::clamp(t + cross(off, u) / det, 0.0, 1.0);
    }
    return (pointAt(a, s) + pointAt(b, t)) * 0.5;
}

void general(const Curve& a, const Curve& b, double tol, std::vector<Vec2>& out) {
    const auto pa = sampled(a, tol * 100), pb = sampled(b, tol * 100);
    for (size_t i = 1; i < pa.size(); ++i)
        for (size_t j = 1; j < pb.size(); ++j) {
            const Vec2 u = pa[i] - pa[i - 1], v = pb[j] - pb[j - 1], w = pb[j - 1] - pa[i - 1];
            const double det = cross(u, v);
            if (det == 0) continue;
            const double s = cross(w, v) / det, t = cross(w, u) / det;
            if (s < -0.01 || s > 1.01 || t < -0.01 || t > 1.01) continue;
            // Samples are even in the parameter.
            const Vec2 p =
                refined(a, b, (static_cast<double>(i) - 1 + s) / static_cast<double>(pa.size() - 1),
                        (static_cast<double>(j) - 1 + t) / static_cast<double>(pb.size() - 1));
            // A crossing near the border of two pieces is met from both.
            if (std::ranges::none_of(out, [&](Vec2 q) { return distance(p, q) <= 2 * tol; }))
                out.push_back(p);
        }
}

} // namespace

std::vector<Vec2> crossings(const Curve& a, const Curve& b, double tol) {
    std::vector<Vec2> r;
    const auto *s = std::get_if<Segment>(&a), *t = std::get_if<Segment>(&b);
    const auto *c = std::get_if<Arc>(&a), *d = std::get_if<Arc>(&b);
    if (s && t)
        segments(*s, *t, r);
    else if (s && d)
        lineCircle(*s, *d, tol, r);
    else if (c && t)
        lineCircle(*t, *c, tol, r);
    else if (c && d)
        circles(*c, *d, tol, r);
    else if (const auto* e = std::get_if<EllipseArc>(&b); s && e)
        lineEllipse(*s, *e, r);
    else if (const auto* f = std::get_if<EllipseArc>(&a); f && t)
        lineEllipse(*t, *f, r);
    else
        general(a, b, tol, r);
    std::erase_if(r, [&](Vec2 p) { return distanceTo(a, p) > tol || distanceTo(b, p) > tol; });
    return r;
}

} // namespace prism
