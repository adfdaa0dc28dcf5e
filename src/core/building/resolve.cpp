#include "core/building/solid.h"
#include "core/figure/area_identity.h"

#include <fmt/format.h>

namespace prism {

namespace {

/// The mark nearest to a place of a view that shows the axis; none when it has no lines.
const Mark* markNear(const Figure& f, const FigureView& v, Vec2 place, Axis axis) {
    const bool right = v.axes.right == axis;
    const double at = right ? place.x : place.y, other = right ? place.y : place.x;
    const Mark* best = nullptr;
    double least = std::numeric_limits<double>::infinity();
    for (const Mark& m : f.marks) {
        if (m.view != v.view || m.axis != axis) continue;
        double away = std::numeric_limits<double>::infinity();
        for (double o : m.others) away = std::min(away, std::abs(o - other));
        const double cost = 1e4 * std::abs(m.value - at) + away;
        if (cost < least) least = cost, best = &m;
    }
    return best;
}

} // namespace

std::vector<int> curvesAtMark(const Figure& f, const MarkRef& ref, Axis axis) {
    const FigureView* v = f.viewNamed(ref.view);
    if (!v || (v->axes.right != axis && v->axes.up != axis)) return {};
    const Mark* best = markNear(f, *v, ref.at, axis);
    std::vector<int> r;
    for (const Mark& m : f.marks)
        if (best && m.view == v->view && m.axis == axis && m.curve >= 0 &&
            std::abs(m.value - best->value) <= f.tolerances.same_model)
            r.push_back(m.curve);
    return r;
}

Result<const Mark*> markAt(const Figure& f, const MarkRef& ref, Axis axis) {
    const FigureView* v = f.viewNamed(ref.view);
    if (!v)
        return failure(ErrorCode::impossible,
                       fmt::format("there is no {} view on the sheet", nameOf(ref.view)));
    if (v->axes.right != axis && v->axes.up != axis)
        return failure(ErrorCode::impossible,
                       fmt::format("the {} view does not show {}", nameOf(ref.view), nameOf(axis)));
    const Mark* best = markNear(f, *v, ref.at, axis);
    if (!best)
        return failure(ErrorCode::impossible, fmt::format("the {} view has no lines", nameOf(ref.view)));
    return best;
}

Result<double> resolveMark(const Figure& f, const MarkRef& ref, Axis axis) {
    return markAt(f, ref, axis).map([&](const Mark* m) { return f.value(m->terms, f.now); });
}

Result<double> resolvePlace(const Figure& f, const MarkRef& ref, Vec3 way) {
    const FigureView* v = f.viewNamed(ref.view);
    if (!v)
        return failure(ErrorCode::impossible,
                       fmt::format("there is no {} view on the sheet", nameOf(ref.view)));
    const Vec2 in_view{dot(way, v->right), dot(way, v->up)};
    if (!v->square || std::abs(length(in_view) - 1) > 1e-6)
        return failure(ErrorCode::impossible,
                       fmt::format("the {} view does not show that depth", nameOf(ref.view)));
    const FigurePoint* best = nullptr;
    for (const FigurePoint& p : f.points)
        if (p.view == v->view &&
            (!best || distance(f.at(p, f.drawn), ref.at) < distance(f.at(*best, f.drawn), ref.at)))
            best = &p;
    if (!best)
        return failure(ErrorCode::impossible, fmt::format("the {} view has no lines", nameOf(ref.view)));
    return dot(f.at(*best, f.now), in_view);
}

double resolveCentre(const Figure& f, const FigureView& v, Vec2 ref, Axis axis) {
    const double at = v.axes.right == axis ? ref.x : ref.y, tol = 4 * f.tolerances.same_model;
    const Mark *own = nullptr, *other = nullptr, *lowest = nullptr, *highest = nullptr;
    for (const Mark& m : f.marks) {
        if (m.axis != axis) continue;
        if (std::abs(m.value - at) <= tol) (m.view == v.view ? own : other) = &m;
        if (m.view != v.view) continue;
        if (!lowest || m.value < lowest->value) lowest = &m;
        if (!highest || m.value > highest->value) highest = &m;
    }
    if (own || other) return f.value((own ? own : other)->terms, f.now);
    if (lowest && std::abs(lowest->value + highest->value - 2 * at) <= 2 * tol)
        return 0.5 * (f.value(lowest->terms, f.now) + f.value(highest->terms, f.now));
    const Vec2 now = Warp(f, v.view)(ref);
    return v.axes.right == axis ? now.x : now.y;
}

Result<ResolvedAreas> resolveAreas(const Figure& f, const AreaSets& areas, const Step& s) {
    const FigureView* v = f.viewNamed(s.view);
    if (!v)
        return failure(ErrorCode::impossible,
                       fmt::format("there is no {} view on the sheet", nameOf(s.view)));
    std::vector<int> picked;
    for (Vec2 p : s.areas) {
        const auto was = std::find_if(areas.drawn.begin(), areas.drawn.end(), [&](const ClosedArea& a) {
            return a.view == v->view && a.contains(p);
        });
        if (was == areas.drawn.end())
            return failure(
                ErrorCode::impossible,
                fmt::format("no closed area at {:.3f}, {:.3f} of the {} view", p.x, p.y, nameOf(s.view)));
        const int i = static_cast<int>(was - areas.drawn.begin());
        if (std::find(picked.begin(), picked.end(), i) == picked.end()) picked.push_back(i);
    }
    const Successors now = successorsOf(f, areas, picked);
    if (!now.vanished.empty()) {
        const Vec2 p = areas.drawn[now.vanished.front()].seed;
        return failure(ErrorCode::impossible,
                       fmt::format("the area at {:.3f}, {:.3f} of the {} view is no longer closed", p.x, p.y,
                                   nameOf(s.view)));
    }
    ResolvedAreas r;
    for (int i : now.now) r.areas.push_back(areas.now[i]);
    if (!now.nearest.empty())
        r.told =
            fmt::format("the lines round {} of its areas have come to run otherwise; the nearest area stands "
                        "for it",
                        now.nearest.size());
    return r;
}

} // namespace prism
