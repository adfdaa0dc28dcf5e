#include "core/project/picking.h"

#include "core/building/places.h"
#include "core/figure/area_identity.h"

namespace prism {

const ClosedArea* areaAt(const Model& m, Vec2 sheet) {
    for (const FigureView& v : m.figure.views) {
        const Vec2 p = ontoSheet(m.figure, v, m.figure.now).inverse()(sheet);
        for (const ClosedArea& a : m.areas.now)
            if (a.view == v.view && a.contains(p)) return &a;
    }
    return nullptr;
}

Vec2 seedAsDrawn(const Model& m, const ClosedArea& area) {
    if (m.figure.now == m.figure.drawn) return area.seed;
    for (const ClosedArea& a : m.areas.drawn)
        if (a.view == area.view && a.bounds == area.bounds) return a.seed;
    for (size_t i = 0; i < m.areas.drawn.size();
         ++i) { // the one that has become, or has come to hold, this area
        if (m.areas.drawn[i].view != area.view) continue;
        for (int now : successorsOf(m.figure, m.areas, {static_cast<int>(i)}).now)
            if (m.areas.now[now].seed == area.seed) return m.areas.drawn[i].seed;
    }
    return area.seed;
}

std::optional<PickedMark> markNear(const Model& m, Vec2 sheet, double within, const MarkFilter& filter) {
    constexpr double kAside =
        0.02; // what lies beside the place counts little, but tells marks at one value apart
    std::optional<PickedMark> best;
    double nearest = std::numeric_limits<double>::infinity();
    for (const Mark& k : m.figure.marks) {
        const FigureView& v = *m.figure.viewById(k.view);
        if ((filter.axis && k.axis != *filter.axis) || (filter.not_in && v.name == *filter.not_in)) continue;
        if (k.axis != v.axes.right && k.axis != v.axes.up) continue;
        const bool right = v.axes.right == k.axis;
        const double now = m.figure.value(k.terms, m.figure.now);
        const Affine2 back = ontoSheet(m.figure, v, m.figure.now);
        const Vec2 at = back.inverse()(sheet);
        const double away = std::abs((right ? at.x : at.y) - now) / m.views.views[v.view].mm_per_sheet;
        if (away >= within || !v.box.grown(0.15 * m.figure.size).contains(at)) continue;
        // The other coordinate says which of several marks at this value is meant.
        double other = right ? at.y : at.x, gap = std::numeric_limits<double>::infinity();
        for (double o : k.others)
            if (const double g = std::abs(o - (right ? at.y : at.x)); g < gap) gap = g, other = o;
        const double cost =
            away + kAside * (std::isfinite(gap) ? gap : 0) / m.views.views[v.view].mm_per_sheet;
        if (cost >= nearest) continue;
        nearest = cost;
        best = PickedMark{{v.name, right ? Vec2{k.value, other} : Vec2{other, k.value}},
                          k.axis,
                          now,
                          back(right ? Vec2{now, at.y} : Vec2{at.x, now})};
    }
    return best;
}

std::optional<PickedAxis> axisNear(const Model& m, const SolvedSheet& now, const ViewName& view, Vec2 sheet,
                                   double within) {
    const FigureView* v = m.figure.viewNamed(view);
    if (!v) return std::nullopt;
    std::optional<PickedAxis> best;
    double nearest = within;
    for (const Entity& e : m.drawing->entities) {
        if (m.views.view_of_entity[e.id] != v->view || e.curves.size() != 1) continue;
        const auto *drawn = std::get_if<Segment>(&e.curves[0]),
                   *line = std::get_if<Segment>(&now.curves[e.id][0]);
        if (!drawn || !line) continue;
        const Vec2 d = v->to_model.linear(drawn->b - drawn->a);
        const bool upright = std::abs(d.x) < 1e-6 * length(d), level = std::abs(d.y) < 1e-6 * length(d);
        const bool centre = m.sheet.entity_roles[e.id] == LineRole::centre;
        const double away = distanceTo(*line, sheet) * (centre ? 0.5 : 1);
        if (away >= nearest || upright == level) continue;
        nearest = away;
        best = PickedAxis{e.id, upright, {view, v->to_model((drawn->a + drawn->b) * 0.5)}};
    }
    return best;
}

std::optional<PickedLine> lineNear(const Model& m, Vec2 sheet, double within) {
    std::optional<PickedLine> best;
    for (size_t i = 0; i < m.figure.curves.size(); ++i) {
        const FigureCurve& c = m.figure.curves[i];
        const FigureView& v = *m.figure.viewById(c.view);
        const Vec2 at = ontoSheet(m.figure, v, m.figure.now).inverse()(sheet);
        const Curve now = m.figure.curve(static_cast<int>(i));
        const double away = distanceTo(now, at) / m.views.views[v.view].mm_per_sheet;
        if (away >= within) continue;
        within = away;
        best = PickedLine{c.entity, {v.name, pointAt(c.drawn, nearestParameter(now, at))}};
    }
    return best;
}

bool isOnPart(const Model& m, Vec2 sheet, double within) {
    if (lineNear(m, sheet, within)) return true;
    return std::ranges::any_of(m.figure.points, [&](const FigurePoint& p) {
        const FigureView& v = *m.figure.viewById(p.view);
        return distance(ontoSheet(m.figure, v, m.figure.now)(m.figure.at(p, m.figure.now)), sheet) < within;
    });
}

std::optional<MarkRef> circleRound(const Model& m, Vec2 sheet) {
    std::optional<MarkRef> best;
    double least = std::numeric_limits<double>::infinity();
    for (const FigureCurve& c : m.figure.curves) {
        if (c.radius < 0 || !std::get<Arc>(c.drawn).full()) continue;
        const FigureView& v = *m.figure.viewById(c.view);
        const Vec2 at = ontoSheet(m.figure, v, m.figure.now).inverse()(sheet);
        const double radius = m.figure.now[c.radius];
        if (radius >= least || distance(m.figure.at(m.figure.points[c.centre], m.figure.now), at) > radius)
            continue;
        least = radius;
        best = MarkRef{v.name, m.figure.at(m.figure.points[c.centre], m.figure.drawn)};
    }
    return best;
}

std::optional<MarkRef> placeIn(const Model& m, Vec2 sheet) {
    for (const FigureView& v : m.figure.views) {
        const Vec2 now = ontoSheet(m.figure, v, m.figure.now).inverse()(sheet);
        const Warp warp(m.figure, v.view);
        Vec2 drawn = now; // the warp moves places little: what it misses by is taken off until it hits
        for (int i = 0; i < 50; ++i) drawn = drawn + now - warp(drawn);
        if (v.box.grown(0.15 * m.figure.size).contains(drawn)) return MarkRef{v.name, drawn};
    }
    return std::nullopt;
}

std::optional<PartPick> pickOf(const Model& m, SolidPart part) {
    const auto at = placeOn(m.build.shape, part);
    if (!at) return std::nullopt;
    return PartPick{building::placeDrawn(m.figure, *at), {}};
}

} // namespace prism
