#include "core/cleaning/sheet_nodes.h"

#include "core/base/point_merger.h"

namespace prism {
namespace {

std::optional<Vec2> centreOf(const Curve& c) {
    if (const auto* a = std::get_if<Arc>(&c)) return a->centre;
    if (const auto* e = std::get_if<EllipseArc>(&c)) return e->centre;
    return std::nullopt;
}

} // namespace

SheetNodes nodesOf(const Drawing& d, const std::vector<bool>& in_use, double touch) {
    SheetNodes r;
    PointMerger places(touch);
    places.reserve(2 * d.entities.size());
    for (const Entity& e : d.entities)
        r.first.push_back(r.curves.size()), r.curves.resize(r.curves.size() + e.curves.size());
    for (const bool used : {true, false})
        for (const Entity& e : d.entities) {
            if (in_use[static_cast<size_t>(e.id)] != used) continue;
            auto of = r.curves.begin() + static_cast<std::ptrdiff_t>(r.first[static_cast<size_t>(e.id)]);
            for (const Curve& c : e.curves) {
                if (!isClosed(c, touch)) of->start = places.add(startOf(c)), of->end = places.add(endOf(c));
                if (const auto centre = centreOf(c)) of->centre = places.add(*centre);
                ++of;
            }
        }
    r.at = places.places();
    return r;
}

} // namespace prism
