#include "core/marking/measure.h"

#include "core/base/point_merger.h"

#include <map>

namespace prism {
namespace {

/// Area within curves that form one closed chain (Green's theorem along samples); none when they do not.
std::optional<double> areaWithin(const std::vector<Curve>& curves, double tol) {
    PointMerger ends(tol);
    std::multimap<int, std::pair<size_t, bool>> at; // by place: curve, and whether it starts there
    for (size_t i = 0; i < curves.size(); ++i) {
        at.emplace(ends.add(startOf(curves[i])), std::pair{i, true});
        at.emplace(ends.add(endOf(curves[i])), std::pair{i, false});
    }
    for (size_t p = 0; p < ends.places().size(); ++p)
        if (at.count(static_cast<int>(p)) != 2) return std::nullopt;
    std::vector<bool> used(curves.size(), false);
    double twice = 0;
    size_t here = 0, seen = 0;
    bool forwards = true;
    while (!used[here]) {
        used[here] = true, ++seen;
        std::vector<Vec2> v = sampled(curves[here], tol);
        if (!forwards) std::reverse(v.begin(), v.end());
        for (size_t i = 1; i < v.size(); ++i) twice += cross(v[i - 1], v[i]);
        const int end = ends.find(v.back());
        for (auto [it, last] = at.equal_range(end); it != last; ++it)
            if (!used[it->second.first]) here = it->second.first, forwards = it->second.second;
    }
    return seen == curves.size() ? std::optional(std::abs(twice) / 2) : std::nullopt;
}

void pairUp(const Curve& a, const Curve& b, Measured& m) {
    const auto *s = std::get_if<Segment>(&a), *t = std::get_if<Segment>(&b);
    const auto *c = std::get_if<Arc>(&a), *e = std::get_if<Arc>(&b);
    if (s && t) {
        const Vec2 u = normalized(s->b - s->a), v = normalized(t->b - t->a);
        m.angle = std::atan2(std::abs(cross(u, v)), std::abs(dot(u, v)));
        if (*m.angle < 1e-6) m.apart = std::abs(cross(t->a - s->a, u));
    } else if (c && e)
        m.apart = distance(c->centre, e->centre);
    else if (s || t) {
        const Segment& line = s ? *s : *t;
        if (const Arc* arc = c ? c : e)
            m.apart = std::abs(cross(arc->centre - line.a, normalized(line.b - line.a)));
    }
}

} // namespace

Measured measured(const Drawing& d, const std::vector<int>& entities, double tolerance) {
    Measured m;
    std::vector<Curve> curves;
    Box2 box;
    for (int e : entities)
        for (const Curve& c : d.entities[e].curves) {
            curves.push_back(c);
            box.add(boxOf(c));
            m.length += lengthOf(c);
        }
    m.lines = static_cast<int>(entities.size());
    if (curves.empty()) return m;
    m.across = Vec2{box.width(), box.height()};
    if (curves.size() == 1) {
        if (const auto* a = std::get_if<Arc>(&curves[0])) {
            m.radius = a->radius;
            if (a->full()) m.area = kPi * a->radius * a->radius;
        }
    } else if (curves.size() == 2)
        pairUp(curves[0], curves[1], m);
    if (curves.size() > 1) m.area = areaWithin(curves, tolerance);
    return m;
}

} // namespace prism
