#include "core/views/levels.h"

namespace prism::views {

std::vector<double> levelsAlong(const std::vector<Curve>& curves, Vec2 direction, double tolerance) {
    std::vector<double> r;
    const Vec2 u = normalized(direction);
    for (const Curve& c : curves) {
        if (auto* a = std::get_if<Arc>(&c)) {
            const double m = dot(a->centre, u);
            if (a->full()) {
                r.insert(r.end(), {m - a->radius, m, m + a->radius});
                continue;
            }
        }
        r.push_back(dot(startOf(c), u)), r.push_back(dot(endOf(c), u));
        // Along an axis the box is exact as it stands; along other directions the curve is turned first.
        const bool level = u.y == 0 && u.x > 0, upright = u.x == 0 && u.y > 0;
        const Box2 b = boxOf(level || upright ? c : transformed(c, {u.x, -u.y, u.y, u.x, 0, 0}));
        r.push_back(upright ? b.lo.y : b.lo.x), r.push_back(upright ? b.hi.y : b.hi.x);
    }
    std::sort(r.begin(), r.end());
    r.erase(std::unique(r.begin(), r.end(), [&](double a, double b) { return b - a <= tolerance; }), r.end());
    return r;
}

std::vector<Curve> curvesOf(const Drawing& d, const View& v, const Affine2& map) {
    std::vector<Curve> r;
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves) r.push_back(transformed(c, map));
    return r;
}

std::vector<double> levelsOf(const Drawing& d, const View& v, int axis, double tolerance) {
    std::vector<Curve> curves;
    for (int e : v.entities)
        curves.insert(curves.end(), d.entities[e].curves.begin(), d.entities[e].curves.end());
    return levelsAlong(curves, axis == 0 ? Vec2{1, 0} : Vec2{0, 1}, tolerance);
}

int matches(const std::vector<double>& a, double shift, const std::vector<double>& b, double tol) {
    int n = 0;
    for (double x : a) {
        const auto it = std::lower_bound(b.begin(), b.end(), x + shift - tol);
        n += it != b.end() && *it <= x + shift + tol;
    }
    return n;
}

double bestShift(const std::vector<double>& levels, const std::vector<double>& base, double tol) {
    double best = base.front() - levels.front();
    int most = matches(levels, best, base, tol);
    auto attempt = [&](double shift) {
        const int n = matches(levels, shift, base, tol);
        if (n > most) most = n, best = shift;
    };
    attempt(base.back() - levels.back());
    if (levels.size() * base.size() < 4000 && most < static_cast<int>(std::min(levels.size(), base.size())))
        for (double x : levels)
            for (double y : base)
                if (std::abs(y - x - best) < 0.2 * (base.back() - base.front())) attempt(y - x);
    return best;
}

} // namespace prism::views
