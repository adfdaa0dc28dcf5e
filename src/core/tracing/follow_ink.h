#pragma once
#include "core/base/curve.h"
#include "core/drawing/picture.h"

// What a hand that draws over a scan is helped with.
namespace prism {

/// The middle of the ink near a place of the sheet, to a fraction of a pixel; none when there is no line
/// within reach (sheet units).
std::optional<Vec2> inkNear(const Picture& picture, Vec2 at, double reach);

/// A line, arc or circle drawn by hand, moved onto the ink that it follows; as it was where it follows none.
Curve alongInk(const Picture& picture, const Curve& drawn);

} // namespace prism
