#include "core/views/stages.h"

#include <algorithm>

// A view that reaches over the frame, as one turned on a sheet too small for it, makes one group with it.
namespace prism::views {
namespace {

/// A level or upright line of a group.
struct Side {
    int entity;
    double at, lo, hi; ///< where it stands across its direction, and from where to where it runs
};

struct Sides {
    std::vector<Side> level, upright;
};

/// The lines of a group that are long enough to be a side of its frame.
Sides sidesOf(const Drawing& d, const Group& g) {
    constexpr double kLong = 0.6; // of the group
    Sides r;
    for (int e : g.entities)
        for (const Curve& c : d.entities[static_cast<size_t>(e)].curves) {
            const auto* s = std::get_if<Segment>(&c);
            if (!s) continue;
            const Vec2 v = s->b - s->a;
            const double slack = 1e-6 * length(v);
            if (std::abs(v.y) <= slack && std::abs(v.x) >= kLong * g.box.width())
                r.level.push_back({e, s->a.y, std::min(s->a.x, s->b.x), std::max(s->a.x, s->b.x)});
            else if (std::abs(v.x) <= slack && std::abs(v.y) >= kLong * g.box.height())
                r.upright.push_back({e, s->a.x, std::min(s->a.y, s->b.y), std::max(s->a.y, s->b.y)});
        }
    return r;
}

/// Whether two lines are two sides of a rectangle that those across complete; they are told by `found`.
bool completed(const Side& a, const Side& b, const std::vector<Side>& across, double tol,
               std::vector<int>& found) {
    const auto same = [&](double x, double y) { return std::abs(x - y) <= tol; };
    if (b.at - a.at <= tol || !same(a.lo, b.lo) || !same(a.hi, b.hi)) return false;
    const auto side = [&](double at) {
        return std::ranges::find_if(
            across, [&](const Side& s) { return same(s.at, at) && same(s.lo, a.at) && same(s.hi, b.at); });
    };
    const auto low = side(a.lo), high = side(a.hi);
    if (low == across.end() || high == across.end()) return false;
    found.insert(found.end(), {a.entity, b.entity, low->entity, high->entity});
    return true;
}

} // namespace

std::optional<CrossedFrame> frameCrossed(const Drawing& d, const CleanSheet& s, const Group& g) {
    constexpr size_t kMostLines = 2000, kMostSides = 40;
    if (g.entities.size() > kMostLines) return std::nullopt;
    const Sides sides = sidesOf(d, g);
    if (sides.level.size() > kMostSides || sides.upright.size() > kMostSides) return std::nullopt;
    const double tol = std::max(s.tolerances.touch_sheet, extentOf(d).diagonal() * 5e-5);
    std::vector<int> frame;
    for (const Side& a : sides.level)
        for (const Side& b : sides.level) completed(a, b, sides.upright, tol, frame);
    std::ranges::sort(frame);
    frame.erase(std::unique(frame.begin(), frame.end()), frame.end());
    std::vector<int> rest;
    std::ranges::copy_if(g.entities, std::back_inserter(rest),
                         [&](int e) { return !std::ranges::binary_search(frame, e); });
    if (frame.empty() || rest.empty()) return std::nullopt;
    CrossedFrame r{{frame, {}, {}}, connectedGroups(d, s, rest)};
    for (int e : frame)
        for (const Curve& c : d.entities[static_cast<size_t>(e)].curves) r.frame.box.add(boxOf(c));
    return r;
}

} // namespace prism::views
