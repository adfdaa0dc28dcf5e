#include "core/building/places.h"
#include "core/building/step_bodies.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GProp_GProps.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>
#include <gp_Ax1.hxx>

namespace prism::building {
namespace {

/// What areas are turned round: a line in the plane of their view.
struct Axle {
    Vec2 origin, along; ///< coordinates of the view; `along` is a unit vector
    Vec2 side() const { return {-along.y, along.x}; }
};

/// A centre line of the view's level or upright ones; or else the line of the figure nearest to the mark.
Result<Axle> axleOf(const Figure& f, const FigureView& v, const Step& s,
                    const std::vector<ClosedArea>& areas) {
    if (!s.axis_along_line) {
        const double at = resolveCentre(f, v, s.axis.at, s.axis_upright ? v.axes.right : v.axes.up);
        // Upright ones run downwards, so that their side is the right one.
        if (s.axis_upright) return Axle{{at, areas[0].seed.y}, {0, -1}};
        return Axle{{areas[0].seed.x, at}, {1, 0}};
    }
    const int line = lineNear(f, v, s.axis.at);
    if (line < 0)
        return failure(ErrorCode::impossible,
                       fmt::format("the {} view has no straight line at {:.3f}, {:.3f} to turn round",
                                   nameOf(s.view), s.axis.at.x, s.axis.at.y));
    const auto now = std::get<Segment>(f.curve(line));
    return Axle{now.a, normalized(now.b - now.a)};
}

/// How far a face reaches on both sides of a line, mm, its far side above zero.
std::pair<double, double> beside(const PlaneFace& face, const Plane& plane, const Axle& axle) {
    constexpr int kPlaces = 32;
    std::pair<double, double> r{std::numeric_limits<double>::infinity(),
                                -std::numeric_limits<double>::infinity()};
    const gp_Pnt origin = plane.point(axle.origin);
    const gp_Vec side(plane.dir(axle.side()));
    for (const BorderEdge& b : face.border) {
        const BRepAdaptor_Curve c(TopoDS::Edge(b.edge));
        for (int i = 0; i <= kPlaces; ++i) {
            const double t = c.FirstParameter() + i * (c.LastParameter() - c.FirstParameter()) / kPlaces;
            const double at = gp_Vec(origin, c.Value(t)).Dot(side);
            r = {std::min(r.first, at), std::max(r.second, at)};
        }
    }
    return r;
}

/// What of a face lies on one side of a line, +1 for its far side.
TopoDS_Shape halfOf(const PlaneFace& whole, const Plane& plane, const Axle& axle, double far, int sign) {
    BRepBuilderAPI_MakePolygon half;
    const Vec2 along = axle.along * far, side = axle.side() * (far * sign);
    for (Vec2 p :
         {axle.origin - along, axle.origin + along, axle.origin + along + side, axle.origin - along + side})
        half.Add(plane.point(p));
    half.Close();
    return BRepAlgoAPI_Common(whole.face, BRepBuilderAPI_MakeFace(half.Wire(), true).Face()).Shape();
}

double areaOf(const TopoDS_Shape& faces) {
    GProp_GProps measure;
    BRepGProp::SurfaceProperties(faces, measure);
    return std::abs(measure.Mass());
}

/// An area drawn on both sides of the centre line is turned by one half alone: the larger one, as the other
/// lacks what grows out of it; the upper (or right) one when they are alike.
void oneSide(const PlaneFace& whole, const Plane& plane, const Axle& axle, const Figure& f,
             std::vector<PlaneFace>& out) {
    constexpr double kAlike = 1e-4; // of its area
    const double far = 10 * f.size + 1, least = 10 * f.tolerances.same_model;
    const auto [low, high] = beside(whole, plane, axle);
    if (low > -least || high < least) return out.push_back(whole);
    TopoDS_Shape half = halfOf(whole, plane, axle, far, 1);
    const TopoDS_Shape other = halfOf(whole, plane, axle, far, -1);
    if (areaOf(other) > (1 + kAlike) * areaOf(half)) half = other;
    // The halves of edges that were cut lie on the edges that they are halves of.
    std::vector<BorderEdge> border;
    for (TopExp_Explorer x(half, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Vertex middle = middleOf(x.Current());
        for (const BorderEdge& b : whole.border)
            if (BRepExtrema_DistShapeShape(middle, b.edge).Value() < f.tolerances.same_model) {
                border.push_back({x.Current(), b.curve});
                break;
            }
    }
    for (TopExp_Explorer x(half, TopAbs_FACE); x.More(); x.Next())
        out.push_back({TopoDS::Face(x.Current()), whole.box, border});
}

/// How deep a level or upright axis lies: at the centre of a round about it that a view along it shows, as
/// wide as the profile is at one of its corners. None where no view shows one.
std::optional<double> centreInDepth(const Figure& f, const FigureView& v, const Axle& axle,
                                    const std::vector<ClosedArea>& areas) {
    const bool upright = std::abs(axle.along.x) < std::abs(axle.along.y);
    const double askew = upright ? axle.along.x : axle.along.y, same = 4 * f.tolerances.same_model;
    if (!v.square || std::abs(askew) > f.tolerances.same_model / f.size) return std::nullopt;
    const double at = upright ? axle.origin.x : axle.origin.y;
    std::vector<double> radii; // of the profile at its corners
    for (const ClosedArea& a : areas)
        for (const int bound : a.bounds) {
            const Curve c = f.curve(bound);
            for (const Vec2 p : {startOf(c), endOf(c)}) radii.push_back(std::abs((upright ? p.x : p.y) - at));
        }
    const Axis across = upright ? v.axes.right : v.axes.up;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureView& end = *f.viewById(f.curves[i].view);
        const Curve c = f.curve(static_cast<int>(i));
        const auto* round = std::get_if<Arc>(&c);
        if (!round || !end.principal() || end.axes.depth != (upright ? v.axes.up : v.axes.right)) continue;
        const bool right = end.axes.right == across;
        const auto [beside, deep] =
            right ? std::pair(round->centre.x, round->centre.y) : std::pair(round->centre.y, round->centre.x);
        if (std::abs(beside - at) <= same &&
            std::ranges::any_of(radii, [&](double r) { return std::abs(r - round->radius) <= same; }))
            return deep;
    }
    return std::nullopt;
}

} // namespace

Result<StepBody> revolved(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas, int index) {
    const FigureView& v = *f.viewNamed(s.view); // its areas were found, so it is there
    const auto axle = axleOf(f, v, s, areas);
    if (!axle) return tl::make_unexpected(axle.error());
    // The profile's plane lies at the axis' own depth: where the part is cut, or else at the centre of a
    // round about the axis, or in the middle of the part where no view shows one.
    const auto depth = partRange(f, v);
    const Plane plane(
        f, v,
        v.shows == Shows::cut
            ? cutAt(f, v, axle->origin)
            : centreInDepth(f, v, *axle, areas).value_or(depth ? 0.5 * (depth->lo + depth->hi) : 0));
    const Vec2 way = s.axis_upright && !s.axis_along_line ? -axle->along : axle->along;
    const gp_Ax1 axis(plane.point(axle->origin), plane.dir(way));
    std::vector<PlaneFace> faces;
    for (const PlaneFace& face : facesOf(areas, plane, sharpOf(f, v, s)))
        oneSide(face, plane, *axle, f, faces);
    std::vector<TopoDS_Shape> bodies;
    StepBody r;
    const bool whole = s.angle >= 2 * kPi - 1e-9;
    for (const PlaneFace& p : faces) {
        BRepPrimAPI_MakeRevol turned =
            whole ? BRepPrimAPI_MakeRevol(p.face, axis) : BRepPrimAPI_MakeRevol(p.face, axis, s.angle);
        // An area on the other side of the line comes out with its inside turned out.
        GProp_GProps measure;
        BRepGProp::VolumeProperties(turned.Shape(), measure);
        bodies.push_back(measure.Mass() < 0 ? turned.Shape().Reversed() : turned.Shape());
        nameFaces(turned, p.border, index, !whole, r.names);
    }
    r.shape = together(bodies);
    return r;
}

} // namespace prism::building
