#include "core/base/curve_ends.h"
#include "core/base/polygon.h"
#include "core/figure/areas.h"
#include "core/figure/builder.h"

// Parts of a view that are drawn as cut without a cutting line: a freehand line goes round what is broken
// out, and what is cut there is hatched (ISO 128-3).
namespace prism {

bool LocalCut::contains(Vec2 drawn) const {
    return std::ranges::count_if(border, [&](const auto& p) { return insidePolygon(p, drawn); }) % 2 == 1;
}

std::vector<ClosedArea> areasWithin(const LocalCut& cut, const std::vector<ClosedArea>& areas) {
    std::vector<ClosedArea> r;
    for (const ClosedArea& a : areas)
        if (a.view == cut.view && std::ranges::find(cut.areas, a.bounds) != cut.areas.end()) r.push_back(a);
    return r;
}

std::vector<const LocalCut*> localCutsIn(const Figure& f, int view) {
    std::vector<const LocalCut*> r;
    for (const LocalCut& c : f.local_cuts)
        if (c.view == view) r.push_back(&c);
    return r;
}

namespace figure {
namespace {

/// By piece of a line the areas on its sides.
using Sides = std::map<std::tuple<int, double, double>, std::vector<int>>;

template <typename F> void eachEdge(const ClosedArea& a, F&& visit) {
    for (const AreaEdge& e : a.outer) visit(e);
    for (const Loop& hole : a.holes)
        for (const AreaEdge& e : hole) visit(e);
}

/// The curves of a view that may be drawn by hand round what is broken out.
std::set<int> waveringIn(const Drawing& d, const Figure& f, int view) {
    std::set<int> r;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (const FigureCurve& c = f.curves[i];
            c.view == view && c.role != LineRole::hidden && drawnByHand(d.entities[c.entity].curves))
            r.insert(static_cast<int>(i));
    return r;
}

/// The areas that can be reached from one without crossing a wavering line.
std::set<int> reachedFrom(int first, const std::vector<ClosedArea>& areas, const Sides& sides,
                          const std::set<int>& wavering) {
    std::set<int> r{first};
    std::vector<int> open{first};
    while (!open.empty()) {
        const int at = open.back();
        open.pop_back();
        eachEdge(areas[static_cast<size_t>(at)], [&](const AreaEdge& e) {
            if (wavering.contains(e.curve)) return;
            for (int o : sides.at({e.curve, e.t0, e.t1}))
                if (r.insert(o).second) open.push_back(o);
        });
    }
    return r;
}

/// Where the plane may stand: through the centres that other views show beside the region, the nearest to its
/// middle first, then in the middle of the part.
std::vector<std::vector<Term>> planesFor(const Figure& f, const FigureView& v, const Box2& region) {
    constexpr size_t kMost = 6;
    struct Found {
        double off, value;
        std::vector<Term> terms;
    };
    std::vector<Found> centres;
    std::optional<std::pair<int, int>> ends; // unknowns at the low and the high end of the part
    for (const FigureView* o : f.principalViews()) {
        const bool right = o->axes.right == v.axes.depth;
        if (!right && o->axes.up != v.axes.depth) continue;
        const Axis shared = right ? o->axes.up : o->axes.right;
        const bool level = v.axes.right == shared;
        const double lo = level ? region.lo.x : region.lo.y, hi = level ? region.hi.x : region.hi.y;
        for (const FigureCurve& c : f.curves) {
            if (c.view != o->view) continue;
            for (int p : {c.p0, c.p1}) {
                if (p < 0) continue;
                const int at = right ? f.points[p].u : f.points[p].v;
                if (!ends) ends = {at, at};
                if (f.drawn[at] < f.drawn[ends->first]) ends->first = at;
                if (f.drawn[at] > f.drawn[ends->second]) ends->second = at;
            }
            if (c.centre < 0) continue;
            const FigurePoint& p = f.points[c.centre];
            const int depth = right ? p.u : p.v;
            const double at = f.drawn[right ? p.v : p.u];
            if (at >= lo && at <= hi)
                centres.push_back({std::abs(at - 0.5 * (lo + hi)), f.drawn[depth], {{depth, 1.0}}});
        }
    }
    std::ranges::stable_sort(centres, {}, &Found::off);
    if (ends)
        centres.push_back({0,
                           0.5 * (f.drawn[ends->first] + f.drawn[ends->second]),
                           {{ends->first, 0.5}, {ends->second, 0.5}}});
    std::vector<std::vector<Term>> r;
    std::vector<double> values;
    for (const Found& c : centres) {
        const bool known = std::ranges::any_of(
            values, [&](double x) { return std::abs(x - c.value) <= f.tolerances.proof; });
        if (known || r.size() == kMost) continue;
        values.push_back(c.value);
        r.push_back(c.terms);
    }
    return r;
}

} // namespace

void readLocalCuts(const Drawing& d, Figure& f, Progress& progress) {
    for (const FigureView& v : f.views) {
        const bool hatches = v.principal() && std::ranges::any_of(f.hatching, [&](const Hatch& h) {
                                 return h.view == v.view;
                             });
        if (!hatches) continue;
        const std::set<int> wavering = waveringIn(d, f, v.view);
        const auto areas = closedAreasOf(f, v.view, f.drawn, progress);
        Sides sides;
        for (size_t i = 0; i < areas.size(); ++i)
            eachEdge(areas[i], [&](const AreaEdge& e) {
                sides[{e.curve, e.t0, e.t1}].push_back(static_cast<int>(i));
            });
        std::set<int> taken;
        for (size_t i = 0; i < areas.size() && !wavering.empty(); ++i) {
            if (taken.contains(static_cast<int>(i)) || !isHatched(f, areas[i])) continue;
            const std::set<int> region = reachedFrom(static_cast<int>(i), areas, sides, wavering);
            LocalCut cut{v.view, {}, {}, {}};
            Box2 box;
            std::set<int> border;
            for (int a : region) {
                cut.areas.push_back(areas[a].bounds);
                box.add(areas[a].box);
                eachEdge(areas[a], [&](const AreaEdge& e) {
                    const auto& beside = sides.at({e.curve, e.t0, e.t1});
                    if (wavering.contains(e.curve) &&
                        std::ranges::any_of(beside, [&](int o) { return !region.contains(o); }))
                        border.insert(e.curve);
                });
            }
            taken.insert(region.begin(), region.end());
            if (border.empty()) continue; // nothing is broken out: all of the view is hatched through
            for (int c : border) f.curves[c].freehand = true;
            std::vector<const ClosedArea*> within;
            for (int a : region) within.push_back(&areas[a]);
            for (const Loop& l : unionLoops(within)) cut.border.push_back(polygonOf(l, 1e-5 * f.size));
            cut.planes = planesFor(f, v, box);
            f.local_cuts.push_back(std::move(cut));
        }
    }
    // Hatching of a view that neither is a section nor has anything broken out says nothing that is known.
    std::erase_if(f.hatching, [&](const Hatch& h) {
        return f.viewById(h.view)->principal() && localCutsIn(f, h.view).empty();
    });
}

} // namespace figure
} // namespace prism
