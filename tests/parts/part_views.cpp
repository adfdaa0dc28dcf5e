// Makes a part from a few lines of text and projects it onto views, for sheets whose truth is known. It
// shares no code with the program: the shapes are made by the modeller's primitives and projected by its
// hidden-line removal.
//
//   part_views [PART.brep] < part.txt > views.json
//
// One line an operation, "+" adds and "-" cuts, lengths in mm:
//   + box X Y Z DX DY DZ
//   + cyl AXIS X Y Z R LENGTH             along the axis x, y or z
//   + cyld X Y Z DX DY DZ R LENGTH        along any direction
//   + cone AXIS X Y Z R0 R1 LENGTH
//   + coned X Y Z DX DY DZ R0 R1 LENGTH   along any direction
//   + prism AXIS FROM LENGTH : m U V l U V t UM VM U V ...   profile square to the axis; t is an arc by its
//   middle
//   + rev AXIS X Y Z : m A R l A R ...    profile in distance along the axis and radius, turned once
//   - half X Y Z NX NY NZ                 all beyond a plane, on the side of its normal
//   fillet R : X Y Z , X Y Z ...          the edges nearest to these places
//   chamfer C : X Y Z , ...
//   view NAME LX LY LZ UX UY UZ           looks along L with U up
//   section NAME LX LY LZ UX UY UZ X Y Z  the same, cut by the plane square to L through a place
#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <Bnd_Box.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <GeomAbs_CurveType.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <HLRAlgo_Projector.hxx>
#include <HLRBRep_Algo.hxx>
#include <HLRBRep_HLRToShape.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <gp_Pln.hxx>

#include <functional>
#include <iostream>
#include <nlohmann/json.hpp>
#include <sstream>

using Json = nlohmann::json;

namespace {

gp_Dir axisNamed(const std::string& name) {
    return name == "x" ? gp_Dir(1, 0, 0) : name == "y" ? gp_Dir(0, 1, 0) : gp_Dir(0, 0, 1);
}

/// A profile's coordinates in space: for a prism along x (y, z), along y (x, z), along z (x, y).
struct Profile {
    std::function<gp_Pnt(double, double)> place;
    TopoDS_Face face(std::istream& in) const {
        BRepBuilderAPI_MakeWire wire;
        std::string word;
        gp_Pnt at, first;
        const auto read = [&] {
            double u = 0, v = 0;
            in >> u >> v;
            return place(u, v);
        };
        while (in >> word) {
            if (word == "m")
                first = at = read();
            else if (word == "l") {
                const gp_Pnt to = read();
                if (at.Distance(to) > 1e-7) wire.Add(BRepBuilderAPI_MakeEdge(at, to));
                at = to;
            } else if (word == "t") {
                const gp_Pnt middle = read(), to = read();
                wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(at, middle, to).Value()));
                at = to;
            }
        }
        if (at.Distance(first) > 1e-7) wire.Add(BRepBuilderAPI_MakeEdge(at, first));
        return BRepBuilderAPI_MakeFace(wire.Wire(), true);
    }
};

TopoDS_Shape solidOf(std::istream& in) {
    std::string kind, axis, colon;
    in >> kind;
    double x = 0, y = 0, z = 0, a = 0, b = 0, c = 0, r = 0, l = 0;
    if (kind == "box") {
        in >> x >> y >> z >> a >> b >> c;
        return BRepPrimAPI_MakeBox(gp_Pnt(x, y, z), a, b, c);
    }
    if (kind == "cyl") {
        in >> axis >> x >> y >> z >> r >> l;
        return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, y, z), axisNamed(axis)), r, l);
    }
    if (kind == "cyld") {
        in >> x >> y >> z >> a >> b >> c >> r >> l;
        return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, y, z), gp_Dir(a, b, c)), r, l);
    }
    if (kind == "cone") {
        in >> axis >> x >> y >> z >> a >> b >> l;
        return BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(x, y, z), axisNamed(axis)), a, b, l);
    }
    if (kind == "coned") {
        double r1 = 0;
        in >> x >> y >> z >> a >> b >> c >> r >> r1 >> l;
        return BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(x, y, z), gp_Dir(a, b, c)), r, r1, l);
    }
    if (kind == "half") {
        in >> x >> y >> z >> a >> b >> c;
        const gp_Pnt p(x, y, z);
        const TopoDS_Face plane = BRepBuilderAPI_MakeFace(gp_Pln(p, gp_Dir(a, b, c)), -1e4, 1e4, -1e4, 1e4);
        return BRepPrimAPI_MakePrism(plane, gp_Vec(gp_Dir(a, b, c)) * 1e4);
    }
    if (kind == "prism") {
        in >> axis >> a >> l >> colon;
        const Profile p{[&](double u, double v) {
            return axis == "x" ? gp_Pnt(a, u, v) : axis == "y" ? gp_Pnt(u, a, v) : gp_Pnt(u, v, a);
        }};
        return BRepPrimAPI_MakePrism(p.face(in), gp_Vec(axisNamed(axis)) * l);
    }
    if (kind == "rev") {
        in >> axis >> x >> y >> z >> colon;
        const gp_Pnt base(x, y, z);
        const gp_Dir along = axisNamed(axis);
        const gp_Vec out(axis == "x" ? gp_Dir(0, 0, 1) : gp_Dir(1, 0, 0));
        const Profile p{[&](double u, double v) { return base.Translated(gp_Vec(along) * u + out * v); }};
        return BRepPrimAPI_MakeRevol(p.face(in), gp_Ax1(base, along));
    }
    throw std::runtime_error("unknown solid " + kind);
}

TopoDS_Shape united(const TopoDS_Shape& s) {
    ShapeUpgrade_UnifySameDomain u(s, true, true, false);
    u.Build();
    return u.Shape();
}

/// Rounds or bevels the edges nearest to the places that are listed.
TopoDS_Shape blended(const TopoDS_Shape& s, bool round, std::istream& in) {
    double size = 0;
    std::string colon;
    in >> size >> colon;
    BRepFilletAPI_MakeFillet fillet(s);
    BRepFilletAPI_MakeChamfer chamfer(s);
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(s, TopAbs_EDGE, edges);
    double x = 0, y = 0, z = 0;
    while (in >> x >> y >> z) {
        const TopoDS_Shape at = BRepBuilderAPI_MakeVertex(gp_Pnt(x, y, z));
        double least = 1e99;
        TopoDS_Edge nearest;
        for (int i = 1; i <= edges.Extent(); ++i)
            if (const double d = BRepExtrema_DistShapeShape(edges(i), at).Value(); d < least)
                least = d, nearest = TopoDS::Edge(edges(i));
        if (round)
            fillet.Add(size, nearest);
        else
            chamfer.Add(size, nearest);
        in >> colon;
    }
    return round ? fillet.Shape() : chamfer.Shape();
}

Json pair(const gp_Pnt& p) {
    return {p.X(), p.Y()};
}

Json curveJson(const TopoDS_Edge& e) {
    const BRepAdaptor_Curve c(e);
    const gp_Pnt from = c.Value(c.FirstParameter()), to = c.Value(c.LastParameter());
    Json j{{"from", pair(from)},
           {"to", pair(to)},
           {"middle", pair(c.Value(0.5 * (c.FirstParameter() + c.LastParameter())))}};
    const bool closed = from.Distance(to) < 1e-7;
    switch (c.GetType()) {
    case GeomAbs_Line:
        j["kind"] = "line";
        return j;
    case GeomAbs_Circle:
        j["kind"] = closed ? "circle" : "arc";
        j["centre"] = pair(c.Circle().Location()), j["radius"] = c.Circle().Radius();
        j["turns_left"] = c.Circle().Axis().Direction().Z() > 0;
        return j;
    case GeomAbs_Ellipse: {
        const gp_Elips e2 = c.Ellipse();
        const gp_Dir m = e2.XAxis().Direction();
        j["kind"] = "ellipse", j["centre"] = pair(e2.Location());
        j["major"] = {m.X() * e2.MajorRadius(), m.Y() * e2.MajorRadius()};
        j["ratio"] = e2.MinorRadius() / e2.MajorRadius();
        j["turns_left"] = e2.Axis().Direction().Z() > 0;
        j["start"] = c.FirstParameter(), j["end"] = c.LastParameter();
        return j;
    }
    default: {
        j["kind"] = "spline";
        TopLoc_Location loc;
        double a = 0, b = 0;
        const Handle(Geom_Curve) g = BRep_Tool::Curve(e, loc, a, b);
        const Handle(Geom_BSplineCurve) s = GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(g, a, b));
        s->Transform(loc.Transformation());
        j["degree"] = s->Degree();
        j["poles"] = Json::array(), j["knots"] = Json::array(), j["weights"] = Json::array();
        for (int i = 1; i <= s->NbPoles(); ++i)
            j["poles"].push_back(pair(s->Pole(i))), j["weights"].push_back(s->Weight(i));
        for (int i = 1; i <= s->NbKnots(); ++i)
            for (int k = 0; k < s->Multiplicity(i); ++k) j["knots"].push_back(s->Knot(i));
        return j;
    }
    }
}

Json curvesOf(const std::vector<TopoDS_Shape>& shapes) {
    Json r = Json::array();
    for (const TopoDS_Shape& s : shapes) {
        if (s.IsNull()) continue;
        BRepLib::BuildCurves3d(s);
        for (TopExp_Explorer x(s, TopAbs_EDGE); x.More(); x.Next()) {
            const BRepAdaptor_Curve c(TopoDS::Edge(x.Current()));
            const gp_Pnt a = c.Value(c.FirstParameter()), b = c.Value(c.LastParameter()),
                         m = c.Value(0.5 * (c.FirstParameter() + c.LastParameter()));
            if (a.Distance(m) + m.Distance(b) > 1e-5) r.push_back(curveJson(TopoDS::Edge(x.Current())));
        }
    }
    return r;
}

struct Way {
    std::string name;
    gp_Dir look, up;
    explicit Way(std::istream& in) {
        double a = 0, b = 0, c = 0, u = 0, v = 0, w = 0;
        in >> name >> a >> b >> c >> u >> v >> w;
        look = gp_Dir(a, b, c), up = gp_Dir(u, v, w);
    }
    gp_Dir right() const { return look.Crossed(up); }
    gp_Ax2 axes() const { return {gp_Pnt(0, 0, 0), look.Reversed(), right()}; }
};

/// What a viewer meets. The search for hidden lines calls some seen, now and then, that lie behind a wall.
class Viewer {
  public:
    Viewer(const TopoDS_Shape& s, const Way& way) : way_(way) { meets_.Load(s, 1e-7); }
    /// Whether one and the same face runs on in front of a curve of the view.
    bool isBehindFace(const TopoDS_Edge& e) {
        constexpr double kBeside = 2e-3, kSteepest = 20;
        const BRepAdaptor_Curve c(e);
        for (const double t : {0.17, 0.38, 0.55, 0.81}) {
            const auto [p, d] = placeAt(c, t);
            const gp_Vec across = gp_Vec(-d.Y(), d.X(), 0).Normalized() * kBeside;
            const auto a = first(p.Translated(across)), b = first(p.Translated(-across)), on = first(p);
            // An edge that lies in the face itself, as where a bore touches it from below, is in sight.
            if (!a || !b || !on || !on->within || !a->face.IsSame(b->face) || !on->face.IsSame(a->face) ||
                std::abs(a->at - b->at) > kSteepest * kBeside)
                return false;
        }
        return true;
    }

  private:
    /// A place on a curve and its direction. Of chords, as most curves come, only the ends lie on it.
    static std::pair<gp_Pnt, gp_Vec> placeAt(const BRepAdaptor_Curve& c, double t) {
        if (c.GetType() == GeomAbs_BSplineCurve && c.Degree() == 1 && c.NbPoles() > 2) {
            const Handle(Geom_BSplineCurve) chords = c.BSpline();
            const int i =
                std::clamp(static_cast<int>(std::lround(t * chords->NbPoles())), 2, chords->NbPoles() - 1);
            return {chords->Pole(i), gp_Vec(chords->Pole(i - 1), chords->Pole(i + 1))};
        }
        gp_Pnt p;
        gp_Vec d;
        c.D1(c.FirstParameter() + t * (c.LastParameter() - c.FirstParameter()), p, d);
        return {p, d};
    }
    struct Place {
        double at;
        TopoDS_Face face;
        bool within; ///< not on its border
    };
    using Met = std::optional<Place>;
    Met first(const gp_Pnt& p) {
        gp_Pnt at(0, 0, 0);
        at.Translate(gp_Vec(way_.right()) * p.X() + gp_Vec(way_.right().Crossed(way_.look)) * p.Y());
        meets_.Perform(gp_Lin(at, way_.look), -1e4, 1e4);
        Met nearest;
        for (int i = 1; i <= meets_.NbPnt(); ++i)
            if (!nearest || meets_.WParameter(i) < nearest->at)
                nearest = {meets_.WParameter(i), meets_.Face(i), meets_.State(i) == TopAbs_IN};
        return nearest;
    }
    IntCurvesFace_ShapeIntersector meets_;
    const Way& way_;
};

Json projected(const TopoDS_Shape& s, const Way& way) {
    Handle(HLRBRep_Algo) hlr = new HLRBRep_Algo();
    hlr->Add(s);
    hlr->Projector(HLRAlgo_Projector(way.axes()));
    hlr->Update();
    hlr->Hide();
    HLRBRep_HLRToShape to(hlr);
    Viewer viewer(s, way);
    std::vector<TopoDS_Shape> visible, hidden{to.HCompound(), to.OutLineHCompound()};
    for (const TopoDS_Shape& seen : {to.VCompound(), to.OutLineVCompound()}) {
        if (seen.IsNull()) continue;
        BRepLib::BuildCurves3d(seen);
        for (TopExp_Explorer x(seen, TopAbs_EDGE); x.More(); x.Next())
            (viewer.isBehindFace(TopoDS::Edge(x.Current())) ? hidden : visible).push_back(x.Current());
    }
    return {{"visible", curvesOf(visible)}, {"hidden", curvesOf(hidden)}};
}

/// The closed borders of the faces that a plane cut, in the coordinates of a view.
Json cutFaces(const TopoDS_Shape& s, const Way& way, const gp_Pnt& through) {
    Json faces = Json::array();
    gp_Trsf onto;
    onto.SetTransformation(gp_Ax3(way.axes()));
    for (TopExp_Explorer x(s, TopAbs_FACE); x.More(); x.Next()) {
        const TopoDS_Face f = TopoDS::Face(x.Current());
        const BRepAdaptor_Surface surface(f);
        if (surface.GetType() != GeomAbs_Plane) continue;
        const gp_Pln plane = surface.Plane();
        if (!plane.Axis().Direction().IsParallel(way.look, 1e-9) || plane.Distance(through) > 1e-6) continue;
        Json loops = Json::array();
        for (TopExp_Explorer w(f, TopAbs_WIRE); w.More(); w.Next()) {
            Json loop = Json::array();
            for (BRepTools_WireExplorer e(TopoDS::Wire(w.Current())); e.More(); e.Next()) {
                const BRepAdaptor_Curve c(e.Current());
                const int n = c.GetType() == GeomAbs_Line ? 1 : 64;
                for (int i = 0; i < n; ++i) {
                    const bool back = e.Orientation() == TopAbs_REVERSED;
                    const double t = static_cast<double>(back ? n - i : i) / n;
                    loop.push_back(
                        pair(c.Value(c.FirstParameter() + t * (c.LastParameter() - c.FirstParameter()))
                                 .Transformed(onto)));
                }
            }
            loops.push_back(loop);
        }
        faces.push_back(loops);
    }
    return faces;
}

} // namespace

int main(int argc, char** argv) try {
    TopoDS_Shape part;
    Json r{{"views", Json::object()}};
    std::vector<std::string> looks;
    for (std::string line; std::getline(std::cin, line);) {
        std::istringstream in(line);
        std::string word;
        if (!(in >> word)) continue;
        if (word == "view" || word == "section") {
            looks.push_back(line);
            continue;
        }
        if (word == "fillet" || word == "chamfer") {
            part = blended(united(part), word == "fillet", in);
            continue;
        }
        const TopoDS_Shape tool = solidOf(in);
        part = part.IsNull() ? tool
               : word == "+" ? TopoDS_Shape(BRepAlgoAPI_Fuse(part, tool).Shape())
                             : TopoDS_Shape(BRepAlgoAPI_Cut(part, tool).Shape());
    }
    part = united(part);
    if (argc > 1) BRepTools::Write(part, argv[1]);
    GProp_GProps volume;
    BRepGProp::VolumeProperties(part, volume, 1e-9);
    int solids = 0, faces = 0;
    for (TopExp_Explorer x(part, TopAbs_SOLID); x.More(); x.Next()) ++solids;
    for (TopExp_Explorer x(part, TopAbs_FACE); x.More(); x.Next()) ++faces;
    r["volume"] = volume.Mass(), r["solids"] = solids, r["faces"] = faces;
    for (const std::string& line : looks) {
        std::istringstream in(line);
        std::string word;
        in >> word;
        const Way way(in);
        if (word == "view") {
            r["views"][way.name] = projected(part, way);
            continue;
        }
        double x = 0, y = 0, z = 0;
        in >> x >> y >> z;
        const gp_Pnt through(x, y, z);
        const double far = 1e4;
        // The second direction of the box is look x right.
        const TopoDS_Shape behind =
            BRepPrimAPI_MakeBox(gp_Ax2(through.Translated(gp_Vec(way.right()) * -far -
                                                          gp_Vec(way.look.Crossed(way.right())) * far),
                                       way.look, way.right()),
                                2 * far, 2 * far, far);
        const TopoDS_Shape cut = BRepAlgoAPI_Common(part, behind).Shape();
        r["views"][way.name] = projected(cut, way);
        r["views"][way.name]["cut"] = cutFaces(cut, way, through);
    }
    std::cout << r.dump() << '\n';
    return 0;
} catch (const std::exception& e) {
    std::cerr << e.what() << '\n';
    return 1;
} catch (const Standard_Failure& e) {
    std::cerr << e.GetMessageString() << '\n';
    return 1;
}
