#include "core/building/unify.h"

#include "core/base/geometry.h"
#include "core/base/groups.h"
#include "core/building/kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_Curve.hxx>
#include <NCollection_DataMap.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_DataMapOfShapeShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopTools_ShapeMapHasher.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>
#include <map>
#include <memory>
#include <optional>
#include <vector>

namespace prism::building {
namespace {

constexpr double kSame = 1e-5; ///< mm and radians; wider than what the modeller takes for one surface

/// Whether two faces lie on one round surface.
bool onOneRound(const BRepAdaptor_Surface& a, const BRepAdaptor_Surface& b) {
    if (a.GetType() != b.GetType()) return false;
    const auto near = [](double x, double y) { return std::abs(x - y) <= kSame; };
    const auto coaxial = [](const gp_Ax1& x, const gp_Ax1& y) { // whichever way they point
        return x.IsCoaxial(y, kSame, kSame) || x.IsCoaxial(y.Reversed(), kSame, kSame);
    };
    switch (a.GetType()) {
    case GeomAbs_Cylinder:
        return near(a.Cylinder().Radius(), b.Cylinder().Radius()) &&
               coaxial(a.Cylinder().Axis(), b.Cylinder().Axis());
    case GeomAbs_Cone:
        return near(std::abs(a.Cone().SemiAngle()), std::abs(b.Cone().SemiAngle())) &&
               a.Cone().Apex().Distance(b.Cone().Apex()) <= kSame &&
               coaxial(a.Cone().Axis(), b.Cone().Axis());
    case GeomAbs_Sphere:
        return near(a.Sphere().Radius(), b.Sphere().Radius()) &&
               a.Sphere().Location().Distance(b.Sphere().Location()) <= kSame;
    case GeomAbs_Torus:
        return near(a.Torus().MajorRadius(), b.Torus().MajorRadius()) &&
               near(a.Torus().MinorRadius(), b.Torus().MinorRadius()) &&
               a.Torus().Location().Distance(b.Torus().Location()) <= kSame &&
               coaxial(a.Torus().Axis(), b.Torus().Axis());
    default:
        return false;
    }
}

/// How far the axis of a round surface, or the centre of a ball, is from the origin; nothing for other
/// surfaces.
std::optional<double> awayOf(const BRepAdaptor_Surface& s) {
    const auto away = [](const gp_Ax1& a) {
        return gp_Vec(gp_Pnt(0, 0, 0), a.Location()).Crossed(gp_Vec(a.Direction())).Magnitude();
    };
    switch (s.GetType()) {
    case GeomAbs_Cylinder:
        return away(s.Cylinder().Axis());
    case GeomAbs_Cone:
        return away(s.Cone().Axis());
    case GeomAbs_Sphere:
        return s.Sphere().Location().Distance(gp_Pnt(0, 0, 0));
    case GeomAbs_Torus:
        return away(s.Torus().Axis());
    default:
        return std::nullopt;
    }
}

/// The faces that hang together by common edges.
std::vector<std::vector<TopoDS_Face>> connected(const std::vector<TopoDS_Face>& faces) {
    Groups together(faces.size());
    NCollection_DataMap<TopoDS_Shape, size_t, TopTools_ShapeMapHasher> first; // by edge
    for (size_t i = 0; i < faces.size(); ++i)
        for (TopExp_Explorer x(faces[i], TopAbs_EDGE); x.More(); x.Next())
            if (const size_t* other = first.Seek(x.Current()))
                together.join(static_cast<int>(i), static_cast<int>(*other));
            else
                first.Bind(x.Current(), i);
    std::map<int, std::vector<TopoDS_Face>> r;
    for (size_t i = 0; i < faces.size(); ++i) r[together.find(static_cast<int>(i))].push_back(faces[i]);
    std::vector<std::vector<TopoDS_Face>> parts;
    for (auto& [at, part] : r) parts.push_back(std::move(part));
    return parts;
}

/// Faces by the round surface that they lie on, where several hang together.
std::vector<std::vector<TopoDS_Face>> facesOnOneRound(const TopoDS_Shape& shape) {
    constexpr double kNear = 0.05; // mm; which groups are worth a closer look: a part may have very many
    std::vector<std::vector<TopoDS_Face>> groups;
    std::vector<BRepAdaptor_Surface> surfaces;
    std::multimap<double, size_t> byPlace;
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(shape, TopAbs_FACE, faces);
    for (int i = 1; i <= faces.Extent(); ++i) {
        const TopoDS_Face& face = TopoDS::Face(faces(i));
        const BRepAdaptor_Surface s(face, false);
        const auto away = awayOf(s);
        if (!away) continue;
        auto it = byPlace.lower_bound(*away - kNear);
        while (it != byPlace.end() && it->first <= *away + kNear && !onOneRound(surfaces[it->second], s))
            ++it;
        if (it != byPlace.end() && it->first <= *away + kNear) {
            groups[it->second].push_back(face);
            continue;
        }
        byPlace.emplace(*away, groups.size());
        groups.push_back({face}), surfaces.push_back(s);
    }
    std::vector<std::vector<TopoDS_Face>> r;
    for (const auto& g : groups)
        for (auto& one : connected(g))
            if (one.size() > 1) r.push_back(std::move(one));
    return r;
}

/// Whether a face meets itself in an edge.
bool closed(const TopoDS_Face& face) {
    TopTools_MapOfShape seen;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
        if (!seen.Add(x.Current())) return true;
    return false;
}

/// Where the angles of a round surface count from, and which way.
gp_Ax3 originOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface s(face, false);
    switch (s.GetType()) {
    case GeomAbs_Cylinder:
        return s.Cylinder().Position();
    case GeomAbs_Cone:
        return s.Cone().Position();
    case GeomAbs_Sphere:
        return s.Sphere().Position();
    default:
        return s.Torus().Position();
    }
}

bool sameAngles(const TopoDS_Face& a, const TopoDS_Face& b) {
    const gp_Ax3 x = originOf(a), y = originOf(b);
    return x.XDirection().Angle(y.XDirection()) <= kSame && x.YDirection().Angle(y.YDirection()) <= kSame;
}

/// Whether edges are far longer than corners are wide. By the shortest the modeller tells what is one place.
bool clearlyDrawn(const std::vector<TopoDS_Face>& group) {
    double shortest = std::numeric_limits<double>::infinity(), widest = 0;
    for (const TopoDS_Face& face : group)
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge& edge = TopoDS::Edge(x.Current());
            if (BRep_Tool::Degenerated(edge)) continue;
            const BRepAdaptor_Curve c(edge);
            const double t0 = c.FirstParameter(), t1 = c.LastParameter();
            shortest = std::min(shortest, c.Value(t0).Distance(c.Value(0.5 * (t0 + t1))));
            for (TopExp_Explorer v(edge, TopAbs_VERTEX); v.More(); v.Next())
                widest = std::max(widest, BRep_Tool::Tolerance(TopoDS::Vertex(v.Current())));
        }
    return shortest > 100 * widest;
}

/// The angle, radians, at the middle of an edge of a round face.
double angleAt(const TopoDS_Edge& edge, const TopoDS_Face& face) {
    double from = 0, to = 0;
    const auto c = BRep_Tool::CurveOnSurface(edge, face, from, to);
    return c.IsNull() ? 0 : c->Value(0.5 * (from + to)).X();
}

/// Whether the faces' angles go on in each other but for one line without gaps, where those that go all the
/// way round begin anew.
bool countOn(const std::vector<TopoDS_Face>& group) {
    std::vector<double> jumps;
    TopTools_MapOfShape ends;           // of the edges at which they jump
    TopTools_DataMapOfShapeShape first; // face by edge
    for (const TopoDS_Face& face : group)
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge& edge = TopoDS::Edge(x.Current());
            if (BRep_Tool::Degenerated(edge)) continue;
            if (!first.IsBound(edge)) {
                first.Bind(edge, face);
                continue;
            }
            const double a = angleAt(edge, face), b = angleAt(edge, TopoDS::Face(first.Find(edge)));
            if (std::abs(a - b) <= kPi) continue;
            jumps.push_back(std::min(a, b));
            for (TopExp_Explorer v(edge, TopAbs_VERTEX); v.More(); v.Next()) ends.Add(v.Current());
        }
    if (jumps.empty()) return true;
    const bool whole = ends.Extent() == static_cast<int>(jumps.size()) + 1;
    return whole && std::ranges::max(jumps) - std::ranges::min(jumps) <= kSame;
}

/// Whether the modeller can be trusted with making one face of these. It walks along their common border in
/// angles that count up, unless each of them is closed round the axis. Where angles count from different
/// directions, one face's do not go on where another's end, or corners are as wide as edges are long, it may
/// not find where the border goes on, and looks for it for ever.
bool mayBeOne(const std::vector<TopoDS_Face>& group) {
    if (!clearlyDrawn(group) || !countOn(group)) return false;
    return std::ranges::all_of(group, closed) ||
           std::ranges::all_of(group, [&](const TopoDS_Face& f) { return sameAngles(f, group.front()); });
}

/// Adds the edges that lie between faces of a group.
void keepBetween(const std::vector<TopoDS_Face>& group, TopTools_MapOfShape& keep) {
    TopTools_MapOfShape seen;
    for (const TopoDS_Face& face : group)
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
            if (!seen.Add(x.Current())) keep.Add(x.Current());
}

/// The area of all round faces, mm^2.
double roundArea(const TopoDS_Shape& shape) {
    double sum = 0;
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) {
        if (BRepAdaptor_Surface(TopoDS::Face(x.Current()), false).GetType() == GeomAbs_Plane) continue;
        GProp_GProps g;
        BRepGProp::SurfaceProperties(x.Current(), g);
        sum += g.Mass();
    }
    return sum;
}

/// Whether a round face goes round its axis as no face does: not at all, or more than once.
bool goesRoundOddly(const TopoDS_Face& face) {
    const BRepAdaptor_Surface s(face); // its range is that of the face
    const double round = s.LastUParameter() - s.FirstUParameter();
    return round < kSame || round > 2 * kPi + kSame;
}

/// Whether round faces that were made one came out wrong: not valid, or as another surface than they were
/// together.
bool spoilt(const TopTools_IndexedMapOfShape& before, double area, const TopoDS_Shape& after) {
    constexpr double kSameArea = 1e-2; // areas within free-form borders are integrated no better than that
    for (TopExp_Explorer x(after, TopAbs_FACE); x.More(); x.Next()) {
        const TopoDS_Face& face = TopoDS::Face(x.Current());
        if (!before.Contains(face) && BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane &&
            (goesRoundOddly(face) || !BRepCheck_Analyzer(face).IsValid()))
            return true;
    }
    return std::abs(roundArea(after) - area) > kSameArea * area;
}

using FaceGroups = std::vector<std::vector<TopoDS_Face>>;

/// Places that the views give to some 1e-8 mm make planes of one step that lean against each other; the
/// modeller takes them for one up to 1e-12 radians. They are one when they part by no more than this over
/// the whole part, mm.
constexpr double kOff = 1e-6;

double sizeOf(const TopoDS_Shape& shape) {
    Bnd_Box box;
    BRepBndLib::Add(shape, box, false);
    return box.IsVoid() ? 1 : std::max(1.0, std::sqrt(box.SquareExtent()));
}

/// Neighbouring faces on one surface made one, but for the round ones of some groups.
template <class MayUnite>
std::unique_ptr<ShapeUpgrade_UnifySameDomain> attempt(const TopoDS_Shape& shape, const FaceGroups& groups,
                                                      MayUnite mayUnite) {
    auto u = std::make_unique<ShapeUpgrade_UnifySameDomain>(shape, true, true, false);
    u->SetAngularTolerance(kOff / sizeOf(shape));
    TopTools_MapOfShape keep;
    for (const auto& group : groups)
        if (!mayUnite(group)) keepBetween(group, keep);
    if (!keep.IsEmpty()) u->KeepShapes(keep);
    u->Build();
    return u;
}

/// Goes on from a copy of a shape.
void follow(BRepTools_History& history, const TopoDS_Shape& shape, BRepBuilderAPI_Copy& copy) {
    TopTools_ListOfShape arguments;
    arguments.Append(shape);
    history.Merge(new BRepTools_History(arguments, copy));
}

TopoDS_Shape madeOne(const TopoDS_Shape& shape, const TopTools_IndexedMapOfShape& faces,
                     BRepTools_History& history) {
    const FaceGroups groups = facesOnOneRound(shape);
    if (groups.empty()) {
        const auto done = attempt(shape, groups, mayBeOne);
        history.Merge(done->History());
        return done->Shape();
    }
    const double area = roundArea(shape);
    // What comes out wrong has changed the edges that it began with: each further attempt has its own.
    BRepBuilderAPI_Copy second(shape), third(shape);
    const auto tried = [&](const TopoDS_Shape& of, const FaceGroups& its) {
        std::unique_ptr<ShapeUpgrade_UnifySameDomain> done;
        const bool threw = thrownBy([&] { done = attempt(of, its, mayBeOne); }).has_value();
        if (threw || spoilt(faces, area, done->Shape())) done.reset();
        return done;
    };
    if (const auto done = tried(shape, groups)) {
        history.Merge(done->History());
        return done->Shape();
    }
    const auto taken = [&](BRepBuilderAPI_Copy& copy, const ShapeUpgrade_UnifySameDomain& done) {
        follow(history, shape, copy);
        history.Merge(done.History());
        return done.Shape();
    };
    if (const auto done = tried(second.Shape(), facesOnOneRound(second.Shape()))) return taken(second, *done);
    return taken(third, *attempt(third.Shape(), facesOnOneRound(third.Shape()),
                                 [](const std::vector<TopoDS_Face>&) { return false; }));
}

/// How far an edge lies off a plane, mm.
double offPlane(const TopoDS_Edge& e, const gp_Pln& plane) {
    constexpr int kPieces = 8;
    const BRepAdaptor_Curve c(e);
    const double from = c.FirstParameter(), along = (c.LastParameter() - from) / kPieces;
    double off = 0;
    for (int i = 0; i <= kPieces; ++i) off = std::max(off, plane.Distance(c.Value(from + i * along)));
    return off;
}

/// Lets the borders of plane faces that were made one reach as far as they lie off their plane: a face whose
/// border does not lie in it is not sound.
TopoDS_Shape reaching(const TopoDS_Shape& shape, const TopTools_IndexedMapOfShape& before,
                      BRepTools_History& history) {
    std::vector<std::pair<TopoDS_Edge, double>> off;
    for (TopExp_Explorer f(shape, TopAbs_FACE); f.More(); f.Next()) {
        if (before.Contains(f.Current())) continue;
        const BRepAdaptor_Surface s(TopoDS::Face(f.Current()), false);
        if (s.GetType() != GeomAbs_Plane) continue;
        for (TopExp_Explorer e(f.Current(), TopAbs_EDGE); e.More(); e.Next()) {
            const TopoDS_Edge& edge = TopoDS::Edge(e.Current());
            if (const double by = offPlane(edge, s.Plane()); by > 0.9 * BRep_Tool::Tolerance(edge))
                off.emplace_back(edge, 1.1 * by);
        }
    }
    if (off.empty()) return shape;
    BRepBuilderAPI_Copy copy(shape); // other shapes have these edges, too
    const BRep_Builder builder;
    for (const auto& [edge, by] : off) {
        const TopoDS_Shape own = copy.ModifiedShape(edge);
        builder.UpdateEdge(TopoDS::Edge(own), by);
        for (TopExp_Explorer v(own, TopAbs_VERTEX); v.More(); v.Next())
            builder.UpdateVertex(TopoDS::Vertex(v.Current()), by);
    }
    follow(history, shape, copy);
    return copy.Shape();
}

} // namespace

TopoDS_Shape unified(const TopoDS_Shape& shape, const Handle(BRepTools_History) & history) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(shape, TopAbs_FACE, faces);
    return reaching(madeOne(shape, faces, *history), faces, *history);
}

} // namespace prism::building
