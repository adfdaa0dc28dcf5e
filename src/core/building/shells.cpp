#include "core/building/kernel.h"
#include "core/building/solid_places.h"
#include "core/building/solid_steps.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepOffsetAPI_MakeOffsetShape.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_ListOfShape.hxx>
#include <fmt/format.h>

namespace prism::building {
namespace {

/// Walls take the names of the faces that they run along.
template <class Maker>
void nameWalls(Maker& m, const TopoDS_Shape& solid, const TopoDS_Shape& made, int index, FaceNames& names) {
    for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next())
        for (const TopoDS_Shape& wall : m.Generated(x.Current()))
            for (const FaceName& n : names.of(x.Current())) names.add(wall, {index, n.part, n.curve});
    for (TopExp_Explorer x(made, TopAbs_FACE); x.More(); x.Next())
        if (names.of(x.Current()).empty()) names.add(x.Current(), {index, FaceName::Part::blend, -1});
}

} // namespace

Result<TopoDS_Shape> shelled(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid,
                             FaceNames& names) {
    const double tol = f.tolerances.same_model, wall = s.thickness, by = s.outward ? wall : -wall;
    if (s.faces.empty()) {
        BRepOffsetAPI_MakeOffsetShape other;
        other.PerformByJoin(solid, by, tol, BRepOffset_Skin, false, false, GeomAbs_Intersection);
        if (!other.IsDone()) throw KernelError(fmt::format("no wall of {:g} mm fits", wall));
        nameWalls(other, solid, other.Shape(), index, names);
        const TopoDS_Shape &outer = s.outward ? other.Shape() : solid,
                           &inner = s.outward ? solid : other.Shape();
        BRepAlgoAPI_Cut hollow(outer, inner);
        if (!hollow.IsDone()) throw KernelError(fmt::format("no wall of {:g} mm fits", wall));
        names.follow(hollow, outer), names.follow(hollow, inner);
        return hollow.Shape();
    }
    TopTools_ListOfShape open;
    for (const PartPick& p : s.faces) {
        const auto face = faceAt(f, solid, p.place.value_or(Vec3{}));
        if (!face) return tl::make_unexpected(face.error());
        open.Append(*face);
    }
    BRepOffsetAPI_MakeThickSolid walls;
    walls.MakeThickSolidByJoin(solid, open, by, tol, BRepOffset_Skin, false, false, GeomAbs_Intersection);
    walls.Build();
    if (!walls.IsDone()) throw KernelError(fmt::format("no wall of {:g} mm fits", wall));
    names.follow(walls, solid);
    nameWalls(walls, solid, walls.Shape(), index, names);
    return walls.Shape();
}

} // namespace prism::building
