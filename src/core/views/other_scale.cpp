#include "core/views/stages.h"

namespace prism::views {
namespace {

double size(const Box2& b, int axis) {
    return b.hi[axis] - b.lo[axis];
}

/// A view, and what it would be if it were drawn to its symmetry line only, at its low or its high end.
std::vector<Box2> wholes(const Box2& b, int axis) {
    Box2 low = b, high = b;
    (axis == 0 ? low.lo.x : low.lo.y) -= size(b, axis);
    (axis == 0 ? high.hi.x : high.hi.y) += size(b, axis);
    return {b, low, high};
}

} // namespace

std::optional<Box2> boxAtScaleOf(const std::vector<Box2>& others, const Box2& v) {
    constexpr double kSame = 2e-3;
    for (const Box2& beside : others)
        for (const Box2& third : others)
            for (const int axis : {0, 1}) { // that both others share
                if (&beside == &third || alignment(beside, third, axis) < 2) continue;
                const double deep = size(v, axis) / size(third, 1 - axis);
                for (const Box2& whole : wholes(beside, 1 - axis)) {
                    const double shown = size(whole, 1 - axis), across = size(v, 1 - axis) / shown,
                                 off = v.centre()[1 - axis] - whole.centre()[1 - axis];
                    if (std::abs(across - deep) > kSame * across ||
                        std::abs(off) > (std::abs(1 - across) + kSame) * shown)
                        continue;
                    const double middle = v.centre()[axis], half = 0.5 * size(third, 1 - axis);
                    Box2 r = whole;
                    (axis == 0 ? r.lo.x : r.lo.y) = middle - half;
                    (axis == 0 ? r.hi.x : r.hi.y) = middle + half;
                    return r;
                }
            }
    return std::nullopt;
}

bool fitsOtherwise(const std::vector<Box2>& others, const Box2& v) {
    if (boxAtScaleOf(others, v)) return true;
    const Vec2 across{v.height(), v.width()};
    for (const Vec2 lo : {v.lo, v.centre() - 0.5 * across, v.hi - across})
        if (boxAtScaleOf(others, {lo, lo + across})) return true;
    return false;
}

} // namespace prism::views
