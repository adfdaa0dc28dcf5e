#include "core/building/kernel.h"
#include "core/building/overlap.h"
#include "core/building/places.h"
#include "core/building/solid_places.h"
#include "core/building/step_bodies.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_MakeOffset.hxx>
#include <BRepOffset_MakeOffset.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <fmt/format.h>
#include <gp_Pln.hxx>

// Steps that begin with faces of the solid: layers on them, lips and flanges round them, and faces laid
// askew.
namespace prism::building {
namespace {

/// The faces that a step picked, each once.
Result<std::vector<TopoDS_Face>> facesPicked(const Figure& f, const Step& s, const TopoDS_Shape& solid) {
    std::vector<TopoDS_Face> r;
    for (const PartPick& p : s.faces) {
        const auto face = faceAt(f, solid, p.place.value_or(Vec3{}));
        if (!face) return tl::make_unexpected(face.error());
        if (std::ranges::none_of(r, [&](const TopoDS_Face& o) { return o.IsSame(*face); }))
            r.push_back(*face);
    }
    return r;
}

/// The plane of a face, its normal out of the solid; none for one that is curved.
struct Flat {
    gp_Pln plane;
    gp_Vec out;
};
std::optional<Flat> flatOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face);
    if (surface.GetType() != GeomAbs_Plane) return std::nullopt;
    Flat r{surface.Plane(), gp_Vec(surface.Plane().Axis().Direction())};
    if (!r.plane.Direct()) r.out.Reverse();
    if (face.Orientation() == TopAbs_REVERSED) r.out.Reverse();
    return r;
}

tl::unexpected<Error> notFlat(const char* what) {
    return failure(ErrorCode::impossible, fmt::format("a {} needs plane faces", what));
}

/// Names all faces of a body that have none after the step alone.
void nameAll(const TopoDS_Shape& shape, int index, FaceNames& names) {
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next())
        if (names.of(x.Current()).empty()) names.add(x.Current(), {index, FaceName::Part::blend, -1});
}

/// The body of several that may touch each other.
StepBody bodyOf(const std::vector<TopoDS_Shape>& shapes, int index) {
    StepBody r;
    if (shapes.empty()) return r;
    r.shape = together(shapes), r.may_touch = shapes.size() > 1;
    nameAll(r.shape, index, r.names);
    return r;
}

/// Faces that meet along an edge together, so that their layers meet as well.
std::vector<std::vector<TopoDS_Face>> joined(const std::vector<TopoDS_Face>& faces) {
    std::vector<std::vector<TopoDS_Face>> groups;
    const auto meet = [](const TopoDS_Face& a, const TopoDS_Face& b) {
        TopTools_IndexedMapOfShape edges;
        TopExp::MapShapes(a, TopAbs_EDGE, edges);
        for (TopExp_Explorer x(b, TopAbs_EDGE); x.More(); x.Next())
            if (edges.Contains(x.Current())) return true;
        return false;
    };
    for (const TopoDS_Face& face : faces) {
        std::vector<TopoDS_Face> group{face};
        std::erase_if(groups, [&](const std::vector<TopoDS_Face>& g) {
            if (std::ranges::none_of(g, [&](const TopoDS_Face& o) { return meet(face, o); })) return false;
            group.insert(group.end(), g.begin(), g.end());
            return true;
        });
        groups.push_back(std::move(group));
    }
    return groups;
}

/// What lies between faces and the same moved square to themselves, out of the solid for a distance above
/// zero.
Result<TopoDS_Shape> layerOn(const std::vector<TopoDS_Face>& faces, double by, double tol) {
    if (faces.size() == 1)
        if (const auto flat = flatOf(faces.front()))
            return BRepPrimAPI_MakePrism(faces.front(), flat->out * by).Shape();
    TopoDS_Shell shell;
    BRep_Builder b;
    b.MakeShell(shell);
    for (const TopoDS_Face& face : faces) b.Add(shell, face);
    BRepOffset_MakeOffset layer(shell, by, tol, BRepOffset_Skin, false, false, GeomAbs_Intersection, true);
    TopExp_Explorer made;
    if (layer.IsDone()) made.Init(layer.Shape(), TopAbs_SOLID);
    if (!layer.IsDone() || !made.More())
        return failure(ErrorCode::impossible, fmt::format("no layer of {:g} mm fits there", std::abs(by)));
    TopoDS_Solid solid = TopoDS::Solid(made.Current());
    BRepLib::OrientClosedSolid(solid);
    return solid;
}

Result<StepBody> thickened(const Figure& f, const Step& s, int index, const std::vector<TopoDS_Face>& faces) {
    const double by = (s.operation == Operation::add ? 1 : -1) * s.thickness.value;
    std::vector<TopoDS_Shape> layers;
    for (const std::vector<TopoDS_Face>& group : joined(faces)) {
        auto layer = layerOn(group, by, f.tolerances.same_model);
        if (!layer) return tl::make_unexpected(layer.error());
        layers.push_back(std::move(*layer));
    }
    return bodyOf(layers, index);
}

double areaOf(const TopoDS_Shape& face) {
    GProp_GProps g;
    BRepGProp::SurfaceProperties(face, g);
    return std::abs(g.Mass());
}

TopoDS_Face within(const TopoDS_Wire& border, const gp_Pln& plane) {
    return BRepBuilderAPI_MakeFace(plane, border, true);
}

/// The face inside a border that was moved aside in its plane, outwards for a distance above zero; corners
/// stay sharp. None where nothing of it is left, or it falls apart.
std::optional<TopoDS_Face> aside(const TopoDS_Face& inside, const gp_Pln& plane, double by) {
    // Which side the modeller takes for outside hangs on which way the border runs: the size tells.
    for (double way : {by, -by}) {
        BRepOffsetAPI_MakeOffset moved(inside, GeomAbs_Intersection);
        moved.Perform(way);
        if (!moved.IsDone() || moved.Shape().IsNull()) continue;
        TopExp_Explorer x(moved.Shape(), TopAbs_WIRE);
        if (!x.More()) continue;
        const TopoDS_Wire border = TopoDS::Wire(x.Current());
        x.Next();
        const TopoDS_Face r = within(border, plane);
        // Moved farther than there is room, a border comes out on the other side of itself.
        const double off = BRepExtrema_DistShapeShape(border, BRepTools::OuterWire(inside)).Value();
        if (!x.More() && (areaOf(r) > areaOf(inside)) == (by > 0) && off > (1 - 1e-6) * std::abs(by))
            return r;
    }
    return std::nullopt;
}

/// What lies between a border of a face and the same moved aside; null where that does not fit.
TopoDS_Shape ringAlong(const TopoDS_Wire& border, const gp_Pln& plane, double by) {
    const TopoDS_Face inside = within(border, plane);
    const auto other = aside(inside, plane, by);
    if (!other) return {};
    // A border may run either way round: faces are cut from each other, not borders put together.
    return BRepAlgoAPI_Cut(by > 0 ? *other : inside, by > 0 ? inside : *other).Shape();
}

/// Lips stand on the face, along its border; flanges outside it, with the face in their own.
Result<StepBody> rimmed(const Step& s, int index, const std::vector<TopoDS_Face>& faces) {
    const bool lip = s.kind == StepKind::lip;
    const double width = (lip ? s.thickness : s.size).value, height = (lip ? s.size : s.thickness).value;
    const bool outwards = lip && s.operation == Operation::add;
    std::vector<TopoDS_Shape> bodies;
    for (const TopoDS_Face& face : faces) {
        const auto flat = flatOf(face);
        if (!flat) return notFlat(nameOf(s.kind));
        const TopoDS_Wire outer = BRepTools::OuterWire(face);
        for (TopExp_Explorer x(face, TopAbs_WIRE); x.More(); x.Next()) {
            if (x.Current().IsSame(outer) == s.inner) continue;
            TopoDS_Shape base =
                ringAlong(TopoDS::Wire(x.Current()), flat->plane, lip == s.inner ? width : -width);
            if (!base.IsNull() && lip) base = BRepAlgoAPI_Common(base, face).Shape(); // it does not hang over
            if (base.IsNull() || !TopExp_Explorer(base, TopAbs_FACE).More())
                return failure(ErrorCode::impossible,
                               fmt::format("no {} of {:g} mm fits along that border", nameOf(s.kind), width));
            bodies.push_back(BRepPrimAPI_MakePrism(base, flat->out * (outwards ? height : -height)).Shape());
        }
    }
    if (bodies.empty()) return failure(ErrorCode::impossible, "the face has no opening");
    return bodyOf(bodies, index);
}

} // namespace

Result<StepBody> onFaces(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid) {
    const auto faces = facesPicked(f, s, solid);
    if (!faces) return tl::make_unexpected(faces.error());
    return s.kind == StepKind::thicken ? thickened(f, s, index, *faces) : rimmed(s, index, *faces);
}

Result<Tilting> tilted(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid) {
    const FigureView* v = f.viewNamed(s.view);
    if (!v)
        return failure(ErrorCode::impossible,
                       fmt::format("there is no {} view on the sheet", nameOf(s.view)));
    const int line = s.places.empty() ? -1 : lineNear(f, *v, s.places.front());
    if (line < 0)
        return failure(ErrorCode::impossible,
                       fmt::format("no straight line passes there in the {} view", nameOf(s.view)));
    const auto faces = facesPicked(f, s, solid);
    if (!faces) return tl::make_unexpected(faces.error());
    const Segment on = std::get<Segment>(f.curve(line));
    const Plane plane(f, *v);
    const Vec2 d = normalized(on.b - on.a);
    const Vec3 along = d.x * plane.frame.right + d.y * plane.frame.up, at = plane.place(on.a);
    Vec3 normal = cross(along, plane.frame.look);
    std::vector<TopoDS_Shape> added, taken;
    for (const TopoDS_Face& face : *faces) {
        const auto flat = flatOf(face);
        if (!flat) return notFlat("tilted face");
        const Vec3 out{flat->out.X(), flat->out.Y(), flat->out.Z()};
        constexpr double kSquare = 0.02; // a face is not laid square to where it was
        if (std::abs(dot(normal, out)) < kSquare)
            return failure(ErrorCode::impossible, "the line runs square to a face: no tilt leads there");
        if (dot(normal, out) < 0) normal = -normal;
        const double far = 4 * f.size + 10, least = std::pow(f.tolerances.same_model, 2) * f.size;
        const TopoDS_Shape above = BRepPrimAPI_MakePrism(face, flat->out * far).Shape(),
                           below = BRepPrimAPI_MakePrism(face, flat->out * -far).Shape();
        const auto put = [&](std::vector<TopoDS_Shape>& into, const TopoDS_Shape& column, Vec3 side) {
            const TopoDS_Shape part = commonOf(column, beyondPlane(at, along, side, f.size).Shape());
            if (volumeOf(part) > least) into.push_back(part);
        };
        put(added, above, -normal), put(taken, below, normal);
    }
    if (added.empty() && taken.empty())
        return failure(ErrorCode::impossible, "the face lies in the plane of the line already");
    return Tilting{bodyOf(added, index), bodyOf(taken, index)};
}

} // namespace prism::building
