#include "core/proofing/cover.h"

namespace prism {
namespace {

void coverSegment(const Segment& s, const Segment& o, double tol, std::vector<Interval>& out) {
    const Vec2 d = s.b - s.a;
    const double l = length(d);
    if (l == 0) return;
    const Vec2 u = d * (1 / l);
    // Only a short way off the line, over the part they share: long lines may fan out beyond it.
    const double ta = dot(o.a - s.a, u), tb = dot(o.b - s.a, u);
    const double lo = std::max(0.0, std::min(ta, tb)), hi = std::min(l, std::max(ta, tb));
    if (hi <= lo || std::abs(tb - ta) < 1e-12) return;
    for (double t : {lo, hi}) {
        const Vec2 on = o.a + (o.b - o.a) * ((t - ta) / (tb - ta));
        if (std::abs(cross(u, on - s.a)) > tol) return;
    }
    out.push_back({lo / l, hi / l});
}

void coverArc(const Arc& s, const Arc& o, double tol, std::vector<Interval>& out) {
    if (distance(s.centre, o.centre) > tol || std::abs(s.radius - o.radius) > tol) return;
    const double sweep = std::abs(s.sweep), turn = s.sweep < 0 ? -1 : 1;
    if (o.full()) return out.push_back({0, 1});
    // The other arc's angles measured from our start, in our direction.
    const double first = o.sweep * turn > 0 ? o.start : o.start + o.sweep;
    const double from = positiveAngle(turn * (first - s.start)), to = from + std::abs(o.sweep);
    for (double shift : {0.0, -2 * kPi})
        if (const double lo = std::max(0.0, from + shift), hi = std::min(sweep, to + shift); hi > lo)
            out.push_back({lo / sweep, hi / sweep});
}

void coverGeneral(const Curve& c, const Curve& o, double tol, std::vector<Interval>& out) {
    const Box2 box = boxOf(o).grown(2 * tol);
    constexpr int n = 200;
    int start = -1;
    for (int i = 0; i <= n + 1; ++i) {
        const bool on = i <= n && box.contains(pointAt(c, static_cast<double>(i) / n)) &&
                        distanceTo(o, pointAt(c, static_cast<double>(i) / n)) <= tol;
        if (on && start < 0) start = i;
        if (!on && start >= 0) {
            if (i - 1 > start)
                out.push_back({static_cast<double>(start) / n, static_cast<double>(i - 1) / n});
            start = -1;
        }
    }
}

} // namespace

std::vector<Interval> uncovered(const Curve& c, const std::vector<const Curve*>& others, double tol) {
    std::vector<Interval> covered;
    bool general = false;
    for (const Curve* o : others) {
        const auto *s = std::get_if<Segment>(&c), *t = std::get_if<Segment>(o);
        const auto *a = std::get_if<Arc>(&c), *b = std::get_if<Arc>(o);
        if (s && t)
            coverSegment(*s, *t, tol, covered);
        else if (a && b)
            coverArc(*a, *b, tol, covered);
        else if (!(s && b) && !(a && t))
            general = true, coverGeneral(c, *o, 2 * tol, covered);
    }
    std::sort(covered.begin(), covered.end(),
              [](const Interval& x, const Interval& y) { return x.from < y.from; });
    const double len = lengthOf(c);
    const double slack = std::max(4 * tol / std::max(len, 1e-12), general ? 0.011 : 0);
    std::vector<Interval> gaps;
    double at = 0;
    for (const Interval& i : covered) {
        if (i.from > at + slack) gaps.push_back({at, i.from});
        at = std::max(at, i.to);
    }
    if (at < 1 - slack) gaps.push_back({at, 1});
    return gaps;
}

} // namespace prism
