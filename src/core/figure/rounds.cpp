#include "core/figure/rounds.h"

#include "core/base/box_tree.h"
#include "core/base/curve_ends.h"
#include "core/base/smooth.h"

namespace prism {
namespace {

constexpr double kLeastTurn = kPi / 9, kMostTurn = 8 * kPi / 9;

/// The straight line that an arc runs smoothly into at one end; -1 for none.
int lineAt(const Figure& f, const BoxTree& tree, int arc, double t) {
    const FigureCurve& own = f.curves[static_cast<size_t>(arc)];
    const Vec2 at = pointAt(own.drawn, t), way = normalized(tangentAt(own.drawn, t));
    for (int i : tree.overlapping({at, at})) {
        const FigureCurve& c = f.curves[static_cast<size_t>(i)];
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (!s || c.view != own.view || c.role != own.role) continue;
        if (distanceTo(c.drawn, at) > f.tolerances.proof) continue;
        if (std::abs(cross(normalized(s->b - s->a), way)) < kSmooth) return i;
    }
    return -1;
}

} // namespace

std::vector<Round> roundsOf(const Figure& f) {
    std::vector<Box2> boxes;
    for (const FigureCurve& c : f.curves) boxes.push_back(boxOf(c.drawn).grown(f.tolerances.proof));
    const BoxTree tree(boxes);
    std::vector<Round> r;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const auto* a = std::get_if<Arc>(&f.curves[i].drawn);
        if (!a || std::abs(a->sweep) < kLeastTurn || std::abs(a->sweep) > kMostTurn) continue;
        const int id = static_cast<int>(i);
        const Round round{id, lineAt(f, tree, id, 0), lineAt(f, tree, id, 1)};
        if (round.first >= 0 && round.second >= 0 && round.first != round.second) r.push_back(round);
    }
    return r;
}

Vec2 cornerOf(const Figure& f, const Round& r, const std::vector<double>& x) {
    const auto corner =
        carrierCrossing(std::get<Segment>(f.curve(r.first, x)), std::get<Segment>(f.curve(r.second, x)));
    return corner ? *corner : pointAt(f.curve(r.arc, x), 0.5);
}

int addPoint(Figure& f, int view, Vec2 at) {
    const FigureView& v = *f.viewById(view);
    const int u = static_cast<int>(f.drawn.size());
    for (const auto& [value, axis] : {std::pair{at.x, v.axes.right}, std::pair{at.y, v.axes.up}}) {
        f.drawn.push_back(value), f.now.push_back(value), f.weights.push_back(1);
        f.axis_of.push_back(static_cast<int>(axis));
    }
    f.points.push_back({view, u, u + 1});
    return static_cast<int>(f.points.size()) - 1;
}

Figure sharpened(const Figure& f, const std::vector<Round>& rounds) {
    Figure r = f;
    std::vector<bool> gone(f.curves.size());
    for (const Round& round : rounds) {
        gone[static_cast<size_t>(round.arc)] = true;
        const Vec2 corner = cornerOf(f, round, f.drawn);
        const Curve& arc = f.curves[static_cast<size_t>(round.arc)].drawn;
        int point = -1;
        for (const auto& [line, end] : {std::pair{round.first, startOf(arc)}, {round.second, endOf(arc)}}) {
            FigureCurve& c = r.curves[static_cast<size_t>(line)];
            auto& s = std::get<Segment>(c.drawn);
            // A line that goes on past the arc is long enough.
            const bool at_a = distance(s.a, end) <= f.tolerances.proof,
                       at_b = distance(s.b, end) <= f.tolerances.proof;
            if (!at_a && !at_b) continue;
            if (point < 0) point = addPoint(r, c.view, corner);
            (at_a ? s.a : s.b) = corner, (at_a ? c.p0 : c.p1) = point;
        }
    }
    std::vector<FigureCurve> kept;
    for (size_t i = 0; i < gone.size(); ++i)
        if (!gone[i]) kept.push_back(std::move(r.curves[i]));
    r.curves = std::move(kept);
    return r;
}

} // namespace prism
