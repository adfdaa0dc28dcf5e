#include "core/project/area_picking.h"

#include "core/base/polygon.h"

namespace prism {
namespace {

/// What two areas of one shape have alike, however they lie: their size, and the lengths of the pieces of
/// their borders, outer and holes.
struct Shape {
    double area;
    std::vector<double> lengths;
    explicit Shape(const ClosedArea& a) : area(a.area) {
        const auto take = [&](const Loop& l) {
            for (const AreaEdge& e : l) lengths.push_back(lengthOf(e.shape));
        };
        take(a.outer);
        for (const Loop& h : a.holes) take(h);
        std::ranges::sort(lengths);
    }
    bool like(const Shape& o, double tolerance) const {
        return lengths.size() == o.lengths.size() &&
               std::ranges::equal(lengths, o.lengths,
                                  [&](double a, double b) { return std::abs(a - b) <= tolerance; }) &&
               std::abs(area - o.area) <= tolerance * std::sqrt(area) * 4;
    }
};

std::set<int> layersOf(const Model& m, const ClosedArea& a) {
    std::set<int> r;
    for (const AreaEdge& e : a.outer)
        r.insert(
            m.drawing->entities[static_cast<size_t>(m.figure.curves[static_cast<size_t>(e.curve)].entity)]
                .layer);
    return r;
}

bool shareBorder(const ClosedArea& a, const ClosedArea& b) {
    std::vector<int> both;
    std::ranges::set_intersection(a.bounds, b.bounds, std::back_inserter(both));
    return !both.empty() && a.box.grown(1e-9).overlaps(b.box);
}

/// The areas that are in, and those that lead to others of the same kind, until there are no more.
template <class Joins>
void spread(const std::vector<const ClosedArea*>& areas, std::vector<bool>& in, Joins joins) {
    std::vector<size_t> open;
    for (size_t i = 0; i < areas.size(); ++i)
        if (in[i]) open.push_back(i);
    while (!open.empty()) {
        const size_t at = open.back();
        open.pop_back();
        for (size_t i = 0; i < areas.size(); ++i)
            if (!in[i] && joins(*areas[at], *areas[i])) in[i] = true, open.push_back(i);
    }
}

} // namespace

PickedAreas areasWithin(const Model& m, const std::vector<Vec2>& polygon, bool touching,
                        const std::optional<ViewName>& view) {
    PickedAreas most;
    if (polygon.size() < 3) return most;
    for (const FigureView& v : m.figure.views) {
        if (view && v.name != *view) continue;
        PickedAreas here{v.name, {}};
        const Affine2 back = ontoSheet(m.figure, v, m.figure.now).inverse();
        std::vector<Vec2> own; // the polygon in the view's coordinates
        for (Vec2 p : polygon) own.push_back(back(p));
        for (const ClosedArea& a : m.areas.now) {
            if (a.view != v.view) continue;
            bool all = true, any = std::ranges::any_of(own, [&](Vec2 p) { return a.contains(p); });
            for (const AreaEdge& e : a.outer)
                for (int k = 0; k < 16; ++k) {
                    const bool in = insidePolygon(own, pointAt(e.shape, k / 16.0));
                    all = all && in, any = any || in;
                }
            if (touching ? any : all) here.seeds.push_back(seedAsDrawn(m, a));
        }
        if (here.seeds.size() > most.seeds.size()) most = std::move(here);
    }
    return most;
}

std::vector<Vec2> areasLike(const Model& m, const ViewName& view, const std::vector<Vec2>& picked,
                            AreaLikeness how) {
    const FigureView* v = m.figure.viewNamed(view);
    if (!v) return picked;
    std::vector<const ClosedArea*> areas;
    for (const ClosedArea& a : m.areas.drawn)
        if (a.view == v->view) areas.push_back(&a);
    std::vector<bool> in(areas.size());
    for (size_t i = 0; i < areas.size(); ++i)
        in[i] = how == AreaLikeness::view ||
                std::ranges::any_of(picked, [&](Vec2 p) { return areas[i]->contains(p); });
    if (how == AreaLikeness::neighbours) spread(areas, in, shareBorder);
    if (how == AreaLikeness::layer) {
        std::set<std::set<int>> known;
        for (size_t i = 0; i < areas.size(); ++i)
            if (in[i]) known.insert(layersOf(m, *areas[i]));
        for (size_t i = 0; i < areas.size(); ++i) in[i] = in[i] || known.contains(layersOf(m, *areas[i]));
    }
    if (how == AreaLikeness::shape) {
        std::vector<Shape> known;
        for (size_t i = 0; i < areas.size(); ++i)
            if (in[i]) known.emplace_back(*areas[i]);
        for (size_t i = 0; i < areas.size(); ++i)
            in[i] = in[i] || std::ranges::any_of(known, [&, s = Shape(*areas[i])](const Shape& k) {
                        return k.like(s, 4 * m.figure.tolerances.same_model);
                    });
    }
    // What was picked keeps its own points, and its order.
    std::vector<Vec2> r = picked;
    for (size_t i = 0; i < areas.size(); ++i)
        if (in[i] && std::ranges::none_of(picked, [&](Vec2 p) { return areas[i]->contains(p); }))
            r.push_back(areas[i]->seed);
    return r;
}

} // namespace prism
