#include "core/base/ellipse_fit.h"
#include "core/base/simpler_curve.h"
#include "core/building/stoppable.h"
#include "core/building/to_kernel.h"
#include "core/proofing/missed_lines.h"
#include "core/proofing/proof.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GeomConvert_ApproxCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <HLRAlgo_Projector.hxx>
#include <HLRBRep_Algo.hxx>
#include <HLRBRep_HLRToShape.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <mutex>

namespace prism {
namespace {

/// The frame as the modeller has it: towards the viewer, and across the paper. Right and up of a view may run
/// either way across the paper; `sign` is that of its right.
struct Paper {
    gp_Ax2 axes;
    int sign;
    explicit Paper(const ViewFrame& f)
        : axes(gp_Pnt(0, 0, 0), gp_Dir(packed(-f.look)), gp_Dir(packed(f.right))),
          sign(dot(cross(f.right, f.up), f.look) < 0 ? 1 : -1) {
        if (sign < 0) axes.SetXDirection(gp_Dir(packed(-f.right)));
    }
};

/// Paper coordinates of the projector to the view's own.
struct Back {
    int sign;
    Vec2 shift;
    Vec2 operator()(const gp_Pnt& p) const { return Vec2{sign * p.X(), p.Y()} + shift; }
    Vec2 dir(const gp_Dir& d) const { return {sign * d.X(), d.Y()}; }
};

constexpr double kOnConic = 1e-6; ///< mm; points this close to an ellipse lie on it

Curve curveOf(const TopoDS_Edge& e, const Back& back) {
    const BRepAdaptor_Curve c(e);
    const double t0 = c.FirstParameter(), t1 = c.LastParameter();
    if (c.GetType() == GeomAbs_Line) return Segment{back(c.Value(t0)), back(c.Value(t1))};
    if (c.GetType() == GeomAbs_Circle) {
        const gp_Circ k = c.Circle();
        const Vec2 x = back.dir(k.XAxis().Direction()), y = back.dir(k.YAxis().Direction());
        const double turn = cross(x, y) < 0 ? -1 : 1;
        return Arc{back(k.Location()), k.Radius(), angleOf(x) + turn * t0, turn * (t1 - t0)};
    }
    if (c.GetType() == GeomAbs_Ellipse) {
        const gp_Elips k = c.Ellipse();
        const Vec2 x = back.dir(k.XAxis().Direction()), y = back.dir(k.YAxis().Direction());
        const double turn = cross(x, y) < 0 ? -1 : 1;
        return EllipseArc{back(k.Location()), x * k.MajorRadius(), k.MinorRadius() / k.MajorRadius(),
                          turn * t0, turn * (t1 - t0)};
    }
    std::vector<Vec2> points;
    if (c.GetType() == GeomAbs_BSplineCurve && c.Degree() == 1) {
        // Curves that are neither lines nor circles come as chords: only their ends lie on the curve.
        const Handle(Geom_BSplineCurve) chords = c.BSpline();
        for (int i = 1; i <= chords->NbPoles(); ++i) points.push_back(back(chords->Pole(i)));
        if (const auto circle = points.size() > 3 ? fitCircle(points) : std::nullopt)
            if (const auto arc = arcOn(*circle, points, kOnConic, false)) return *arc;
        if (const auto ellipse = ellipseOn(points, kOnConic)) return *ellipse;
    } else {
        constexpr int n = 48;
        for (int i = 0; i <= n; ++i) points.push_back(back(c.Value(t0 + (t1 - t0) * i / n)));
    }
    points.erase(
        std::unique(points.begin(), points.end(), [](Vec2 a, Vec2 b) { return distance(a, b) < 1e-9; }),
        points.end());
    if (points.size() < 2) return Segment{points.front(), points.front()};
    // Silhouettes of cylinders and circles seen from the side come as splines but are lines, which a circle
    // may run along both ways.
    const auto far =
        std::ranges::max_element(points, {}, [&](Vec2 p) { return distance(p, points.front()); });
    const auto farthest = std::ranges::max_element(points, {}, [&](Vec2 p) { return distance(p, *far); });
    const Segment chord = far < farthest ? Segment{*far, *farthest} : Segment{*farthest, *far};
    if (std::ranges::all_of(points, [&](Vec2 p) { return distanceTo(chord, p) < 1e-7; })) return chord;
    return splineThrough(points);
}

void collect(const TopoDS_Shape& compound, ProjectedLine::Kind kind, const Back& back,
             std::vector<ProjectedLine>& out) {
    if (compound.IsNull()) return;
    BRepLib::BuildCurves3d(compound);
    for (TopExp_Explorer x(compound, TopAbs_EDGE); x.More(); x.Next()) {
        const Curve c = curveOf(TopoDS::Edge(x.Current()), back);
        if (lengthOf(c) > 1e-6) out.push_back({kind, c});
    }
}

/// Draws the heavy curves of a shape that nobody else has lighter. The modeller writes the curve in which two
/// round surfaces meet as a hundred poles of degree eight; where two of them are seen one behind the other,
/// removing hidden lines takes seconds. Drawn again within a fiftieth of what a proof forgives free-form
/// lines they take a twentieth of that.
void lighten(const TopoDS_Shape& own) {
    constexpr int kDegree = 3, kMostPieces = 60, kHeavy = 24;
    constexpr double kOff = 2e-4; // mm
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(own, TopAbs_EDGE, edges);
    const BRep_Builder builder;
    for (int i = 1; i <= edges.Extent(); ++i) {
        const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
        if (BRep_Tool::Degenerated(edge)) continue;
        double from = 0, to = 0;
        TopLoc_Location place;
        const auto heavy = Handle(Geom_BSplineCurve)::DownCast(BRep_Tool::Curve(edge, place, from, to));
        if (heavy.IsNull() || heavy->Degree() <= kDegree || heavy->NbPoles() < kHeavy) continue;
        GeomConvert_ApproxCurve light(heavy, kOff, GeomAbs_C1, kMostPieces, kDegree);
        if (!light.HasResult() || light.MaxError() > 2 * kOff) continue;
        builder.UpdateEdge(edge, light.Curve(), place, BRep_Tool::Tolerance(edge));
        builder.Range(edge, from, to, true);
    }
}

/// The lines of a shape that nobody else has, as the modeller finds them.
std::vector<ProjectedLine> foundOn(const TopoDS_Shape& own, const HLRAlgo_Projector& projector,
                                   const Back& back) {
    // Nothing says that two such searches leave each other alone, and one may have been left to end by
    // itself.
    static std::mutex one_at_a_time;
    const std::lock_guard lock(one_at_a_time);
    lighten(own);
    Handle(HLRBRep_Algo) algo = new HLRBRep_Algo();
    algo->Add(own);
    algo->Projector(projector);
    algo->Update();
    algo->Hide();
    HLRBRep_HLRToShape to(algo);
    std::vector<ProjectedLine> r;
    collect(to.VCompound(), ProjectedLine::Kind::visible, back, r);
    collect(to.OutLineVCompound(), ProjectedLine::Kind::visible, back, r);
    collect(to.Rg1LineVCompound(), ProjectedLine::Kind::smooth, back, r);
    collect(to.HCompound(), ProjectedLine::Kind::hidden, back, r);
    collect(to.OutLineHCompound(), ProjectedLine::Kind::hidden, back, r);
    collect(to.Rg1LineHCompound(), ProjectedLine::Kind::smooth_hidden, back, r);
    return r;
}

} // namespace

Result<std::vector<ProjectedLine>> projected(const TopoDS_Shape& shape, const ViewFrame& frame,
                                             const Progress& progress) {
    using Lines = std::vector<ProjectedLine>;
    return guarded<Lines>([&]() -> Result<Lines> {
        const Paper paper(frame);
        const HLRAlgo_Projector projector(paper.axes);
        const Back back{paper.sign, frame.shift};
        auto r = stoppable<Lines>(
            progress, [own = copyOf(shape), projector, back] { return foundOn(own, projector, back); });
        const auto onto = [&](const gp_Pnt& p) {
            gp_Pnt q = p;
            projector.Transform(q);
            return back(q);
        };
        if (r) addMissedLines(shape, frame.look, onto, *r, progress);
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "looking at the solid was stopped");
        return r;
    });
}

} // namespace prism
