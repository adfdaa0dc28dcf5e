#include "core/base/cover.h"

#include "core/base/nearest_place.h"

namespace prism {
namespace {

/// A curve in which two surfaces meet is drawn through places found one by one, and so is the solid's own.
constexpr double kFreeForm = 10;

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

/// Places of a curve where what lies on the other one may change: close by each other, and wherever the other
/// one ends, so that a short gap between two others is not stepped over.
std::vector<double> lookedAt(const Curve& c, const NearestPlace& on_c, const Curve& o) {
    constexpr double kApart = 0.5; // mm
    const int n = static_cast<int>(std::clamp(lengthOf(c) / kApart, 100.0, 2000.0));
    std::vector<double> r;
    for (int i = 0; i <= n; ++i) r.push_back(static_cast<double>(i) / n);
    if (!isClosed(o, 0))
        for (Vec2 p : {startOf(o), endOf(o)}) r.push_back(on_c(p));
    std::sort(r.begin(), r.end());
    return r;
}

void coverGeneral(const Curve& c, const NearestPlace& on_c, const Curve& o, double tol, double at_ends,
                  std::vector<Interval>& out) {
    const Box2 box =
        boxOf(o).grown(tol + 0.02 * boxOf(o).diagonal()); // a spline's box is found from places on it
    if (!box.overlaps(boxOf(c).grown(0.02 * boxOf(c).diagonal()))) return;
    const bool closed = isClosed(o, 0);
    const NearestPlace on_o(o);
    auto on = [&](double t) {
        const Vec2 p = pointAt(c, t);
        if (!box.contains(p) || on_o.farther(p, tol)) return false;
        const double nearest = on_o(p), away = distance(pointAt(o, nearest), p);
        // Past its end it covers nothing, however wide the tolerance beside it is.
        const bool past = !closed && (nearest <= 1e-9 || nearest >= 1 - 1e-9);
        return away <= (past ? std::min(tol, at_ends) : tol);
    };
    // Where the curve comes onto the other one, between a place off it and one on it.
    auto border = [&](double off, double in) {
        for (int i = 0; i < 24; ++i) (on(0.5 * (off + in)) ? in : off) = 0.5 * (off + in);
        return in;
    };
    const std::vector<double> at = lookedAt(c, on_c, o);
    bool before = on(at.front());
    for (size_t i = 1; i < at.size(); ++i) {
        const bool here = on(at[i]);
        if (!before && !here) continue;
        const double mid = 0.5 * (at[i - 1] + at[i]);
        if (on(mid)) {
            out.push_back({before ? at[i - 1] : border(at[i - 1], mid), here ? at[i] : border(at[i], mid)});
        } else {
            if (before) out.push_back({at[i - 1], border(mid, at[i - 1])});
            if (here) out.push_back({border(mid, at[i]), at[i]});
        }
        before = here;
    }
}

} // namespace

std::vector<Interval> uncovered(const Curve& c, const std::vector<const Curve*>& others, double tol) {
    const NearestPlace on_c(c);
    std::vector<Interval> covered;
    for (const Curve* o : others) {
        const auto *s = std::get_if<Segment>(&c), *t = std::get_if<Segment>(o);
        const auto *a = std::get_if<Arc>(&c), *b = std::get_if<Arc>(o);
        if (s && t)
            coverSegment(*s, *t, tol, covered);
        else if (a && b)
            coverArc(*a, *b, tol, covered);
        else if (std::holds_alternative<Spline>(c) || std::holds_alternative<Spline>(*o))
            coverGeneral(c, on_c, *o, kFreeForm * tol, 2 * tol, covered);
        else if (!(s && b) && !(a && t))
            coverGeneral(c, on_c, *o, 2 * tol, 2 * tol, covered);
    }
    std::sort(covered.begin(), covered.end(),
              [](const Interval& x, const Interval& y) { return x.from < y.from; });
    std::vector<Interval> gaps;
    double at = 0;
    auto gap = [&](double from, double to) { // told when it is longer than the tolerance, in mm
        if (to > from && lengthOf(part(c, from, to)) > 4 * tol) gaps.push_back({from, to});
    };
    for (const Interval& i : covered) {
        gap(at, i.from);
        at = std::max(at, i.to);
    }
    gap(at, 1);
    return gaps;
}

} // namespace prism
