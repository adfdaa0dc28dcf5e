#include "core/reading/dxf_file.h"

#include <Eigen/Geometry>
#include <set>

namespace prism::dxf {
namespace {

constexpr double kDegree = kPi / 180;

struct Vertex {
    Vec2 at;
    double bulge = 0;
};

std::vector<Curve> chain(const std::vector<Vertex>& v, bool closed) {
    std::vector<Curve> r;
    for (size_t i = 0; i + 1 < v.size() + (closed ? 1 : 0); ++i) {
        const Vertex &a = v[i], &b = v[(i + 1) % v.size()];
        if (a.at == b.at) continue;
        r.push_back(fromBulge(a.at, b.at, a.bulge));
    }
    return r;
}

std::vector<Curve> lightPolyline(const Record& r) {
    std::vector<Vertex> v;
    for (const Tag& t : r.tags) {
        if (t.code == 10)
            v.push_back({{toNumber(t.value), 0}, 0});
        else if (t.code == 20 && !v.empty())
            v.back().at.y = toNumber(t.value);
        else if (t.code == 42 && !v.empty())
            v.back().bulge = toNumber(t.value);
    }
    return chain(v, r.integer(70) & 1);
}

std::vector<Curve> oldPolyline(const Record& r, std::span<const Record> vertices) {
    const int flags = r.integer(70);
    if (flags & (16 | 64)) return {}; // meshes are not lines of a sheet
    std::vector<Vertex> v;
    for (const Record& x : vertices) {
        if (x.integer(70) & 16) continue; // control points of a fitted curve are not on it
        v.push_back({x.point(10), x.number(42)});
    }
    return chain(v, flags & 1);
}

std::vector<Curve> faceEdges(const Record& r) {
    const Vec2 p[4] = {r.point(10), r.point(11), r.point(12), r.has(13) ? r.point(13) : r.point(12)};
    std::vector<Curve> c;
    for (int i = 0; i < 4; ++i) // bits of group 70: edges that are not drawn
        if (!(p[i] == p[(i + 1) % 4]) && !(r.integer(70) & (1 << i)))
            c.push_back(Segment{p[i], p[(i + 1) % 4]});
    return c;
}

std::vector<Curve> spline(const Record& r) {
    Spline s;
    std::vector<Vec2> fit;
    s.degree = std::clamp(r.integer(71, 3), 1, 25);
    for (const Tag& t : r.tags) {
        const double n = toNumber(t.value);
        if (t.code == 40)
            s.knots.push_back(n);
        else if (t.code == 41)
            s.weights.push_back(n);
        else if (t.code == 10)
            s.poles.push_back({n, 0});
        else if (t.code == 20 && !s.poles.empty())
            s.poles.back().y = n;
        else if (t.code == 11)
            fit.push_back({n, 0});
        else if (t.code == 21 && !fit.empty())
            fit.back().y = n;
    }
    if (soundSpline(s)) {
        if (s.weights.size() != s.poles.size()) s.weights.clear();
        return {s};
    }
    fit.erase(std::unique(fit.begin(), fit.end()), fit.end());
    if (fit.size() >= 2 && fit.size() <= 2000) return {splineThrough(fit)};
    return {};
}

std::vector<Curve> filledQuad(const Record& r) {
    const Vec2 p[4] = {r.point(10), r.point(11), r.point(13), r.point(12)}; // the file crosses the last two
    std::vector<Curve> c;
    for (int i = 0; i < 4; ++i)
        if (!(p[i] == p[(i + 1) % 4])) c.push_back(Segment{p[i], p[(i + 1) % 4]});
    return c;
}

} // namespace

bool soundSpline(const Spline& s) {
    return s.poles.size() > static_cast<size_t>(s.degree) &&
           s.knots.size() == s.poles.size() + s.degree + 1 &&
           std::is_sorted(s.knots.begin(), s.knots.end()) && s.knots[s.degree] < s.knots[s.poles.size()];
}

bool liesInOwnPlane(std::string_view type) {
    static const std::set<std::string_view> own{"CIRCLE", "ARC",   "LWPOLYLINE", "POLYLINE",
                                                "SOLID",  "TRACE", "HATCH"};
    return own.contains(type);
}

Affine2 planeOf(const Record& r) {
    const double nx = r.number(210), ny = r.number(220), nz = r.number(230, 1);
    const double l = std::sqrt(nx * nx + ny * ny + nz * nz);
    if (l == 0 || (nx == 0 && ny == 0 && nz > 0)) return {};
    const Eigen::Vector3d n(nx / l, ny / l, nz / l);
    const bool nearZ = std::abs(n.x()) < 1.0 / 64 && std::abs(n.y()) < 1.0 / 64;
    const Eigen::Vector3d ax =
        (nearZ ? Eigen::Vector3d::UnitY() : Eigen::Vector3d::UnitZ()).cross(n).normalized();
    const Eigen::Vector3d ay = n.cross(ax);
    const double z = r.has(38) ? r.number(38) : r.number(30);
    return {ax.x(), ax.y(), ay.x(), ay.y(), n.x() * z, n.y() * z};
}

std::vector<Curve> curvesOf(const Record& r, std::span<const Record> vertices) {
    if (r.type == "LINE") return {Segment{r.point(10), r.point(11)}};
    if (r.type == "CIRCLE") return {Arc{r.point(10), std::abs(r.number(40)), 0, 2 * kPi}};
    if (r.type == "ARC") {
        const double a = r.number(50) * kDegree, sweep = positiveAngle(r.number(51) * kDegree - a);
        return {Arc{r.point(10), std::abs(r.number(40)), a, sweep > 0 ? sweep : 2 * kPi}};
    }
    if (r.type == "ELLIPSE") {
        const double a = r.number(41), b = r.number(42, 2 * kPi);
        double sweep = std::abs(b - a) >= 2 * kPi - 1e-9 ? 2 * kPi : positiveAngle(b - a);
        if (r.number(230, 1) < 0) sweep = -sweep; // seen from behind, the parameter runs the other way
        return {EllipseArc{r.point(10), r.point(11), r.number(40, 1), sweep < 0 ? -a : a, sweep}};
    }
    if (r.type == "LWPOLYLINE") return lightPolyline(r);
    if (r.type == "POLYLINE") return oldPolyline(r, vertices);
    if (r.type == "SPLINE") return spline(r);
    if (r.type == "HATCH") return hatchBoundaries(r);
    if (r.type == "LEADER" || r.type == "MULTILEADER") return leaderLines(r);
    if (r.type == "MLINE") return parallelLines(r);
    if (r.type == "3DFACE") return faceEdges(r);
    if (r.type == "SOLID" || r.type == "TRACE") return filledQuad(r);
    return {};
}

} // namespace prism::dxf
