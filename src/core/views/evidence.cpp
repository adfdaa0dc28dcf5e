#include "core/views/stages.h"

#include <map>
#include <set>

namespace prism::views {
namespace {

/// Profile of a view along one sheet axis: where its outer contour has corners on the high and on the low
/// side.
struct Envelope {
    std::vector<double> high, low;
    std::vector<double> inner; ///< corners on neither side: whoever looks may or may not see them
};

double coordinate(Vec2 p, int axis) {
    return axis == 0 ? p.x : p.y;
}

/// Extreme value across `axis` of all curves near the coordinate `at`.
struct Extremes {
    double lo = std::numeric_limits<double>::infinity(), hi = -std::numeric_limits<double>::infinity();
};

Extremes extremesAt(const std::vector<std::vector<Vec2>>& chains, int axis, double at, double tol) {
    Extremes e;
    for (const auto& chain : chains)
        for (size_t i = 1; i < chain.size(); ++i) {
            const double u0 = coordinate(chain[i - 1], axis), u1 = coordinate(chain[i], axis);
            if (at < std::min(u0, u1) - tol || at > std::max(u0, u1) + tol) continue;
            const double w0 = coordinate(chain[i - 1], 1 - axis), w1 = coordinate(chain[i], 1 - axis);
            const bool along = std::abs(u1 - u0) <= tol;
            const double t = along ? 0 : std::clamp((at - u0) / (u1 - u0), 0.0, 1.0);
            for (double w : {along ? w0 : w0 + (w1 - w0) * t, along ? w1 : w0 + (w1 - w0) * t})
                e.lo = std::min(e.lo, w), e.hi = std::max(e.hi, w);
        }
    return e;
}

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
    std::vector<std::vector<Vec2>> outline;
    for (int e : v.entities)
        if (s.entity_roles[e] == LineRole::outline)
            for (const Curve& c : d.entities[e].curves)
                outline.push_back(sampled(c, v.box_sheet.diagonal() * 1e-3));
    const std::set<int> smooth = smoothNodes(d, s, v);
    Envelope env;
    for (int e : v.entities)
        for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
            const Curve& c = d.entities[e].curves[k];
            if (isClosed(c, tol)) continue;
            const SheetNodes::Of& nodes = s.nodes.of(e, static_cast<int>(k));
            for (const auto& [p, node] : {std::pair{startOf(c), nodes.start}, {endOf(c), nodes.end}}) {
                if (smooth.contains(node)) continue;
                const Extremes x = extremesAt(outline, axis, coordinate(p, axis), tol);
                const double w = coordinate(p, 1 - axis);
                if (w >= x.hi - tol) env.high.push_back(coordinate(p, axis));
                if (w <= x.lo + tol) env.low.push_back(coordinate(p, axis));
                if (w < x.hi - tol && w > x.lo + tol) env.inner.push_back(coordinate(p, axis));
            }
        }
    return env;
}

bool has(const std::vector<double>& v, double x, double tol) {
    return std::any_of(v.begin(), v.end(), [&](double y) { return std::abs(x - y) <= tol; });
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
