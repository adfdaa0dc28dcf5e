#include "core/marking/choosing.h"

#include "core/base/crossings.h"
#include "core/base/groups.h"
#include "core/base/point_merger.h"
#include "core/base/polygon.h"

#include <map>

namespace prism {
namespace {

struct Size {
    size_t kind;
    double length, radius;
};

Size sizeOf(const Entity& e) {
    Size s{e.curves.empty() ? 9 : e.curves[0].index(), 0, 0};
    for (const Curve& c : e.curves) s.length += lengthOf(c);
    if (!e.curves.empty())
        if (const auto* a = std::get_if<Arc>(&e.curves[0])) s.radius = a->radius;
    return s;
}

bool same(const Size& a, const Size& b, double tol) {
    return a.kind == b.kind && std::abs(a.length - b.length) <= 2 * tol &&
           std::abs(a.radius - b.radius) <= tol;
}

std::set<int> chainsOf(const Drawing& d, const std::vector<bool>& use, const std::set<int>& chosen,
                       double tol) {
    PointMerger ends(tol);
    Groups groups(d.entities.size());
    std::map<int, int> first; // entity that an end was seen at first
    for (const Entity& e : d.entities) {
        if (!use[e.id]) continue;
        for (const Curve& c : e.curves)
            for (Vec2 p : {startOf(c), endOf(c)}) {
                const auto [it, fresh] = first.emplace(ends.add(p), e.id);
                if (!fresh) groups.join(it->second, e.id);
            }
    }
    std::set<int> wanted, r = chosen;
    for (int e : chosen) wanted.insert(groups.find(e));
    for (const Entity& e : d.entities)
        if (use[e.id] && wanted.contains(groups.find(e.id))) r.insert(e.id);
    return r;
}

/// Whether a line crosses a chain of points.
bool crossesAny(const Entity& e, const std::vector<Vec2>& chain) {
    Box2 box;
    for (Vec2 p : chain) box.add(p);
    for (const Curve& c : e.curves) {
        if (!box.overlaps(boxOf(c))) continue;
        for (size_t i = 1; i < chain.size(); ++i)
            if (!(chain[i] == chain[i - 1]) && !crossings(Segment{chain[i - 1], chain[i]}, c, 1e-9).empty())
                return true;
    }
    return false;
}

} // namespace

std::set<int> chooseLike(const Drawing& d, const std::vector<bool>& use, const std::set<int>& chosen,
                         Likeness how, double tol) {
    if (how == Likeness::chain) return chainsOf(d, use, chosen, tol);
    std::set<int> r = chosen;
    for (const Entity& e : d.entities) {
        if (!use[e.id] || r.contains(e.id)) continue;
        for (int c : chosen) {
            const Entity& o = d.entities[c];
            const bool like = how == Likeness::layer       ? o.layer == e.layer
                              : how == Likeness::line_type ? o.line_type == e.line_type
                                                           : same(sizeOf(o), sizeOf(e), tol);
            if (like) {
                r.insert(e.id);
                break;
            }
        }
    }
    return r;
}

std::set<int> chooseWithin(const Drawing& d, const std::vector<bool>& use, const std::vector<Vec2>& polygon,
                           bool crossing) {
    std::set<int> r;
    if (polygon.size() < 3) return r;
    std::vector<Vec2> sides = polygon;
    sides.push_back(polygon.front());
    Box2 box;
    for (Vec2 p : polygon) box.add(p);
    for (const Entity& e : d.entities) {
        if (!use[e.id] || e.curves.empty()) continue;
        bool all = true, any = false;
        for (const Curve& c : e.curves) {
            if (!box.overlaps(boxOf(c))) {
                all = false;
                continue;
            }
            for (int i = 0; i <= 64; ++i) {
                const bool in = insidePolygon(polygon, pointAt(c, i / 64.0));
                all = all && in, any = any || in;
            }
        }
        if (crossing ? any || crossesAny(e, sides) : all) r.insert(e.id);
    }
    return r;
}

std::set<int> chooseCrossed(const Drawing& d, const std::vector<bool>& use, const std::vector<Vec2>& chain) {
    std::set<int> r;
    for (const Entity& e : d.entities)
        if (use[e.id] && crossesAny(e, chain)) r.insert(e.id);
    return r;
}

} // namespace prism
