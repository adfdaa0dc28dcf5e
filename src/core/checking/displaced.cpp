#include "core/checking/moving.h"
#include "core/checking/view_values.h"

#include <fmt/format.h>

// Suppositions: what one move in one view would explain.
namespace prism {
namespace {

using namespace checking;

constexpr size_t kMostUnmatched = 60;  ///< in a view: with more, it is another solid, no displaced feature
constexpr size_t kMostMoves = 4;       ///< tried between two views along an axis
constexpr double kFarthest = 0.25;     ///< of the size of the part: what stands farther off is another feature

/// Coordinates of one view that one and the same move brings to coordinates of another.
struct Move {
    double by = 0;
    std::vector<double> from, to;
};

std::vector<Move> movesBetween(const std::vector<Unmatched>& a, const std::vector<Unmatched>& b,
                               double tolerance, double farthest) {
    std::vector<Move> moves;
    for (const Unmatched& x : a)
        for (const Unmatched& y : b) {
            const double by = y.value - x.value;
            if (std::abs(by) > farthest) continue;
            const auto it = std::ranges::find_if(
                moves, [&](const Move& m) { return std::abs(m.by - by) <= tolerance; });
            Move& m = it == moves.end() ? moves.emplace_back(Move{by, {}, {}}) : *it;
            if (has(m.from, x.value, tolerance) || has(m.to, y.value, tolerance)) continue;
            m.from.push_back(x.value), m.to.push_back(y.value);
            std::ranges::sort(m.from), std::ranges::sort(m.to);
        }
    std::ranges::stable_sort(moves, [](const Move& m, const Move& n) {
        return m.from.size() != n.from.size() ? m.from.size() > n.from.size()
                                              : std::abs(m.by) < std::abs(n.by);
    });
    if (moves.size() > kMostMoves) moves.resize(kMostMoves);
    return moves;
}

std::string listed(const std::vector<double>& v) {
    std::vector<std::string> r;
    for (double x : v) r.push_back(fmt::format("{:.2f}", x));
    return fmt::format("{}", fmt::join(r, " and "));
}

void moveIn(const CheckInput& in, const View& v, const View& other, Axis axis, const std::vector<double>& at,
            double by, Finding& f) {
    const auto change = featureMoved(in, v, axis, at, by);
    if (!change || change->empty()) return;
    f.remedies.push_back({"move_feature",
                          fmt::format("Move it by {:+.2f} mm along {} in the {} view, to where the {} view has it",
                                      by, nameOf(axis), nameOf(v.role), nameOf(other.role)),
                          "", *change});
    for (const MarkedLine& l : change->lines)
        for (const int e : v.entities)
            if (keyOf(in.drawing.entities[static_cast<size_t>(e)]) == l.target) {
                f.entities.push_back(e), f.handles.push_back(in.drawing.entities[static_cast<size_t>(e)].handle);
                f.at_sheet.push_back(boxOf(in.drawing.entities[static_cast<size_t>(e)].curves.front()).centre());
            }
}

void between(const CheckInput& in, const Tie& t, std::vector<Finding>& out) {
    const auto a = unmatchedIn(in, t.a, t.b, t.axis), b = unmatchedIn(in, t.b, t.a, t.axis);
    if (a.empty() || b.empty() || a.size() > kMostUnmatched || b.size() > kMostUnmatched) return;
    const View &va = in.views.views[static_cast<size_t>(t.a)], &vb = in.views.views[static_cast<size_t>(t.b)];
    const double tolerance = sameCoordinate(in.figure);
    for (const Move& m : movesBetween(a, b, tolerance, kFarthest * in.figure.size)) {
        Finding f;
        f.kind = "position_mismatch";
        f.severity = Severity::error;
        f.views = {t.b, t.a};
        f.numbers = {{"shift", std::abs(m.by)}, {"first", m.from.front()}, {"second", m.to.front()}};
        f.message = fmt::format("What stands at {0} = {1} mm in the {2} view stands at {3} mm in the {4} view: "
                                "{5:.2f} mm off",
                                nameOf(t.axis), listed(m.from), nameOf(va.role), listed(m.to),
                                nameOf(vb.role), std::abs(m.by));
        moveIn(in, vb, va, t.axis, m.to, -m.by, f);
        moveIn(in, va, vb, t.axis, m.from, m.by, f);
        if (!f.remedies.empty()) out.push_back(std::move(f));
    }
}

/// A view turned on the sheet about its middle, and put in line with the view that it is tied to.
Affine2 turnedInPlace(const View& v, const View& beside, int quarters) {
    const Vec2 c = v.box_sheet.centre(), o = beside.box_sheet.centre();
    const bool inColumn = std::abs(c.x - o.x) < std::abs(c.y - o.y);
    const Vec2 to = inColumn ? Vec2{o.x, c.y} : Vec2{c.x, o.y};
    return Affine2::shift(to) * Affine2::rotation(quarters * kPi / 2) * Affine2::shift({-c.x, -c.y});
}

/// Views whose size along an axis is not that of the view beside, or of whose features hardly any is found
/// again there: they may have been drawn lying on their side, or upside down.
void turned(const CheckInput& in, const Tie& t, std::vector<Finding>& out) {
    for (const auto& [id, other] : {std::pair{t.b, t.a}, std::pair{t.a, t.b}}) {
        const View &v = in.views.views[static_cast<size_t>(id)],
                   &beside = in.views.views[static_cast<size_t>(other)];
        if (!in.figure.viewById(id) || !in.figure.viewById(other) || v.role == Role::front) continue;
        const auto own = valuesOf(in.figure, id, t.axis), there = valuesOf(in.figure, other, t.axis);
        if (own.empty() || there.empty()) continue;
        const bool sizes = std::abs((own.back() - own.front()) - (there.back() - there.front())) >
                           10 * in.figure.tolerances.same_model;
        if (!sizes && unmatchedIn(in, id, other, t.axis).size() < 3) continue;
        Finding f;
        f.kind = "view_turned";
        f.severity = Severity::error;
        f.views = {id};
        f.at_sheet = {v.box_sheet.centre()};
        f.message = fmt::format("The {} view fits the {} view only when it is turned on the sheet",
                                nameOf(v.role), nameOf(beside.role));
        for (const int quarters : {1, -1, 2}) {
            if (sizes == (quarters == 2)) continue;
            f.remedies.push_back({"turn_view",
                                  fmt::format("Turn the {} view by {}°", nameOf(v.role), 90 * quarters), "",
                                  viewMoved(in, v, turnedInPlace(v, beside, quarters))});
        }
        out.push_back(std::move(f));
    }
}

} // namespace

std::vector<Finding> displacements(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    for (const Tie& t : in.views.ties)
        if (!progress.cancelled()) turned(in, t, r);
    for (const Tie& t : in.views.ties)
        if (!progress.cancelled()) between(in, t, r);
    return r;
}

} // namespace prism
