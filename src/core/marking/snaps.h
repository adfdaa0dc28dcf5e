#pragma once
#include "core/drawing/drawing.h"

namespace prism {

enum class Snap { none, end, middle, centre, crossing, tangent, perpendicular, on_line, ink };
const char* nameOf(Snap s);

struct Snapped {
    Vec2 at;
    Snap kind = Snap::none;
    int entity = -1;
};

/// The place a person means when pointing at p: within `reach`, an end before a crossing, a centre or a
/// middle, a foot or touching point as seen from `from`, then the nearest place of a line; else p itself.
/// Lines whose flag in `use` is off are not seen.
Snapped snapNear(const Drawing& d, const std::vector<bool>& use, Vec2 p, double reach,
                 std::optional<Vec2> from = std::nullopt);

} // namespace prism
