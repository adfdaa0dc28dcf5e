#include "core/building/plane_faces.h"

#include "core/base/curve_ends.h"
#include "core/building/kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRep_Builder.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <gp_Pln.hxx>
#include <utility>

namespace prism::building {

Plane::Plane(const Figure& f, const FigureView& v, double at)
    : frame(frameOf(f, v, f.now)), depth(at), deep(v.square ? unitOf(v.axes.depth) : frame.look) {}

double Plane::commonOrigin() const {
    const Vec3 from = std::abs(frame.look.z) > 0.5 ? Vec3{1, 0, 0} : Vec3{0, 0, 1};
    return angleOf(Vec2{dot(from, frame.right), dot(from, frame.up)});
}

namespace {

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

} // namespace

TopoDS_Edge edgeOf(const Curve& c, const Plane& plane, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
    if (std::holds_alternative<Segment>(c)) return BRepBuilderAPI_MakeEdge(from, to).Edge();
    if (auto* a = std::get_if<Arc>(&c)) {
        const bool back = a->sweep < 0;
        const double start = back ? a->start + a->sweep : a->start;
        const double counted = plane.arcs_from && !a->full() ? positiveAngle(start - *plane.arcs_from) : 0;
        const gp_Circ circle(
            gp_Ax2(plane.point(a->centre), plane.normal(), plane.dir(direction(start - counted))), a->radius);
        const auto edge = BRepBuilderAPI_MakeEdge(new Geom_Circle(circle), back ? to : from, back ? from : to,
                                                  counted, counted + std::abs(a->sweep))
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

namespace {

/// The modeller's vertices by the number of their place: edges that meet in the figure share one.
using Vertices = std::map<int, TopoDS_Vertex>;

/// One vertex for every place, wide enough for what its edges leave between them.
Vertices verticesOf(const std::vector<Loop>& loops, const Plane& plane) {
    std::map<int, std::vector<Vec2>> ends;
    for (const Loop& l : loops)
        for (const AreaEdge& e : l)
            ends[e.from].push_back(startOf(e.shape)), ends[e.to].push_back(endOf(e.shape));
    Vertices r;
    BRep_Builder builder;
    for (const auto& [place, at] : ends) {
        double gap = 0;
        for (Vec2 p : at) gap = std::max(gap, distance(p, at.front()));
        builder.MakeVertex(r[place], plane.point(at.front()), 1e-6 + 1.01 * gap);
    }
    return r;
}

TopoDS_Wire wireOf(const Loop& loop, const Plane& plane, const Vertices& vertices,
                   std::vector<BorderEdge>& border) {
    BRepBuilderAPI_MakeWire wire;
    for (size_t i = 0; i < loop.size(); ++i) {
        wire.Add(edgeOf(loop[i].shape, plane, vertices.at(loop[i].from), vertices.at(loop[i].to)));
        border.push_back({wire.Edge(), loop[i].curve});
    }
    if (!wire.IsDone()) throw KernelError("the border of the area does not close");
    return wire.Wire();
}

/// The face of an outer border with the holes in it.
PlaneFace faceWithin(const Loop& outer, const std::vector<const Loop*>& holes, const Vertices& vertices,
                     const Plane& plane) {
    PlaneFace r;
    BRepBuilderAPI_MakeFace face(gp_Pln(plane.point({0, 0}), plane.normal()),
                                 wireOf(outer, plane, vertices, r.border));
    for (const Loop* h : holes) face.Add(wireOf(*h, plane, vertices, r.border));
    if (!face.IsDone()) throw KernelError("the area gives no face");
    for (const AreaEdge& e : outer) r.box.add(boxOf(e.shape));
    r.face = face.Face();
    return r;
}

} // namespace

PlaneFace faceOf(const Loop& loop, const Plane& plane) {
    return faceWithin(loop, {}, verticesOf({loop}, plane), plane);
}

namespace {

/// An edge that goes on from another one, as a line, to a place.
AreaEdge bridged(const AreaEdge& before, const Segment& line, int to) {
    AreaEdge r = before;
    r.shape = line, r.from = before.to, r.to = to;
    return r;
}

/// A border that goes straight on past curves between two lines that are one, as where a hole comes out of
/// it.
Loop straightOn(Loop loop, const std::set<int>& straight) {
    constexpr double kOneLine = 1e-6; // mm
    const auto first =
        std::ranges::find_if(loop, [&](const AreaEdge& e) { return !straight.contains(e.curve); });
    std::rotate(loop.begin(), first, loop.end());
    Loop r;
    for (size_t i = 0; i < loop.size();) {
        size_t end = i;
        while (end < loop.size() && straight.contains(loop[end].curve)) ++end;
        if (end == i) {
            r.push_back(loop[i++]);
            continue;
        }
        const AreaEdge& after = loop[end % loop.size()];
        const auto *a = r.empty() ? nullptr : std::get_if<Segment>(&r.back().shape),
                   *b = std::get_if<Segment>(&after.shape);
        const auto onLine = [&](Vec2 p) {
            return std::abs(cross(normalized(a->b - a->a), p - a->b)) <= kOneLine;
        };
        if (a && b && onLine(b->a) && onLine(b->b) && dot(a->b - a->a, b->a - a->b) > 0)
            r.push_back(bridged(r.back(), Segment{a->b, b->a}, after.from));
        else
            r.insert(r.end(), loop.begin() + static_cast<std::ptrdiff_t>(i),
                     loop.begin() + static_cast<std::ptrdiff_t>(end));
        i = end;
    }
    return r;
}

/// A border in which the lines beside the arcs meet in their corner. An arc that is not between two lines
/// that cross stays.
Loop withCorners(Loop loop, const std::set<int>& sharp) {
    for (size_t i = 0; i < loop.size();) {
        const size_t n = loop.size();
        AreaEdge &before = loop[(i + n - 1) % n], &after = loop[(i + 1) % n];
        auto *a = std::get_if<Segment>(&before.shape), *b = std::get_if<Segment>(&after.shape);
        const auto corner =
            n >= 3 && sharp.contains(loop[i].curve) && a && b ? carrierCrossing(*a, *b) : std::nullopt;
        if (!corner) {
            ++i;
            continue;
        }
        a->b = b->a = *corner;
        after.from = before.to;
        loop.erase(loop.begin() + static_cast<std::ptrdiff_t>(i));
    }
    return loop;
}

/// A whole circle in two halves whose joints are where walls of its axis are run through from, and not where
/// other lines of the view happen to touch it: a curve in which a wall meets another one turns back right
/// there, and the modeller ends it short of a seam that runs through that place. `first`: number of the first
/// joint.
Loop withOwnJoints(Loop loop, const Plane& plane, int first) {
    if (loop.size() != 2 || !plane.arcs_from) return loop;
    auto *a = std::get_if<Arc>(&loop[0].shape), *b = std::get_if<Arc>(&loop[1].shape);
    const bool whole = a && b && loop[0].curve == loop[1].curve && a->sweep * b->sweep > 0 &&
                       std::abs(std::abs(a->sweep + b->sweep) - 2 * kPi) < 1e-9;
    if (!whole) return loop;
    const double half = a->sweep > 0 ? kPi : -kPi;
    a->start = *plane.arcs_from, b->start = *plane.arcs_from + half;
    a->sweep = b->sweep = half;
    loop[0].from = loop[1].to = first, loop[0].to = loop[1].from = first - 1;
    return loop;
}

} // namespace

std::vector<PlaneFace> facesOf(const std::vector<ClosedArea>& areas, const Plane& plane,
                               const std::set<int>& sharp) {
    std::vector<const ClosedArea*> refs;
    for (const ClosedArea& a : areas) refs.push_back(&a);
    std::vector<Loop> loops = unionLoops(refs);
    if (!sharp.empty())
        for (Loop& l : loops) l = straightOn(withCorners(std::move(l), sharp), sharp);
    int joint = -2; // no place of the view has a number below -1
    for (Loop& l : loops) l = withOwnJoints(std::move(l), plane, std::exchange(joint, joint - 2));
    const Vertices vertices = verticesOf(loops, plane);
    std::vector<PlaneFace> faces;
    for (size_t i = 0; i < loops.size() && signedArea(loops[i]) > 0; ++i) {
        std::vector<const Loop*> holes;
        for (const Loop& h : loops)
            if (signedArea(h) < 0 && insideLoop(loops[i], pointAt(h.front().shape, 0.37)))
                holes.push_back(&h);
        faces.push_back(faceWithin(loops[i], holes, vertices, plane));
    }
    if (faces.empty()) throw KernelError("the picked areas enclose nothing");
    return faces;
}

BRepPrimAPI_MakePrism beyondPlane(Vec3 at, Vec3 along, Vec3 out, double size) {
    const double far = 4 * size + 10;
    const Vec3 u = along * far, v = cross(out, along) * far;
    BRepBuilderAPI_MakePolygon border;
    for (Vec3 p : {at - u - v, at + u - v, at + u + v, at - u + v}) border.Add(gp_Pnt(packed(p)));
    border.Close();
    const TopoDS_Face plane = BRepBuilderAPI_MakeFace(border.Wire(), true);
    return {plane, gp_Vec(packed(out * far))};
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

} // namespace prism::building
