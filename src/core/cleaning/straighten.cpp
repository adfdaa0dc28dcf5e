#include "core/base/groups.h"
#include "core/cleaning/workbench.h"

// Lines a hair off level or upright, as digitising and rounding leave them.
namespace prism::cleaning {
namespace {

constexpr double kSteepest = 0.2 * kPi / 180;
constexpr double kWidest = 0.02;  ///< mm on the sheet from end to end
constexpr double kShortest = 3.0; ///< mm on the sheet; a short chord may well be a little off

struct Off {
    size_t piece;
    int axis; ///< the coordinate that should be one: 1 for level lines, 0 for upright ones
};

/// The coordinate in which a line hardly changes, -1 for sloped lines.
int levelAxis(const Segment& s, double widest) {
    const Vec2 d = s.b - s.a;
    for (int axis : {0, 1})
        if (std::abs(d[axis]) <= std::min(widest, kSteepest * std::abs(d[1 - axis]))) return axis;
    return -1;
}

double& coordinate(Vec2& p, int axis) {
    return axis == 0 ? p.x : p.y;
}

/// Where each group of tied nodes should lie: where a curve pins it, else in the middle.
std::vector<double> targets(const Workbench& w, const std::vector<Piece>& pieces, const Nodes& nodes,
                            Groups& levels, int axis) {
    std::vector<double> sum(nodes.size(), 0), pinned(nodes.size(), std::nan(""));
    std::vector<int> count(nodes.size(), 0);
    for (size_t n = 0; n < nodes.size(); ++n) {
        const int group = levels.find(static_cast<int>(n));
        sum[group] += nodes.at(static_cast<int>(n))[axis];
        ++count[group];
        for (const End& e : nodes.ends(static_cast<int>(n)))
            if (!std::holds_alternative<Segment>(w.curve(pieces[e.piece])))
                pinned[group] = nodes.at(static_cast<int>(n))[axis];
    }
    std::vector<double> r(nodes.size());
    for (size_t n = 0; n < nodes.size(); ++n) {
        const int group = levels.find(static_cast<int>(n));
        r[n] = std::isnan(pinned[group]) ? sum[group] / count[group] : pinned[group];
    }
    return r;
}

} // namespace

void straighten(Workbench& w) {
    const std::vector<Piece> pieces = w.pieces(true);
    const double widest = w.paper(kWidest);
    std::vector<Off> off;
    for (size_t i = 0; i < pieces.size(); ++i)
        if (const auto* s = std::get_if<Segment>(&w.curve(pieces[i])))
            if (const int axis = distance(s->a, s->b) < w.paper(kShortest) ? -1 : levelAxis(*s, widest);
                axis >= 0 && std::abs((s->b - s->a)[axis]) > w.sheet().tolerances.touch_sheet)
                off.push_back({i, axis});
    if (off.empty()) return;
    const auto web = w.web(true); // made of the same pieces
    const Nodes& nodes = web->nodes;
    for (int axis : {0, 1}) {
        Groups levels(nodes.size());
        for (size_t i = 0; i < pieces.size(); ++i) // exact lines move along with those that are put right
            if (const auto* s = std::get_if<Segment>(&w.curve(pieces[i])))
                if (std::abs((s->b - s->a)[axis]) <= w.sheet().tolerances.touch_sheet &&
                    nodes.node({static_cast<int>(i), 0}) >= 0)
                    levels.join(nodes.node({static_cast<int>(i), 0}), nodes.node({static_cast<int>(i), 1}));
        std::set<int> moved;
        for (const Off& o : off) {
            if (o.axis != axis) continue;
            const int a = nodes.node({static_cast<int>(o.piece), 0}),
                      b = nodes.node({static_cast<int>(o.piece), 1});
            const Segment& s = std::get<Segment>(w.curve(pieces[o.piece]));
            if (a < 0 || !w.record("straightened", {pieces[o.piece].entity}, (s.a + s.b) * 0.5,
                                   std::abs((s.b - s.a)[axis])))
                continue;
            levels.join(a, b);
            moved.insert(a);
        }
        std::set<int> groups;
        for (int n : moved) groups.insert(levels.find(n));
        const std::vector<double> target = targets(w, pieces, nodes, levels, axis);
        for (size_t n = 0; n < nodes.size(); ++n) {
            if (!groups.contains(levels.find(static_cast<int>(n)))) continue;
            for (const End& e : nodes.ends(static_cast<int>(n))) {
                const Piece& p = pieces[e.piece];
                if (!std::holds_alternative<Segment>(w.curve(p))) continue;
                Segment s = std::get<Segment>(w.curve(p));
                coordinate(e.side == 0 ? s.a : s.b, axis) = target[n];
                w.setCurve(p, s);
            }
        }
    }
}

} // namespace prism::cleaning
