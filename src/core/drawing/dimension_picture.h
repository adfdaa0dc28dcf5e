#pragma once
#include "core/drawing/drawing.h"

#include <array>

namespace prism {

/// The strokes of one dimension: dimension line, extension lines, leader, arrowheads and where the text
/// stands (ISO 129-1). Sheet coordinates.
struct DimensionPicture {
    std::vector<Curve> lines;
    std::vector<std::array<Vec2, 3>> arrows; ///< tip first, filled
    Vec2 text_at;                            ///< middle of the text
    double rotation = 0;                     ///< radians, readable from below or from the right
    double height = 2.5;
    std::string text;
};

/// Lays a dimension out anew from its definition points.
DimensionPicture pictureOf(const Dimension& d);

} // namespace prism
