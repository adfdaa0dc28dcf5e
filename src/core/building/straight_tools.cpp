#include "core/building/straight_tools.h"

#include <BRepAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <optional>

namespace prism::building {
namespace {

constexpr double kParallel = 1e-9; // radians

int count(const TopoDS_Shape& s, TopAbs_ShapeEnum kind) {
    int n = 0;
    for (TopExp_Explorer x(s, kind); x.More(); x.Next()) ++n;
    return n;
}

/// Whether a face is everywhere parallel to a direction.
bool runsAlong(const BRepAdaptor_Surface& s, const gp_Dir& d) {
    if (s.GetType() == GeomAbs_Plane) return s.Plane().Axis().Direction().IsNormal(d, kParallel);
    if (s.GetType() == GeomAbs_Cylinder) return s.Cylinder().Axis().Direction().IsParallel(d, kParallel);
    return s.GetType() == GeomAbs_SurfaceOfExtrusion && s.Direction().IsParallel(d, kParallel);
}

/// The body as pushed from one plane face to another; none when it has not come about so.
std::optional<StraightTool> between(const TopoDS_Face& a, const TopoDS_Face& b,
                                    const TopTools_IndexedMapOfShape& faces,
                                    const TopTools_IndexedDataMapOfShapeListOfShape& at) {
    const gp_Pln plane = BRepAdaptor_Surface(a, false).Plane(), other = BRepAdaptor_Surface(b, false).Plane();
    const gp_Dir d = plane.Axis().Direction();
    if (!d.IsParallel(other.Axis().Direction(), kParallel)) return std::nullopt;
    const auto height = [&](const gp_Pln& p) { return p.Location().XYZ().Dot(d.XYZ()); };
    const bool up = height(plane) < height(other);
    StraightTool t{up ? a : b, up ? b : a, {}, gp_Ax2(gp::Origin(), d), 0, 0};
    t.from = std::min(height(plane), height(other)), t.to = std::max(height(plane), height(other));
    const auto wallAt = [&](const TopoDS_Shape& edge) {
        for (const TopoDS_Shape& f : at.FindFromKey(edge))
            if (!f.IsSame(a) && !f.IsSame(b)) return f;
        return TopoDS_Shape();
    };
    TopTools_IndexedMapOfShape low, high;
    for (TopExp_Explorer x(t.high, TopAbs_EDGE); x.More(); x.Next()) high.Add(wallAt(x.Current()));
    for (TopExp_Explorer x(t.low, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Shape wall = wallAt(x.Current());
        if (wall.IsNull() || !high.Contains(wall) || low.Contains(wall) ||
            !runsAlong(BRepAdaptor_Surface(TopoDS::Face(wall), false), d))
            return std::nullopt;
        low.Add(wall);
        t.walls.push_back({TopoDS::Edge(x.Current()), TopoDS::Face(wall)});
    }
    return low.Extent() == faces.Extent() - 2 && high.Extent() == low.Extent() ? std::optional(t)
                                                                               : std::nullopt;
}

} // namespace

std::vector<StraightTool> straightTools(const TopoDS_Shape& body) {
    if (count(body, TopAbs_SOLID) != 1 || count(body, TopAbs_SHELL) != 1) return {};
    TopTools_IndexedMapOfShape faces;
    TopTools_IndexedDataMapOfShapeListOfShape at;
    TopExp::MapShapes(body, TopAbs_FACE, faces);
    TopExp::MapShapesAndAncestors(body, TopAbs_EDGE, TopAbs_FACE, at);
    std::vector<TopoDS_Face> ends;
    for (int i = 1; i <= faces.Extent(); ++i)
        if (const TopoDS_Face f = TopoDS::Face(faces(i));
            BRepAdaptor_Surface(f, false).GetType() == GeomAbs_Plane && count(f, TopAbs_WIRE) == 1 &&
            count(f, TopAbs_EDGE) == faces.Extent() - 2)
            ends.push_back(f);
    std::vector<StraightTool> r;
    for (size_t i = 0; i < ends.size(); ++i)
        for (size_t j = i + 1; j < ends.size(); ++j)
            if (auto t = between(ends[i], ends[j], faces, at)) r.push_back(std::move(*t));
    return r;
}

} // namespace prism::building
