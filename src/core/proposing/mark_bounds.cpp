#include "core/proposing/mark_bounds.h"

#include "core/proposing/view_map.h"

#include <limits>

namespace prism {

std::optional<Bound> markAtDepth(const Figure& f, const FigureView& v, double depth, double tol,
                                 const Box2& near) {
    constexpr double kComputed = 1e-3; // a mark that hangs on several others is worth that much less, mm
    std::optional<Bound> best;
    double cost = std::numeric_limits<double>::infinity();
    for (const Mark& m : f.marks) {
        if (m.axis != v.axes.depth || m.view == v.view || std::abs(f.value(m.terms, f.now) - depth) > tol)
            continue;
        const FigureView& o = *f.viewById(m.view);
        if (!o.principal() && !cutsSquare(o)) continue;
        const bool right = o.axes.right == m.axis;
        const bool across = (right ? o.axes.up : o.axes.right) == v.axes.right;
        const double lo = across ? near.lo.x : near.lo.y, hi = across ? near.hi.x : near.hi.y;
        for (double other : m.others) {
            const double away =
                std::max({0.0, lo - other, other - hi}) + (m.terms.size() > 1 ? kComputed : 0);
            if (away >= cost) continue;
            cost = away;
            best = Bound{Bound::Kind::mark, {o.name, right ? Vec2{m.value, other} : Vec2{other, m.value}}, 0};
        }
    }
    return best;
}

} // namespace prism
