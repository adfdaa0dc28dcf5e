#include "core/base/box_tree.h"
#include "core/views/stages.h"

#include <map>
#include <set>

namespace prism::views {
namespace {

/// Profile of a view along one sheet axis: where its outer contour has corners on the high and on the low
/// side.
struct Envelope {
    std::vector<double> high, low; ///< sorted
    std::vector<double> inner;     ///< corners on neither side: whoever looks may or may not see them; sorted
};

double coordinate(Vec2 p, int axis) {
    return axis == 0 ? p.x : p.y;
}

/// Extreme value across an axis of all curves near one coordinate.
struct Extremes {
    double lo = std::numeric_limits<double>::infinity(), hi = -std::numeric_limits<double>::infinity();
};

/// The outline of a view in straight pieces.
std::vector<Segment> outlineOf(const Drawing& d, const CleanSheet& s, const View& v) {
    std::vector<Segment> r;
    for (int e : v.entities)
        if (s.entity_roles[e] == LineRole::outline)
            for (const Curve& c : d.entities[e].curves) {
                const std::vector<Vec2> chain = sampled(c, v.box_sheet.diagonal() * 1e-3);
                for (size_t i = 1; i < chain.size(); ++i) r.push_back({chain[i - 1], chain[i]});
            }
    return r;
}

std::vector<Box2> boxesOf(const std::vector<Segment>& pieces) {
    std::vector<Box2> r;
    for (const Segment& g : pieces) r.push_back(boxOf(g));
    return r;
}

/// An outline, to be asked how far it reaches across one sheet axis.
class Outline {
  public:
    Outline(std::vector<Segment> pieces, const Box2& sheet, int axis, double tol)
        : axis_(axis), tol_(tol), sheet_(sheet.grown(tol)), pieces_(std::move(pieces)),
          tree_(boxesOf(pieces_)) {}

    Extremes at(double place) const {
        Extremes e;
        Box2 strip = sheet_;
        (axis_ == 0 ? strip.lo.x : strip.lo.y) = place - tol_;
        (axis_ == 0 ? strip.hi.x : strip.hi.y) = place + tol_;
        for (int i : tree_.overlapping(strip)) {
            const Segment& g = pieces_[i];
            const double u0 = g.a[axis_], u1 = g.b[axis_], w0 = g.a[1 - axis_], w1 = g.b[1 - axis_];
            const bool along = std::abs(u1 - u0) <= tol_;
            const double t = along ? 0 : std::clamp((place - u0) / (u1 - u0), 0.0, 1.0);
            for (double w : {along ? w0 : w0 + (w1 - w0) * t, along ? w1 : w0 + (w1 - w0) * t})
                e.lo = std::min(e.lo, w), e.hi = std::max(e.hi, w);
        }
        return e;
    }

  private:
    int axis_;
    double tol_;
    Box2 sheet_;
    std::vector<Segment> pieces_;
    BoxTree tree_;
};

/// Places where one line of a view runs on smoothly into another: no edge ends there.
std::set<int> smoothNodes(const Drawing& d, const CleanSheet& s, const View& v) {
    std::map<int, std::vector<Vec2>> away; // by node of the sheet
    for (int e : v.entities)
        for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
            const SheetNodes::Of& nodes = s.nodes.of(e, static_cast<int>(k));
            if (nodes.start < 0 || nodes.start == nodes.end) continue;
            away[nodes.start].push_back(tangentAt(d.entities[e].curves[k], 0));
            away[nodes.end].push_back(-tangentAt(d.entities[e].curves[k], 1));
        }
    std::set<int> r;
    for (const auto& [node, directions] : away)
        if (directions.size() == 2 && distance(directions[0], -directions[1]) < 1e-3) r.insert(node);
    return r;
}

Envelope envelopeOf(const Drawing& d, const CleanSheet& s, const View& v, int axis, double tol) {
    const Outline outline(outlineOf(d, s, v), v.box_sheet, axis, tol);
    const std::set<int> smooth = smoothNodes(d, s, v);
    std::vector<Vec2> corners; // along and across the axis
    for (int e : v.entities)
        for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
            const Curve& c = d.entities[e].curves[k];
            if (isClosed(c, tol)) continue;
            const SheetNodes::Of& nodes = s.nodes.of(e, static_cast<int>(k));
            for (const auto& [p, node] : {std::pair{startOf(c), nodes.start}, {endOf(c), nodes.end}})
                if (!smooth.contains(node)) corners.push_back({p[axis], p[1 - axis]});
        }
    std::ranges::sort(corners, {}, [](Vec2 c) { return std::pair(c.x, c.y); });
    Envelope env;
    Extremes x;
    double asked = -std::numeric_limits<double>::infinity(); // many corners of a row stand at one place
    for (Vec2 c : corners) {
        if (c.x - asked > 0.01 * tol) x = outline.at(asked = c.x);
        if (c.y >= x.hi - tol) env.high.push_back(c.x);
        if (c.y <= x.lo + tol) env.low.push_back(c.x);
        if (c.y < x.hi - tol && c.y > x.lo + tol) env.inner.push_back(c.x);
    }
    return env;
}

bool has(const std::vector<double>& sorted, double x, double tol) {
    const auto it = std::ranges::lower_bound(sorted, x - tol);
    return it != sorted.end() && *it <= x + tol;
}

/// Levels along `axis` of the inner lines of a view that lie across it, with their kind.
std::vector<std::pair<double, bool>> innerLines(const Drawing& d, const CleanSheet& s, const View& v,
                                                int axis, double tol) {
    std::vector<std::pair<double, bool>> r;
    const double lo = coordinate(v.box_sheet.lo, axis), hi = coordinate(v.box_sheet.hi, axis);
    auto add = [&](double at, bool hidden) {
        if (at > lo + tol && at < hi - tol) r.emplace_back(at, hidden);
    };
    for (int e : v.entities) {
        const bool hidden = s.entity_roles[e] == LineRole::hidden;
        for (const Curve& c : d.entities[e].curves) {
            if (auto* g = std::get_if<Segment>(&c)) {
                if (std::abs(coordinate(g->b - g->a, axis)) <= tol) add(coordinate(g->a, axis), hidden);
            } else if (auto* a = std::get_if<Arc>(&c); a && a->full()) {
                add(coordinate(a->centre, axis) - a->radius, hidden);
                add(coordinate(a->centre, axis) + a->radius, hidden);
            }
        }
    }
    return r;
}

/// A corner on the near side of the contour cannot be hidden; a line whose only corners lie on the far side
/// cannot be visible. Anything else says nothing.
void vote(const std::vector<std::pair<double, bool>>& lines, double shift, const Envelope& e, bool nearIsHigh,
          double tol, Votes& v) {
    for (auto [at, hidden] : lines) {
        const bool high = has(e.high, at + shift, tol), low = has(e.low, at + shift, tol);
        if (high == low || (!hidden && has(e.inner, at + shift, tol))) continue;
        const bool cornerIsNear = high == nearIsHigh;
        ++(cornerIsNear != hidden ? v.third : v.first);
    }
}

} // namespace

Votes hiddenLineVotes(const Drawing& d, const CleanSheet& s, const View& front, const View& other) {
    const Vec2 apart = other.box_sheet.centre() - front.box_sheet.centre();
    const int axis = std::abs(apart.x) > std::abs(apart.y) ? 1 : 0; // the axis that both share
    const double tol = std::max(s.tolerances.touch_sheet * 4, front.box_sheet.diagonal() * 1e-4);
    const double shift = coordinate(front.box_sheet.lo, axis) - coordinate(other.box_sheet.lo, axis);
    const bool above = coordinate(apart, 1 - axis) > 0;
    const Envelope ef = envelopeOf(d, s, front, axis, tol), eo = envelopeOf(d, s, other, axis, tol);
    Votes v;
    vote(innerLines(d, s, other, axis, tol), shift, ef, above, tol, v);
    vote(innerLines(d, s, front, axis, tol), -shift, eo, !above, tol, v);
    return v;
}

} // namespace prism::views
