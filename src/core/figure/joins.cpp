#include "core/figure/builder.h"
#include "core/figure/usual_arcs.h"

#include <set>

namespace prism::figure {
namespace {

/// Marks that stand on the same terms are one mark.
void addMark(Figure& f, std::map<std::vector<std::pair<int, double>>, int>& known, Mark m) {
    std::vector<std::pair<int, double>> key;
    for (const Term& t : m.terms) key.emplace_back(t.variable, t.factor);
    const auto [it, fresh] = known.emplace(std::move(key), static_cast<int>(f.marks.size()));
    if (fresh)
        f.marks.push_back(std::move(m));
    else {
        Mark& same = f.marks[it->second];
        same.others.insert(same.others.end(), m.others.begin(), m.others.end());
        same.smooth = same.smooth && m.smooth;
    }
}

/// By point: the direction in which two curves run through it smoothly; none at corners and free ends.
std::map<int, Vec2> smoothJoints(const Figure& f) {
    std::map<int, std::vector<Vec2>> out; // directions away from the point
    for (const FigureCurve& c : f.curves)
        if (c.p0 >= 0) {
            out[c.p0].push_back(tangentAt(c.drawn, 0));
            out[c.p1].push_back(-tangentAt(c.drawn, 1));
        }
    std::map<int, Vec2> r;
    for (const auto& [point, directions] : out)
        if (directions.size() == 2 && distance(directions[0], -directions[1]) < 1e-3)
            r[point] = directions[0];
    return r;
}

/// Ends that only show where a close-up, an auxiliary view or a section stops to show the part.
std::set<int> brokenEnds(const Figure& f) {
    std::map<int, int> meeting;
    for (const FigureCurve& c : f.curves)
        if (c.p0 >= 0) ++meeting[c.p0], ++meeting[c.p1];
    const double tol = f.tolerances.same_model;
    const auto onAnother = [&](int point) {
        const Vec2 at = f.at(f.points[point], f.drawn);
        return std::ranges::any_of(f.curves, [&](const FigureCurve& c) {
            return c.view == f.points[point].view && c.p0 != point && c.p1 != point &&
                   boxOf(c.drawn).grown(tol).contains(at) && distanceTo(c.drawn, at) <= tol;
        });
    };
    std::set<int> r;
    for (const auto& [point, curves] : meeting)
        if (curves == 1 && !f.viewById(f.points[point].view)->principal() && !onAnother(point))
            r.insert(point);
    return r;
}

/// Whether two marks are those of the hidden walls of one hole: they reach from one place to one and the same
/// other.
bool wallsOfHole(const Figure& f, const Mark& a, const Mark& b) {
    const double tol = f.tolerances.same_model;
    const auto hidden = [&](const Mark& m) {
        return m.curve >= 0 && f.curves[static_cast<size_t>(m.curve)].role == LineRole::hidden;
    };
    const auto reach = [](const Mark& m) { return std::ranges::minmax(m.others); };
    return hidden(a) && hidden(b) && !a.others.empty() && !b.others.empty() &&
           std::abs(reach(a).min - reach(b).min) <= tol && std::abs(reach(a).max - reach(b).max) <= tol;
}

/// Where a level or upright centre line runs in the middle between two lines of its view, as that of a hole
/// seen from the side does, its place is theirs: half the sum of both. The walls of a hole are taken, else
/// the nearest two.
std::vector<Mark> middles(const Drawing& d, const ViewSet& set, const Figure& f) {
    std::vector<Mark> r;
    const double tol = f.tolerances.same_model;
    for (const FigureView& v : f.views)
        for (const Segment& line : centreSegments(d, set.views[v.view], v)) {
            const bool upright = std::abs(line.a.x - line.b.x) <= tol,
                       level = std::abs(line.a.y - line.b.y) <= tol;
            if (upright == level) continue;
            const Axis axis = upright ? v.axes.right : v.axes.up;
            const double at = upright ? line.a.x : line.a.y;
            const double lo = upright ? std::min(line.a.y, line.b.y) : std::min(line.a.x, line.b.x),
                         hi = upright ? std::max(line.a.y, line.b.y) : std::max(line.a.x, line.b.x);
            std::vector<const Mark*> beside;
            bool taken = false;
            for (const Mark& m : f.marks) {
                if (m.view != v.view || m.axis != axis) continue;
                const bool along =
                    std::ranges::any_of(m.others, [&](double o) { return o > lo - tol && o < hi + tol; });
                if (along && std::abs(m.value - at) <= tol)
                    taken = true; // a line or a centre stands there itself
                if (along && std::abs(m.value - at) > tol) beside.push_back(&m);
            }
            if (taken) continue;
            std::ranges::sort(beside, {}, [&](const Mark* m) { return std::abs(m->value - at); });
            std::vector<std::pair<const Mark*, const Mark*>> pairs;
            for (size_t i = 1; i < beside.size(); ++i)
                if (std::abs(beside[i - 1]->value + beside[i]->value - 2 * at) <= tol &&
                    (beside[i - 1]->value < at) != (beside[i]->value < at))
                    pairs.emplace_back(beside[i - 1], beside[i]);
            if (pairs.empty()) continue;
            const auto walls = std::ranges::find_if(
                pairs, [&](const auto& p) { return wallsOfHole(f, *p.first, *p.second); });
            const auto& [p, q] = walls != pairs.end() ? *walls : pairs.front();
            Mark m{{}, axis, v.view, 0.5 * (p->value + q->value), {0.5 * (lo + hi)}, -1, false};
            for (const Mark* side : {p, q})
                for (const Term& t : side->terms) m.terms.push_back({t.variable, 0.5 * t.factor});
            m.terms = Equation::linearOf(Level::weak, m.terms).terms;
            r.push_back(std::move(m));
        }
    return r;
}

} // namespace

void makeMarks(const Drawing& d, const ViewSet& set, Figure& f) {
    std::map<std::vector<std::pair<int, double>>, int> known;
    const std::map<int, Vec2> smooth = smoothJoints(f);
    const std::set<int> broken = brokenEnds(f);
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.freehand) continue;
        const FigureView& fv = *f.viewById(c.view);
        auto place = [&](int point) {
            const FigurePoint& p = f.points[point];
            const Vec2 at = f.at(p, f.drawn);
            const auto through = smooth.find(point);
            const Vec2 runs = through == smooth.end() ? Vec2{} : through->second;
            addMark(f, known,
                    {{{p.u, 1}},
                     fv.axes.right,
                     c.view,
                     at.x,
                     {at.y},
                     static_cast<int>(i),
                     std::abs(runs.x) > 1e-3});
            addMark(
                f, known,
                {{{p.v, 1}}, fv.axes.up, c.view, at.y, {at.x}, static_cast<int>(i), std::abs(runs.y) > 1e-3});
        };
        const bool stands_for_another = standsForAnother(f, c);
        for (int p : {c.p0, c.p1, stands_for_another ? -1 : c.centre})
            if (p >= 0 && !broken.contains(p)) place(p);
        if ((c.radius < 0 && !c.onEllipse()) || stands_for_another) continue;
        const Box2 b = boxOf(c.drawn);
        const double tol = f.tolerances.same_model;
        const FigurePoint& p = f.points[c.centre];
        const Vec2 middle = f.at(p, f.drawn);
        const int half_u = c.onEllipse() ? c.half_u : c.radius, half_v = c.onEllipse() ? c.half_v : c.radius;
        const Vec2 half{f.drawn[half_u], f.drawn[half_v]};
        for (double side : {-1.0, 1.0}) { // the outermost places that it reaches
            const Vec2 q = middle + half * side;
            if (std::abs((side < 0 ? b.lo.x : b.hi.x) - q.x) <= tol)
                addMark(f, known,
                        {{{p.u, 1}, {half_u, side}},
                         fv.axes.right,
                         c.view,
                         q.x,
                         {middle.y, middle.y - half.y, middle.y + half.y},
                         static_cast<int>(i),
                         false});
            if (std::abs((side < 0 ? b.lo.y : b.hi.y) - q.y) <= tol)
                addMark(f, known,
                        {{{p.v, 1}, {half_v, side}},
                         fv.axes.up,
                         c.view,
                         q.y,
                         {middle.x, middle.x - half.x, middle.x + half.x},
                         static_cast<int>(i),
                         false});
        }
    }
    for (const auto& [which, variable] : f.shadows)
        addMark(f, known,
                {{{variable, 1}},
                 static_cast<Axis>(f.axis_of[variable]),
                 f.points[which.second].view,
                 f.drawn[variable],
                 {},
                 -1,
                 smooth.contains(which.second)});
    for (Mark& m : middles(d, set, f)) addMark(f, known, std::move(m));
    for (Mark& m : f.marks) {
        std::sort(m.others.begin(), m.others.end());
        m.others.erase(std::unique(m.others.begin(), m.others.end(),
                                   [&](double a, double b) { return b - a <= f.tolerances.same_model; }),
                       m.others.end());
    }
}

} // namespace prism::figure

namespace prism {

Figure buildFigure(const Drawing& d, const CleanSheet& s, const ViewSet& set, Progress& progress) {
    using namespace figure;
    Figure f;
    makeUnknowns(d, s, set, f);
    readHatching(d, s, set, f);
    readLocalCuts(d, f, progress);
    if (!progress.cancelled()) relateWithinViews(f);
    if (!progress.cancelled()) castShadows(f);
    if (!progress.cancelled()) makeMarks(d, set, f);
    if (!progress.cancelled()) joinStations(f, progress);
    if (!progress.cancelled()) relateByLooks(d, set, f), findPitchCircles(d, set, f);
    if (!progress.cancelled()) setWeights(f);
    return f;
}

} // namespace prism
