#include "core/marking/snaps.h"

#include "core/base/crossings.h"

#include <array>

namespace prism {
namespace {

struct Near {
    int entity;
    const Curve* curve;
};

std::vector<Near> nearCurves(const Drawing& d, const std::vector<bool>& use, Vec2 p, double reach) {
    std::vector<Near> r;
    for (const Entity& e : d.entities) {
        if (!use[e.id]) continue;
        for (const Curve& c : e.curves) {
            Box2 b = boxOf(c).grown(reach);
            if (const auto* a = std::get_if<Arc>(&c)) b.add(Box2{a->centre, a->centre}.grown(reach));
            if (b.contains(p)) r.push_back({e.id, &c});
        }
    }
    return r;
}

/// Keeps the nearest place of the best kind; kinds come in the order in which they win.
class Best {
  public:
    Best(Vec2 p, double reach) : p_(p), reach_(reach) {}
    void offer(Vec2 q, Snap kind, int entity) {
        const double d = distance(p_, q);
        if (d > reach_) return;
        const int rank = rankOf(kind);
        if (best_.kind != Snap::none && (rank > rank_ || (rank == rank_ && d >= distance_))) return;
        best_ = {q, kind, entity}, rank_ = rank, distance_ = d;
    }
    Snapped taken() const { return best_.kind == Snap::none ? Snapped{p_, Snap::none, -1} : best_; }

  private:
    static int rankOf(Snap s) {
        switch (s) {
        case Snap::end:
            return 0;
        case Snap::crossing:
        case Snap::centre:
            return 1;
        case Snap::middle:
        case Snap::tangent:
        case Snap::perpendicular:
            return 2;
        default:
            return 3;
        }
    }
    Vec2 p_;
    double reach_;
    Snapped best_;
    int rank_ = 9;
    double distance_ = 0;
};

/// Places of the circle where lines from outside touch it.
std::array<Vec2, 2> touching(const Arc& a, Vec2 from) {
    const Vec2 d = from - a.centre;
    const double l = length(d), half = std::acos(std::clamp(a.radius / l, -1.0, 1.0)), dir = angleOf(d);
    return {a.centre + direction(dir + half) * a.radius, a.centre + direction(dir - half) * a.radius};
}

void offerFrom(const Near& n, Vec2 from, double tol, Best& best) {
    if (const auto* s = std::get_if<Segment>(n.curve)) {
        const Vec2 u = normalized(s->b - s->a), foot = s->a + u * dot(from - s->a, u);
        if (distanceTo(*n.curve, foot) <= tol) best.offer(foot, Snap::perpendicular, n.entity);
    }
    const auto* a = std::get_if<Arc>(n.curve);
    if (!a || distance(from, a->centre) <= a->radius) return;
    for (Vec2 q : touching(*a, from))
        if (distanceTo(*n.curve, q) <= tol) best.offer(q, Snap::tangent, n.entity);
    const Vec2 foot = a->centre + normalized(from - a->centre) * a->radius;
    if (distanceTo(*n.curve, foot) <= tol) best.offer(foot, Snap::perpendicular, n.entity);
}

} // namespace

const char* nameOf(Snap s) {
    constexpr std::array names{"free",    "end",           "middle",      "centre",    "crossing",
                               "tangent", "perpendicular", "on the line", "on the ink"};
    return names[static_cast<size_t>(s)];
}

Snapped snapNear(const Drawing& d, const std::vector<bool>& use, Vec2 p, double reach,
                 std::optional<Vec2> from) {
    const std::vector<Near> near = nearCurves(d, use, p, reach);
    const double tol = 1e-6 * std::max(1.0, reach);
    Best best(p, reach);
    for (const Near& n : near) {
        const Curve& c = *n.curve;
        if (!isClosed(c, tol))
            best.offer(startOf(c), Snap::end, n.entity), best.offer(endOf(c), Snap::end, n.entity);
        if (!isClosed(c, tol)) best.offer(pointAt(c, 0.5), Snap::middle, n.entity);
        if (const auto* a = std::get_if<Arc>(&c)) best.offer(a->centre, Snap::centre, n.entity);
        if (const auto* e = std::get_if<EllipseArc>(&c)) best.offer(e->centre, Snap::centre, n.entity);
        if (from) offerFrom(n, *from, tol, best);
        best.offer(pointAt(c, nearestParameter(c, p)), Snap::on_line, n.entity);
    }
    constexpr size_t kMostCrossed = 60; // in a thicket a crossing is not what a person means
    for (size_t i = 0; i < near.size() && near.size() <= kMostCrossed; ++i)
        for (size_t j = i + 1; j < near.size(); ++j)
            for (Vec2 x : crossings(*near[i].curve, *near[j].curve, tol))
                best.offer(x, Snap::crossing, near[i].entity);
    return best.taken();
}

} // namespace prism
