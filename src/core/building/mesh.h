#pragma once
#include "core/building/solid_parts.h"

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
    std::vector<int> edge_of;                 ///< by chain: number of the edge
    std::vector<std::pair<Vec3, int>> points; ///< corners of the solid, with their numbers
    bool empty() const { return corners.empty(); }
};

/// What of the solid a straight line meets first, seen along its direction (unit): a corner or else an edge
/// that lies within `reach` mm of it and behind no face, or else the foremost face; none beside the solid.
std::optional<SolidPart> partAlong(const Mesh& m, Vec3 from, Vec3 direction, double reach);

/// Triangulates with a chord error of at most `deflection` mm. Empty for a null shape or when the kernel
/// fails.
Mesh meshOf(const TopoDS_Shape& shape, double deflection);

} // namespace prism
