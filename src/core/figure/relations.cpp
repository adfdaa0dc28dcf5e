#include "core/base/curve_cells.h"
#include "core/figure/builder.h"

#include <set>

namespace prism::figure {

void addRelation(Figure& f, Equation e, RelationKind kind, std::vector<int> curves) {
    e.owner = static_cast<int>(f.relations.size());
    f.relations.push_back({kind, std::move(curves)});
    f.equations.push_back(std::move(e));
}

namespace {

Equation onCircle(const Figure& f, int point, const FigureCurve& arc) {
    const FigurePoint &p = f.points[point], &c = f.points[arc.centre];
    const Vec2 d = f.at(p, f.drawn) - f.at(c, f.drawn);
    const double tol = f.tolerances.same_model;
    // At a quadrant the equation is linear, and says more: the point stays level with the centre.
    if (std::abs(d.x) <= tol)
        return Equation::linearOf(Level::structure,
                                  {{p.v, 1}, {c.v, -1}, {arc.radius, d.y > 0 ? -1.0 : 1.0}});
    if (std::abs(d.y) <= tol)
        return Equation::linearOf(Level::structure,
                                  {{p.u, 1}, {c.u, -1}, {arc.radius, d.x > 0 ? -1.0 : 1.0}});
    Equation e;
    e.kind = EquationKind::point_on_circle;
    e.v = {p.u, p.v, c.u, c.v, arc.radius};
    return e;
}

/// A place on an ellipse along the axes; where its axis ends, the place stays level with the centre.
Equation onEllipse(const Figure& f, int point, const FigureCurve& c) {
    const FigurePoint &p = f.points[point], &m = f.points[c.centre];
    const Vec2 d = f.at(p, f.drawn) - f.at(m, f.drawn);
    const double tol = f.tolerances.same_model;
    if (std::abs(d.x) <= tol)
        return Equation::linearOf(Level::structure, {{p.v, 1}, {m.v, -1}, {c.half_v, d.y > 0 ? -1.0 : 1.0}});
    if (std::abs(d.y) <= tol)
        return Equation::linearOf(Level::structure, {{p.u, 1}, {m.u, -1}, {c.half_u, d.x > 0 ? -1.0 : 1.0}});
    Equation e;
    e.kind = EquationKind::point_on_ellipse;
    e.v = {p.u, p.v, m.u, m.v, c.half_u, c.half_v};
    return e;
}

void arcEnds(Figure& f) {
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if ((c.radius < 0 && !c.onEllipse()) || c.p0 < 0) continue;
        for (int p : {c.p0, c.p1})
            addRelation(f, c.onEllipse() ? onEllipse(f, p, c) : onCircle(f, p, c), RelationKind::on_circle,
                        {static_cast<int>(i)});
    }
}

/// Tangency of an arc and what it meets at a common end.
void tangentAtJoint(Figure& f, int ai, int bi, int point) {
    const FigureCurve &a = f.curves[ai], &b = f.curves[bi];
    const double angular =
        std::max(f.tolerances.angular, f.tolerances.same_model / std::max(f.drawn[a.radius], 1e-6));
    const FigurePoint& p = f.points[point];
    const FigurePoint& c = f.points[a.centre];
    const Vec2 r = normalized(f.at(p, f.drawn) - f.at(c, f.drawn));
    if (std::holds_alternative<Segment>(b.drawn)) {
        const Segment& s = std::get<Segment>(b.drawn);
        if (std::abs(dot(r, normalized(s.b - s.a))) > angular) return;
        if (std::abs(r.x) < 1e-9)
            return addRelation(f, Equation::linearOf(Level::structure, {{p.u, 1}, {c.u, -1}}),
                               RelationKind::tangent, {ai, bi});
        if (std::abs(r.y) < 1e-9)
            return addRelation(f, Equation::linearOf(Level::structure, {{p.v, 1}, {c.v, -1}}),
                               RelationKind::tangent, {ai, bi});
        const FigurePoint& q = f.points[b.p0 == point ? b.p1 : b.p0];
        Equation e;
        e.kind = EquationKind::radius_square;
        e.v = {p.u, p.v, c.u, c.v, q.u, q.v};
        addRelation(f, e, RelationKind::tangent, {ai, bi});
    } else if (b.radius >= 0 && b.centre != a.centre) {
        const FigurePoint& o = f.points[b.centre];
        if (std::abs(cross(r, normalized(f.at(p, f.drawn) - f.at(o, f.drawn)))) > angular) return;
        Equation e;
        e.kind = EquationKind::collinear;
        e.v = {c.u, c.v, p.u, p.v, o.u, o.v};
        addRelation(f, e, RelationKind::tangent, {ai, bi});
    }
}

/// An ellipse along the axes that runs smoothly into a level or an upright line: its axis ends there.
void axisEndAtJoint(Figure& f, int ai, int bi, int point) {
    const FigureCurve &a = f.curves[ai], &b = f.curves[bi];
    const FigurePoint &p = f.points[point], &c = f.points[a.centre];
    const Vec2 d = f.at(p, f.drawn) - f.at(c, f.drawn);
    const auto& s = std::get<Segment>(b.drawn);
    const double tol = f.tolerances.same_model;
    if (std::abs(d.x) <= tol && std::abs(s.a.y - s.b.y) <= tol)
        addRelation(f, Equation::linearOf(Level::structure, {{p.u, 1}, {c.u, -1}}), RelationKind::tangent,
                    {ai, bi});
    if (std::abs(d.y) <= tol && std::abs(s.a.x - s.b.x) <= tol)
        addRelation(f, Equation::linearOf(Level::structure, {{p.v, 1}, {c.v, -1}}), RelationKind::tangent,
                    {ai, bi});
}

void tangents(Figure& f) {
    std::map<int, std::vector<int>> meeting;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].p0 >= 0) {
            meeting[f.curves[i].p0].push_back(static_cast<int>(i));
            meeting[f.curves[i].p1].push_back(static_cast<int>(i));
        }
    for (const auto& [point, curves] : meeting)
        for (int a : curves)
            for (int b : curves)
                if (a != b && f.curves[a].radius >= 0 && (f.curves[b].radius < 0 || a < b))
                    tangentAtJoint(f, a, b, point);
                else if (f.curves[a].onEllipse() && std::holds_alternative<Segment>(f.curves[b].drawn))
                    axisEndAtJoint(f, a, b, point);
}

/// Curves and ends of curves that lie on them, each pair once, in the order of the sheet.
std::vector<std::pair<int, int>> endsBesideCurves(const Figure& f, double tol) {
    std::set<int> unique;
    for (const FigureCurve& c : f.curves)
        if (c.p0 >= 0) unique.insert(c.p0), unique.insert(c.p1);
    const std::vector<int> ends(unique.begin(), unique.end());
    std::vector<Curve> places;
    places.reserve(ends.size());
    for (int e : ends) places.push_back(Segment{f.at(f.points[e], f.drawn), f.at(f.points[e], f.drawn)});
    std::vector<const Curve*> all;
    std::vector<Box2> boxes;
    for (const FigureCurve& c : f.curves) all.push_back(&c.drawn), boxes.push_back(boxOf(c.drawn).grown(tol));
    for (const Curve& p : places) all.push_back(&p);
    const int curves = static_cast<int>(f.curves.size());
    std::vector<std::pair<int, int>> pairs;
    CurveCells(all, tol).forEachCell([&](const std::vector<int>& cell) { // sorted: curves first, then ends
        const auto first = std::ranges::lower_bound(cell, curves);
        for (auto e = first; e != cell.end(); ++e) {
            const int end = ends[*e - curves];
            const FigurePoint& p = f.points[end];
            const Vec2 at = std::get<Segment>(places[*e - curves]).a;
            for (auto c = cell.begin(); c != first; ++c) {
                if (!boxes[*c].contains(at)) continue;
                const FigureCurve& on = f.curves[*c];
                if (p.view == on.view && end != on.p0 && end != on.p1 && distanceTo(on.drawn, at) <= tol)
                    pairs.emplace_back(*c, end);
            }
        }
    });
    std::ranges::sort(pairs);
    pairs.erase(std::unique(pairs.begin(), pairs.end()), pairs.end());
    return pairs;
}

constexpr double kOnCurve = 50; ///< score of an end that lies on a curve, and meets it as it does

/// A line that runs up to the middle of a round one smoothly goes on doing so.
void tangentOnCurve(Figure& f, int round, int line, int end) {
    const size_t before = f.equations.size();
    tangentAtJoint(f, round, line, end);
    for (size_t k = before; k < f.equations.size(); ++k)
        f.equations[k].level = Level::weak, f.equations[k].score = kOnCurve;
}

/// Ends that lie in the middle of another curve of the view (a step's line ending on the outline).
void endsOnCurves(Figure& f) {
    const double tol = f.tolerances.same_model;
    std::map<int, std::vector<int>> lines; // by end
    for (size_t k = 0; k < f.curves.size(); ++k)
        if (f.curves[k].p0 >= 0 && std::holds_alternative<Segment>(f.curves[k].drawn))
            for (int p : {f.curves[k].p0, f.curves[k].p1}) lines[p].push_back(static_cast<int>(k));
    for (const auto& [i, e] : endsBesideCurves(f, tol)) {
        const FigureCurve c = f.curves[i];
        const FigurePoint& p = f.points[e];
        if (c.radius >= 0 || c.onEllipse()) {
            Equation q = c.onEllipse() ? onEllipse(f, e, c) : onCircle(f, e, c);
            q.level = Level::weak, q.score = kOnCurve;
            addRelation(f, q, RelationKind::on_circle, {i});
            if (c.radius >= 0)
                for (int line : lines[e]) tangentOnCurve(f, i, line, e);
        } else if (auto* s = std::get_if<Segment>(&c.drawn)) {
            const FigurePoint &a = f.points[c.p0], &b = f.points[c.p1];
            Equation q;
            if (std::abs(s->a.x - s->b.x) <= tol)
                q = Equation::linearOf(Level::weak, {{p.u, 1}, {a.u, -1}});
            else if (std::abs(s->a.y - s->b.y) <= tol)
                q = Equation::linearOf(Level::weak, {{p.v, 1}, {a.v, -1}});
            else
                q.kind = EquationKind::collinear, q.v = {a.u, a.v, p.u, p.v, b.u, b.v};
            q.level = Level::weak, q.score = kOnCurve;
            addRelation(f, q, RelationKind::on_line, {i});
        }
    }
}

/// What the merged unknowns already say, listed for people.
void listMerged(Figure& f) {
    std::map<int, int> centres;
    std::set<int> seen;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        const int k = static_cast<int>(i);
        if (std::holds_alternative<Segment>(c.drawn) && c.p0 >= 0) {
            if (f.points[c.p0].u == f.points[c.p1].u) f.relations.push_back({RelationKind::vertical, {k}});
            if (f.points[c.p0].v == f.points[c.p1].v) f.relations.push_back({RelationKind::horizontal, {k}});
        }
        if (c.centre >= 0 && !centres.emplace(c.centre, k).second)
            f.relations.push_back({RelationKind::concentric, {centres[c.centre], k}});
        for (int p : {c.p0, c.p1})
            if (p >= 0 && !seen.insert(p).second) f.relations.push_back({RelationKind::coincident, {k}});
    }
}

} // namespace

void relateWithinViews(Figure& f) {
    listMerged(f);
    arcEnds(f);
    tangents(f);
    endsOnCurves(f);
}

} // namespace prism::figure
