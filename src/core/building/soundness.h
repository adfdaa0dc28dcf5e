#pragma once
#include <TopoDS_Shape.hxx>

namespace prism {

/// Whether the kernel finds a solid sound: edges on their surfaces, closed wires that do not cross, faces
/// turned the right way. The wires of plane faces that have many are checked here instead (each within the
/// outer one, apart from each other, turned the other way): the kernel holds every wire against every other.
bool isSound(const TopoDS_Shape& shape);

} // namespace prism
