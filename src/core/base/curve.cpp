#include "core/base/curve.h"

#include <Eigen/Dense>
#include <boost/container/small_vector.hpp>

namespace prism {
namespace {

Vec2 perpendicular(Vec2 v) {
    return {-v.y, v.x};
}

Vec2 ellipsePoint(const EllipseArc& e, double t) {
    return e.centre + e.major * std::cos(t) + perpendicular(e.major) * (e.ratio * std::sin(t));
}

int spanOf(const Spline& s, double u) {
    const int n = static_cast<int>(s.poles.size()) - 1;
    int k = static_cast<int>(std::upper_bound(s.knots.begin(), s.knots.end(), u) - s.knots.begin()) - 1;
    return std::clamp(k, s.degree, n);
}

/// de Boor's algorithm in homogeneous coordinates.
Vec2 splinePoint(const Spline& s, double u) {
    struct H {
        double x, y, w;
    };
    const int k = spanOf(s, u), p = s.degree;
    boost::container::small_vector<H, 8> d(static_cast<size_t>(p) + 1); // asked for very often
    for (int j = 0; j <= p; ++j) {
        const int i = j + k - p;
        const double w = s.weights.empty() ? 1 : s.weights[i];
        d[j] = {s.poles[i].x * w, s.poles[i].y * w, w};
    }
    for (int r = 1; r <= p; ++r)
        for (int j = p; j >= r; --j) {
            const double lo = s.knots[j + k - p], hi = s.knots[j + 1 + k - r];
            const double a = hi > lo ? (u - lo) / (hi - lo) : 0;
            d[j] = {(1 - a) * d[j - 1].x + a * d[j].x, (1 - a) * d[j - 1].y + a * d[j].y,
                    (1 - a) * d[j - 1].w + a * d[j].w};
        }
    const double w = d[p].w != 0 ? d[p].w : 1;
    return {d[p].x / w, d[p].y / w};
}

double splineParameter(const Spline& s, double t) {
    const double a = s.knots[s.degree], b = s.knots[s.poles.size()];
    return a + (b - a) * t;
}

/// Boehm knot insertion until u has full multiplicity; rational curves go through homogeneous poles.
Spline withFullKnot(const Spline& in, double u) {
    Spline s = in;
    if (s.weights.empty()) s.weights.assign(s.poles.size(), 1);
    const double eps = 1e-12 * std::max(1.0, std::abs(s.knots.back() - s.knots.front()));
    int have = 0;
    for (double k : s.knots) have += std::abs(k - u) <= eps;
    for (; have < s.degree; ++have) {
        const int k = spanOf(s, u), p = s.degree, n = static_cast<int>(s.poles.size());
        std::vector<Vec2> q(n + 1);
        std::vector<double> w(n + 1);
        for (int i = 0; i <= n; ++i) {
            double a = 1;
            if (i > k)
                a = 0;
            else if (i > k - p) {
                const double span = s.knots[i + p] - s.knots[i];
                a = span > 0 ? (u - s.knots[i]) / span : 1;
            }
            const double wa = i < n ? s.weights[i] * a : 0, wb = i > 0 ? s.weights[i - 1] * (1 - a) : 0;
            w[i] = wa + wb;
            const Vec2 pa = i < n ? s.poles[i] * wa : Vec2{}, pb = i > 0 ? s.poles[i - 1] * wb : Vec2{};
            q[i] = (pa + pb) * (w[i] != 0 ? 1 / w[i] : 1);
        }
        s.knots.insert(s.knots.begin() + k + 1, u);
        s.poles = std::move(q);
        s.weights = std::move(w);
    }
    return s;
}

Spline splinePart(const Spline& in, double t0, double t1) {
    const double eps = 1e-12 * std::max(1.0, std::abs(in.knots.back() - in.knots.front()));
    // Where knots are told apart no closer, a place is an end, and a piece without length a place.
    const double start = splineParameter(in, 0), end = splineParameter(in, 1);
    double u0 = splineParameter(in, t0), u1 = splineParameter(in, t1);
    if (u0 < start + 2 * eps) u0 = start, t0 = 0;
    if (u1 > end - 2 * eps) u1 = end;
    if (u1 - u0 < 2 * eps) return {1, {0, 0, 1, 1}, {splinePoint(in, u0), splinePoint(in, u1)}, {}};
    Spline s = withFullKnot(withFullKnot(in, u0), u1);
    Spline r;
    r.degree = s.degree;
    for (double k : s.knots)
        if (k > u0 + eps && k < u1 - eps) r.knots.push_back(k);
    size_t first = 0;
    while (first < s.knots.size() && s.knots[first] < u0 - eps) ++first;
    // With full multiplicity at u0 the first pole of the part sits at index first - 1 (or 0 at the curve's
    // start).
    const size_t pole0 = t0 <= 0 ? 0 : first - 1;
    const size_t count = r.knots.size() + r.degree + 1;
    r.knots.insert(r.knots.begin(), r.degree + 1, u0);
    r.knots.insert(r.knots.end(), r.degree + 1, u1);
    for (size_t i = pole0; i < pole0 + count && i < s.poles.size(); ++i) {
        r.poles.push_back(s.poles[i]);
        r.weights.push_back(s.weights[i]);
    }
    return r;
}

/// Conjugate radii of the mapped ellipse turned into its principal axes.
EllipseArc ellipseFromConjugate(Vec2 centre, Vec2 f1, Vec2 f2, double start, double sweep) {
    const double t0 = 0.5 * std::atan2(2 * dot(f1, f2), dot(f1, f1) - dot(f2, f2));
    Vec2 major = f1 * std::cos(t0) + f2 * std::sin(t0);
    Vec2 minor = f2 * std::cos(t0) - f1 * std::sin(t0);
    double shift = t0;
    if (length(minor) > length(major)) {
        std::swap(major, minor);
        minor = -minor;
        shift += kPi / 2;
    }
    EllipseArc e;
    e.centre = centre;
    e.major = major;
    e.ratio = length(major) > 0 ? length(minor) / length(major) : 0;
    const bool flipped = cross(major, minor) < 0;
    e.start = flipped ? -(start - shift) : start - shift;
    e.sweep = flipped ? -sweep : sweep;
    return e;
}

template <class F> std::vector<Vec2> even(int n, F at) {
    std::vector<Vec2> r;
    r.reserve(n + 1);
    for (int i = 0; i <= n; ++i) r.push_back(at(static_cast<double>(i) / n));
    return r;
}

int chordsFor(double radius, double sweep, double tolerance) {
    if (radius <= tolerance) return 4;
    const double step = 2 * std::acos(1 - tolerance / radius);
    return std::clamp(static_cast<int>(std::ceil(std::abs(sweep) / step)), 2, 2000);
}

} // namespace

Vec2 pointAt(const Curve& c, double t) {
    if (auto* s = std::get_if<Segment>(&c)) {
        if (t == 1) return s->b;
        return s->a + (s->b - s->a) * t;
    }
    if (auto* a = std::get_if<Arc>(&c)) return a->centre + direction(a->start + a->sweep * t) * a->radius;
    if (auto* e = std::get_if<EllipseArc>(&c)) return ellipsePoint(*e, e->start + e->sweep * t);
    const auto& s = std::get<Spline>(c);
    return splinePoint(s, splineParameter(s, t));
}

Vec2 tangentAt(const Curve& c, double t) {
    if (auto* s = std::get_if<Segment>(&c)) return normalized(s->b - s->a);
    if (auto* a = std::get_if<Arc>(&c)) {
        const Vec2 d = perpendicular(direction(a->start + a->sweep * t));
        return a->sweep < 0 ? -d : d;
    }
    const double h = 1e-6;
    return normalized(pointAt(c, std::min(1.0, t + h)) - pointAt(c, std::max(0.0, t - h)));
}

bool isClosed(const Curve& c, double tolerance) {
    if (auto* a = std::get_if<Arc>(&c)) return a->full();
    return !std::holds_alternative<Segment>(c) && distance(startOf(c), endOf(c)) <= tolerance;
}

double lengthOf(const Curve& c) {
    if (auto* s = std::get_if<Segment>(&c)) return distance(s->a, s->b);
    if (auto* a = std::get_if<Arc>(&c)) return a->radius * std::abs(a->sweep);
    double sum = 0;
    const auto p = even(400, [&](double t) { return pointAt(c, t); });
    for (size_t i = 1; i < p.size(); ++i) sum += distance(p[i - 1], p[i]);
    return sum;
}

Box2 boxOf(const Curve& c) {
    Box2 b;
    b.add(startOf(c));
    b.add(endOf(c));
    auto extremes = [&](double start, double sweep, double tx, double ty, auto at) {
        for (double base : {tx, tx + kPi, ty, ty + kPi}) {
            const double along = sweep >= 0 ? positiveAngle(base - start) : positiveAngle(start - base);
            if (along <= std::abs(sweep)) b.add(at(base));
        }
    };
    if (auto* a = std::get_if<Arc>(&c))
        extremes(a->start, a->sweep, 0, kPi / 2,
                 [&](double t) { return a->centre + direction(t) * a->radius; });
    else if (auto* e = std::get_if<EllipseArc>(&c)) {
        const Vec2 n = perpendicular(e->major) * e->ratio;
        extremes(e->start, e->sweep, std::atan2(n.x, e->major.x), std::atan2(n.y, e->major.y),
                 [&](double t) { return ellipsePoint(*e, t); });
    } else if (std::holds_alternative<Spline>(c))
        for (Vec2 p : even(200, [&](double t) { return pointAt(c, t); })) b.add(p);
    return b;
}

Curve transformed(const Curve& c, const Affine2& m) {
    if (auto* s = std::get_if<Segment>(&c)) return Segment{m(s->a), m(s->b)};
    if (auto* a = std::get_if<Arc>(&c)) {
        const Vec2 f1 = m.linear({a->radius, 0}), f2 = m.linear({0, a->radius});
        if (!m.keepsCircles()) return ellipseFromConjugate(m(a->centre), f1, f2, a->start, a->sweep);
        const bool flip = m.determinant() < 0;
        const double start = angleOf(m.linear(direction(a->start)));
        return Arc{m(a->centre), length(f1), start, flip ? -a->sweep : a->sweep};
    }
    if (auto* e = std::get_if<EllipseArc>(&c))
        return ellipseFromConjugate(m(e->centre), m.linear(e->major),
                                    m.linear(perpendicular(e->major) * e->ratio), e->start, e->sweep);
    Spline s = std::get<Spline>(c);
    for (Vec2& p : s.poles) p = m(p);
    return s;
}

Curve reversed(const Curve& c) {
    if (auto* s = std::get_if<Segment>(&c)) return Segment{s->b, s->a};
    if (auto* a = std::get_if<Arc>(&c)) return Arc{a->centre, a->radius, a->start + a->sweep, -a->sweep};
    if (auto* e = std::get_if<EllipseArc>(&c))
        return EllipseArc{e->centre, e->major, e->ratio, e->start + e->sweep, -e->sweep};
    Spline s = std::get<Spline>(c);
    std::reverse(s.poles.begin(), s.poles.end());
    std::reverse(s.weights.begin(), s.weights.end());
    const double sum = s.knots.front() + s.knots.back();
    std::reverse(s.knots.begin(), s.knots.end());
    for (double& k : s.knots) k = sum - k;
    return s;
}

Curve part(const Curve& c, double t0, double t1) {
    if (t0 <= 0 && t1 >= 1) return c;
    if (std::holds_alternative<Segment>(c)) return Segment{pointAt(c, t0), pointAt(c, t1)};
    if (auto* a = std::get_if<Arc>(&c))
        return Arc{a->centre, a->radius, a->start + a->sweep * t0, a->sweep * (t1 - t0)};
    if (auto* e = std::get_if<EllipseArc>(&c))
        return EllipseArc{e->centre, e->major, e->ratio, e->start + e->sweep * t0, e->sweep * (t1 - t0)};
    return splinePart(std::get<Spline>(c), t0, t1);
}

namespace {

/// Halves all steps until the middles lie within the tolerance of the chords.
std::vector<Vec2> sampledSpline(const Curve& c, int poles, double tolerance) {
    constexpr int kFewest = 12, kMost = 192; // steps for each pole
    for (int n = poles * kFewest;; n *= 2) {
        std::vector<Vec2> r = even(n, [&](double t) { return pointAt(c, t); });
        double off = 0;
        for (int i = 0; i < n; ++i)
            off = std::max(off, distanceTo(Segment{r[i], r[i + 1]}, pointAt(c, (i + 0.5) / n)));
        if (off <= tolerance || n >= poles * kMost) return r;
    }
}

} // namespace

std::vector<Vec2> sampled(const Curve& c, double tolerance) {
    if (auto* s = std::get_if<Segment>(&c)) return {s->a, s->b};
    int n = 0;
    if (auto* a = std::get_if<Arc>(&c))
        n = chordsFor(a->radius, a->sweep, tolerance);
    else if (auto* e = std::get_if<EllipseArc>(&c))
        n = chordsFor(length(e->major), e->sweep, tolerance);
    else
        return sampledSpline(c, static_cast<int>(std::get<Spline>(c).poles.size()), tolerance);
    return even(n, [&](double t) { return pointAt(c, t); });
}

Curve fromBulge(Vec2 a, Vec2 b, double bulge) {
    const double chord = distance(a, b);
    // Flatter than this, the digits lost in the huge radius are more than the arc's height.
    if (std::abs(bulge) < 1e-8 || chord == 0) return Segment{a, b};
    const double sweep = 4 * std::atan(bulge);
    const double radius = chord / (2 * std::sin(std::abs(sweep) / 2));
    const Vec2 mid = (a + b) * 0.5;
    const double toCentre = radius * std::cos(sweep / 2) * (bulge > 0 ? 1 : -1);
    const Vec2 centre = mid + perpendicular(normalized(b - a)) * toCentre;
    return Arc{centre, radius, angleOf(a - centre), sweep};
}

Spline splineThrough(const std::vector<Vec2>& q) {
    Spline s;
    const int n = static_cast<int>(q.size());
    s.degree = std::min(3, n - 1);
    std::vector<double> u(n, 0);
    for (int i = 1; i < n; ++i) u[i] = u[i - 1] + std::sqrt(std::max(1e-12, distance(q[i], q[i - 1])));
    const int p = s.degree;
    s.knots.assign(p + 1, u.front());
    for (int j = 1; j < n - p;
         ++j) { // averaged knots (de Boor) keep the interpolation matrix well conditioned
        double k = 0;
        for (int i = j; i < j + p; ++i) k += u[i];
        s.knots.push_back(k / p);
    }
    s.knots.insert(s.knots.end(), p + 1, u.back());
    s.poles.assign(n, {});
    Eigen::MatrixXd basis = Eigen::MatrixXd::Zero(n, n), rhs(n, 2);
    for (int col = 0; col < n; ++col) {
        s.poles[col] = {1, 0};
        for (int row = 0; row < n; ++row) basis(row, col) = splinePoint(s, u[row]).x;
        s.poles[col] = {0, 0};
    }
    for (int i = 0; i < n; ++i) rhs(i, 0) = q[i].x, rhs(i, 1) = q[i].y;
    const Eigen::MatrixXd poles = basis.partialPivLu().solve(rhs);
    for (int i = 0; i < n; ++i) s.poles[i] = {poles(i, 0), poles(i, 1)};
    return s;
}

} // namespace prism
