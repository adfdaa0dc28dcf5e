#include "core/views/view_plane.h"

namespace prism {
namespace {

constexpr double kSquare = 1e-9; ///< sine of the angle below which a direction is that of an axis

int signOf(double x) {
    return x < 0 ? -1 : 1;
}

/// A view parallel to a principal plane, put as a principal view is: its coordinates count as the axes do,
/// and the first is the one that runs across the paper.
ViewPlane squareOne(const Hanging& h, const ViewAxes& on, Vec3 look) {
    const Vec2 along = h.along();
    const bool along_right = std::abs(along.x) > std::abs(along.y);
    const Axis line = along_right ? on.right : on.up;
    const double sign = signOf(along_right ? along.x : along.y);
    const Affine2 counted = Affine2::scale(sign, 1) * h.own; // (along the line as its axis counts, depth)
    const Vec2 across = counted.linear({1, 0}), upwards = counted.linear({0, 1});
    ViewPlane p;
    p.look = look;
    if (std::abs(across.x) > std::abs(across.y)) {
        p.to_model = counted;
        p.axes = {line, on.depth, signOf(across.x), signOf(upwards.y), along_right ? on.up : on.right};
    } else {
        p.to_model = Affine2{0, 1, 1, 0, 0, 0} * counted;
        p.axes = {on.depth, line, signOf(across.y), signOf(upwards.x), along_right ? on.up : on.right};
    }
    p.right = unitOf(p.axes.right), p.up = unitOf(p.axes.up);
    return p;
}

} // namespace

std::optional<ViewPlane> planeOf(const ViewSet& set, const View& v) {
    if (v.in_figure) {
        const ViewAxes a = axesOf(v.role);
        return ViewPlane{a, unitOf(a.right), unitOf(a.up), lookOf(v.role), v.toModel(), true};
    }
    if (!v.hanging) return std::nullopt;
    const Hanging& h = *v.hanging;
    const View& source = set.views[h.on];
    if (!source.in_figure) return std::nullopt;
    const ViewAxes on = axesOf(source.role);
    if (h.flat()) return ViewPlane{on, unitOf(on.right), unitOf(on.up), lookOf(source.role), h.own, true};
    const auto in_space = [&](Vec2 d) { return d.x * unitOf(on.right) + d.y * unitOf(on.up); };
    const Vec2 along = h.along();
    if (std::min(std::abs(along.x), std::abs(along.y)) <= kSquare) return squareOne(h, on, in_space(h.look));
    ViewPlane p;
    p.axes = {static_cast<Axis>(kModelAxes + v.id), on.depth, 1, 1, on.depth};
    p.right = in_space(along), p.up = unitOf(on.depth), p.look = in_space(h.look);
    p.to_model = h.own, p.square = false;
    return p;
}

} // namespace prism
