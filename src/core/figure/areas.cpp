#include "core/figure/areas.h"

#include "core/base/polygon.h"
#include "core/figure/arrangement.h"

namespace prism {
namespace {

Vec2 seedOf(const ClosedArea& a) {
    for (double depth : {0.2, 0.05, 0.01, 0.002})
        for (const AreaEdge& e : a.outer) {
            const Vec2 t = tangentAt(e.shape, 0.5);
            const Vec2 p =
                pointAt(e.shape, 0.5) + Vec2{-t.y, t.x} * (depth * std::sqrt(std::max(a.area, 1e-12)));
            if (a.contains(p)) return p;
        }
    return a.box.centre();
}

Box2 boxOfLoop(const Loop& l) {
    Box2 b;
    for (const AreaEdge& e : l) b.add(boxOf(e.shape));
    return b;
}

/// Gives every clockwise loop to the smallest area round it that is not the loop itself turned over.
void placeHoles(std::vector<ClosedArea>& found, std::vector<std::pair<Loop, double>>& holes) {
    std::vector<double> outerArea;
    std::vector<Box2> boxes;
    for (const ClosedArea& a : found) outerArea.push_back(a.area), boxes.push_back(a.box);
    const BoxTree tree(boxes);
    for (auto& [loop, s] : holes) {
        const Vec2 p = pointAt(loop.front().shape, 0.37);
        for (int i : tree.overlapping({p, p})) { // sorted by area, as the areas are
            if (outerArea[i] <= -s * (1 + 1e-9) || !insideLoop(found[i].outer, p)) continue;
            found[i].area += s;
            found[i].holes.push_back(std::move(loop));
            break;
        }
    }
}

void areasOf(const figure::Arrangement& lines, int view, std::vector<ClosedArea>& out) {
    const double least = lines.tolerance() * lines.tolerance();
    std::vector<ClosedArea> found;
    std::vector<std::pair<Loop, double>> holes;
    for (Loop& l : lines.loops()) {
        const double s = signedArea(l);
        if (s > least) {
            ClosedArea a;
            a.view = view, a.outer = std::move(l), a.area = s, a.box = boxOfLoop(a.outer);
            found.push_back(std::move(a));
        } else if (s < -least)
            holes.emplace_back(std::move(l), s);
    }
    std::sort(found.begin(), found.end(),
              [](const ClosedArea& a, const ClosedArea& b) { return a.area < b.area; });
    placeHoles(found, holes);
    for (ClosedArea& a : found) {
        for (const AreaEdge& e : a.outer) a.bounds.push_back(e.curve);
        for (const Loop& h : a.holes)
            for (const AreaEdge& e : h) a.bounds.push_back(e.curve);
        std::sort(a.bounds.begin(), a.bounds.end());
        a.bounds.erase(std::unique(a.bounds.begin(), a.bounds.end()), a.bounds.end());
        a.seed = seedOf(a);
        out.push_back(std::move(a));
    }
}

} // namespace

std::vector<Vec2> polygonOf(const Loop& l, double tolerance) {
    std::vector<Vec2> r;
    for (const AreaEdge& e : l) {
        const auto pts = sampled(e.shape, tolerance);
        r.insert(r.end(), pts.begin(), pts.end() - 1);
    }
    return r;
}

double signedArea(const Loop& loop) {
    double sum = 0;
    for (const AreaEdge& e : loop) {
        if (auto* a = std::get_if<Arc>(&e.shape)) {
            const Vec2 p = startOf(e.shape), q = endOf(e.shape);
            sum += 0.5 *
                   (a->radius * a->radius * a->sweep + a->centre.x * (q.y - p.y) - a->centre.y * (q.x - p.x));
            continue;
        }
        const auto pts = sampled(e.shape, 1e-4);
        for (size_t i = 1; i < pts.size(); ++i) sum += 0.5 * cross(pts[i - 1], pts[i]);
    }
    return sum;
}

namespace {

/// Whether nothing of a curve lies right of a place, told without following the curve.
bool leftOrBeside(const Curve& c, Vec2 p) {
    if (std::holds_alternative<Spline>(c)) return false; // its box takes as long as itself
    const Box2 box = boxOf(c);
    return p.y < box.lo.y || p.y > box.hi.y || p.x > box.hi.x;
}

} // namespace

bool insideLoop(const Loop& loop, Vec2 p) {
    bool in = false;
    // Where an edge begins a few digits beside the last one's end, as a full circle does, the loop still
    // closes.
    Vec2 last = loop.empty() ? p : endOf(loop.back().shape);
    for (const AreaEdge& e : loop) {
        if (passesRightOf(p, last, startOf(e.shape))) in = !in;
        last = endOf(e.shape);
        if (leftOrBeside(e.shape, p)) continue;
        const auto pts = sampled(e.shape, 1e-4);
        for (size_t i = 1; i < pts.size(); ++i)
            if (passesRightOf(p, pts[i - 1], pts[i])) in = !in;
    }
    return in;
}

bool ClosedArea::contains(Vec2 p) const {
    if (!box.contains(p) || !insideLoop(outer, p)) return false;
    return std::none_of(holes.begin(), holes.end(), [&](const Loop& h) { return insideLoop(h, p); });
}

bool ClosedArea::onBorder(Vec2 p, double tolerance) const {
    const auto on = [&](const Loop& l) {
        return std::ranges::any_of(l, [&](const AreaEdge& e) { return distanceTo(e.shape, p) <= tolerance; });
    };
    return box.grown(tolerance).contains(p) && (on(outer) || std::ranges::any_of(holes, on));
}

std::vector<ClosedArea> closedAreasOf(const Figure& f, int view, const std::vector<double>& x,
                                      Progress& progress) {
    std::vector<ClosedArea> r;
    areasOf(figure::Arrangement(f, view, x, progress), view, r);
    std::sort(r.begin(), r.end(),
              [](const ClosedArea& p, const ClosedArea& q) { return p.bounds < q.bounds; });
    return r;
}

std::vector<ClosedArea> closedAreas(const Figure& f, const std::vector<double>& x, Progress& progress) {
    std::vector<ClosedArea> r;
    for (const FigureView& v : f.views) {
        std::vector<ClosedArea> own = closedAreasOf(f, v.view, x, progress);
        if (progress.cancelled()) return {};
        std::ranges::move(own, std::back_inserter(r));
    }
    return r;
}

namespace {

/// One edge for two that follow each other on the same line or arc; nothing when they do not.
std::optional<AreaEdge> asOne(const AreaEdge& a, const AreaEdge& b) {
    const bool follows =
        a.curve == b.curve && a.backwards == b.backwards && (a.backwards ? a.t0 == b.t1 : a.t1 == b.t0);
    if (!follows) return std::nullopt;
    AreaEdge r = a;
    r.t0 = std::min(a.t0, b.t0), r.t1 = std::max(a.t1, b.t1), r.to = b.to;
    if (auto* s = std::get_if<Segment>(&r.shape)) {
        s->b = endOf(b.shape);
        return r;
    }
    auto* arc = std::get_if<Arc>(&r.shape);
    if (!arc) return std::nullopt;
    arc->sweep += std::get<Arc>(b.shape).sweep;
    return arc->full() ? std::nullopt : std::optional(r); // a whole circle stays in two halves
}

/// A border without the joints that other lines made in its edges: fewer faces for the modeller to combine.
Loop withoutJoints(const Loop& loop) {
    Loop r;
    for (const AreaEdge& e : loop) {
        if (const auto one = r.empty() ? std::nullopt : asOne(r.back(), e))
            r.back() = *one;
        else
            r.push_back(e);
    }
    if (r.size() > 2)
        if (const auto one = asOne(r.back(), r.front())) r.front() = *one, r.pop_back();
    return r;
}

using Leaving = std::multimap<int, const AreaEdge*>; ///< edges by the place where they begin

/// The edge with which the border goes on. Where areas touch in a corner several leave it: the first one
/// clockwise from where the border came from bounds the same area.
Leaving::iterator onwards(Leaving& leaving, const AreaEdge& last) {
    const auto [first, end] = leaving.equal_range(last.to);
    if (first == end) return leaving.end();
    if (std::next(first) == end) return first;
    const double from = angleOf(pointAt(last.shape, 0.99) - endOf(last.shape));
    const auto turn = [&](const AreaEdge& e) {
        const double clockwise = from - angleOf(pointAt(e.shape, 0.01) - startOf(e.shape));
        return clockwise <= 0 ? clockwise + 2 * kPi : clockwise;
    };
    return std::min_element(first, end,
                            [&](const auto& a, const auto& b) { return turn(*a.second) < turn(*b.second); });
}

} // namespace

std::vector<Loop> unionLoops(const std::vector<const ClosedArea*>& areas) {
    using Piece = std::tuple<int, double, double>; // a curve from one parameter to another
    std::map<Piece, AreaEdge> border;              // what only one of the areas has
    const auto take = [&](const Loop& l) {
        for (const AreaEdge& e : l)
            if (const auto [it, fresh] = border.emplace(Piece{e.curve, e.t0, e.t1}, e); !fresh)
                border.erase(it);
    };
    for (const ClosedArea* a : areas) {
        take(a->outer);
        for (const Loop& h : a->holes) take(h);
    }
    Leaving leaving;
    for (const auto& [piece, e] : border) leaving.emplace(e.from, &e);
    std::vector<Loop> r;
    while (!leaving.empty()) {
        Loop l;
        for (auto next = leaving.begin(); next != leaving.end(); next = onwards(leaving, l.back())) {
            l.push_back(*next->second);
            leaving.erase(next);
            if (l.back().to == l.front().from) break;
        }
        r.push_back(withoutJoints(l));
    }
    std::stable_sort(r.begin(), r.end(),
                     [](const Loop& a, const Loop& b) { return (signedArea(a) > 0) > (signedArea(b) > 0); });
    return r;
}

} // namespace prism
