#include "core/proposing/lying_holes.h"

namespace prism {
namespace {

/// Two lines of a view along an axis, of one length and beside each other.
struct Pair {
    double middle, radius, lo, hi;
};

std::vector<Pair> pairsAlong(const ViewMap& m, Axis axis, double tol) {
    struct Line {
        double at, lo, hi;
    };
    const int along = m.view().axes.right == axis ? 0 : 1;
    std::vector<Line> lines;
    for (const auto& [role, curve] : m.curves()) {
        const auto* s = std::get_if<Segment>(&curve);
        if (!s || role != LineRole::hidden || std::abs(s->a[1 - along] - s->b[1 - along]) > tol) continue;
        const auto [lo, hi] = std::minmax({s->a[along], s->b[along]});
        lines.push_back({s->a[1 - along], lo, hi});
    }
    std::vector<Pair> r;
    for (size_t i = 0; i < lines.size(); ++i)
        for (size_t k = i + 1; k < lines.size(); ++k) {
            const Line &a = lines[i], &b = lines[k];
            if (std::abs(a.lo - b.lo) <= tol && std::abs(a.hi - b.hi) <= tol && std::abs(a.at - b.at) > tol)
                r.push_back({0.5 * (a.at + b.at), 0.5 * std::abs(a.at - b.at), a.lo, a.hi});
        }
    return r;
}

/// Whether two pairs may be the walls of one hole that comes out of something round.
bool oneRound(const Pair& a, const Pair& b, double tol) {
    return std::abs(a.radius - b.radius) <= tol && std::min(a.hi, b.hi) > std::max(a.lo, b.lo) &&
           (std::abs(a.lo - b.lo) > tol || std::abs(a.hi - b.hi) > tol);
}

/// The axes along one model axis that two views show.
void pairUp(const ViewMap& m, const ViewMap& o, Axis axis, double tol, std::vector<LyingAxis>& found) {
    const FigureView& v = m.view();
    const bool upright = v.axes.up == axis;
    const auto own = pairsAlong(m, axis, tol), others = pairsAlong(o, axis, tol);
    const auto same = [&](double a, double b) { return std::abs(a - b) <= tol; };
    const auto severalFor = [&](const Pair& p, const std::vector<Pair>& among) {
        std::optional<double> middle;
        for (const Pair& q : among) {
            if (!oneRound(p, q, tol)) continue;
            if (middle && !same(*middle, q.middle)) return true;
            middle = q.middle;
        }
        return false;
    };
    for (const Pair& p : own)
        for (const Pair& q : others) {
            if (!oneRound(p, q, tol) || severalFor(p, others) || severalFor(q, own)) continue;
            LyingAxis a{building::viewAlong(axis), {}, {p.radius}, v.name, o.view().name, {}};
            const bool right = a.across.axes.right == (upright ? v.axes.right : v.axes.up);
            a.centre = right ? Vec2{p.middle, q.middle} : Vec2{q.middle, p.middle};
            const double between = 0.5 * (p.lo + p.hi);
            a.on_axis = upright ? Vec2{p.middle, between} : Vec2{between, p.middle};
            const auto known = std::ranges::find_if(found, [&](const LyingAxis& k) {
                return k.across.axes.depth == axis && distance(k.centre, a.centre) <= tol;
            });
            if (known == found.end())
                found.push_back(std::move(a));
            else if (std::ranges::none_of(known->radii, [&](double r) { return same(r, p.radius); }))
                known->radii.push_back(p.radius);
        }
}

} // namespace

void LyingAxis::layDown(Step& s) const {
    s.places = {on_axis};
    s.view = view;
    // The other view shows where the axis stands in the depth of the first.
    const Axis axis = across.axes.depth;
    const ViewAxes first = axesOf(view.role), second = axesOf(other.role);
    s.axis_upright = first.up == axis;
    const double deep = across.axes.right == first.depth ? centre.x : centre.y,
                 between = s.axis_upright ? on_axis.y : on_axis.x;
    s.axis = {other, second.right == first.depth ? Vec2{deep, between} : Vec2{between, deep}};
}

std::vector<LyingAxis> lyingAxes(const Figure& f, const std::vector<ViewMap>& maps) {
    const double tol = 2 * f.tolerances.proof;
    std::vector<LyingAxis> r;
    for (const Axis axis : {Axis::x, Axis::y, Axis::z}) {
        const auto whole = [&](const ViewMap& m) { return m.view().principal() && !m.cut(); };
        if (std::ranges::any_of(maps,
                                [&](const ViewMap& m) { return whole(m) && m.view().axes.depth == axis; }))
            continue;
        for (size_t i = 0; i < maps.size(); ++i)
            for (size_t k = i + 1; k < maps.size(); ++k)
                if (whole(maps[i]) && whole(maps[k]) &&
                    maps[i].view().axes.depth != maps[k].view().axes.depth)
                    pairUp(maps[i], maps[k], axis, tol, r);
    }
    return r;
}

} // namespace prism
