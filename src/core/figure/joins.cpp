#include "core/figure/builder.h"

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

/// Places of a view that a third view may show a corner at: ends, and the outermost places of arcs and
/// circles.
std::vector<Vec2> cornersOf(const Figure& f, int view) {
    std::vector<Vec2> r;
    for (const FigureCurve& c : f.curves) {
        if (c.view != view || c.freehand) continue;
        if (c.p0 >= 0) r.push_back(startOf(c.drawn)), r.push_back(endOf(c.drawn));
        const Box2 b = boxOf(c.drawn);
        if (c.radius >= 0)
            for (double x : {b.lo.x, b.centre().x, b.hi.x})
                for (double y : {b.lo.y, b.centre().y, b.hi.y}) r.push_back({x, y});
    }
    return r;
}

bool contains(const std::vector<Vec2>& corners, Vec2 p, double tol) {
    return std::any_of(corners.begin(), corners.end(),
                       [&](Vec2 c) { return std::abs(c.x - p.x) <= tol && std::abs(c.y - p.y) <= tol; });
}

Axis otherAxis(const FigureView& v, Axis a) {
    return v.axes.right == a ? v.axes.up : v.axes.right;
}

/// Where a level or upright centre line runs in the middle between two lines of its view, as that of a hole
/// seen from the side does, its place is theirs: half the sum of both. The nearest two are taken.
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
            for (size_t i = 1; i < beside.size(); ++i) {
                const Mark &p = *beside[i - 1], &q = *beside[i];
                if (std::abs(p.value + q.value - 2 * at) > tol || (p.value < at) == (q.value < at)) continue;
                Mark m{{}, axis, v.view, 0.5 * (p.value + q.value), {0.5 * (lo + hi)}, -1, false};
                for (const Mark* side : {&p, &q})
                    for (const Term& t : side->terms) m.terms.push_back({t.variable, 0.5 * t.factor});
                m.terms = Equation::linearOf(Level::weak, m.terms).terms;
                r.push_back(std::move(m));
                break;
            }
        }
    return r;
}

/// How strongly a third view says that two marks of two views are one feature: corners where both coordinates
/// meet.
int thirdViewVotes(const Figure& f, const Mark& a, const Mark& b,
                   const std::map<int, std::vector<Vec2>>& corners) {
    if (!isModelAxis(a.axis)) return 0; // no third view shows the own axis of an auxiliary view
    const Axis oa = otherAxis(*f.viewById(a.view), a.axis), ob = otherAxis(*f.viewById(b.view), b.axis);
    const double tol = f.tolerances.same_model;
    int votes = 0;
    if (oa == ob) { // opposite views: the same outline from behind
        for (double x : a.others)
            votes += std::any_of(b.others.begin(), b.others.end(),
                                 [&](double y) { return std::abs(x - y) <= tol; });
        return votes;
    }
    for (const FigureView& v : f.views) {
        const bool fits = (v.axes.right == oa && v.axes.up == ob) || (v.axes.right == ob && v.axes.up == oa);
        if (!fits) continue;
        for (double x : a.others)
            for (double y : b.others)
                votes += contains(corners.at(v.view), v.axes.right == oa ? Vec2{x, y} : Vec2{y, x}, tol);
    }
    return votes;
}

void join(Figure& f, const Mark& a, const Mark& b, Level level, double score) {
    std::vector<Term> terms = a.terms;
    for (const Term& t : b.terms) terms.push_back({t.variable, -t.factor});
    Equation e = Equation::linearOf(level, terms);
    if (e.terms.empty()) return;
    e.score = score;
    e.owner = static_cast<int>(f.relations.size());
    Relation r{RelationKind::station, {}, a.axis, a.value};
    for (int c : {a.curve, b.curve})
        if (c >= 0) r.curves.push_back(c);
    f.relations.push_back(std::move(r));
    f.equations.push_back(std::move(e));
}

struct Pair {
    int a, b, votes;
};

/// One cluster of marks at the same value.
void joinCluster(Figure& f, const std::vector<int>& cluster,
                 const std::map<int, std::vector<Vec2>>& corners) {
    std::map<int, int> perView, edges; // edges: those of them that neighbours see
    for (int m : cluster) ++perView[f.marks[m].view], edges[f.marks[m].view] += !f.marks[m].smooth;
    std::vector<Pair> pairs;
    std::map<int, std::map<int, int>> best; // mark -> view -> most votes
    std::map<int, std::map<int, int>> ties; // how many reach them
    for (size_t i = 0; i < cluster.size(); ++i)
        for (size_t j = i + 1; j < cluster.size(); ++j) {
            const Mark &a = f.marks[cluster[i]], &b = f.marks[cluster[j]];
            if (a.view == b.view) continue;
            const int votes = thirdViewVotes(f, a, b, corners);
            pairs.push_back({cluster[i], cluster[j], votes});
            for (auto [m, view] : {std::pair{cluster[i], b.view}, std::pair{cluster[j], a.view}}) {
                int& most = best[m][view];
                if (votes > most)
                    most = votes, ties[m][view] = 1;
                else if (votes == most)
                    ++ties[m][view];
            }
        }
    for (const Pair& p : pairs) {
        const Mark &a = f.marks[p.a], &b = f.marks[p.b];
        const bool alone = perView[a.view] == 1 && perView[b.view] == 1;
        const bool mutual = p.votes > 0 && best[p.a][b.view] == p.votes && best[p.b][a.view] == p.votes &&
                            ties[p.a][b.view] == 1 && ties[p.b][a.view] == 1;
        if (a.smooth != b.smooth) { // an edge of one view, where the other has none to show
            if (edges[(a.smooth ? a : b).view] == 0) join(f, a, b, Level::weak, 4);
        } else
            join(f, a, b, alone || mutual ? Level::strong : Level::weak, 10 + p.votes);
    }
    for (size_t i = 1; i < cluster.size(); ++i) // within a view: mere agreement, the weakest
        for (size_t j = 0; j < i; ++j)
            if (f.marks[cluster[i]].view == f.marks[cluster[j]].view &&
                f.marks[cluster[i]].smooth == f.marks[cluster[j]].smooth) {
                join(f, f.marks[cluster[j]], f.marks[cluster[i]], Level::weak, 1);
                break;
            }
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
        for (int p : {c.p0, c.p1, c.centre})
            if (p >= 0 && !broken.contains(p)) place(p);
        if (c.radius < 0 && !c.onEllipse()) continue;
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

void joinStations(Figure& f, Progress& progress) {
    std::map<int, std::vector<Vec2>> corners;
    for (const FigureView& v : f.views) corners[v.view] = cornersOf(f, v.view);
    std::vector<int> order(f.marks.size());
    for (size_t i = 0; i < order.size(); ++i) order[i] = static_cast<int>(i);
    std::sort(order.begin(), order.end(), [&](int a, int b) {
        return std::tie(f.marks[a].axis, f.marks[a].value, a) <
               std::tie(f.marks[b].axis, f.marks[b].value, b);
    });
    std::vector<int> cluster;
    for (int m : order) {
        if (progress.cancelled()) return;
        const bool same = !cluster.empty() && f.marks[cluster.front()].axis == f.marks[m].axis &&
                          f.marks[m].value - f.marks[cluster.front()].value <= f.tolerances.same_model;
        if (!same) {
            joinCluster(f, cluster, corners);
            cluster.clear();
        }
        cluster.push_back(m);
    }
    joinCluster(f, cluster, corners);
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
