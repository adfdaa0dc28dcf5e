#include "core/views/traces.h"

#include "core/views/levels.h"
#include "core/views/oblique.h"

#include <fmt/format.h>

namespace prism::views {

Traces::Traces(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, const ViewSet& set,
               std::map<Role, Letters>& wanted)
    : d_(d), s_(s), choices_(choices), set_(set), planes_(cuttingPlanes(d, s, wanted[Role::section])),
      arrows_(viewingArrows(d, s, wanted[Role::auxiliary])) {}

int Traces::viewUnder(Vec2 a, Vec2 b) const {
    int best = -1;
    double longest = 0;
    for (const View& v : set_.views) {
        if (!isPrincipal(v.role)) continue;
        const Box2 box = v.box_sheet.grown(0.02 * v.box_sheet.diagonal());
        constexpr int kSteps = 64;
        int inside = 0;
        for (int i = 0; i <= kSteps; ++i) inside += box.contains(a + (b - a) * (double(i) / kSteps));
        if (inside > longest) longest = inside, best = v.id;
    }
    return best;
}

int Traces::principalNear(Vec2 p) const {
    int best = -1;
    double nearest = std::numeric_limits<double>::infinity();
    for (const View& v : set_.views) {
        if (!isPrincipal(v.role)) continue;
        const Vec2 q{std::clamp(p.x, v.box_sheet.lo.x, v.box_sheet.hi.x),
                     std::clamp(p.y, v.box_sheet.lo.y, v.box_sheet.hi.y)};
        const double away = distance(p, q);
        if (away < nearest && away < v.box_sheet.diagonal()) nearest = away, best = v.id;
    }
    return best;
}

std::optional<Trace> Traces::of(const View& v) const {
    if (const auto h = choices_.hung.find(v.key); h != choices_.hung.end()) return byHand(h->second);
    if (v.role == Role::section) return byPlane(v);
    if (!v.letter.empty())
        if (auto t = byArrow(v)) return t;
    return byEdge(v);
}

std::optional<Trace> Traces::byHand(const HungByHand& h) const {
    const View* on = set_.withKey(h.on);
    if (!on || !isPrincipal(on->role)) return std::nullopt;
    const Affine2 here = s_.to_file.inverse();
    const Vec2 a = here(h.from), b = here(h.to), u = normalized(b - a);
    const Vec2 look = Vec2{-u.y, u.x} * (h.turned ? -1 : 1);
    return Trace{on->id, a, b, look, Hanging::By::hand, "a line drawn by hand", 0, {}};
}

std::optional<Trace> Traces::byPlane(const View& v) const {
    for (const CuttingPlane& p : planes_) {
        const int on = viewUnder(p.from, p.to);
        if (p.letter != v.letter || on < 0) continue;
        const Vec2 u = normalized(p.to - p.from), square{-u.y, u.x};
        // Without arrows: from where the section would lie if it were a view (ISO 5456-2).
        const double side = dot(v.box_sheet.centre() - set_.views[on].box_sheet.centre(), square);
        const Vec2 look = p.look ? *p.look : square * ((side > 0) == third() ? -1.0 : 1.0);
        return Trace{on,
                     p.from,
                     p.to,
                     look,
                     p.drawn ? Hanging::By::cutting_plane : Hanging::By::centre_line,
                     fmt::format("{3} {0}-{0} in the {1} view{2}", p.letter, nameOf(set_.views[on].role),
                                 p.look ? "" : ", which has no arrows: looked at as it is laid out",
                                 !p.drawn         ? "centre line between the letters"
                                 : p.legs.empty() ? "cutting plane"
                                                  : "stepped cutting plane"),
                     0,
                     p.legs,
                     p.look.has_value()};
    }
    return std::nullopt;
}

std::optional<Trace> Traces::byArrow(const View& v) const {
    for (const ViewingArrow& a : arrows_) {
        const int on = principalNear(a.tip);
        if (a.letter != v.letter || on < 0) continue;
        return lineAcross(v, on, a.look, Hanging::By::arrow,
                          fmt::format("arrow {} at the {} view", a.letter, nameOf(set_.views[on].role)));
    }
    return std::nullopt;
}

std::optional<Trace> Traces::byEdge(const View& v) const {
    const auto o = obliqueSource(d_, set_, v);
    if (!o) return std::nullopt;
    const Vec2 square{-o->edge.y, o->edge.x};
    const double side = dot(v.box_sheet.centre() - set_.views[o->on].box_sheet.centre(), square);
    const Vec2 look = square * ((side > 0) == third() ? -1.0 : 1.0);
    return lineAcross(
        v, o->on, look, Hanging::By::edge,
        fmt::format("drawn square to an oblique edge of the {} view", nameOf(set_.views[o->on].role)));
}

/// The fold line of a view seen along `look`: half way between the views, or a little outside the part
/// where the view lies elsewhere.
Trace Traces::lineAcross(const View& v, int on, Vec2 look, Hanging::By by, std::string reason) const {
    const View& source = set_.views[on];
    const Vec2 away = third() ? -look : look, along{-look.y, look.x};
    double edge = -1e300, lo = 1e300, hi = -1e300, begins = 1e300;
    for (const Curve& c : curvesOf(d_, source, {}))
        for (Vec2 p : sampled(c, 1e-3 * source.box_sheet.diagonal())) edge = std::max(edge, dot(p, away));
    for (const Curve& c : curvesOf(d_, v, {}))
        for (Vec2 p : sampled(c, 1e-3 * source.box_sheet.diagonal()))
            begins = std::min(begins, dot(p, away)), lo = std::min(lo, dot(p, along)),
            hi = std::max(hi, dot(p, along));
    double at = begins > edge ? (begins + edge) / 2 : edge + 0.2 * source.box_sheet.diagonal();
    if (const auto g = choices_.fold_gap.find(v.key); g != choices_.fold_gap.end())
        at = edge + g->second / source.mm_per_sheet;
    return {on, along * lo + away * at, along * hi + away * at, look, by, std::move(reason), at - edge, {}};
}

} // namespace prism::views
