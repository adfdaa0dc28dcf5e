#include "core/marking/reshape.h"

#include "core/base/circle_fit.h"
#include "core/base/crossings.h"

namespace prism {
namespace {

std::vector<double> cutsOf(const Curve& c, const std::vector<Curve>& others, double tol) {
    std::vector<double> cuts;
    for (const Curve& o : others) {
        for (Vec2 x : crossings(c, o, tol)) cuts.push_back(nearestParameter(c, x));
        if (isClosed(o, tol)) continue;
        for (Vec2 e : {startOf(o), endOf(o)})
            if (distanceTo(c, e) <= tol) cuts.push_back(nearestParameter(c, e));
    }
    std::sort(cuts.begin(), cuts.end());
    const double same = tol / std::max(lengthOf(c), tol);
    cuts.erase(std::unique(cuts.begin(), cuts.end(), [&](double a, double b) { return b - a <= same; }),
               cuts.end());
    return cuts;
}

Result<std::vector<Curve>> trimmedClosed(const Curve& c, const std::vector<double>& cuts, double t) {
    if (cuts.size() < 2)
        return failure(ErrorCode::impossible, "a closed line is trimmed between two lines that cross it");
    double from = cuts.back(), to = cuts.front(); // the gap that runs over the seam
    for (size_t i = 0; i + 1 < cuts.size(); ++i)
        if (cuts[i] <= t && t <= cuts[i + 1]) from = cuts[i], to = cuts[i + 1];
    if (const auto* a = std::get_if<Arc>(&c)) {
        const double start = a->start + a->sweep * to, kept = from > to ? from - to : 1 - (to - from);
        return std::vector<Curve>{Arc{a->centre, a->radius, start, a->sweep * kept}};
    }
    if (from > to) return std::vector<Curve>{part(c, to, from)};
    std::vector<Curve> r;
    if (from > 0) r.push_back(part(c, 0, from));
    if (to < 1) r.push_back(part(c, to, 1));
    return r;
}

/// Where the prolongation of a curve beyond one end first meets another.
std::optional<Vec2> ahead(const Curve& c, bool atEnd, const std::vector<Curve>& others, double tol) {
    const Vec2 end = atEnd ? endOf(c) : startOf(c);
    std::optional<Vec2> best;
    double nearest = std::numeric_limits<double>::infinity();
    auto offer = [&](Vec2 x, double along) {
        if (along > tol && along < nearest) nearest = along, best = x;
    };
    if (const auto* s = std::get_if<Segment>(&c)) {
        Box2 all;
        for (const Curve& o : others) all.add(boxOf(o));
        if (!all.valid()) return std::nullopt;
        all.add(end);
        const Vec2 u = normalized(s->b - s->a) * (atEnd ? 1 : -1);
        const Segment ray{end, end + u * (all.diagonal() + 1)};
        for (const Curve& o : others)
            for (Vec2 x : crossings(ray, o, tol)) offer(x, dot(x - end, u));
    } else if (const auto* a = std::get_if<Arc>(&c)) {
        const Arc circle{a->centre, a->radius, 0, 2 * kPi};
        const double from = angleOf(end - a->centre), sign = (a->sweep > 0) == atEnd ? 1 : -1;
        for (const Curve& o : others)
            for (Vec2 x : crossings(circle, o, tol))
                offer(x, positiveAngle(sign * (angleOf(x - a->centre) - from)) * a->radius);
    }
    return best;
}

} // namespace

Result<std::vector<Curve>> trimmed(const Curve& c, const std::vector<Curve>& others, Vec2 at, double tol) {
    const std::vector<double> cuts = cutsOf(c, others, tol);
    const double t = nearestParameter(c, at), same = tol / std::max(lengthOf(c), tol);
    if (isClosed(c, tol)) return trimmedClosed(c, cuts, t);
    double from = 0, to = 1;
    for (double x : cuts)
        if (x <= t)
            from = x;
        else {
            to = x;
            break;
        }
    std::vector<Curve> r;
    if (from > same) r.push_back(part(c, 0, from));
    if (to < 1 - same) r.push_back(part(c, to, 1));
    return r;
}

Result<Curve> extended(const Curve& c, const std::vector<Curve>& others, Vec2 at, double tol) {
    const bool atEnd = distance(at, endOf(c)) < distance(at, startOf(c));
    const auto x = ahead(c, atEnd, others, tol);
    if (!x) return failure(ErrorCode::impossible, "no line lies ahead to extend to");
    if (const auto* s = std::get_if<Segment>(&c)) return Curve(atEnd ? Segment{s->a, *x} : Segment{*x, s->b});
    const Arc& a = std::get<Arc>(c);
    const double sign = a.sweep > 0 ? 1 : -1;
    const double from = atEnd ? a.start : a.start + a.sweep, way = atEnd ? sign : -sign;
    const double sweep = positiveAngle(way * (angleOf(*x - a.centre) - from));
    return Curve(atEnd ? Arc{a.centre, a.radius, a.start, sign * sweep}
                       : Arc{a.centre, a.radius, from + way * sweep, sign * sweep});
}

Result<std::pair<Segment, Segment>> cornered(const Segment& a, Vec2 at_a, const Segment& b, Vec2 at_b) {
    const auto crossing = carrierCrossing(a, b);
    if (!crossing) return failure(ErrorCode::impossible, "the two lines are parallel");
    const Vec2 x = *crossing;
    auto kept = [&](const Segment& s, Vec2 at) { // the end on the picked side stays
        return dot(at - x, s.b - x) > 0 && (dot(at - x, s.a - x) <= 0 || distance(s.b, x) >= distance(s.a, x))
                   ? Segment{x, s.b}
                   : Segment{s.a, x};
    };
    return std::pair{kept(a, at_a), kept(b, at_b)};
}

Result<Curve> offsetBy(const Curve& c, double by, Vec2 towards) {
    if (const auto* s = std::get_if<Segment>(&c)) {
        const Vec2 u = normalized(s->b - s->a), n{-u.y, u.x};
        const Vec2 shift = n * (dot(towards - s->a, n) >= 0 ? by : -by);
        return Curve(Segment{s->a + shift, s->b + shift});
    }
    if (const auto* a = std::get_if<Arc>(&c)) {
        Arc r = *a;
        r.radius += distance(towards, a->centre) >= a->radius ? by : -by;
        if (r.radius <= 0) return failure(ErrorCode::impossible, "the radius would not be greater than zero");
        return Curve(r);
    }
    return failure(ErrorCode::impossible, "only lines, arcs and circles can be offset");
}

} // namespace prism
