#pragma once
#include "core/base/geometry.h"

#include <TopoDS_Shape.hxx>
#include <array>

namespace prism {

/// A solid as triangles and edge chains, for showing and picking. mm.
struct Mesh {
    struct Corner {
        std::array<float, 3> at, normal;
    };
    std::vector<Corner> corners; ///< three a triangle
    std::vector<int> face_of;    ///< by triangle: the face it belongs to, in the modeller's order of faces
    std::vector<std::vector<std::array<float, 3>>> edges;
    bool empty() const { return corners.empty(); }
};

/// The foremost face that a straight line meets, seen along its direction; -1 for none.
int faceAlong(const Mesh& m, Vec3 from, Vec3 direction);

/// Triangulates with a chord error of at most `deflection` mm. Empty for a null shape or when the kernel
/// fails.
Mesh meshOf(const TopoDS_Shape& shape, double deflection);

} // namespace prism
