#include "core/ledger/bind.h"

#include <fmt/format.h>

namespace prism {
namespace {

/// The mark of a view at a coordinate, nearest to the place; ends of lines win over outermost places of
/// circles.
const Mark* markAt(const Figure& f, int view, Axis axis, double value, double other, double tol) {
    const Mark* best = nullptr;
    double bestCost = std::numeric_limits<double>::infinity();
    for (const Mark& m : f.marks) {
        if (m.view != view || m.axis != axis || std::abs(m.value - value) > tol) continue;
        double away = std::numeric_limits<double>::infinity();
        for (double o : m.others) away = std::min(away, std::abs(o - other));
        const double cost = away + (m.terms.size() > 1 ? tol : 0) + 10 * std::abs(m.value - value);
        if (cost < bestCost) bestCost = cost, best = &m;
    }
    return best;
}

/// The centre of a hole that a view shows from the side: no line of its own stands there, but another view
/// has the circle.
const Mark* centreElsewhere(const Figure& f, int view, Axis axis, double value, double tol) {
    const auto it = std::ranges::find_if(f.marks, [&](const Mark& m) {
        return m.view != view && m.axis == axis && m.curve >= 0 && m.terms.size() == 1 &&
               f.curves[static_cast<size_t>(m.curve)].radius >= 0 && std::abs(m.value - value) <= tol;
    });
    return it == f.marks.end() ? nullptr : &*it;
}

int pointNear(const Figure& f, int view, Vec2 at, double tol) {
    for (size_t i = 0; i < f.points.size(); ++i)
        if (f.points[i].view == view && distance(f.at(f.points[i], f.drawn), at) <= tol)
            return static_cast<int>(i);
    return -1;
}

/// The radius, a variable, of the circle or arc that a dimension is about, or of the pitch circle: the point
/// lies on it, and the size fits. -1 for none.
int radiusAt(const Figure& f, int view, Vec2 onIt, double radius, double tol) {
    int best = -1;
    double nearest = 5 * tol + 0.01 * radius;
    const auto consider = [&](const Arc& a, int variable) {
        const double off = std::abs(a.radius - radius) + std::abs(distance(onIt, a.centre) - a.radius);
        if (off < nearest) nearest = off, best = variable;
    };
    for (const FigureCurve& c : f.curves)
        if (c.view == view && c.radius >= 0) consider(std::get<Arc>(c.drawn), c.radius);
    for (const PitchCircle& c : f.pitch_circles)
        if (c.view == view) consider(c.drawn, c.radius);
    return best;
}

/// The line through two points of an angular dimension: a segment of the view lying on it.
int lineThrough(const Figure& f, int view, Vec2 a, Vec2 b, double tol) {
    int best = -1;
    double bestAway = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (c.view != view || !s || c.p0 < 0) continue;
        const Vec2 d = normalized(s->b - s->a);
        if (std::abs(cross(d, a - s->a)) > tol || std::abs(cross(d, b - s->a)) > tol) continue;
        const double away = std::min(distanceTo(c.drawn, a), distanceTo(c.drawn, b));
        if (away < bestAway) bestAway = away, best = static_cast<int>(i);
    }
    return best;
}

void loose(LedgerEntry& e, std::string why) {
    e.state = EntryState::loose;
    e.why = std::move(why);
}

void bindLinear(const Figure& f, const FigureView& v, Vec2 p, Vec2 q, double tol, bool wantRight, bool wantUp,
                LedgerEntry& e) {
    if (wantRight || wantUp) {
        e.axis = wantRight ? v.axes.right : v.axes.up;
        e.along_axis = true;
        const double pu = wantRight ? p.x : p.y, qu = wantRight ? q.x : q.y;
        const double pv = wantRight ? p.y : p.x, qv = wantRight ? q.y : q.x;
        const Mark *a = markAt(f, v.view, e.axis, pu, pv, tol), *b = markAt(f, v.view, e.axis, qu, qv, tol);
        if (!a) a = centreElsewhere(f, v.view, e.axis, pu, tol);
        if (!b) b = centreElsewhere(f, v.view, e.axis, qu, tol);
        if (!a || !b) return loose(e, "one end of the dimension meets no line of the view");
        if (a->value > b->value) std::swap(a, b);
        e.low = a->terms, e.high = b->terms;
        std::vector<Term> terms = e.high;
        for (const Term& t : e.low) terms.push_back({t.variable, -t.factor});
        e.equation = Equation::linearOf(Level::number, terms, e.value);
        if (e.equation.terms.empty()) loose(e, "both ends stand on the same coordinate");
        return;
    }
    const int i = pointNear(f, v.view, p, tol), j = pointNear(f, v.view, q, tol);
    if (i < 0 || j < 0) return loose(e, "one end of the dimension meets no corner or centre of the view");
    e.equation.kind = EquationKind::distance;
    e.equation.level = Level::number;
    e.equation.v = {f.points[i].u, f.points[i].v, f.points[j].u, f.points[j].v};
    e.equation.value = e.value;
}

void bindAngle(const Figure& f, const FigureView& v, const Dimension& d, double tol, LedgerEntry& e) {
    const Affine2& m = v.to_model;
    const Vec2 vertex = m(d.p15);
    const int a = d.three_point ? lineThrough(f, v.view, vertex, m(d.p13), tol)
                                : lineThrough(f, v.view, m(d.p13), m(d.p14), tol);
    const int b = d.three_point ? lineThrough(f, v.view, vertex, m(d.p14), tol)
                                : lineThrough(f, v.view, m(d.p15), m(d.p10), tol);
    if (a < 0 || b < 0 || a == b) return loose(e, "one leg of the angle meets no line of the view");
    e.equation.kind = EquationKind::angle;
    e.equation.level = Level::number;
    const FigurePoint &p = f.points[f.curves[a].p0], &q = f.points[f.curves[a].p1],
                      &r = f.points[f.curves[b].p0], &s = f.points[f.curves[b].p1];
    e.equation.v = {p.u, p.v, q.u, q.v, r.u, r.v, s.u, s.v};
    e.equation.value = 0;
    e.equation.value =
        evaluate(e.equation, f.drawn, nullptr); // the signed angle between the lines as they run
}

} // namespace

void bindDimension(double extent, const ViewSet& set, const Figure& f, const Dimension& dim, LedgerEntry& e) {
    const FigureView* v = f.viewById(e.view);
    if (!v) return loose(e, "its view does not stand in the box");
    const double sheetMm = set.views[e.view].mm_per_sheet;
    // Old sheets are measured by eye now and then: a definition point may lie a little off what it means.
    const double tol = std::max(4 * f.tolerances.same_model, 2e-4 * extent * sheetMm);
    const Affine2& m = v->to_model;
    switch (dim.kind) {
    case DimensionKind::linear:
    case DimensionKind::aligned: {
        const Vec2 on_sheet =
            dim.kind == DimensionKind::linear ? direction(dim.angle) : normalized(dim.p14 - dim.p13);
        const Vec2 along = normalized(m.linear(on_sheet)); // an auxiliary view lies askew on the sheet
        bindLinear(f, *v, m(dim.p13), m(dim.p14), tol, std::abs(along.y) < 1e-6, std::abs(along.x) < 1e-6, e);
        break;
    }
    case DimensionKind::ordinate:
        bindLinear(f, *v, m(dim.p10), m(dim.p13), tol, dim.ordinate_x, !dim.ordinate_x, e);
        break;
    case DimensionKind::radius:
    case DimensionKind::diameter: {
        const bool across = dim.kind == DimensionKind::diameter;
        const double r = distance(dim.p10, dim.p15) * sheetMm * (across ? 0.5 : 1);
        const int radius = radiusAt(f, v->view, m(dim.p15), r, tol);
        if (radius < 0)
            loose(e, "no circle or arc of this size lies there");
        else
            e.equation = Equation::linearOf(Level::number, {{radius, across ? 2.0 : 1.0}}, e.value);
        break;
    }
    case DimensionKind::angular:
        bindAngle(f, *v, dim, tol, e);
        break;
    }
}

} // namespace prism
