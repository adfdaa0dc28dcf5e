#include "core/building/kernel.h"
#include "core/building/to_kernel.h"
#include "core/proofing/proof.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepBndLib.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <Bnd_Box.hxx>
#include <ElSLib.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>

// The solid as a section shows it.
namespace prism {
namespace {

/// Where a section's plane stands along the way in which it looks.
double depthOf(const Figure& f, const FigureView& v) {
    const double at = cutAt(f, v);
    return v.square ? at * dot(unitOf(v.axes.depth), v.look) : at;
}

} // namespace

Result<ShownSolid> shownBy(const Figure& f, const FigureView& v, const TopoDS_Shape& shape) {
    if (v.shows != Shows::cut) return ShownSolid{shape, {}};
    return guarded<ShownSolid>([&] {
        const ViewFrame frame = frameOf(f, v, f.now);
        const double depth = depthOf(f, v);
        Bnd_Box box;
        BRepBndLib::Add(shape, box);
        const double far = 4 * std::sqrt(box.SquareExtent()) + std::abs(depth) + 1;
        // A block that begins at the plane and holds all that lies behind it.
        const Vec3 corner = depth * frame.look - far * frame.right - far * frame.up;
        const bool handed = dot(cross(frame.right, frame.up), frame.look) > 0;
        const gp_Ax2 axes(gp_Pnt(packed(handed ? corner : corner + 2 * far * frame.right)),
                          gp_Dir(packed(frame.look)), gp_Dir(packed(handed ? frame.right : -frame.right)));
        const TopoDS_Shape behind = BRepPrimAPI_MakeBox(axes, 2 * far, 2 * far, 2 * far).Shape();
        BRepAlgoAPI_Common common(shape, behind);
        if (!common.IsDone()) throw KernelError("the solid could not be cut along the plane of the section");
        ShownSolid r{common.Shape(), {}};
        const double tol = f.tolerances.proof;
        for (TopExp_Explorer x(r.shape, TopAbs_FACE); x.More(); x.Next()) {
            const BRepAdaptor_Surface s(TopoDS::Face(x.Current()));
            if (s.GetType() != GeomAbs_Plane) continue;
            const gp_Pln p = s.Plane();
            const bool square =
                std::abs(std::abs(p.Axis().Direction().XYZ() * packed(frame.look)) - 1) < 1e-9;
            const bool there = std::abs(p.Location().XYZ() * packed(frame.look) - depth) < tol;
            if (square && there) r.cut.push_back(x.Current());
        }
        return r;
    });
}

bool inCut(const Figure& f, const FigureView& v, const ShownSolid& shown, Vec2 place) {
    const Vec3 at = frameOf(f, v, f.now).inSpace(place, depthOf(f, v));
    for (const TopoDS_Shape& s : shown.cut) {
        const TopoDS_Face face = TopoDS::Face(s);
        const gp_Pln plane = BRepAdaptor_Surface(face).Plane();
        double a = 0, b = 0;
        ElSLib::Parameters(plane, gp_Pnt(packed(at)), a, b);
        BRepTopAdaptor_FClass2d in(face, f.tolerances.proof);
        if (in.Perform(gp_Pnt2d(a, b)) == TopAbs_IN) return true;
    }
    return false;
}

} // namespace prism
