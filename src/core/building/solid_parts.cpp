#include "core/building/solid_parts.h"

#include "core/building/kernel.h"

#include <BOPTools_AlgoTools3D.hxx>

#include <BRepAdaptor_Curve.hxx>
#include <BRepBndLib.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <IntTools_Context.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <set>

namespace prism {
namespace {

using Kind = SolidPart::Kind;

TopAbs_ShapeEnum typeOf(Kind k) {
    return k == Kind::face ? TopAbs_FACE : k == Kind::edge ? TopAbs_EDGE : TopAbs_VERTEX;
}

/// Parts of one kind, and the faces that each belongs to.
class Meetings {
  public:
    Meetings(const TopoDS_Shape& solid, Kind kind) : kind_(kind) {
        if (solid.IsNull()) return;
        TopExp::MapShapes(solid, TopAbs_FACE, faces_);
        TopExp::MapShapes(solid, typeOf(kind), parts_);
        TopExp::MapShapesAndAncestors(solid, typeOf(kind), TopAbs_FACE, at_);
    }
    int count() const { return parts_.Extent(); }
    TopoDS_Shape part(int index) const {
        return index >= 0 && index < count() ? parts_(index + 1) : TopoDS_Shape();
    }
    std::set<int> facesAt(int index) const {
        if (kind_ == Kind::face) return {index};
        std::set<int> r;
        for (const TopoDS_Shape& f : at_.FindFromKey(part(index))) r.insert(faces_.FindIndex(f) - 1);
        return r;
    }
    bool shows(int index) const {
        if (kind_ == Kind::face) return true;
        if (kind_ == Kind::corner) return facesAt(index).size() > 2;
        const TopoDS_Edge e = TopoDS::Edge(part(index));
        if (BRep_Tool::Degenerated(e)) return false;
        const auto at = facesAt(index);
        return at.size() != 1 || !BRep_Tool::IsClosed(e, TopoDS::Face(faces_(*at.begin() + 1)));
    }

  private:
    Kind kind_;
    TopTools_IndexedMapOfShape faces_, parts_;
    TopTools_IndexedDataMapOfShapeListOfShape at_;
};

std::vector<std::vector<FaceName>> namesAt(const BuildResult& b, const Meetings& all, int index) {
    std::vector<std::vector<FaceName>> r;
    for (int f : all.facesAt(index)) {
        if (f >= static_cast<int>(b.faces.size()) || b.faces[f].empty()) return {};
        r.push_back(b.faces[f]);
    }
    std::ranges::sort(r);
    return r;
}

std::array<double, 3> middleOf(const TopoDS_Shape& s) {
    Bnd_Box box;
    BRepBndLib::Add(s, box);
    double lo[3], hi[3];
    box.Get(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
    const auto mid = [&](int i) { return std::round((lo[i] + hi[i]) * 0.5e6); };
    return {mid(0), mid(1), mid(2)};
}

/// Those of a kind that are called alike, in the order of their places.
std::vector<int> calledAlike(const BuildResult& b, const Meetings& all,
                             const std::vector<std::vector<FaceName>>& faces) {
    std::vector<int> r;
    for (int i = 0; i < all.count(); ++i)
        if (all.shows(i) && namesAt(b, all, i) == faces) r.push_back(i);
    std::ranges::stable_sort(r, {}, [&](int i) { return middleOf(all.part(i)); });
    return r;
}

} // namespace

TopoDS_Shape shapeOf(const TopoDS_Shape& solid, SolidPart p) {
    return Meetings(solid, p.kind).part(p.index);
}

std::vector<int> facesAt(const TopoDS_Shape& solid, SolidPart p) {
    const Meetings all(solid, p.kind);
    if (all.part(p.index).IsNull()) return {};
    const auto at = all.facesAt(p.index);
    return {at.begin(), at.end()};
}

std::vector<PartAt> partsOf(const TopoDS_Shape& solid, SolidPart::Kind kind) {
    const Meetings all(solid, kind);
    std::vector<PartAt> r;
    for (int i = 0; i < all.count(); ++i) {
        if (!all.shows(i)) continue;
        const auto at = all.facesAt(i);
        r.push_back({{kind, i}, all.part(i), {at.begin(), at.end()}});
    }
    return r;
}

std::optional<PartName> nameOf(const BuildResult& b, SolidPart p) {
    const Meetings all(b.shape, p.kind);
    if (all.part(p.index).IsNull()) return std::nullopt;
    PartName n{p.kind, namesAt(b, all, p.index), 0};
    if (n.faces.empty()) return std::nullopt;
    const auto alike = calledAlike(b, all, n.faces);
    const auto at = std::ranges::find(alike, p.index);
    if (at == alike.end()) return std::nullopt;
    n.nth = static_cast<int>(at - alike.begin());
    return n;
}

std::optional<SolidPart> partNamed(const BuildResult& b, const PartName& n) {
    const auto alike = calledAlike(b, Meetings(b.shape, n.kind), n.faces);
    if (n.nth < 0 || n.nth >= static_cast<int>(alike.size())) return std::nullopt;
    return SolidPart{n.kind, alike[static_cast<size_t>(n.nth)]};
}

std::optional<Vec3> placeOn(const TopoDS_Shape& solid, SolidPart p) {
    const TopoDS_Shape part = shapeOf(solid, p);
    gp_Pnt at;
    bool found = false;
    (void)thrownBy([&] {
        if (part.IsNull()) return;
        if (p.kind == SolidPart::Kind::edge) {
            const BRepAdaptor_Curve c(TopoDS::Edge(part));
            at = c.Value(0.5 * (c.FirstParameter() + c.LastParameter())), found = true;
        } else if (p.kind == SolidPart::Kind::face) {
            gp_Pnt2d inside;
            found =
                BOPTools_AlgoTools3D::PointInFace(TopoDS::Face(part), at, inside, new IntTools_Context) == 0;
        } else
            at = BRep_Tool::Pnt(TopoDS::Vertex(part)), found = true;
    });
    return found ? std::optional(Vec3{at.X(), at.Y(), at.Z()}) : std::nullopt;
}

} // namespace prism
