#pragma once
#include "core/base/result.h"
#include "core/marking/mark_up.h"

// Dimensions put together from the places that a person picks, in coordinates of the sheet as it lies before
// the person.
namespace prism {

/// The distance of two places: between them (aligned), or level or upright, by where its line is put: level
/// above or below both places, upright beside them.
AddedDimension distanceDimension(Vec2 a, Vec2 b, Vec2 line_at, bool aligned);
/// The angle at a vertex between two sides, its arc through `arc_at`.
AddedDimension angleDimension(Vec2 vertex, Vec2 on_first, Vec2 on_second, Vec2 arc_at);
/// Radius or diameter of an arc or circle, its number at `text_at`. Impossible for any other curve.
Result<AddedDimension> roundDimension(const Curve& c, Vec2 text_at, bool diameter);

/// The same dimension elsewhere, as on a sheet that lies turned in its file.
AddedDimension transformed(AddedDimension d, const Affine2& m);

} // namespace prism
