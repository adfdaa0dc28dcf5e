#include "core/building/kernel.h"
#include "core/building/solid.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Wire.hxx>
#include <fmt/format.h>
#include <gp_Ax1.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <gp_Pln.hxx>

namespace prism {
namespace {

/// Takes plane coordinates of a view to space at a given depth.
struct Plane {
    ViewAxes axes;
    double depth = 0;

    gp_XYZ unit(Axis a) const {
        return {a == Axis::x ? 1.0 : 0, a == Axis::y ? 1.0 : 0, a == Axis::z ? 1.0 : 0};
    }
    gp_Pnt point(Vec2 p) const {
        return gp_Pnt(unit(axes.right) * p.x + unit(axes.up) * p.y + unit(axes.depth) * depth);
    }
    gp_Dir dir(Vec2 d) const { return gp_Dir(unit(axes.right) * d.x + unit(axes.up) * d.y); }
    /// Right-handed with right and up, so that angles of the plane stay angles.
    gp_Dir normal() const { return gp_Dir(unit(axes.right).Crossed(unit(axes.up))); }
};

TopoDS_Edge splineEdge(const Spline& s, const Plane& plane) {
    const int n = static_cast<int>(s.poles.size());
    TColgp_Array1OfPnt poles(1, n);
    TColStd_Array1OfReal weights(1, n);
    for (int i = 0; i < n; ++i) {
        poles.SetValue(i + 1, plane.point(s.poles[i]));
        weights.SetValue(i + 1, s.weights.empty() ? 1 : s.weights[i]);
    }
    std::vector<double> knots;
    std::vector<int> times;
    for (double k : s.knots) {
        if (!knots.empty() && k - knots.back() < 1e-12)
            ++times.back();
        else
            knots.push_back(k), times.push_back(1);
    }
    TColStd_Array1OfReal ks(1, static_cast<int>(knots.size()));
    TColStd_Array1OfInteger ms(1, static_cast<int>(knots.size()));
    for (size_t i = 0; i < knots.size(); ++i)
        ks.SetValue(static_cast<int>(i) + 1, knots[i]), ms.SetValue(static_cast<int>(i) + 1, times[i]);
    return BRepBuilderAPI_MakeEdge(new Geom_BSplineCurve(poles, weights, ks, ms, s.degree)).Edge();
}

TopoDS_Edge edgeOf(const Curve& c, const Plane& plane, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
    if (std::holds_alternative<Segment>(c)) return BRepBuilderAPI_MakeEdge(from, to).Edge();
    if (auto* a = std::get_if<Arc>(&c)) {
        const bool back = a->sweep < 0;
        const double start = back ? a->start + a->sweep : a->start;
        const gp_Circ circle(gp_Ax2(plane.point(a->centre), plane.normal(), plane.dir(direction(start))),
                             a->radius);
        const auto edge = BRepBuilderAPI_MakeEdge(new Geom_Circle(circle), back ? to : from, back ? from : to,
                                                  0, std::abs(a->sweep))
                              .Edge();
        return back ? TopoDS::Edge(edge.Reversed()) : edge;
    }
    if (auto* e = std::get_if<EllipseArc>(&c)) {
        const bool back = e->sweep < 0;
        const double start = back ? e->start + e->sweep : e->start;
        const double major = length(e->major);
        const gp_Elips ellipse(gp_Ax2(plane.point(e->centre), plane.normal(), plane.dir(e->major)), major,
                               major * e->ratio);
        const auto edge = BRepBuilderAPI_MakeEdge(new Geom_Ellipse(ellipse), back ? to : from,
                                                  back ? from : to, start, start + std::abs(e->sweep))
                              .Edge();
        return back ? TopoDS::Edge(edge.Reversed()) : edge;
    }
    return splineEdge(std::get<Spline>(c), plane);
}

TopoDS_Wire wireOf(const Loop& loop, const Plane& plane) {
    std::vector<TopoDS_Vertex> vertices;
    BRep_Builder builder;
    for (size_t i = 0; i < loop.size(); ++i) { // one vertex a joint, wide enough for the joint's own gap
        const Vec2 at = startOf(loop[i].shape),
                   before = endOf(loop[(i + loop.size() - 1) % loop.size()].shape);
        TopoDS_Vertex v;
        builder.MakeVertex(v, plane.point(at), 1e-6 + 1.01 * distance(at, before));
        vertices.push_back(v);
    }
    BRepBuilderAPI_MakeWire wire;
    for (size_t i = 0; i < loop.size(); ++i)
        wire.Add(edgeOf(loop[i].shape, plane, vertices[i], vertices[(i + 1) % loop.size()]));
    if (!wire.IsDone()) throw KernelError("the border of the area does not close");
    return wire.Wire();
}

/// Faces of the union of areas; each outer loop takes the holes inside it.
std::vector<TopoDS_Face> facesOf(const std::vector<ClosedArea>& areas, const Plane& plane, double tolerance) {
    std::vector<const ClosedArea*> refs;
    for (const ClosedArea& a : areas) refs.push_back(&a);
    std::vector<Loop> loops = unionLoops(refs, tolerance);
    std::vector<TopoDS_Face> faces;
    for (size_t i = 0; i < loops.size() && signedArea(loops[i]) > 0; ++i) {
        BRepBuilderAPI_MakeFace face(gp_Pln(plane.point({0, 0}), plane.normal()), wireOf(loops[i], plane));
        for (const Loop& h : loops)
            if (signedArea(h) < 0 && insideLoop(loops[i], pointAt(h.front().shape, 0.37)))
                face.Add(wireOf(h, plane));
        if (!face.IsDone()) throw KernelError("the area gives no face");
        faces.push_back(face.Face());
    }
    if (faces.empty()) throw KernelError("the picked areas enclose nothing");
    return faces;
}

TopoDS_Shape together(const std::vector<TopoDS_Shape>& bodies) {
    if (bodies.size() == 1) return bodies.front();
    TopoDS_Compound c;
    BRep_Builder b;
    b.MakeCompound(c);
    for (const TopoDS_Shape& s : bodies) b.Add(c, s);
    return c;
}

struct Range {
    double lo, hi;
};

/// Extent of the whole part along an axis, from all views that show it.
Result<Range> partRange(const Figure& f, Axis axis) {
    Range r{std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};
    for (const Mark& m : f.marks)
        if (m.axis == axis) {
            const double v = f.value(m.terms, f.now);
            r.lo = std::min(r.lo, v), r.hi = std::max(r.hi, v);
        }
    if (r.lo > r.hi)
        return failure(ErrorCode::impossible,
                       fmt::format("no view shows {}: the depth is not determined", nameOf(axis)));
    return r;
}

Result<double> boundValue(const Figure& f, const Bound& b, Axis axis, double outermost) {
    if (b.kind == Bound::Kind::mark) return resolveMark(f, b.mark, axis);
    return outermost;
}

Result<Range> reachOf(const Figure& f, const Step& s, Axis axis) {
    const bool needsPart = s.reach == Reach::through || s.from.kind == Bound::Kind::outermost ||
                           s.to.kind == Bound::Kind::outermost;
    const auto part = partRange(f, axis);
    if (!part && needsPart) return part;
    const Range whole = part ? *part : Range{0, 0};
    if (s.reach == Reach::through) {
        const double past = std::max(1.0, 0.05 * (whole.hi - whole.lo));
        return s.operation == Operation::cut ? Range{whole.lo - past, whole.hi + past} : whole;
    }
    if (s.reach == Reach::both) {
        const auto middle = boundValue(f, s.from, axis, 0.5 * (whole.lo + whole.hi));
        if (!middle) return tl::make_unexpected(middle.error());
        return Range{*middle - 0.5 * s.to.value, *middle + 0.5 * s.to.value};
    }
    auto lo = boundValue(f, s.from, axis, whole.lo), hi = boundValue(f, s.to, axis, whole.hi);
    if (!lo) return tl::make_unexpected(lo.error());
    if (!hi) return tl::make_unexpected(hi.error());
    if (s.to.kind == Bound::Kind::value)
        hi = *lo + s.to.value;
    else if (s.from.kind == Bound::Kind::value)
        lo = *hi - s.from.value;
    if (*lo > *hi) std::swap(*lo, *hi);
    if (*hi - *lo < f.tolerances.same_model)
        return failure(ErrorCode::impossible, "the reach is zero: both ends stand on the same coordinate");
    return Range{*lo, *hi};
}

Result<TopoDS_Shape> extruded(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas) {
    const ViewAxes axes = axesOf(s.view);
    const auto range = reachOf(f, s, axes.depth);
    if (!range) return tl::make_unexpected(range.error());
    const Plane plane{axes, range->lo};
    const gp_Vec along(plane.unit(axes.depth) * (range->hi - range->lo));
    std::vector<TopoDS_Shape> bodies;
    for (const TopoDS_Face& face : facesOf(areas, plane, f.tolerances.same_model))
        bodies.push_back(BRepPrimAPI_MakePrism(face, along).Shape());
    return together(bodies);
}

/// An area drawn on both sides of the centre line is turned by its upper (or right) half alone.
void oneSide(const TopoDS_Face& face, const Plane& plane, Vec2 origin, bool upright, const Figure& f,
             std::vector<TopoDS_Face>& out) {
    const double far = 10 * f.size + 1;
    const Vec2 along = upright ? Vec2{0, 1} : Vec2{1, 0}, side = upright ? Vec2{1, 0} : Vec2{0, 1};
    Bnd_Box box;
    BRepBndLib::Add(face, box);
    double lo[3], hi[3];
    box.Get(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
    const int k = static_cast<int>(upright ? plane.axes.right : plane.axes.up);
    const double at = upright ? origin.x : origin.y;
    if (lo[k] > at - 10 * f.tolerances.same_model || hi[k] < at + 10 * f.tolerances.same_model)
        return out.push_back(face);
    BRepBuilderAPI_MakePolygon half;
    for (Vec2 p : {origin - along * far, origin + along * far, origin + along * far + side * far,
                   origin - along * far + side * far})
        half.Add(plane.point(p));
    half.Close();
    const TopoDS_Shape kept =
        BRepAlgoAPI_Common(face, BRepBuilderAPI_MakeFace(half.Wire(), true).Face()).Shape();
    for (TopExp_Explorer x(kept, TopAbs_FACE); x.More(); x.Next()) out.push_back(TopoDS::Face(x.Current()));
}

Result<TopoDS_Shape> revolved(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas) {
    const ViewAxes axes = axesOf(s.view);
    const FigureView& v = *f.viewWithRole(s.view); // its areas were found, so it is there
    const double at = resolveCentre(f, v, s.axis.at, s.axis_upright ? axes.right : axes.up);
    // The profile's plane lies at the axis' own depth: where the views that show the depth have the same
    // centre.
    const auto depth = partRange(f, axes.depth);
    const Plane plane{axes, depth ? 0.5 * (depth->lo + depth->hi) : 0};
    const Vec2 origin = s.axis_upright ? Vec2{at, 0} : Vec2{0, at};
    const gp_Ax1 axis(plane.point(origin), plane.dir(s.axis_upright ? Vec2{0, 1} : Vec2{1, 0}));
    std::vector<TopoDS_Face> faces;
    for (const TopoDS_Face& face : facesOf(areas, plane, f.tolerances.same_model))
        oneSide(face, plane, origin, s.axis_upright, f, faces);
    std::vector<TopoDS_Shape> bodies;
    for (const TopoDS_Face& face : faces) {
        const bool whole = s.angle >= 2 * kPi - 1e-9;
        bodies.push_back(whole ? BRepPrimAPI_MakeRevol(face, axis).Shape()
                               : BRepPrimAPI_MakeRevol(face, axis, s.angle).Shape());
    }
    return together(bodies);
}

} // namespace

Result<TopoDS_Shape> stepBody(const Figure& f, const AreaSets& areas, const Step& s, std::string* told) {
    if (const auto missing = missingIn(s)) return failure(ErrorCode::impossible, *missing);
    const auto picked = resolveAreas(f, areas, s);
    if (!picked) return tl::make_unexpected(picked.error());
    if (told) *told = picked->told;
    return guarded<TopoDS_Shape>([&] {
        return s.kind == StepKind::extrude ? extruded(f, s, picked->areas) : revolved(f, s, picked->areas);
    });
}

} // namespace prism
