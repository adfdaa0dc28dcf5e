#include "core/checking/bolt_circles.h"
#include "core/checking/moving.h"
#include "core/checking/view_values.h"

#include <fmt/format.h>

// Suppositions: what one move in one view would explain.
namespace prism {
namespace {

using namespace checking;

constexpr size_t kMostUnmatched = 60; ///< in a view: with more, it is another solid, no displaced feature
constexpr size_t kMostMoves = 4;      ///< tried between two views along an axis
constexpr double kFarthest = 0.25;    ///< of the size of the part: what stands farther off is another feature

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
            const auto it =
                std::ranges::find_if(moves, [&](const Move& m) { return std::abs(m.by - by) <= tolerance; });
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
        f.message = fmt::format(
            "What stands at {0} = {1} mm in the {2} view stands at {3} mm in the {4} view: "
            "{5:.2f} mm off",
            nameOf(t.axis), listed(m.from), nameOf(va.role), listed(m.to), nameOf(vb.role), std::abs(m.by));
        offerMove(in, vb, t.axis, m.to, -m.by, f);
        offerMove(in, va, t.axis, m.from, m.by, f);
        if (!f.remedies.empty()) out.push_back(std::move(f));
    }
}

/// Coordinates of the lines of a view that run square to an axis, by value.
std::vector<double> edgesAlong(const CheckInput& in, int view, Axis axis) {
    std::vector<double> r;
    const FigureView* v = in.figure.viewById(view);
    if (!v) return r;
    const double tolerance = sameCoordinate(in.figure);
    for (const FigureCurve& c : in.figure.curves) {
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (c.view != view || !s) continue;
        const int k = v->axes.right == axis ? 0 : 1;
        if (std::abs(s->a[k] - s->b[k]) <= tolerance) r.push_back(s->a[k]);
    }
    std::ranges::sort(r);
    return r;
}

/// A line at a coordinate that the view beside does not show, where that shows an edge at one at which there
/// is none here, though something else may end there.
void edges(const CheckInput& in, const Tie& t, std::vector<Finding>& out) {
    const double tolerance = sameCoordinate(in.figure);
    for (const auto& [from, to] : {std::pair{t.a, t.b}, std::pair{t.b, t.a}}) {
        const auto stray = unmatchedIn(in, from, to, t.axis);
        if (stray.empty() || stray.size() > kMostMoves) continue;
        const auto own = edgesAlong(in, from, t.axis), there = edgesAlong(in, to, t.axis);
        const View &v = in.views.views[static_cast<size_t>(from)],
                   &w = in.views.views[static_cast<size_t>(to)];
        for (const Unmatched& u : stray) {
            if (!has(own, u.value, tolerance)) continue;
            std::vector<double> moves;
            for (const double x : there)
                if (!has(own, x, tolerance) && std::abs(x - u.value) <= kFarthest * in.figure.size &&
                    (moves.empty() || x - u.value - moves.back() > tolerance))
                    moves.push_back(x - u.value);
            std::ranges::sort(moves, {}, [](double by) { return std::abs(by); });
            if (moves.size() > kMostMoves) moves.resize(kMostMoves);
            for (const double by : moves) {
                Finding f;
                f.kind = "position_mismatch";
                f.severity = Severity::error;
                f.views = {from, to};
                f.numbers = {{"shift", std::abs(by)}, {"first", u.value}, {"second", u.value + by}};
                f.message = fmt::format("The edge at {0} = {1:.2f} mm in the {2} view stands at {3:.2f} mm "
                                        "in the {4} view: {5:.2f} mm off",
                                        nameOf(t.axis), u.value, nameOf(v.role), u.value + by, nameOf(w.role),
                                        std::abs(by));
                offerMove(in, v, t.axis, {u.value}, by, f);
                if (!f.remedies.empty()) out.push_back(std::move(f));
            }
        }
    }
}

/// Where the edges of a circle stand along an axis; with those of the circles about the same centre, as of a
/// counterbore, when there are any.
std::vector<std::vector<double>> edgesOf(const CheckInput& in, const FigureCurve& c, bool level) {
    const auto& arc = std::get<Arc>(c.drawn);
    const double at = level ? arc.centre.x : arc.centre.y, tolerance = sameCoordinate(in.figure);
    std::vector<double> own{at - arc.radius, at + arc.radius}, all;
    for (const FigureCurve& o : in.figure.curves) {
        const auto* a = std::get_if<Arc>(&o.drawn);
        if (o.view == c.view && a && a->full() && distance(a->centre, arc.centre) <= tolerance)
            all.push_back(at - a->radius), all.push_back(at + a->radius);
    }
    std::vector<std::vector<double>> r;
    if (all.size() > own.size()) r.push_back(std::move(all));
    r.push_back(std::move(own));
    return r;
}

/// A circle without counterpart, where another view has two edges as far apart as its own.
void circles(const CheckInput& in, const Tie& t, std::vector<Finding>& out) {
    const double tolerance = sameCoordinate(in.figure);
    for (const auto& [from, to] : {std::pair{t.a, t.b}, std::pair{t.b, t.a}}) {
        const auto there = valuesOf(in.figure, to, t.axis);
        const View &v = in.views.views[static_cast<size_t>(from)],
                   &w = in.views.views[static_cast<size_t>(to)];
        std::set<int> seen;
        for (const Unmatched& u : unmatchedIn(in, from, to, t.axis)) {
            if (!u.round || !seen.insert(u.curve).second || seen.size() > kMostMoves) continue;
            const auto& arc = std::get<Arc>(in.figure.curves[static_cast<size_t>(u.curve)].drawn);
            const double at = axesOf(v.role).right == t.axis ? arc.centre.x : arc.centre.y,
                         low = at - arc.radius;
            std::vector<double> moves;
            for (double x : there)
                if (std::abs(x - low) > tolerance && std::abs(x - low) <= kFarthest * in.figure.size &&
                    has(there, x + 2 * arc.radius, tolerance))
                    moves.push_back(x - low);
            std::ranges::sort(moves, {}, [](double by) { return std::abs(by); });
            if (moves.size() > kMostMoves) moves.resize(kMostMoves);
            for (double by : moves) {
                Finding f;
                f.kind = "position_mismatch";
                f.severity = Severity::error;
                f.views = {from, to};
                f.numbers = {{"shift", std::abs(by)}, {"first", at}, {"second", at + by}};
                f.message = fmt::format(
                    "The circle of Ø{:.6g} mm at {} = {:.2f} mm in the {} view stands at {:.2f} mm "
                    "in the {} view: {:.2f} mm off",
                    2 * arc.radius, nameOf(t.axis), at, nameOf(v.role), at + by, nameOf(w.role),
                    std::abs(by));
                for (const auto& edges : edgesOf(in, in.figure.curves[static_cast<size_t>(u.curve)],
                                                 axesOf(v.role).right == t.axis))
                    offerMove(in, v, t.axis, edges, by, f);
                if (!f.remedies.empty()) out.push_back(std::move(f));
            }
        }
    }
}

/// A circle beside the place where it is dimensioned, level with it or upright above or below.
void dimensionedElsewhere(const CheckInput& in, const LedgerEntry& e, std::vector<Finding>& out) {
    if (e.state != EntryState::loose || e.view < 0) return;
    const View& v = in.views.views[static_cast<size_t>(e.view)];
    const double tolerance = sameCoordinate(in.figure);
    const ViewAxes axes = axesOf(v.role);
    for (const NamedPlace& w : placesOf(in.drawing.dimensions[static_cast<size_t>(e.dimension)]))
        for (const FigureCurve& c : in.figure.curves) {
            const auto* arc = std::get_if<Arc>(&c.drawn);
            if (c.view != e.view || !arc || !arc->full()) continue;
            if (w.radius > 0 && std::abs(arc->radius - w.radius * v.mm_per_sheet) > tolerance) continue;
            const Vec2 by = v.toModel()(w.at) - arc->centre;
            const bool level = std::abs(by.y) <= tolerance, upright = std::abs(by.x) <= tolerance;
            if (level == upright || length(by) > kFarthest * in.figure.size) continue;
            const Axis axis = level ? axes.right : axes.up;
            const double at = level ? arc->centre.x : arc->centre.y, far = level ? by.x : by.y;
            Finding f;
            f.kind = "position_mismatch";
            f.severity = Severity::error;
            f.views = {e.view};
            f.numbers = {{"shift", std::abs(far)}, {"first", at}, {"second", at + far}};
            f.message =
                fmt::format("The circle of Ø{:.6g} mm in the {} view stands {:.2f} mm along {} from where "
                            "it is dimensioned",
                            2 * arc->radius, nameOf(v.role), std::abs(far), nameOf(axis));
            for (const auto& edges : edgesOf(in, c, level)) offerMove(in, v, axis, edges, far, f);
            if (f.remedies.empty()) continue;
            for (Remedy& r : f.remedies)
                r.words = fmt::format("Move it by {:+.2f} mm along {}, to where it is dimensioned", far,
                                      nameOf(axis));
            out.push_back(std::move(f));
        }
}

/// What stands in no view, with a circle that is dimensioned elsewhere: all of it belongs there.
void besideItsView(const CheckInput& in, const LedgerEntry& e, std::vector<Finding>& out) {
    if (e.state != EntryState::loose || e.view < 0) return;
    const View& v = in.views.views[static_cast<size_t>(e.view)];
    const double tolerance = sameCoordinate(in.figure);
    const auto wanted = placesOf(in.drawing.dimensions[static_cast<size_t>(e.dimension)]);
    for (const View& stray : in.views.views) {
        if (stray.role != Role::unassigned) continue;
        for (const NamedPlace& w : wanted)
            for (const int id : stray.entities) {
                const Entity& x = in.drawing.entities[static_cast<size_t>(id)];
                const auto* arc = x.curves.size() == 1 ? std::get_if<Arc>(&x.curves.front()) : nullptr;
                if (!arc || !arc->full() || w.radius <= 0) continue;
                if (std::abs(arc->radius - w.radius) * v.mm_per_sheet > tolerance) continue;
                const Vec2 by = w.at - arc->centre;
                const double far = length(by) * v.mm_per_sheet;
                if (far <= tolerance || far > kFarthest * in.figure.size) continue;
                Finding f;
                f.kind = "position_mismatch";
                f.severity = Severity::error;
                f.views = {stray.id};
                f.numbers = {{"shift", far}};
                f.message =
                    fmt::format("The circle of Ø{:.6g} mm stands {:.2f} mm from where it is dimensioned",
                                2 * w.radius * v.mm_per_sheet, far);
                f.entities = stray.entities;
                for (const int k : stray.entities)
                    f.handles.push_back(in.drawing.entities[static_cast<size_t>(k)].handle);
                f.at_sheet = {arc->centre, w.at};
                Change lines = viewMoved(in, stray, Affine2::shift(by));
                lines.corrected.clear(); // its dimensions stand where they should
                f.remedies = {{"move_feature",
                               fmt::format("Move it by {:.2f} mm to where it is dimensioned", far), "",
                               std::move(lines)}};
                out.push_back(std::move(f));
                return;
            }
    }
}

} // namespace

std::vector<Finding> displacements(const CheckInput& in, bool sound, Progress& progress) {
    std::vector<Finding> r;
    if (!sound)
        for (const Tie& t : in.views.ties)
            if (!progress.cancelled()) between(in, t, r), circles(in, t, r), edges(in, t, r);
    if (!sound) onBoltCircles(in, BoltCircles::supposed, r);
    for (const LedgerEntry& e : in.ledger.entries)
        if (!progress.cancelled()) dimensionedElsewhere(in, e, r), besideItsView(in, e, r);
    return r;
}

} // namespace prism
