#include "core/tracing/fits.h"

#include "core/base/simpler_curve.h"

#include <Eigen/Dense>

namespace prism {
namespace {

double away(const Segment& s, Vec2 p) {
    return std::abs(cross(normalized(s.b - s.a), p - s.a));
}

} // namespace

Fit fitOf(Curve shape, const std::vector<Vec2>& points) {
    Fit f{shape, 0, 0};
    for (Vec2 p : points) {
        const double d =
            std::holds_alternative<Segment>(shape)
                ? away(std::get<Segment>(shape), p)
                : std::abs(distance(p, std::get<Arc>(shape).centre) - std::get<Arc>(shape).radius);
        f.rms += d * d, f.most = std::max(f.most, d);
    }
    f.rms = std::sqrt(f.rms / std::max<double>(1, static_cast<double>(points.size())));
    return f;
}

Fit lineFit(const std::vector<Vec2>& points) {
    return fitOf(fitLine(points), points);
}

std::optional<Fit> arcFit(const std::vector<Vec2>& points, bool closed) {
    if (points.size() < 8) return std::nullopt;
    const auto c = fitCircleByDistance(points);
    if (!c) return std::nullopt;
    const auto arc = arcOn(*c, points, std::numeric_limits<double>::infinity(), closed);
    if (!arc || std::abs(arc->sweep) > 2 * kPi + 0.2 || arc->sweep == 0) return std::nullopt;
    return fitOf(*arc, points);
}

double bowOf(const Arc& a) {
    return a.radius * (1 - std::cos(std::min(std::abs(a.sweep), kPi) / 2));
}

Segment fitLine(const std::vector<Vec2>& points) {
    Vec2 mean;
    for (Vec2 p : points) mean = mean + p * (1.0 / static_cast<double>(points.size()));
    double xx = 0, xy = 0, yy = 0;
    for (Vec2 p : points) {
        const Vec2 d = p - mean;
        xx += d.x * d.x, xy += d.x * d.y, yy += d.y * d.y;
    }
    Vec2 u = direction(0.5 * std::atan2(2 * xy, xx - yy));
    if (dot(points.back() - points.front(), u) < 0) u = -u;
    double lo = 0, hi = 0;
    for (Vec2 p : points) lo = std::min(lo, dot(p - mean, u)), hi = std::max(hi, dot(p - mean, u));
    return {mean + u * lo, mean + u * hi};
}

std::optional<Circle> fitCircleByDistance(const std::vector<Vec2>& points) {
    auto c = fitCircle(points);
    if (!c) return c;
    Box2 b;
    for (Vec2 p : points) b.add(p);
    if (c->radius > 50 * b.diagonal()) return std::nullopt;
    for (int round = 0; round < 12; ++round) {
        Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
        Eigen::Vector3d right = Eigen::Vector3d::Zero();
        for (Vec2 p : points) {
            const Vec2 d = p - c->centre;
            const double l = length(d);
            if (l == 0) continue;
            const Eigen::Vector3d g(-d.x / l, -d.y / l, -1);
            normal += g * g.transpose();
            right -= g * (l - c->radius);
        }
        const Eigen::Vector3d step = normal.ldlt().solve(right);
        if (!step.allFinite()) return std::nullopt;
        c->centre = c->centre + Vec2{step[0], step[1]}, c->radius += step[2];
        if (step.norm() < 1e-9 * c->radius) break;
    }
    if (!(c->radius > 0) || c->radius > 50 * b.diagonal()) return std::nullopt;
    return c;
}

std::optional<Fit> fitJoined(const std::vector<Vec2>& points, bool closed, bool two_lines, double pixel) {
    const double tol = 1.1 * pixel;
    const Fit line = lineFit(points);
    if (!closed && line.most < tol) return line;
    // Two long lines that meet at a small angle are a bend, not an arc.
    auto arc = arcFit(points, closed);
    if (arc && arc->most < tol && bowOf(std::get<Arc>(arc->shape)) > tol &&
        !(two_lines && arc->rms > 0.3 * pixel))
        return arc;
    return std::nullopt;
}

Curve alongShape(const Curve& shape, Vec2 a, const std::vector<Vec2>& points, Vec2 b) {
    if (const auto* s = std::get_if<Segment>(&shape)) {
        const Vec2 u = normalized(s->b - s->a);
        return Segment{s->a + u * dot(a - s->a, u), s->a + u * dot(b - s->a, u)};
    }
    const Arc& c = std::get<Arc>(shape);
    std::vector<Vec2> all{a};
    all.insert(all.end(), points.begin(), points.end());
    all.push_back(b);
    const auto whole = arcOn({c.centre, c.radius}, all, 1e30, false);
    return whole ? Curve(*whole) : shape;
}

} // namespace prism
