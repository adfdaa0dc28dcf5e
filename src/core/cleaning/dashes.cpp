#include "core/base/circle_fit.h"
#include "core/base/crossings.h"
#include "core/cleaning/carriers.h"
#include "core/cleaning/workbench.h"

// Hidden and centre lines drawn as many single dashes: an old plotter's habit, and what SVG and PDF often
// hold.
namespace prism::cleaning {
namespace {

constexpr size_t kFewest = 4;     ///< dashes that make a line
constexpr double kAlike = 0.3;    ///< how far dashes or gaps of one line may differ, relative
constexpr double kLongestGap = 4; ///< mm on the sheet
constexpr double kOneWay = 1e-4;  ///< radians between dashes of one line

struct Dash {
    double from, to;
    int entity;
    double length() const { return to - from; }
};

double median(std::vector<double> v) {
    if (v.empty()) return 0;
    std::nth_element(v.begin(), v.begin() + v.size() / 2, v.end());
    return v[v.size() / 2];
}

bool alike(double a, double b) {
    return std::abs(a - b) <= kAlike * b;
}

/// Whether all gaps are alike, and all dashes but the cut-off first and last: either of one length, or long
/// and short in turn. The role of the line, or unknown when it is none.
LineRole roleOf(const std::vector<Dash>& run) {
    std::vector<double> gaps, lengths;
    for (size_t i = 1; i < run.size(); ++i) gaps.push_back(run[i].from - run[i - 1].to);
    for (size_t i = 1; i + 1 < run.size(); ++i) lengths.push_back(run[i].length());
    const double gap = median(gaps);
    for (double g : gaps)
        if (!alike(g, gap)) return LineRole::unknown;
    const double usual = median(lengths);
    if (std::all_of(lengths.begin(), lengths.end(), [&](double l) { return alike(l, usual); }))
        return run.front().length() <= 1.3 * usual && run.back().length() <= 1.3 * usual ? LineRole::hidden
                                                                                         : LineRole::unknown;
    const auto [least, most] = std::minmax_element(lengths.begin(), lengths.end());
    if (*least > 0.5 * *most) return LineRole::unknown;
    for (size_t i = 0; i + 1 < lengths.size(); ++i) {
        const bool longNow = alike(lengths[i], *most), longNext = alike(lengths[i + 1], *most);
        if (longNow == longNext) return LineRole::unknown;
    }
    return LineRole::centre;
}

/// Ends of outline pieces that something else touches, by piece: a row of real edges has such ends, dashes do
/// not.
std::vector<int> touched(const Nodes& nodes, size_t pieces) {
    std::vector<int> r(pieces, 0);
    for (size_t n = 0; n < nodes.size(); ++n)
        if (nodes.ends(static_cast<int>(n)).size() > 1)
            for (const End& e : nodes.ends(static_cast<int>(n))) ++r[e.piece];
    return r;
}

/// A pattern may end in a gap: the line goes on to the outline that it would have met there.
Segment reachingOn(const Workbench& w, const Segment& s, double gap) {
    const Vec2 d = normalized(s.b - s.a);
    const double reach = 1.3 * gap;
    Segment r = s;
    for (const bool end : {false, true}) {
        const Vec2 at = end ? s.b : s.a, to = at + d * (end ? reach : -reach);
        double nearest = reach;
        for (const Piece& p : w.pieces()) {
            if (w.role(p) != LineRole::outline || distanceTo(w.curve(p), at) > reach) continue;
            for (Vec2 x : crossings(Segment{at, to}, w.curve(p), w.touch()))
                if (distance(x, at) < nearest) nearest = distance(x, at), (end ? r.b : r.a) = x;
        }
    }
    return r;
}

void join(Workbench& w, const std::vector<Dash>& run, LineRole role) {
    std::vector<int> entities;
    for (const Dash& d : run) entities.push_back(d.entity);
    const Segment first = std::get<Segment>(w.drawing().entities[run.front().entity].curves[0]);
    const Segment last = std::get<Segment>(w.drawing().entities[run.back().entity].curves[0]);
    if (!w.record("dashes_joined", entities, first.a, run.back().to - run.front().from)) return;
    Segment whole{first.a, first.b};
    double most = 0;
    for (Vec2 a : {first.a, first.b})
        for (Vec2 b : {last.a, last.b})
            if (distance(a, b) > most) most = distance(a, b), whole = {a, b};
    if (role == LineRole::hidden) whole = reachingOn(w, whole, run[1].from - run[0].to);
    w.setCurves(run.front().entity, {whole});
    w.sheet().entity_roles[run.front().entity] = role;
    for (size_t i = 1; i < run.size(); ++i) w.setAside(run[i].entity);
}

} // namespace

namespace {

/// Lines that may be dashes: part lines; on a page, where lines are told apart by their pens, thin ones as
/// well, which are taken for dimensions otherwise.
std::vector<Piece> mayBeDashes(const Workbench& w) {
    std::vector<Piece> r = w.pieces(true);
    const Drawing& d = w.drawing();
    if (!d.on_paper) return r;
    for (const Entity& e : d.entities)
        if (e.curves.size() == 1 && w.sheet().in_use[e.id] &&
            w.sheet().entity_roles[e.id] == LineRole::dimension &&
            d.layers[e.layer].hint.first == LineRole::dimension)
            r.push_back({e.id, 0});
    return r;
}

/// Dashes of one circle, by the angle at which they begin.
struct ArcDash {
    double from, sweep; ///< counter-clockwise, radians
    double radius;
    int entity;
};

/// Whether dashes round a circle have alike lengths and gaps; the arc that they stand for.
std::optional<Arc> dashedArc(const Circle& k, std::vector<ArcDash>& run, double longestGap) {
    std::sort(run.begin(), run.end(), [](const ArcDash& a, const ArcDash& b) { return a.from < b.from; });
    const size_t n = run.size();
    std::vector<double> gaps, lengths;
    for (size_t i = 0; i < n; ++i) {
        lengths.push_back(run[i].sweep);
        gaps.push_back(positiveAngle(run[(i + 1) % n].from - run[i].from) - run[i].sweep);
    }
    const double gap = median(gaps), length = median(lengths);
    if (gap <= 0 || gap * k.radius > longestGap) return std::nullopt;
    // The widest gap is where an open arc begins; the rest is alike but for a cut-off dash.
    const size_t widest = static_cast<size_t>(std::max_element(gaps.begin(), gaps.end()) - gaps.begin());
    size_t odd = 0;
    for (size_t i = 0; i < n; ++i) odd += (i != widest && !alike(gaps[i], gap)) + !alike(lengths[i], length);
    if (odd > 2) return std::nullopt;
    if (gaps[widest] <= 2 * gap) return Arc{k.centre, k.radius, 0, 2 * kPi};
    const double start = run[(widest + 1) % n].from;
    return Arc{k.centre, k.radius, start, positiveAngle(run[widest].from - start) + run[widest].sweep};
}

/// Joins the dashes on one circle to the arc that they stand for, if they do.
void joinRing(Workbench& w, std::vector<ArcDash> run) {
    if (run.size() < kFewest) return;
    const Arc first = std::get<Arc>(w.drawing().entities[run.front().entity].curves[0]);
    const auto whole = dashedArc({first.centre, first.radius}, run, w.paper(kLongestGap));
    if (!whole) return;
    std::vector<int> entities;
    for (const ArcDash& d : run) entities.push_back(d.entity);
    if (!w.record("dashes_joined", entities, pointAt(*whole, 0.5), lengthOf(*whole))) return;
    w.setCurves(entities.front(), {*whole});
    w.sheet().entity_roles[entities.front()] = LineRole::hidden;
    for (size_t i = 1; i < entities.size(); ++i) w.setAside(entities[i]);
}

void joinDashedArcs(Workbench& w, const std::vector<Piece>& pieces) {
    const double same = std::max(40 * w.touch(), w.paper(0.05));
    PointMerger centres(same);
    std::map<int, std::vector<ArcDash>> byCentre;
    for (const Piece& p : pieces) {
        const auto* a = std::get_if<Arc>(&w.curve(p));
        if (!a || a->full() || w.drawing().entities[p.entity].curves.size() != 1) continue;
        const double from = positiveAngle(a->sweep > 0 ? a->start : a->start + a->sweep);
        byCentre[centres.add(a->centre)].push_back({from, std::abs(a->sweep), a->radius, p.entity});
    }
    for (auto& [centre, arcs] : byCentre) {
        std::ranges::stable_sort(arcs, {}, &ArcDash::radius);
        for (size_t i = 0, j = 0; i < arcs.size(); i = j) {
            while (j < arcs.size() && arcs[j].radius - arcs[i].radius <= same) ++j;
            joinRing(w, {arcs.begin() + static_cast<long>(i), arcs.begin() + static_cast<long>(j)});
        }
    }
}

/// Joins the runs of a row of strokes on one line in which gaps are alike.
void joinRow(Workbench& w, const std::vector<Dash>& row) {
    const auto gap = [&](size_t j) { return row[j].from - row[j - 1].to; };
    for (size_t i = 0; i < row.size();) {
        size_t j = i + 1;
        while (j < row.size() && gap(j) > w.touch() && gap(j) < w.paper(kLongestGap) &&
               (j == i + 1 || alike(gap(j), gap(i + 1))))
            ++j;
        const std::vector<Dash> run(row.begin() + static_cast<long>(i), row.begin() + static_cast<long>(j));
        if (run.size() >= kFewest)
            if (const LineRole role = roleOf(run); role != LineRole::unknown) join(w, run, role);
        i = j;
    }
}

} // namespace

void joinDashes(Workbench& w) {
    const std::vector<Piece> pieces = mayBeDashes(w);
    joinDashedArcs(w, pieces);
    std::vector<Segment> lines;
    std::vector<int> ends, entities;
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Entity& e = w.drawing().entities[pieces[i].entity];
        const auto* s = std::get_if<Segment>(&e.curves[0]);
        if (!s || e.curves.size() != 1 || roleOfLineType(w.drawing(), e.line_type) != LineRole::outline)
            continue;
        if (distance(s->a, s->b) > w.paper(40)) continue;
        if (ends.empty()) {
            const auto web = w.web(true); // as a rule no other lines are looked at
            ends = web->pieces == pieces ? touched(web->nodes, pieces.size())
                                         : touched(Nodes(w, pieces), pieces.size());
        }
        if (ends[i] == 2) continue; // both ends meet something: an edge
        lines.push_back(*s), entities.push_back(e.id);
    }
    for (const std::vector<Lying>& group : parallels(lines, kOneWay))
        for (const std::vector<Lying>& row : carriers(group, 40 * w.touch())) {
            std::vector<Dash> dashes;
            for (const Lying& l : row) dashes.push_back({l.from, l.to, entities[l.line]});
            joinRow(w, dashes);
        }
}

} // namespace prism::cleaning
