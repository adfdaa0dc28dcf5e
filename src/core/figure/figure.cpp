#include "core/figure/figure.h"

namespace prism {

const char* nameOf(RelationKind k) {
    constexpr std::array names{"coincident", "horizontal", "vertical",  "concentric",   "tangent", "on line",
                               "on circle",  "equal",      "symmetric", "same station", "centred", "datum"};
    return names[static_cast<size_t>(k)];
}

const FigureView* Figure::viewById(int view) const {
    for (const FigureView& v : views)
        if (v.view == view) return &v;
    return nullptr;
}

bool Figure::drawsHidden() const {
    return std::ranges::any_of(curves, [](const FigureCurve& c) { return c.role == LineRole::hidden; });
}

const FigureView* Figure::viewWithRole(Role r) const {
    for (const FigureView& v : views)
        if (v.role == r) return &v;
    return nullptr;
}

double Figure::value(const std::vector<Term>& terms, const std::vector<double>& x) const {
    double sum = 0;
    for (const Term& t : terms) sum += t.factor * x[t.variable];
    return sum;
}

namespace {

/// Free curves follow their ends: scaled where the ends are apart, shifted where they are not.
Curve carried(const Curve& c, Vec2 a0, Vec2 b0, Vec2 a1, Vec2 b1) {
    auto factor = [](double d0, double d1) { return std::abs(d0) > 1e-9 ? d1 / d0 : 1.0; };
    const double sx = factor(b0.x - a0.x, b1.x - a1.x), sy = factor(b0.y - a0.y, b1.y - a1.y);
    return transformed(c, {sx, 0, 0, sy, a1.x - sx * a0.x, a1.y - sy * a0.y});
}

} // namespace

Curve Figure::curve(int i, const std::vector<double>& x) const {
    const FigureCurve& c = curves[i];
    if (std::holds_alternative<Segment>(c.drawn)) return Segment{at(points[c.p0], x), at(points[c.p1], x)};
    if (const auto* a = std::get_if<Arc>(&c.drawn)) {
        const Vec2 centre = at(points[c.centre], x);
        Arc r = *a;
        r.centre = centre;
        r.radius = x[c.radius];
        if (c.p0 < 0) return r;
        const double start = angleOf(at(points[c.p0], x) - centre),
                     end = angleOf(at(points[c.p1], x) - centre);
        r.start = start;
        // The sweep changes continuously from what was drawn.
        r.sweep = a->sweep + std::remainder(end - start - a->sweep, 2 * kPi);
        return r;
    }
    if (c.p0 < 0) return c.drawn;
    return carried(c.drawn, at(points[c.p0], drawn), at(points[c.p1], drawn), at(points[c.p0], x),
                   at(points[c.p1], x));
}

std::vector<Station> stationsOf(const Figure& f) {
    std::vector<int> order;
    for (size_t i = 0; i < f.axis_of.size(); ++i)
        if (f.axis_of[i] >= 0) order.push_back(static_cast<int>(i));
    std::sort(order.begin(), order.end(), [&](int a, int b) {
        return std::tie(f.axis_of[a], f.now[a], a) < std::tie(f.axis_of[b], f.now[b], b);
    });
    std::map<int, std::vector<int>> viewsOf;
    for (const FigurePoint& p : f.points) viewsOf[p.u].push_back(p.view), viewsOf[p.v].push_back(p.view);
    std::vector<Station> r;
    for (int i : order) {
        if (!viewsOf.contains(i)) continue;
        const auto axis = static_cast<Axis>(f.axis_of[i]);
        if (r.empty() || r.back().axis != axis || f.now[i] - r.back().value > f.tolerances.same_model)
            r.push_back({axis, f.now[i], {}, {}});
        r.back().variables.push_back(i);
        for (int v : viewsOf[i])
            if (std::find(r.back().views.begin(), r.back().views.end(), v) == r.back().views.end())
                r.back().views.push_back(v);
    }
    return r;
}

Warp::Warp(const Figure& f, int view) {
    for (const Mark& m : f.marks) {
        if (m.view != view) continue;
        const FigureView* fv = f.viewById(view);
        (m.axis == fv->axes.right ? u_ : v_).emplace_back(m.value, f.value(m.terms, f.now));
    }
    for (auto* s : {&u_, &v_}) {
        std::sort(s->begin(), s->end());
        s->erase(std::unique(s->begin(), s->end(), [](auto& a, auto& b) { return b.first - a.first < 1e-6; }),
                 s->end());
    }
}

namespace {

double carry(const std::vector<std::pair<double, double>>& s, double x) {
    if (s.empty()) return x;
    if (x <= s.front().first) return x + s.front().second - s.front().first;
    if (x >= s.back().first) return x + s.back().second - s.back().first;
    const auto hi = std::lower_bound(s.begin(), s.end(), std::make_pair(x, -1e300));
    const auto lo = hi - 1;
    const double t = (x - lo->first) / (hi->first - lo->first);
    return lo->second + t * (hi->second - lo->second);
}

} // namespace

Vec2 Warp::operator()(Vec2 p) const {
    return {carry(u_, p.x), carry(v_, p.y)};
}

} // namespace prism
