#include "core/building/solid_places.h"

#include "core/base/smooth.h"
#include "core/building/places.h"
#include "core/building/plane_faces.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepOffset_Analyse.hxx>
#include <BRepOffset_ListOfInterval.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>

namespace prism::building {
namespace {

constexpr double kNear = 0.02; ///< share of the part's size within which a place stands for an edge or a face

std::vector<TopoDS_Edge> allEdges(const TopoDS_Shape& solid) {
    TopTools_IndexedMapOfShape map;
    TopExp::MapShapes(solid, TopAbs_EDGE, map);
    std::vector<TopoDS_Edge> r;
    for (int i = 1; i <= map.Extent(); ++i)
        if (!BRep_Tool::Degenerated(TopoDS::Edge(map(i)))) r.push_back(TopoDS::Edge(map(i)));
    return r;
}

/// The nearest of some shapes to a place that is no farther off than `reach`, mm.
template <class Shape> std::optional<Shape> nearest(const std::vector<Shape>& shapes, Vec3 at, double reach) {
    const TopoDS_Vertex place = BRepBuilderAPI_MakeVertex(gp_Pnt(packed(at)));
    std::optional<Shape> best;
    for (const Shape& s : shapes)
        if (const double d = BRepExtrema_DistShapeShape(place, s).Value(); d < reach) reach = d, best = s;
    return best;
}

/// Straight edges that run along the direction in which a view looks, through a corner of it.
std::vector<TopoDS_Edge> seenEndOn(const Figure& f, const std::vector<TopoDS_Edge>& edges,
                                   const MarkRef& corner) {
    std::vector<TopoDS_Edge> r;
    const FigureView* v = f.viewNamed(corner.view);
    if (!v) return r;
    const ViewFrame frame = frameOf(f, *v, f.now);
    const Vec2 at = cornerAt(f, *v, corner.at).at;
    for (const TopoDS_Edge& e : edges) {
        const BRepAdaptor_Curve c(e);
        if (c.GetType() != GeomAbs_Line) continue;
        const auto shown = [&](double t) {
            const gp_Pnt p = c.Value(t);
            return frame({p.X(), p.Y(), p.Z()});
        };
        const double tol = 10 * f.tolerances.same_model;
        if (distance(shown(c.FirstParameter()), at) < tol && distance(shown(c.LastParameter()), at) < tol)
            r.push_back(e);
    }
    return r;
}

/// Which edges of a solid stand out, and which lie in a corner.
class Bends {
  public:
    explicit Bends(const TopoDS_Shape& solid) : found_(solid, kSmooth) {}
    bool is(const TopoDS_Edge& e, ChFiDS_TypeOfConcavity kind) const {
        const BRepOffset_ListOfInterval& along = found_.Type(e);
        return !along.IsEmpty() && along.First().Type() == kind;
    }
    bool any(const TopoDS_Edge& e) const { return is(e, ChFiDS_Convex) || is(e, ChFiDS_Concave); }

  private:
    BRepOffset_Analyse found_;
};

} // namespace

std::string inWords(const TopoDS_Edge& e) {
    const BRepAdaptor_Curve c(e);
    const gp_Pnt p = c.Value(0.5 * (c.FirstParameter() + c.LastParameter()));
    return fmt::format("the edge at {:.4g}, {:.4g}, {:.4g}", p.X(), p.Y(), p.Z());
}

Result<TopoDS_Face> faceAt(const Figure& f, const TopoDS_Shape& solid, Vec3 drawn) {
    std::vector<TopoDS_Face> faces;
    for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next())
        faces.push_back(TopoDS::Face(x.Current()));
    if (const auto face = nearest(faces, placeNow(f, drawn), kNear * f.size)) return *face;
    return failure(ErrorCode::impossible,
                   fmt::format("no face at {:.4g}, {:.4g}, {:.4g}", drawn.x, drawn.y, drawn.z));
}

Result<std::vector<TopoDS_Edge>> edgesOf(const Figure& f, const TopoDS_Shape& solid, const EdgeChoice& choice,
                                         const std::vector<TopoDS_Face>& of_step) {
    std::vector<TopoDS_Edge> all = allEdges(solid), chosen;
    const Bends bends(solid);
    std::erase_if(all, [&](const TopoDS_Edge& e) { return !bends.any(e); });
    for (const PartPick& p : choice.picks) {
        std::vector<TopoDS_Edge> meant;
        if (!p.place)
            meant = seenEndOn(f, all, p.corner);
        else if (const auto e = nearest(all, placeNow(f, *p.place), kNear * f.size))
            meant = {*e};
        if (meant.empty() && p.place)
            return failure(ErrorCode::impossible, fmt::format("no edge at {:.4g}, {:.4g}, {:.4g}", p.place->x,
                                                              p.place->y, p.place->z));
        if (meant.empty())
            return failure(ErrorCode::impossible,
                           fmt::format("no edge is seen end on at {:.4g}, {:.4g} of the {} view",
                                       p.corner.at.x, p.corner.at.y, nameOf(p.corner.view)));
        chosen.insert(chosen.end(), meant.begin(), meant.end());
    }
    std::optional<TopoDS_Face> face;
    if (choice.face) {
        const auto found = faceAt(f, solid, *choice.face);
        if (!found) return tl::make_unexpected(found.error());
        face = *found;
    }
    TopTools_IndexedDataMapOfShapeListOfShape faces;
    TopExp::MapShapesAndAncestors(solid, TopAbs_EDGE, TopAbs_FACE, faces);
    const auto bounds = [&](const TopoDS_Edge& e, const TopoDS_Face& of) {
        const TopTools_ListOfShape& at = faces.FindFromKey(e);
        return std::any_of(at.begin(), at.end(), [&](const TopoDS_Shape& s) { return s.IsSame(of); });
    };
    std::vector<TopoDS_Edge> r;
    for (const TopoDS_Edge& e : all) {
        const bool wanted =
            choice.which == EdgeChoice::Which::picked
                ? std::ranges::any_of(chosen, [&](const TopoDS_Edge& o) { return o.IsSame(e); })
            : choice.which == EdgeChoice::Which::convex  ? bends.is(e, ChFiDS_Convex)
            : choice.which == EdgeChoice::Which::concave ? bends.is(e, ChFiDS_Concave)
                                                         : true;
        if (!wanted || (face && !bounds(e, *face))) continue;
        if (!choice.step.empty() &&
            std::ranges::none_of(of_step, [&](const TopoDS_Face& s) { return bounds(e, s); }))
            continue;
        r.push_back(e);
    }
    if (r.empty()) return failure(ErrorCode::impossible, "the solid has no such edge");
    return r;
}

} // namespace prism::building
