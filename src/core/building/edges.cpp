#include "core/building/solid_steps.h"

#include "core/building/kernel.h"
#include "core/building/places.h"
#include "core/building/solid_places.h"
#include "core/building/soundness.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepGProp_Face.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>

namespace prism::building {
namespace {

/// Sizes of a fillet or chamfer, mm.
struct Sizes {
    double first, second;
    TopoDS_Face on; ///< of a chamfer: the face on which the first one is measured; null where each edge tells
};

/// The way in which a face looks out of the solid in the middle of an edge of it.
gp_Vec outwardAt(const TopoDS_Edge& e, const TopoDS_Face& face) {
    double from, to;
    const Handle(Geom2d_Curve) along = BRep_Tool::CurveOnSurface(e, face, from, to);
    gp_Vec out;
    if (along.IsNull()) return out;
    const gp_Pnt2d at = along->Value(0.5 * (from + to));
    gp_Pnt place;
    BRepGProp_Face(face).Normal(at.X(), at.Y(), place, out);
    return out;
}

/// Of the faces at an edge the one on which the first distance of a chamfer is measured: the one that was
/// said, else the one that looks up more, then to the back, then to the right.
TopoDS_Face firstOf(const TopTools_ListOfShape& faces, const TopoDS_Edge& e, const TopoDS_Face& said) {
    constexpr double kAlike = 1e-6;
    const auto before = [&](const gp_Vec& a, const gp_Vec& b) {
        for (double d : {a.Z() - b.Z(), a.Y() - b.Y(), a.X() - b.X()})
            if (std::abs(d) > kAlike) return d > 0;
        return false;
    };
    TopoDS_Face best = TopoDS::Face(faces.First());
    for (const TopoDS_Shape& s : faces) {
        TopoDS_Face face = TopoDS::Face(s);
        if (face.IsSame(said)) return face;
        if (before(outwardAt(e, face), outwardAt(e, best))) best = face;
    }
    return best;
}

void addTo(BRepFilletAPI_MakeFillet& m, const TopoDS_Edge& e, const Sizes& s) {
    if (s.first == s.second)
        m.Add(s.first, e);
    else
        m.Add(s.first, s.second, e);
}

void addTo(BRepFilletAPI_MakeChamfer& m, const TopoDS_Shape& solid, const TopoDS_Edge& e, const Sizes& s) {
    if (s.first == s.second) return m.Add(s.first, e);
    TopTools_IndexedDataMapOfShapeListOfShape faces;
    TopExp::MapShapesAndAncestors(solid, TopAbs_EDGE, TopAbs_FACE, faces);
    m.Add(s.first, s.second, e, firstOf(faces.FindFromKey(e), e, s.on));
}

/// Names the faces that an operation made for the edges, and carries the others on.
template <class Maker> void nameMade(Maker& m, const TopoDS_Shape& solid, int index, FaceNames& names) {
    names.follow(m, solid);
    for (TopExp_Explorer x(m.Shape(), TopAbs_FACE); x.More(); x.Next())
        if (names.of(x.Current()).empty()) names.add(x.Current(), {index, FaceName::Part::blend, -1});
}

/// The solid with the edges rounded or cut off; nothing when the modeller cannot, or makes something unsound.
std::optional<TopoDS_Shape> tried(const TopoDS_Shape& solid, const std::vector<TopoDS_Edge>& edges,
                                  bool fillet, const Sizes& sizes, int index, FaceNames* names) {
    TopoDS_Shape r;
    const auto failed = thrownBy([&] {
        if (fillet) {
            BRepFilletAPI_MakeFillet m(solid);
            for (const TopoDS_Edge& e : edges) addTo(m, e, sizes);
            m.Build();
            if (m.IsDone()) r = m.Shape();
            if (m.IsDone() && names) nameMade(m, solid, index, *names);
        } else {
            BRepFilletAPI_MakeChamfer m(solid);
            for (const TopoDS_Edge& e : edges) addTo(m, solid, e, sizes);
            m.Build();
            if (m.IsDone()) r = m.Shape();
            if (m.IsDone() && names) nameMade(m, solid, index, *names);
        }
    });
    if (failed || r.IsNull() || !isSound(r)) return std::nullopt;
    return r;
}

/// The first edge that is neither straight nor an arc of a circle or an ellipse; null for none.
const TopoDS_Edge* freeForm(const std::vector<TopoDS_Edge>& edges) {
    for (const TopoDS_Edge& e : edges) {
        const auto kind = BRepAdaptor_Curve(e).GetType();
        if (kind != GeomAbs_Line && kind != GeomAbs_Circle && kind != GeomAbs_Ellipse) return &e;
    }
    return nullptr;
}

/// Which edge it is that cannot be done, and how large its size may be.
std::string whyNot(const TopoDS_Shape& solid, const std::vector<TopoDS_Edge>& edges, bool fillet,
                   const Sizes& sizes) {
    const char* what = fillet ? "radius" : "distance";
    const auto largest = [&](const std::vector<TopoDS_Edge>& some) {
        double good = 0, bad = 1;
        for (int i = 0; i < 10; ++i) {
            const double share = 0.5 * (good + bad);
            const Sizes less{share * sizes.first, share * sizes.second, sizes.on};
            (tried(solid, some, fillet, less, 0, nullptr) ? good : bad) = share;
        }
        return good * std::max(sizes.first, sizes.second);
    };
    for (const TopoDS_Edge& e : edges)
        if (!tried(solid, {e}, fillet, sizes, 0, nullptr)) {
            const double most = largest({e});
            return most > 0 ? fmt::format(
                                  "{} has no room for a {} of {:g} mm; the largest that works is {:.3g} mm",
                                  inWords(e), what, std::max(sizes.first, sizes.second), most)
                            : fmt::format("{} cannot be done at any size", inWords(e));
        }
    const double most = largest(edges);
    return most > 0 ? fmt::format(
                          "the edges are in each other's way; the largest {} that works for all is {:.3g} mm",
                          what, most)
                    : "the edges are in each other's way at any size";
}

struct SameRadius {
    double radius;
    std::vector<PartPick> picks;
};

/// The corners picked by the radius of the arcs that round them: one number may have changed one of them.
Result<std::vector<SameRadius>> radiiOfArcs(const Figure& f, const Step& s) {
    std::vector<SameRadius> r;
    for (const PartPick& p : s.edges.picks) {
        const FigureView* v = f.viewNamed(p.corner.view);
        const int arc = v ? cornerAt(f, *v, p.corner.at).arc : -1;
        if (arc < 0)
            return failure(ErrorCode::impossible,
                           fmt::format("no radius is given, and no arc rounds the corner at "
                                       "{:.4g}, {:.4g} of the {} view",
                                       p.corner.at.x, p.corner.at.y, nameOf(p.corner.view)));
        const double own = std::get<Arc>(f.curve(arc)).radius;
        auto same = std::ranges::find_if(
            r, [&](const SameRadius& o) { return std::abs(o.radius - own) <= f.tolerances.proof; });
        if (same == r.end()) same = r.insert(r.end(), {own, {}});
        same->picks.push_back(p);
    }
    return r;
}

} // namespace

Result<TopoDS_Shape> edged(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid,
                           const std::vector<int>& of_step, FaceNames& names) {
    if (!s.size.given()) {
        const auto radii = radiiOfArcs(f, s);
        if (!radii) return tl::make_unexpected(radii.error());
        if (radii->empty())
            return failure(ErrorCode::impossible, "no radius is given, and no corner that an arc rounds");
        Result<TopoDS_Shape> done = solid;
        for (const SameRadius& same : *radii) {
            Step part = s;
            part.edges.picks = same.picks, part.size = same.radius;
            if (done) done = edged(f, part, index, *done, of_step, names);
        }
        return done;
    }
    std::vector<TopoDS_Face> made;
    for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next())
        if (std::ranges::any_of(names.of(x.Current()), [&](const FaceName& n) {
                return std::ranges::find(of_step, n.step) != of_step.end();
            }))
            made.push_back(TopoDS::Face(x.Current()));
    const auto edges = edgesOf(f, solid, s.edges, made);
    if (!edges) return tl::make_unexpected(edges.error());
    const bool fillet = s.kind == StepKind::fillet;
    const double size = s.size;
    Sizes sizes{size, s.second_size.given() ? double(s.second_size) : size, {}};
    // Along other curves the modeller's search for the rounded face has been seen not to end.
    if (const TopoDS_Edge* e = fillet && sizes.first != sizes.second ? freeForm(*edges) : nullptr)
        return failure(ErrorCode::impossible,
                       inWords(*e) + " is neither straight nor an arc: along it the radius cannot change");
    if (s.edges.face)
        if (const auto face = faceAt(f, solid, *s.edges.face)) sizes.on = *face;
    if (const auto done = tried(solid, *edges, fillet, sizes, index, &names)) return *done;
    return failure(ErrorCode::impossible, whyNot(solid, *edges, fillet, sizes));
}

} // namespace prism::building
