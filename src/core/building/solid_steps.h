#pragma once
#include "core/building/solid.h"

// Steps that change the solid itself. They may throw what the modeller throws.
namespace prism::building {

/// The solid with edges rounded or cut off. Says which edge has no room, and how large its size may be.
Result<TopoDS_Shape> edged(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid,
                           const std::vector<int>& of_step, FaceNames& names);
/// The solid hollowed out, or the coat round it.
Result<TopoDS_Shape> shelled(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid,
                             FaceNames& names);

} // namespace prism::building
