#include "core/figure/builder.h"

// How auxiliary views hang together with the view that they hang on.
namespace prism::figure {
namespace {

/// The edge of the view it hangs on that an auxiliary view is drawn square to, as the points of its ends in
/// the order in which the own axis counts: of those that run its way the one nearest to its fold line.
std::pair<int, int> edgeAlong(const Figure& f, const FigureView& v, Vec2 along) {
    std::pair<int, int> best{-1, -1};
    double nearest = std::numeric_limits<double>::infinity();
    const Vec2 middle = (v.line.a + v.line.b) * 0.5;
    for (const FigureCurve& c : f.curves) {
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (!s || c.view != v.on || c.p0 < 0) continue;
        const Vec2 d = s->b - s->a;
        if (std::abs(cross(d, along)) > 4 * f.tolerances.same_model) continue;
        const double away = distanceTo(c.drawn, middle) - 1e-3 * length(d);
        if (away >= nearest) continue;
        nearest = away;
        best = dot(d, along) > 0 ? std::pair{c.p0, c.p1} : std::pair{c.p1, c.p0};
    }
    return best;
}

void addEquation(Figure& f, Equation e) {
    e.owner = static_cast<int>(f.relations.size());
    f.relations.push_back({RelationKind::station, {}, static_cast<Axis>(f.axis_of.back())});
    f.equations.push_back(std::move(e));
}

void castFrom(Figure& f, FigureView& v) {
    const ViewAxes& on = f.viewById(v.on)->axes;
    Vec2 along{dot(v.right, unitOf(on.right)), dot(v.right, unitOf(on.up))};
    std::tie(v.from, v.to) = edgeAlong(f, v, along);
    if (v.from >= 0) along = normalized(f.at(f.points[v.to], f.drawn) - f.at(f.points[v.from], f.drawn));
    std::set<int> points;
    for (const FigureCurve& c : f.curves)
        if (c.view == v.on)
            for (int p : {c.p0, c.p1, c.centre})
                if (p >= 0) points.insert(p);
    const auto shadowOf = [&](int p) {
        const auto [it, fresh] = f.shadows.try_emplace({v.view, p}, static_cast<int>(f.drawn.size()));
        if (fresh) {
            f.drawn.push_back(dot(f.at(f.points[p], f.drawn), along));
            f.axis_of.push_back(static_cast<int>(v.axes.right));
        }
        return it->second;
    };
    if (v.from >= 0) { // where the axis begins stays put
        const int s = shadowOf(v.from);
        Equation e = Equation::linearOf(Level::weak, {{s, 1}}, f.drawn[s]);
        e.score = kDatumScore;
        addEquation(f, e);
    }
    for (int p : points) {
        const int s = shadowOf(p);
        const FigurePoint& at = f.points[p];
        if (v.from < 0) {
            addEquation(f, Equation::linearOf(Level::structure, {{at.u, along.x}, {at.v, along.y}, {s, -1}}));
            continue;
        }
        if (p == v.from) continue;
        const FigurePoint &a = f.points[v.from], &b = f.points[v.to];
        Equation e;
        e.kind = EquationKind::along;
        e.v = {at.u, at.v, a.u, a.v, b.u, b.v, s, shadowOf(v.from)};
        addEquation(f, e);
    }
}

/// A circle or an arc, and the ellipse that another view shows of it.
void tieEllipse(Figure& f, const FigureView& askew, int round, int ellipse) {
    const FigureCurve &c = f.curves[round], &o = f.curves[ellipse];
    const FigureView& square = *f.viewById(c.view == askew.view ? o.view : c.view);
    const Axis shared = askew.axes.up;
    const bool upright = square.axes.up == shared;
    const Axis other = upright ? square.axes.right : square.axes.up;
    // The shared axis is always the second one of the auxiliary view.
    const auto sharedAt = [&](const FigureCurve& k) {
        const FigurePoint& m = f.points[k.centre];
        return f.drawn[k.view == askew.view || upright ? m.v : m.u];
    };
    const bool along_v = o.view == askew.view || upright;
    const int along = along_v ? o.half_v : o.half_u, across = along_v ? o.half_u : o.half_v;
    const double r = f.drawn[c.radius], share = std::abs(dot(askew.right, unitOf(other))),
                 tol = f.tolerances.same_model;
    if (std::abs(sharedAt(c) - sharedAt(o)) > tol || std::abs(f.drawn[along] - r) > tol ||
        std::abs(f.drawn[across] - r * share) > tol)
        return;
    addRelation(f, Equation::linearOf(Level::strong, {{along, 1}, {c.radius, -1}}), RelationKind::equal,
                {round, ellipse});
    Equation e = Equation::linearOf(Level::strong, {{across, 1}, {c.radius, -share}});
    if (askew.from >= 0) {
        const FigurePoint &a = f.points[askew.from], &b = f.points[askew.to];
        const bool in_x = f.viewById(askew.on)->axes.right == other;
        e.kind = EquationKind::foreshortened, e.terms.clear();
        e.v = {in_x ? a.u : a.v, in_x ? a.v : a.u, in_x ? b.u : b.v, in_x ? b.v : b.u, across, c.radius};
    }
    addRelation(f, e, RelationKind::equal, {round, ellipse});
}

/// Between an auxiliary view and a principal one that shares an axis with it, what is round in the one is an
/// ellipse in the other: as large along the axis that both share, and along the other one as much smaller as
/// the edge is that the auxiliary view is drawn square to.
void tieEllipses(Figure& f, const FigureView& askew) {
    const auto shares = [&](int view) {
        const FigureView& w = *f.viewById(view);
        return w.principal() && (w.axes.right == askew.axes.up || w.axes.up == askew.axes.up);
    };
    std::vector<int> round, ellipses;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].view == askew.view || shares(f.curves[i].view)) {
            if (f.curves[i].radius >= 0) round.push_back(static_cast<int>(i));
            if (f.curves[i].onEllipse()) ellipses.push_back(static_cast<int>(i));
        }
    for (int c : round)
        for (int o : ellipses)
            if ((f.curves[c].view == askew.view) != (f.curves[o].view == askew.view))
                tieEllipse(f, askew, c, o);
}

} // namespace

void castShadows(Figure& f) {
    for (FigureView& v : f.views)
        if (!v.square) castFrom(f, v), tieEllipses(f, v);
    f.now = f.drawn;
}

} // namespace prism::figure
