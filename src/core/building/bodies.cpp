#include "core/building/kernel.h"
#include "core/building/solid.h"
#include "core/building/to_kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Builder.hxx>
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

/// Takes plane coordinates of a view to space, onto the plane at a given depth: the distance from the origin
/// along the direction in which the view looks, or against it, where its depth axis counts against that.
struct Plane {
    ViewFrame frame;
    double depth = 0;
    Vec3 deep; ///< unit, the way in which depths count

    Plane(const Figure& f, const FigureView& v, double at = 0)
        : frame(frameOf(f, v, f.now)), depth(at), deep(deepOf(v)) {}
    Vec3 deepOf(const FigureView& v) const { return v.square ? unitOf(v.axes.depth) : frame.look; }
    gp_Pnt point(Vec2 p) const { return gp_Pnt(packed(frame.inSpace(p, 0) + depth * deep)); }
    gp_Dir dir(Vec2 d) const { return gp_Dir(packed(d.x * frame.right + d.y * frame.up)); }
    /// Right-handed with right and up, so that angles of the plane stay angles.
    gp_Dir normal() const { return gp_Dir(packed(cross(frame.right, frame.up))); }
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

/// An edge of the border of a face, and the curve of the figure that it runs along.
struct BorderEdge {
    TopoDS_Shape edge;
    int curve;
};

TopoDS_Wire wireOf(const Loop& loop, const Plane& plane, std::vector<BorderEdge>& border) {
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
    for (size_t i = 0; i < loop.size(); ++i) {
        wire.Add(edgeOf(loop[i].shape, plane, vertices[i], vertices[(i + 1) % loop.size()]));
        border.push_back({wire.Edge(), loop[i].curve});
    }
    if (!wire.IsDone()) throw KernelError("the border of the area does not close");
    return wire.Wire();
}

struct PlaneFace {
    TopoDS_Face face;
    Box2 box; ///< coordinates of the view
    std::vector<BorderEdge> border;
};

/// Faces of the union of areas; each outer loop takes the holes inside it.
std::vector<PlaneFace> facesOf(const std::vector<ClosedArea>& areas, const Plane& plane, double tolerance) {
    std::vector<const ClosedArea*> refs;
    for (const ClosedArea& a : areas) refs.push_back(&a);
    std::vector<Loop> loops = unionLoops(refs, tolerance);
    std::vector<PlaneFace> faces;
    for (size_t i = 0; i < loops.size() && signedArea(loops[i]) > 0; ++i) {
        std::vector<BorderEdge> border;
        BRepBuilderAPI_MakeFace face(gp_Pln(plane.point({0, 0}), plane.normal()),
                                     wireOf(loops[i], plane, border));
        for (const Loop& h : loops)
            if (signedArea(h) < 0 && insideLoop(loops[i], pointAt(h.front().shape, 0.37)))
                face.Add(wireOf(h, plane, border));
        if (!face.IsDone()) throw KernelError("the area gives no face");
        Box2 box;
        for (const AreaEdge& e : loops[i]) box.add(boxOf(e.shape));
        faces.push_back({face.Face(), box, std::move(border)});
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

TopoDS_Vertex middleOf(const TopoDS_Shape& edge) {
    const BRepAdaptor_Curve c(TopoDS::Edge(edge));
    return BRepBuilderAPI_MakeVertex(c.Value(0.5 * (c.FirstParameter() + c.LastParameter())));
}

struct Range {
    double lo, hi;
    MarkRef low, high; ///< what was picked for the ends
};

/// Extent of the whole part along the way in which a view's depths count, from all views that show it.
Result<Range> partRange(const Figure& f, const FigureView& v) {
    Range r{std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity(), {}, {}};
    const auto add = [&](double x) { r.lo = std::min(r.lo, x), r.hi = std::max(r.hi, x); };
    if (v.square) {
        for (const Mark& m : f.marks)
            if (m.axis == v.axes.depth) add(f.value(m.terms, f.now));
    } else { // the view it hangs on shows that direction
        const Vec3 deep = frameOf(f, v, f.now).look;
        const FigureView& on = *f.viewById(v.on);
        const Vec2 way{dot(deep, on.right), dot(deep, on.up)};
        for (size_t i = 0; i < f.curves.size(); ++i)
            if (f.curves[i].view == v.on)
                for (Vec2 p : sampled(f.curve(static_cast<int>(i)), 1e-3 * f.size)) add(dot(p, way));
    }
    if (r.lo > r.hi)
        return failure(ErrorCode::impossible,
                       fmt::format("no view shows {}: the depth is not determined", nameOf(v.axes.depth)));
    return r;
}

/// Where a bound stands along the way in which the view's depths count.
Result<double> boundValue(const Figure& f, const FigureView& v, const Bound& b, double outermost) {
    if (b.kind != Bound::Kind::mark) return outermost;
    return v.square ? resolveMark(f, b.mark, v.axes.depth)
                    : resolvePlace(f, b.mark, frameOf(f, v, f.now).look);
}

Result<Range> reachOf(const Figure& f, const Step& s, const FigureView& v) {
    const bool needsPart = s.reach == Reach::through || s.from.kind == Bound::Kind::outermost ||
                           s.to.kind == Bound::Kind::outermost;
    auto part = partRange(f, v);
    if (!part && needsPart) return part;
    const Range whole = part ? *part : Range{0, 0, {}, {}};
    if (s.reach == Reach::through) {
        const double past = std::max(1.0, 0.05 * (whole.hi - whole.lo));
        return s.operation == Operation::cut ? Range{whole.lo - past, whole.hi + past, {}, {}} : whole;
    }
    if (s.reach == Reach::both) {
        const auto middle = boundValue(f, v, s.from, 0.5 * (whole.lo + whole.hi));
        if (!middle) return tl::make_unexpected(middle.error());
        return Range{*middle - 0.5 * s.to.value, *middle + 0.5 * s.to.value, {}, {}};
    }
    auto lo = boundValue(f, v, s.from, whole.lo), hi = boundValue(f, v, s.to, whole.hi);
    if (!lo) return tl::make_unexpected(lo.error());
    if (!hi) return tl::make_unexpected(hi.error());
    if (s.to.kind == Bound::Kind::value)
        hi = *lo + s.to.value;
    else if (s.from.kind == Bound::Kind::value)
        lo = *hi - s.from.value;
    MarkRef low = s.from.mark, high = s.to.mark;
    if (*lo > *hi) std::swap(*lo, *hi), std::swap(low, high);
    if (*hi - *lo < f.tolerances.same_model)
        return failure(ErrorCode::impossible, "the reach is zero: both ends stand on the same coordinate");
    return Range{*lo, *hi, low, high};
}

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

Result<StepBody> extruded(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas, int index) {
    const FigureView& v = *f.viewNamed(s.view); // its areas were found, so it is there
    const auto range = reachOf(f, s, v);
    if (!range) return tl::make_unexpected(range.error());
    const Plane plane(f, v, range->lo);
    const gp_Vec along(packed(plane.deep) * (range->hi - range->lo));
    std::vector<TopoDS_Shape> bodies;
    StepBody r;
    r.low = curvesAtMark(f, range->low, v.axes.depth), r.high = curvesAtMark(f, range->high, v.axes.depth);
    for (const PlaneFace& p : facesOf(areas, plane, f.tolerances.same_model)) {
        BRepPrimAPI_MakePrism prism(p.face, along);
        bodies.push_back(prism.Shape());
        nameFaces(prism, p.border, index, true, r.names);
    }
    r.shape = together(bodies);
    return r;
}

/// An area drawn on both sides of the centre line is turned by its upper (or right) half alone.
void oneSide(const PlaneFace& whole, const Plane& plane, Vec2 origin, bool upright, const Figure& f,
             std::vector<PlaneFace>& out) {
    const double far = 10 * f.size + 1;
    const Vec2 along = upright ? Vec2{0, 1} : Vec2{1, 0}, side = upright ? Vec2{1, 0} : Vec2{0, 1};
    const int across = upright ? 0 : 1;
    const double at = origin[across], least = 10 * f.tolerances.same_model;
    if (whole.box.lo[across] > at - least || whole.box.hi[across] < at + least) return out.push_back(whole);
    BRepBuilderAPI_MakePolygon half;
    for (Vec2 p : {origin - along * far, origin + along * far, origin + along * far + side * far,
                   origin - along * far + side * far})
        half.Add(plane.point(p));
    half.Close();
    BRepAlgoAPI_Common common(whole.face, BRepBuilderAPI_MakeFace(half.Wire(), true).Face());
    // The halves of edges that were cut lie on the edges that they are halves of.
    std::vector<BorderEdge> border;
    for (TopExp_Explorer x(common.Shape(), TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Vertex middle = middleOf(x.Current());
        for (const BorderEdge& b : whole.border)
            if (BRepExtrema_DistShapeShape(middle, b.edge).Value() < f.tolerances.same_model) {
                border.push_back({x.Current(), b.curve});
                break;
            }
    }
    for (TopExp_Explorer x(common.Shape(), TopAbs_FACE); x.More(); x.Next())
        out.push_back({TopoDS::Face(x.Current()), whole.box, border});
}

Result<StepBody> revolved(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas, int index) {
    const FigureView& v = *f.viewNamed(s.view); // its areas were found, so it is there
    const double at = resolveCentre(f, v, s.axis.at, s.axis_upright ? v.axes.right : v.axes.up);
    // The profile's plane lies at the axis' own depth: where the part is cut, or else where the views that
    // show the depth have the same centre.
    const auto depth = partRange(f, v);
    const Vec2 origin = s.axis_upright ? Vec2{at, areas[0].seed.y} : Vec2{areas[0].seed.x, at};
    const Plane plane(f, v,
                      v.shows == Shows::cut ? cutAt(f, v, origin)
                      : depth               ? 0.5 * (depth->lo + depth->hi)
                                            : 0);
    const gp_Ax1 axis(plane.point(origin), plane.dir(s.axis_upright ? Vec2{0, 1} : Vec2{1, 0}));
    std::vector<PlaneFace> faces;
    for (const PlaneFace& face : facesOf(areas, plane, f.tolerances.same_model))
        oneSide(face, plane, origin, s.axis_upright, f, faces);
    std::vector<TopoDS_Shape> bodies;
    StepBody r;
    const bool whole = s.angle >= 2 * kPi - 1e-9;
    for (const PlaneFace& p : faces) {
        BRepPrimAPI_MakeRevol turned =
            whole ? BRepPrimAPI_MakeRevol(p.face, axis) : BRepPrimAPI_MakeRevol(p.face, axis, s.angle);
        bodies.push_back(turned.Shape());
        nameFaces(turned, p.border, index, !whole, r.names);
    }
    r.shape = together(bodies);
    return r;
}

} // namespace

Result<StepBody> stepBody(const Figure& f, const AreaSets& areas, const Step& s, int index) {
    if (const auto missing = missingIn(s)) return failure(ErrorCode::impossible, *missing);
    const auto picked = resolveAreas(f, areas, s);
    if (!picked) return tl::make_unexpected(picked.error());
    auto body = guarded<StepBody>([&] {
        return s.kind == StepKind::extrude ? extruded(f, s, picked->areas, index)
                                           : revolved(f, s, picked->areas, index);
    });
    if (body) body->told = picked->told;
    return body;
}

} // namespace prism
