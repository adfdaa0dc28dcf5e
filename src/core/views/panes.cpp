#include "core/views/panes.h"

namespace prism {
namespace {

double along(const Vec3& v, Axis a) {
    return a == Axis::x ? v.x : a == Axis::y ? v.y : v.z;
}

} // namespace

PanePlacement::PanePlacement(Role role, Convention convention, const PartBox& part, double margin,
                             double hinge)
    : role_(role), third_(convention == Convention::third), lo_{part.lo.x - margin, part.lo.y - margin,
                                                                part.lo.z - margin},
      hi_{part.hi.x + margin, part.hi.y + margin, part.hi.z + margin} {
    const double turn = std::clamp(hinge, 0.0, 1.0) * kPi / 2;
    // Exact at the ends, so that the folded box has the part's own coordinates to the last digit.
    cos_ = hinge >= 1 ? 0 : std::cos(turn), sin_ = hinge >= 1 ? 1 : std::sin(turn);
    cos2_ = hinge >= 1 ? -1 : std::cos(2 * turn), sin2_ = hinge >= 1 ? 0 : std::sin(2 * turn);
    const ViewAxes a = axesOf(role);
    extent_ = {{along(lo_, a.right), along(lo_, a.up)}, {along(hi_, a.right), along(hi_, a.up)}};
}

Vec3 PanePlacement::operator()(Vec2 p) const {
    const double front = third_ ? lo_.y : hi_.y; // depth of the front pane
    const double in = third_ ? 1 : -1;           // from the front pane towards the part
    switch (role_) {
    case Role::top:
    case Role::bottom: {
        const bool above = (role_ == Role::top) == third_;
        const double s = in * (p.y - front); // distance from the fold line
        return {p.x, front + in * s * sin_, above ? hi_.z + s * cos_ : lo_.z - s * cos_};
    }
    case Role::right:
    case Role::left: {
        const bool right = (role_ == Role::right) == third_;
        const double s = in * (p.x - front);
        return {right ? hi_.x + s * cos_ : lo_.x - s * cos_, front + in * s * sin_, p.y};
    }
    case Role::rear: { // hangs on the pane to the right of the front one
        const double depth = hi_.y - lo_.y, s = hi_.x - p.x;
        return {hi_.x + depth * cos_ + s * cos2_, front + in * (depth * sin_ + s * sin2_), p.y};
    }
    default:
        return {p.x, front, p.y};
    }
}

std::pair<Vec3, Vec3> PanePlacement::foldLine() const {
    const double front = third_ ? lo_.y : hi_.y, back = third_ ? hi_.y : lo_.y;
    const Box2& e = extent_;
    switch (role_) {
    case Role::top:
    case Role::bottom:
        return {(*this)({e.lo.x, front}), (*this)({e.hi.x, front})};
    case Role::right:
    case Role::left:
        return {(*this)({front, e.lo.y}), (*this)({front, e.hi.y})};
    case Role::rear:
        return {(*this)({e.hi.x, e.lo.y}), (*this)({e.hi.x, e.hi.y})};
    default:
        return {(*this)({e.lo.x, back}), (*this)({e.lo.x, back})};
    }
}

} // namespace prism
