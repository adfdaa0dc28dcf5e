#include "core/checking/finding.h"
#include "core/cleaning/stood_for.h"

#include <fmt/format.h>

// Suppositions: lines of the outline that are drawn hidden.
namespace prism {
namespace {

constexpr size_t kMost = 8;        ///< on a sheet: with more, it is drawn so
constexpr size_t kMostLines = 400; ///< of a figure: with more, no solid could tell

/// How much of every curve has an area on one side only, mm.
std::map<int, double> onOneSide(const std::vector<ClosedArea>& areas, int view) {
    std::map<std::tuple<int, int, int>, std::pair<int, double>> pieces; // areas at each, and its length
    for (const ClosedArea& a : areas) {
        if (a.view != view) continue;
        const auto take = [&](const Loop& l) {
            for (const AreaEdge& e : l) {
                auto& [count, length] = pieces[{e.curve, std::min(e.from, e.to), std::max(e.from, e.to)}];
                ++count, length = lengthOf(e.shape);
            }
        };
        take(a.outer);
        for (const Loop& h : a.holes) take(h);
    }
    std::map<int, double> r;
    for (const auto& [piece, at] : pieces)
        if (at.first == 1) r[std::get<0>(piece)] += at.second;
    return r;
}

Finding drawnHidden(const CheckInput& in, const FigureCurve& c, const FigureView& v) {
    const Entity& e = in.drawing.entities[static_cast<size_t>(c.entity)];
    const Affine2 back = v.to_model.inverse();
    Finding f;
    f.kind = "line_visibility_suspect";
    f.severity = Severity::error;
    f.message = fmt::format("A line of {:.2f} mm of the outline of the {} view is drawn hidden",
                            lengthOf(c.drawn), nameOf(v.name));
    f.views = {v.view};
    f.entities = {e.id}, f.handles = {e.handle};
    f.at_sheet = {back(startOf(c.drawn)), back(pointAt(c.drawn, 0.5)), back(endOf(c.drawn))};
    f.numbers = {{"length", lengthOf(c.drawn)}};
    Change change;
    change.lines = {{MarkedLine::Kind::remove, keyOf(e), {}},
                    {MarkedLine::Kind::add, "", {transformed(transformed(c.drawn, back), in.sheet.to_file)}}};
    change.lines.back().role = LineRole::outline;
    takeOffStoodFor(in.sheet, {e.id}, change.lines);
    f.remedies = {{"draw_visible", "Draw it as a visible line", "nothing lies before the outline of a view",
                   std::move(change)}};
    return f;
}

} // namespace

std::vector<Finding> hiddenOutlines(const CheckInput& in, Progress& progress) {
    constexpr double kNearlyAll = 0.9;
    std::vector<Finding> r;
    const Figure& f = in.figure;
    if (!f.drawsHidden() || f.curves.size() > kMostLines) return r;
    const std::vector<ClosedArea> areas = closedAreas(f, f.drawn, progress);
    for (const FigureView& v : f.views) {
        if (!v.principal() || progress.cancelled()) continue;
        for (const auto& [curve, length] : onOneSide(areas, v.view)) {
            const FigureCurve& c = f.curves[static_cast<size_t>(curve)];
            const bool alone = in.drawing.entities[static_cast<size_t>(c.entity)].curves.size() == 1;
            if (c.role == LineRole::hidden && alone && length >= kNearlyAll * lengthOf(c.drawn))
                r.push_back(drawnHidden(in, c, v));
        }
    }
    if (r.size() > kMost) r.clear();
    return r;
}

} // namespace prism
