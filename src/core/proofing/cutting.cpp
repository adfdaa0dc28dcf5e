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
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>

// The solid as a section shows it.
namespace prism {
namespace {

/// All that lies behind one part of the plane of a section, as far as `far`.
TopoDS_Shape behind(const Cut::Part& part, Vec3 along, Vec3 look, double far) {
    const double from = std::max(part.from, -far), to = std::min(part.to, far);
    const Vec3 across = cross(look, along);
    const Vec3 corner = part.depth * look + from * along - far * across;
    const gp_Ax2 axes(gp_Pnt(packed(corner)), gp_Dir(packed(look)), gp_Dir(packed(along)));
    return BRepPrimAPI_MakeBox(axes, to - from, 2 * far, 2 * far).Shape();
}

/// Whether the plane of a section cut this face into the solid.
bool isCutFace(const TopoDS_Face& face, const Cut& cut, Vec3 look, double tol) {
    const BRepAdaptor_Surface s(face);
    if (s.GetType() != GeomAbs_Plane) return false;
    const gp_Pln p = s.Plane();
    if (std::abs(std::abs(p.Axis().Direction().XYZ() * packed(look)) - 1) > 1e-9) return false;
    const double depth = p.Location().XYZ() * packed(look);
    const gp_Pnt middle = s.Value(0.5 * (s.FirstUParameter() + s.LastUParameter()),
                                  0.5 * (s.FirstVParameter() + s.LastVParameter()));
    return std::abs(depth - cut.at(middle.XYZ() * packed(cut.along)).depth) < tol;
}

} // namespace

Result<ShownSolid> shownBehind(const Cut& cut, Vec3 look, const TopoDS_Shape& shape, double tolerance) {
    return guarded<ShownSolid>([&] {
        Bnd_Box box;
        BRepBndLib::Add(shape, box);
        double deepest = 0;
        for (const Cut::Part& p : cut.parts) deepest = std::max(deepest, std::abs(p.depth));
        const double far = 4 * std::sqrt(box.SquareExtent()) + deepest + 1;
        TopTools_ListOfShape solid, tools;
        solid.Append(shape);
        for (const Cut::Part& p : cut.parts) tools.Append(behind(p, cut.along, look, far));
        BRepAlgoAPI_Common common;
        common.SetArguments(solid), common.SetTools(tools);
        common.Build();
        if (!common.IsDone()) throw KernelError("the solid could not be cut along the plane of the section");
        ShownSolid r{common.Shape(), {}};
        for (TopExp_Explorer x(r.shape, TopAbs_FACE); x.More(); x.Next())
            if (isCutFace(TopoDS::Face(x.Current()), cut, look, tolerance)) r.cut.push_back(x.Current());
        return r;
    });
}

Result<ShownSolid> shownBy(const Figure& f, const FigureView& v, const TopoDS_Shape& shape) {
    if (v.shows != Shows::cut) return ShownSolid{shape, {}};
    return shownBehind(cutOf(f, v), frameOf(f, v, f.now).look, shape, f.tolerances.proof);
}

bool inCut(const Figure& f, const FigureView& v, const ShownSolid& shown, Vec2 place) {
    const Vec3 at = frameOf(f, v, f.now).inSpace(place, 0); // the planes are square to the way it looks
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
