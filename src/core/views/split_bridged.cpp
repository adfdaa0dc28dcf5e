#include "core/views/stages.h"

#include <algorithm>
#include <tuple>

// Projection lines drawn from view to view would make one group of all of them.
namespace prism::views {
namespace {

/// How a line is drawn: lines of the part and lines of projection differ in it.
using Style = std::tuple<int, int, std::string>;

Style styleOf(const Entity& e) {
    return {e.layer, e.color, e.line_type};
}

/// Straight, level or upright, and by itself.
bool mayProject(const Entity& e, double tol) {
    if (e.curves.size() != 1) return false;
    const auto* s = std::get_if<Segment>(&e.curves[0]);
    return s && (std::abs(s->a.x - s->b.x) <= tol || std::abs(s->a.y - s->b.y) <= tol);
}

/// Ends of curves that touch nothing else of a group.
int openEnds(const Drawing& d, const Group& g, double tol) {
    int n = 0;
    for (int e : g.entities)
        for (const Curve& c : d.entities[e].curves) {
            if (isClosed(c, tol)) continue;
            for (Vec2 p : {startOf(c), endOf(c)}) {
                const bool meets = std::ranges::any_of(g.entities, [&](int o) {
                    return std::ranges::any_of(d.entities[o].curves, [&](const Curve& k) {
                        return &k != &c && distanceTo(k, p) <= tol;
                    });
                });
                n += !meets;
            }
        }
    return n;
}

/// The groups that are left of a group without the lines of one style; none when these are not lines between
/// views.
std::vector<Group> without(const Drawing& d, const CleanSheet& s, const Group& g, const Style& style,
                           std::vector<int>& bridges) {
    const double tol = std::max(s.tolerances.touch_sheet, extentOf(d).diagonal() * 5e-5);
    std::vector<int> rest;
    for (int e : g.entities) {
        if (styleOf(d.entities[e]) != style)
            rest.push_back(e);
        else if (mayProject(d.entities[e], tol))
            bridges.push_back(e);
        else
            return {};
    }
    if (bridges.empty() || bridges.size() > rest.size()) return {};
    std::vector<Group> parts = connectedGroups(d, s, rest);
    mergeNested(d, parts);
    if (parts.size() < 2) return {};
    const auto isOutline = [&](int e) { return s.entity_roles[e] == LineRole::outline; };
    for (const Group& p : parts) // what is hidden alone is no view: its outline is what was taken away
        if (p.entities.size() < 3 || std::ranges::none_of(p.entities, isOutline) || openEnds(d, p, tol) > 0)
            return {};
    // Those that run within one view belong to it.
    std::erase_if(bridges, [&](int e) {
        const Box2 b = boxOf(d.entities[e].curves[0]).grown(tol);
        std::vector<Group*> over;
        for (Group& p : parts)
            if (p.box.overlaps(b)) over.push_back(&p);
        if (over.size() != 1) return false;
        over.front()->entities.push_back(e);
        return true;
    });
    if (bridges.empty()) return {};
    return parts;
}

} // namespace

void splitBridged(const Drawing& d, const CleanSheet& s, std::vector<Group>& groups,
                  std::vector<LeftOut>& out) {
    constexpr size_t kMostLines =
        2000; // larger groups are no small sheet's views tied together by a few lines
    LeftOut projection{"projection", {}};
    std::vector<Group> all;
    // Large ones first: what lies within a view, as holes whose rims hidden lines join, is its own.
    std::ranges::stable_sort(groups, std::ranges::greater{}, [](const Group& g) { return g.box.diagonal(); });
    for (Group& g : groups) {
        const auto nested = [&] {
            return std::ranges::any_of(all, [&](const Group& o) { return o.box.contains(g.box); });
        };
        std::set<Style> styles;
        if (g.entities.size() <= kMostLines)
            for (int e : g.entities) styles.insert(styleOf(d.entities[e]));
        std::vector<Group> parts;
        if (styles.size() > 1 && styles.size() < 8 && !nested())
            for (const Style& style : styles) {
                std::vector<int> bridges;
                if (parts = without(d, s, g, style, bridges); parts.empty()) continue;
                projection.entities.insert(projection.entities.end(), bridges.begin(), bridges.end());
                break;
            }
        if (parts.empty())
            all.push_back(std::move(g));
        else
            all.insert(all.end(), std::make_move_iterator(parts.begin()),
                       std::make_move_iterator(parts.end()));
    }
    groups = std::move(all);
    if (!projection.entities.empty()) out.push_back(std::move(projection));
}

} // namespace prism::views
