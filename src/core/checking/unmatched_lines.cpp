#include "core/checking/finding.h"
#include "core/checking/view_values.h"
#include "core/cleaning/stood_for.h"

#include <fmt/format.h>

// Suppositions: lines that are too many.
namespace prism {
namespace {

using namespace checking;

constexpr size_t kMostOfView = 4; ///< tried in one view

Finding tooMany(const CheckInput& in, const FigureCurve& c, const FigureView& v, const FigureView& other,
                Axis axis, double at) {
    const Entity& e = in.drawing.entities[static_cast<size_t>(c.entity)];
    Finding f;
    f.kind = "feature_unmatched";
    f.severity = Severity::error;
    f.message =
        fmt::format("A line of {:.2f} mm at {} = {:.2f} mm in the {} view has no counterpart in the {} view",
                    lengthOf(c.drawn), nameOf(axis), at, nameOf(v.name), nameOf(other.name));
    f.views = {v.view};
    f.entities = {e.id}, f.handles = {e.handle};
    f.at_sheet = {v.to_model.inverse()(pointAt(c.drawn, 0.5))};
    f.numbers = {{"length", lengthOf(c.drawn)}};
    Change change;
    change.lines = {{MarkedLine::Kind::remove, keyOf(e), {}}};
    takeOffStoodFor(in.sheet, {e.id}, change.lines);
    f.remedies = {{"delete_line", "Take the line off the sheet", "", std::move(change)}};
    return f;
}

} // namespace

std::vector<Finding> unmatchedLines(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    std::map<int, std::set<int>> told; // curves by view
    for (const Tie& t : in.views.ties)
        for (const auto& [from, to] : {std::pair{t.a, t.b}, std::pair{t.b, t.a}}) {
            const FigureView *v = in.figure.viewById(from), *other = in.figure.viewById(to);
            if (!v || !other || progress.cancelled()) continue;
            const bool right = v->axes.right == t.axis;
            for (const Unmatched& u : unmatchedIn(in, from, to, t.axis)) {
                if (u.curve < 0 || told[from].size() == kMostOfView) continue;
                const FigureCurve& c = in.figure.curves[static_cast<size_t>(u.curve)];
                const auto* s = std::get_if<Segment>(&c.drawn);
                // By itself, not a piece of a chain, and square to the axis: all of it stands there.
                const bool alone = in.drawing.entities[static_cast<size_t>(c.entity)].curves.size() == 1;
                const double off = s ? std::abs(right ? s->a.x - s->b.x : s->a.y - s->b.y) : 1;
                if (!alone || off > sameCoordinate(in.figure) || !told[from].insert(u.curve).second) continue;
                r.push_back(tooMany(in, c, *v, *other, t.axis, u.value));
            }
        }
    return r;
}

} // namespace prism
