#pragma once
#include "core/building/face_names.h"

// Straight cuts that enter a body well inside its plane faces: the faces get another border, and no meeting
// of surfaces has to be computed. The modeller's own way costs the more the more faces there already are.
namespace prism::building {

struct Opened {
    TopoDS_Shape body;
    std::vector<TopoDS_Shape> left; ///< tools that have to be cut in the general way
};

/// Cuts the tools that are straight and touch nothing of a body but plane faces square to them. `tools`:
/// those that lie apart from each other; `size` of the part, mm. Throws what the modeller throws.
Opened opened(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools, double size,
              FaceNames& names);

} // namespace prism::building
