#include "core/checking/bolt_circles.h"

#include "core/checking/moving.h"
#include "core/checking/view_values.h"

#include <fmt/format.h>

namespace prism::checking {
namespace {

constexpr double kFarthest = 0.25; ///< of the bolt circle's radius: what stands farther off is meant so

/// Full circles of one size in a view.
struct Alike {
    double radius = 0;
    std::vector<Vec2> centres;
};

std::vector<Alike> circlesAlike(const Figure& f, int view, double tolerance) {
    std::vector<Alike> r;
    for (const FigureCurve& c : f.curves) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        if (c.view != view || !a || !a->full()) continue;
        const auto it = std::ranges::find_if(
            r, [&](const Alike& x) { return std::abs(x.radius - a->radius) <= tolerance; });
        (it == r.end() ? r.emplace_back(Alike{a->radius, {}}) : *it).centres.push_back(a->centre);
    }
    return r;
}

/// Circles that do not stand evenly spaced round a place, as far as one of them is right about it, and how
/// far each is from where it should be.
std::vector<std::pair<Vec2, Vec2>> offRound(const Alike& circles, Vec2 round, Vec2 right, double tolerance) {
    const auto n = circles.centres.size();
    std::vector<Vec2> free, off;
    for (size_t k = 0; k < n; ++k)
        free.push_back(round + Affine2::rotation(2 * kPi * static_cast<double>(k) /
                                                 static_cast<double>(n))(right - round));
    for (const Vec2 c : circles.centres) {
        const auto it = std::ranges::find_if(free, [&](Vec2 p) { return distance(p, c) <= tolerance; });
        it == free.end() ? off.push_back(c) : void(free.erase(it));
    }
    std::vector<std::pair<Vec2, Vec2>> r;
    for (const Vec2 c : off)
        r.emplace_back(c, *std::ranges::min_element(free, {}, [&](Vec2 p) { return distance(p, c); }) - c);
    return r;
}

/// One move, level or upright, that brings circles to their places evenly spaced round another one: some of
/// them, when at least two stand there, or all. Those that are moved, and by how much.
std::optional<std::pair<std::vector<Vec2>, Vec2>> moveRound(const Alike& circles, Vec2 round,
                                                            double tolerance) {
    const auto likely = [&](Vec2 by, Vec2 arm) {
        return length(by) > tolerance && std::min(std::abs(by.x), std::abs(by.y)) <= tolerance &&
               length(by) <= kFarthest * length(arm);
    };
    Vec2 middle{};
    for (const Vec2 c : circles.centres)
        middle = middle + c * (1.0 / static_cast<double>(circles.centres.size()));
    const Vec2 first = circles.centres.front();
    if (likely(round - middle, first - middle) && offRound(circles, middle, first, tolerance).empty())
        return std::pair{circles.centres, round - middle};
    for (const Vec2 right : circles.centres) {
        const auto off = offRound(circles, round, right, tolerance);
        if (off.empty() || off.size() + 2 > circles.centres.size()) continue;
        const Vec2 by = off.front().second;
        if (!likely(by, right - round) ||
            std::ranges::any_of(off, [&](const auto& o) { return distance(o.second, by) > tolerance; }))
            continue;
        std::vector<Vec2> moved;
        for (const auto& [c, unused] : off) moved.push_back(c);
        return std::pair{moved, by};
    }
    return std::nullopt;
}

/// Whether a circle about a place through another is drawn as a centre line of the view.
bool pitchCircleDrawn(const CheckInput& in, const FigureView& view, Vec2 round, Vec2 through,
                      double tolerance) {
    const View& v = in.views.views[static_cast<size_t>(view.view)];
    return std::ranges::any_of(v.centre_lines, [&](int e) {
        return std::ranges::any_of(in.drawing.entities[static_cast<size_t>(e)].curves, [&](const Curve& c) {
            const Curve here = transformed(c, view.to_model);
            const auto* a = std::get_if<Arc>(&here);
            return a && a->full() && distance(a->centre, round) <= tolerance &&
                   std::abs(a->radius - distance(round, through)) <= tolerance;
        });
    });
}

/// Whether a dimension says where one of some places of a view is.
bool dimensioned(const CheckInput& in, const View& v, const std::vector<Vec2>& places, double tolerance) {
    const Affine2 toModel = v.toModel();
    return std::ranges::any_of(v.dimensions, [&](int d) {
        const auto named = placesOf(in.drawing.dimensions[static_cast<size_t>(d)]);
        return std::ranges::any_of(named, [&](const NamedPlace& n) {
            return n.radius <= 0 && std::ranges::any_of(places, [&](Vec2 p) {
                       return distance(toModel(n.at), p) <= tolerance;
                   });
        });
    });
}

} // namespace

void onBoltCircles(const CheckInput& in, BoltCircles which, std::vector<Finding>& out) {
    constexpr size_t kLeast = 3, kMost = 24; // holes
    const double tolerance = sameCoordinate(in.figure);
    for (const FigureView& view : in.figure.views) {
        if (!view.principal()) continue;
        const View& v = in.views.views[static_cast<size_t>(view.view)];
        const std::vector<Alike> all = circlesAlike(in.figure, view.view, tolerance);
        for (const Alike& holes : all) {
            if (holes.centres.size() < kLeast || holes.centres.size() > kMost) continue;
            std::optional<std::pair<std::vector<Vec2>, Vec2>> move;
            Vec2 round{};
            for (const Alike& o : all)
                if (!move && o.centres.size() == 1)
                    round = o.centres.front(), move = moveRound(holes, round, tolerance);
            if (!move) continue;
            const auto& [off, by] = *move;
            if (which == BoltCircles::drawn) {
                const auto on = std::ranges::find_if(holes.centres, [&, &off = off](Vec2 c) {
                    return std::ranges::find(off, c) == off.end();
                });
                if (on == holes.centres.end() || !pitchCircleDrawn(in, view, round, *on, tolerance) ||
                    dimensioned(in, v, off, tolerance))
                    continue;
            }
            const bool level = std::abs(by.x) > std::abs(by.y);
            const Axis axis = level ? view.axes.right : view.axes.up;
            const double far = level ? by.x : by.y;
            std::vector<double> edges;
            for (const Vec2 c : off)
                for (const double r : {-holes.radius, holes.radius}) edges.push_back((level ? c.x : c.y) + r);
            Finding f;
            f.kind = "position_mismatch";
            f.severity = which == BoltCircles::drawn ? Severity::warning : Severity::error;
            f.views = {view.view};
            f.numbers = {{"shift", std::abs(far)}, {"images", static_cast<double>(off.size())}};
            const bool one = off.size() == 1;
            f.message = fmt::format("{} of the {} circles of Ø{:.6g} mm in the {} view {} {:.2f} mm along {} "
                                    "from {} on the bolt circle",
                                    off.size(), holes.centres.size(), 2 * holes.radius, nameOf(v.role),
                                    one ? "stands" : "stand", std::abs(far), nameOf(axis),
                                    one ? "its place" : "their places");
            offerMove(in, v, axis, edges, far, f);
            f.at_sheet.push_back(view.to_model.inverse()(round));
            if (!f.remedies.empty()) out.push_back(std::move(f));
        }
    }
}

} // namespace prism::checking
