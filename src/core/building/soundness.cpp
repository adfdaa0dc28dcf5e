#include "core/building/soundness.h"

#include "core/base/box_tree.h"
#include "core/base/polygon.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_Shell.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

namespace prism {
namespace {

constexpr int kManyWires = 12;

/// A wire of a plane face as a polygon in the plane, in the direction in which it is run.
struct Outline {
    std::vector<Vec2> points;
    Box2 box;
    double area = 0; ///< signed
};

Outline outlineOf(const TopoDS_Wire& wire, const TopoDS_Face& face, const gp_Pln& plane) {
    constexpr int kChords = 24; // of an edge that is not straight
    Outline o;
    for (BRepTools_WireExplorer x(wire, face); x.More(); x.Next()) {
        const BRepAdaptor_Curve c(x.Current());
        const int n = c.GetType() == GeomAbs_Line ? 1 : kChords;
        const bool back = x.Current().Orientation() == TopAbs_REVERSED;
        for (int i = 0; i < n; ++i) {
            const double t = static_cast<double>(back ? n - i : i) / n;
            const gp_Vec from(plane.Location(),
                              c.Value(c.FirstParameter() + t * (c.LastParameter() - c.FirstParameter())));
            o.points.push_back(
                {from.Dot(gp_Vec(plane.XAxis().Direction())), from.Dot(gp_Vec(plane.YAxis().Direction()))});
            o.box.add(o.points.back());
        }
    }
    for (size_t i = 0; i < o.points.size(); ++i)
        o.area += 0.5 * cross(o.points[i], o.points[(i + 1) % o.points.size()]);
    return o;
}

bool crossing(const Outline& a, const Outline& b) {
    auto side = [](Vec2 p, Vec2 q, Vec2 r) { return cross(q - p, r - p); };
    for (size_t i = 0; i < a.points.size(); ++i)
        for (size_t j = 0; j < b.points.size(); ++j) {
            const Vec2 p = a.points[i], q = a.points[(i + 1) % a.points.size()], r = b.points[j],
                       s = b.points[(j + 1) % b.points.size()];
            if (side(p, q, r) * side(p, q, s) < 0 && side(r, s, p) * side(r, s, q) < 0) return true;
        }
    return false;
}

/// Whether two outlines share anything. A corner that lies just on the other's border crosses nothing: its
/// neighbours tell.
bool overlapping(const Outline& a, const Outline& b) {
    const auto within = [](const Outline& in, const Outline& of) {
        return std::ranges::any_of(in.points, [&](Vec2 p) { return insidePolygon(of.points, p); });
    };
    return within(a, b) || within(b, a) || crossing(a, b);
}

bool wiresApart(const TopoDS_Face& face, const gp_Pln& plane) {
    std::vector<Outline> all;
    for (TopExp_Explorer x(face, TopAbs_WIRE); x.More(); x.Next())
        all.push_back(outlineOf(TopoDS::Wire(x.Current()), face, plane));
    const auto outer = std::max_element(all.begin(), all.end(), [](const Outline& a, const Outline& b) {
        return std::abs(a.area) < std::abs(b.area);
    });
    std::vector<Box2> boxes;
    for (const Outline& o : all) boxes.push_back(o.box);
    const BoxTree tree(boxes);
    for (auto w = all.begin(); w != all.end(); ++w) {
        if (w->points.size() < 3 || w->area == 0) return false;
        if (w == outer) continue;
        if ((w->area > 0) == (outer->area > 0) || !insidePolygon(outer->points, w->points.front()) ||
            crossing(*w, *outer))
            return false;
        for (int i : tree.overlapping(w->box)) {
            const Outline& o = all[i];
            if (&o == &*w || &o == &*outer) continue;
            if (overlapping(*w, o)) return false;
        }
    }
    return true;
}

int wiresOf(const TopoDS_Shape& face) {
    int n = 0;
    for (TopExp_Explorer x(face, TopAbs_WIRE); x.More(); x.Next()) ++n;
    return n;
}

bool isSoundFace(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face, false);
    if (wiresOf(face) <= kManyWires || surface.GetType() != GeomAbs_Plane)
        return BRepCheck_Analyzer(face).IsValid();
    for (TopExp_Explorer x(face, TopAbs_WIRE); x.More(); x.Next())
        if (!BRepCheck_Analyzer(x.Current()).IsValid()) return false;
    return wiresApart(face, surface.Plane());
}

} // namespace

bool isSound(const TopoDS_Shape& shape) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(shape, TopAbs_FACE, faces);
    bool many = false;
    for (int i = 1; i <= faces.Extent(); ++i) many = many || wiresOf(faces(i)) > kManyWires;
    if (!many) return BRepCheck_Analyzer(shape).IsValid();
    for (TopExp_Explorer x(shape, TopAbs_SHELL); x.More(); x.Next()) {
        BRepCheck_Shell shell(TopoDS::Shell(x.Current()));
        if (shell.Closed() != BRepCheck_NoError || shell.Orientation() != BRepCheck_NoError) return false;
    }
    for (int i = 1; i <= faces.Extent(); ++i)
        if (!isSoundFace(TopoDS::Face(faces(i)))) return false;
    return true;
}

} // namespace prism
