#include "core/building/places.h"

#include "core/base/between.h"
#include "core/figure/rounds.h"

#include <fmt/format.h>

namespace prism::building {
namespace {

constexpr double kNear = 0.01; ///< share of a view's size within which a place stands for a line

double reachOf(const FigureView& v) {
    return kNear * std::max(v.box.width(), v.box.height());
}

/// Where a coordinate along a model axis has gone, or, `back`, where it came from.
double coordinateMoved(const Figure& f, Axis axis, double at, bool back) {
    Between r(at);
    for (const Mark& m : f.marks) {
        if (m.axis != axis) continue;
        const double now = f.value(m.terms, f.now);
        if (back)
            r.stop(now, m.value);
        else
            r.stop(m.value, now);
    }
    return r.carried();
}

Vec3 moved(const Figure& f, Vec3 p, bool back) {
    if (f.now == f.drawn) return p;
    return {coordinateMoved(f, Axis::x, p.x, back), coordinateMoved(f, Axis::y, p.y, back),
            coordinateMoved(f, Axis::z, p.z, back)};
}

template <class Keep> int nearest(const Figure& f, const FigureView& v, Vec2 drawn, Keep keep) {
    int best = -1;
    double least = reachOf(v);
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.view != v.view || !keep(c)) continue;
        if (const double d = distanceTo(c.drawn, drawn); d < least) least = d, best = static_cast<int>(i);
    }
    return best;
}

} // namespace

Vec3 placeNow(const Figure& f, Vec3 drawn) {
    return moved(f, drawn, false);
}

Vec3 placeDrawn(const Figure& f, Vec3 now) {
    return moved(f, now, true);
}

int curveNear(const Figure& f, const FigureView& v, Vec2 drawn) {
    return nearest(f, v, drawn, [](const FigureCurve&) { return true; });
}

std::set<int> sharpOf(const Figure& f, const FigureView& v, const Step& s) {
    std::set<int> r;
    for (Vec2 p : s.sharp) {
        r.insert(curveNear(f, v, p));
        for (size_t i = 0; i < f.curves.size(); ++i)
            if (f.curves[i].view == v.view && distanceTo(f.curves[i].drawn, p) <= f.tolerances.same_model)
                r.insert(static_cast<int>(i));
    }
    return r;
}

int lineNear(const Figure& f, const FigureView& v, Vec2 drawn) {
    return nearest(f, v, drawn,
                   [](const FigureCurve& c) { return std::holds_alternative<Segment>(c.drawn); });
}

Concentric circlesAt(const Figure& f, const FigureView& v, Vec2 drawn) {
    int centre = -1;
    double least = reachOf(v);
    for (const FigureCurve& c : f.curves)
        if (c.view == v.view && c.radius >= 0 && c.centre >= 0)
            if (const double d = distance(f.at(f.points[c.centre], f.drawn), drawn); d < least)
                least = d, centre = c.centre;
    Concentric r;
    if (centre < 0) {
        least = reachOf(v);
        for (size_t i = 0; i < f.points.size(); ++i)
            if (f.points[i].view == v.view)
                if (const double d = distance(f.at(f.points[i], f.drawn), drawn); d < least)
                    least = d, centre = static_cast<int>(i);
        r.centre = centre < 0 ? Warp(f, v.view)(drawn) : f.at(f.points[centre], f.now);
        return r;
    }
    r.centre = f.at(f.points[centre], f.now);
    const Vec2 at = f.at(f.points[centre], f.drawn);
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.view != v.view || c.radius < 0 || !std::get<Arc>(c.drawn).full()) continue;
        if (distance(f.at(f.points[c.centre], f.drawn), at) <= f.tolerances.same_model)
            r.circles.push_back(static_cast<int>(i));
    }
    std::ranges::sort(r.circles, {}, [&](int i) { return f.now[f.curves[i].radius]; });
    return r;
}

FigureView viewAlong(Axis axis) {
    FigureView v;
    v.view = -1;
    const Axis right = axis == Axis::x ? Axis::y : Axis::x, up = axis == Axis::z ? Axis::y : Axis::z;
    v.axes = {right, up, 1, 1, axis};
    v.right = unitOf(right), v.up = unitOf(up), v.look = unitOf(axis);
    return v;
}

std::optional<HolePlane> holePlane(const Figure& f, const Step& s) {
    const FigureView* v = f.viewNamed(s.view);
    if (!v) return std::nullopt;
    if (!lies(s)) return HolePlane{*v, s.places};
    const FigureView* other = f.viewNamed(s.axis.view);
    if (!other || (other->axes.right != v->axes.depth && other->axes.up != v->axes.depth))
        return std::nullopt;
    const double deep = other->axes.right == v->axes.depth ? s.axis.at.x : s.axis.at.y;
    HolePlane r{viewAlong(s.axis_upright ? v->axes.up : v->axes.right), {}};
    for (const Vec2 p : s.places) {
        const double aside = s.axis_upright ? p.x : p.y;
        r.centres.push_back(r.view.axes.right == v->axes.depth ? Vec2{deep, aside} : Vec2{aside, deep});
    }
    return r;
}

int wallBeside(const Figure& f, const FigureView& v, Vec2 on_axis, bool upright) {
    const int along = upright ? 1 : 0;
    const double tol = f.tolerances.same_model;
    int best = -1;
    double least = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const auto* s = std::get_if<Segment>(&f.curves[i].drawn);
        if (!s || f.curves[i].view != v.view || std::abs(s->a[1 - along] - s->b[1 - along]) > tol) continue;
        const auto [lo, hi] = std::minmax({s->a[along], s->b[along]});
        const double away = std::abs(s->a[1 - along] - on_axis[1 - along]);
        if (on_axis[along] < lo || on_axis[along] > hi || away <= tol || away >= least) continue;
        least = away, best = static_cast<int>(i);
    }
    return best;
}

ViewCorner cornerAt(const Figure& f, const FigureView& v, Vec2 drawn) {
    double least = reachOf(v);
    for (const FigurePoint& p : f.points)
        if (p.view == v.view) least = std::min(least, distance(f.at(p, f.drawn), drawn));
    const Round* nearest = nullptr;
    const std::vector<Round> rounds = roundsOf(f);
    for (const Round& k : rounds)
        if (f.curves[static_cast<size_t>(k.arc)].view == v.view)
            if (const double d = distance(cornerOf(f, k, f.drawn), drawn); d < least) least = d, nearest = &k;
    if (nearest) return {cornerOf(f, *nearest, f.now), nearest->arc};
    return {circlesAt(f, v, drawn).centre};
}

Result<std::vector<std::pair<int, Curve>>> chainAt(const Figure& f, const FigureView& v,
                                                   const std::vector<Vec2>& drawn) {
    std::vector<std::pair<int, Curve>> left, chain;
    for (Vec2 p : drawn) {
        const int c = curveNear(f, v, p);
        if (c < 0)
            return failure(ErrorCode::impossible,
                           fmt::format("no line at {:.3f}, {:.3f} of the {} view", p.x, p.y, nameOf(v.name)));
        if (std::ranges::none_of(left, [c](const auto& o) { return o.first == c; }))
            left.emplace_back(c, f.curve(c));
    }
    const double tol = 4 * f.tolerances.same_model;
    chain.push_back(left.front());
    left.erase(left.begin());
    while (!left.empty()) {
        bool found = false;
        for (size_t i = 0; i < left.size() && !found; ++i) {
            auto [id, c] = left[i];
            const Vec2 first = startOf(chain.front().second), last = endOf(chain.back().second);
            found = true;
            if (distance(startOf(c), last) <= tol)
                chain.emplace_back(id, c);
            else if (distance(endOf(c), last) <= tol)
                chain.emplace_back(id, reversed(c));
            else if (distance(endOf(c), first) <= tol)
                chain.insert(chain.begin(), {id, c});
            else if (distance(startOf(c), first) <= tol)
                chain.insert(chain.begin(), {id, reversed(c)});
            else
                found = false;
            if (found) left.erase(left.begin() + static_cast<std::ptrdiff_t>(i));
        }
        if (!found) return failure(ErrorCode::impossible, "the picked lines do not follow each other");
    }
    return chain;
}

} // namespace prism::building
