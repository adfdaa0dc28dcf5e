#pragma once
#include "core/building/solid.h"
#include "core/building/to_kernel.h"

#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <set>

// From a view's plane to the modeller: what bodies are swept from.
namespace prism::building {

/// Takes plane coordinates of a view to space, onto the plane at a given depth: the distance from the origin
/// along the direction in which the view looks, or against it, where its depth axis counts against that.
struct Plane {
    ViewFrame frame;
    double depth = 0;
    Vec3 deep; ///< unit, the way in which depths count
    /// From where the angles of all arcs count, radians, so that walls of one axis are run through alike;
    /// else each arc's count from its start.
    std::optional<double> arcs_from;

    Plane(const Figure& f, const FigureView& v, double at = 0);
    Vec3 place(Vec2 p) const { return frame.inSpace(p, 0) + depth * deep; }
    gp_Pnt point(Vec2 p) const { return gp_Pnt(packed(place(p))); }
    /// Where arcs are to count from on bodies pushed along a model axis: as on those turned round it in the
    /// view that is mostly taken for that, from Z, and from X about Z.
    double commonOrigin() const;
    gp_Dir dir(Vec2 d) const { return gp_Dir(packed(d.x * frame.right + d.y * frame.up)); }
    /// Right-handed with right and up, so that angles of the plane stay angles.
    gp_Dir normal() const { return gp_Dir(packed(cross(frame.right, frame.up))); }
};

/// An edge of the border of a face, and the curve of the figure that it runs along; -1 for none.
struct BorderEdge {
    TopoDS_Shape edge;
    int curve;
};

struct PlaneFace {
    TopoDS_Face face;
    Box2 box; ///< coordinates of the view
    std::vector<BorderEdge> border;
};

/// Faces of the union of areas; each outer loop takes the holes inside it. Curves that are to be `sharp`, by
/// figure curve, give way to the corner of the lines beside them, or to the line that both are.
/// Throws KernelError.
std::vector<PlaneFace> facesOf(const std::vector<ClosedArea>& areas, const Plane& plane,
                               const std::set<int>& sharp = {});
/// The face inside one border. Throws KernelError.
PlaneFace faceOf(const Loop& loop, const Plane& plane);
TopoDS_Edge edgeOf(const Curve& c, const Plane& plane, const TopoDS_Vertex& from, const TopoDS_Vertex& to);

/// All that lies beyond a plane on the side of `out`, as a block that is wider and deeper than any part of
/// `size` mm. `along` lies in the plane; both are unit. Its first face is the plane.
BRepPrimAPI_MakePrism beyondPlane(Vec3 at, Vec3 along, Vec3 out, double size);

/// One shape of several: a compound unless there is just one.
TopoDS_Shape together(const std::vector<TopoDS_Shape>& bodies);
TopoDS_Vertex middleOf(const TopoDS_Shape& edge);

/// Names the faces of a body by the edges of the face that it was swept from. Of plane faces of turned bodies
/// the sweep does not tell its edges: they lie in them.
template <class Sweep>
void nameFaces(Sweep& sweep, const std::vector<BorderEdge>& border, int step, bool ends, FaceNames& names) {
    using Part = FaceName::Part;
    for (const BorderEdge& b : border)
        for (const TopoDS_Shape& face : sweep.Generated(b.edge)) names.add(face, {step, Part::side, b.curve});
    if (ends) {
        names.add(sweep.FirstShape(), {step, Part::low_end, -1});
        names.add(sweep.LastShape(), {step, Part::high_end, -1});
    }
    for (TopExp_Explorer x(sweep.Shape(), TopAbs_FACE); x.More(); x.Next()) {
        if (!names.of(x.Current()).empty()) continue;
        for (const BorderEdge& b : border)
            if (BRepExtrema_DistShapeShape(middleOf(b.edge), x.Current()).Value() < 1e-6)
                names.add(x.Current(), {step, Part::side, b.curve});
    }
}

} // namespace prism::building
