#pragma once
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Ax2.hxx>
#include <vector>

namespace prism::building {

/// A body as it comes about when a face is pushed straight along its normal.
struct StraightTool {
    /// One edge of the face that was pushed, and the wall that it left behind.
    struct Wall {
        TopoDS_Edge edge;
        TopoDS_Face face;
    };
    TopoDS_Face low, high; ///< the ends, along the main direction of the frame
    std::vector<Wall> walls;
    gp_Ax2 frame;
    double from = 0, to = 0; ///< where the ends lie along the main direction, mm
};

/// All ways in which a body can be seen as one pushed straight: a block in three. Each end has one border.
std::vector<StraightTool> straightTools(const TopoDS_Shape& body);

} // namespace prism::building
