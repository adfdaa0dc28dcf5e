#include "core/base/curve_ends.h"

#include "core/base/circle_fit.h"

namespace prism {

Curve prolonged(const Curve& c, int side, double by) {
    if (const auto* s = std::get_if<Segment>(&c)) {
        const Vec2 d = normalized(s->b - s->a) * by;
        return side == 0 ? Segment{s->a - d, s->b} : Segment{s->a, s->b + d};
    }
    if (const auto* a = std::get_if<Arc>(&c)) {
        const double room = 2 * kPi - std::abs(a->sweep), more = std::min(by / a->radius, 0.49 * room);
        const double sign = a->sweep > 0 ? 1 : -1;
        Arc r = *a;
        r.sweep += sign * more;
        if (side == 0) r.start -= sign * more;
        return r;
    }
    return c;
}

Curve endedAt(const Curve& c, int side, Vec2 p) {
    if (const auto* s = std::get_if<Segment>(&c)) return side == 0 ? Segment{p, s->b} : Segment{s->a, p};
    if (const auto* a = std::get_if<Arc>(&c)) {
        const double sign = a->sweep > 0 ? 1 : -1;
        const double end = side == 0 ? a->start : a->start + a->sweep;
        double turn = angleOf(p - a->centre) - end; // from the old end, the short way round
        turn -= 2 * kPi * std::round(turn / (2 * kPi));
        Arc r = *a;
        if (side == 0)
            r.start += turn, r.sweep -= turn;
        else
            r.sweep += turn;
        return r.sweep * sign > 0 ? r : *a;
    }
    const double t = nearestParameter(c, p);
    if (t <= 1e-9 || t >= 1 - 1e-9) return c; // where it ends already, or nothing would be left of it
    return side == 0 ? part(c, t, 1) : part(c, 0, t);
}

bool wavers(const std::vector<Curve>& chain) {
    if (chain.size() == 1) return std::holds_alternative<Spline>(chain[0]);
    bool left = false, right = false;
    for (size_t i = 0; i < chain.size(); ++i) {
        if (const auto* a = std::get_if<Arc>(&chain[i])) (a->sweep > 0 ? left : right) = true;
        if (i + 1 == chain.size()) break;
        const double turn = cross(tangentAt(chain[i], 1), tangentAt(chain[i + 1], 0));
        if (std::abs(turn) > 0.1) (turn > 0 ? left : right) = true;
    }
    return left && right;
}

bool drawnByHand(const std::vector<Curve>& chain) {
    double straight = 0, all = 0;
    for (const Curve& c : chain) {
        const Vec2 t = tangentAt(c, 0.5);
        all += lengthOf(c);
        if (std::holds_alternative<Segment>(c) && std::min(std::abs(t.x), std::abs(t.y)) < 1e-6)
            straight += lengthOf(c);
    }
    return wavers(chain) && straight < 0.5 * all;
}

std::optional<Vec2> carrierCrossing(const Segment& a, const Segment& b) {
    const Vec2 d = a.b - a.a, e = b.b - b.a;
    const double across = cross(d, e);
    if (std::abs(across) <= 1e-9 * length(d) * length(e)) return std::nullopt;
    return a.a + d * (cross(b.a - a.a, e) / across);
}

Result<Arc> arcThrough(Vec2 a, Vec2 b, Vec2 c) {
    const auto circle = fitCircle({a, b, c});
    if (!circle) return failure(ErrorCode::impossible, "the three places lie on a line");
    const double from = angleOf(a - circle->centre), left = positiveAngle(angleOf(c - circle->centre) - from);
    const bool counterClockwise = positiveAngle(angleOf(b - circle->centre) - from) < left;
    return Arc{circle->centre, circle->radius, from, counterClockwise ? left : left - 2 * kPi};
}

} // namespace prism
