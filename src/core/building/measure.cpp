#include "core/building/solid.h"
#include "core/building/soundness.h"
#include "core/building/stoppable.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

namespace prism {
namespace {

int count(const TopoDS_Shape& s, TopAbs_ShapeEnum kind) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, kind, m);
    return m.Extent();
}

bool isFreeForm(const TopoDS_Edge& e) {
    if (BRep_Tool::Degenerated(e)) return false;
    const auto kind = BRepAdaptor_Curve(e).GetType();
    return kind != GeomAbs_Line && kind != GeomAbs_Circle && kind != GeomAbs_Ellipse;
}

/// Whether the fine integration ends on a face with such an edge: on planes, cylinders and pushed curves, and
/// on cones that a plane cuts in a hyperbola. On other faces it adds places without end.
bool endsOn(const TopoDS_Face& face, const TopoDS_Edge& edge) {
    switch (BRepAdaptor_Surface(face, false).GetType()) {
    case GeomAbs_Plane:
    case GeomAbs_Cylinder:
    case GeomAbs_SurfaceOfExtrusion:
        return true;
    case GeomAbs_Cone:
        return BRepAdaptor_Curve(edge).GetType() == GeomAbs_Hyperbola;
    default:
        return false;
    }
}

/// Whether a shape has edges that are neither straight nor arcs of circles or ellipses, not very many, and
/// the fine integration ends at all of them.
bool wantsFineIntegration(const TopoDS_Shape& shape) {
    constexpr int kMost = 24; // each edge is met on both of its faces
    int any = 0;
    for (TopExp_Explorer f(shape, TopAbs_FACE); f.More(); f.Next())
        for (TopExp_Explorer e(f.Current(), TopAbs_EDGE); e.More(); e.Next()) {
            const TopoDS_Edge& edge = TopoDS::Edge(e.Current());
            if (!isFreeForm(edge)) continue;
            if (++any > kMost || !endsOn(TopoDS::Face(f.Current()), edge)) return false;
        }
    return any > 0;
}

/// Whether the modeller searches for how far a face reaches, instead of computing it.
bool isSearched(const TopoDS_Face& face) {
    switch (BRepAdaptor_Surface(face, false).GetType()) {
    case GeomAbs_Plane:
    case GeomAbs_Cylinder:
    case GeomAbs_Cone:
    case GeomAbs_Sphere:
        return false;
    default:
        return true;
    }
}

/// The smallest box round a shape; where the search for it fails, one that may be a little wider. Any when
/// stopped.
Bnd_Box boxRound(const TopoDS_Shape& shape, const Progress& progress) {
    const auto smallest = [](const TopoDS_Shape& s) {
        Bnd_Box box;
        BRepBndLib::AddOptimal(s, box, false, false);
        return box;
    };
    bool searched = false;
    for (TopExp_Explorer f(shape, TopAbs_FACE); f.More() && !searched; f.Next())
        searched = isSearched(TopoDS::Face(f.Current()));
    const auto found =
        searched ? stoppable<Bnd_Box>(progress, [smallest, own = copyOf(shape)] { return smallest(own); })
                 : guarded<Bnd_Box>([&] { return smallest(shape); });
    if (found) return *found;
    Bnd_Box box;
    BRepBndLib::Add(shape, box, false);
    return box;
}

SolidMeasure measuredAsItIs(const TopoDS_Shape& shape, Measuring how, const Progress& progress) {
    SolidMeasure m;
    GProp_GProps volume, area;
    const bool sound = isSound(shape);
    if (progress.cancelled()) return {};
    // A fixed number of places on each border is too few for free-form ones.
    if (how == Measuring::fine && sound && wantsFineIntegration(shape)) {
        BRepGProp::VolumePropertiesGK(shape, volume, 1e-7, true);
        BRepGProp::SurfaceProperties(shape, area, 1e-7);
    } else {
        BRepGProp::VolumeProperties(shape, volume);
        BRepGProp::SurfaceProperties(shape, area);
    }
    if (progress.cancelled()) return {};
    m.volume = volume.Mass();
    m.area = area.Mass();
    Bnd_Box box = boxRound(shape, progress);
    if (progress.cancelled()) return {};
    if (!box.IsVoid()) {
        box.SetGap(0);
        box.Get(m.lo.x, m.lo.y, m.lo.z, m.hi.x, m.hi.y, m.hi.z);
    }
    m.faces = count(shape, TopAbs_FACE);
    m.solids = count(shape, TopAbs_SOLID);
    m.valid = m.solids > 0 && m.volume > 0 && sound;
    return m;
}

} // namespace

SolidMeasure measured(const TopoDS_Shape& shape, Measuring how, const Progress& progress) {
    if (shape.IsNull()) return {};
    // What the modeller cannot even look at is no sound solid.
    const auto m = guarded<SolidMeasure>([&] { return measuredAsItIs(shape, how, progress); });
    return m ? *m : SolidMeasure{};
}

} // namespace prism
