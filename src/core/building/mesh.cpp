#include "core/building/mesh.h"

#include "core/building/kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_QuasiUniformDeflection.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>

namespace prism {
namespace {

std::array<float, 3> packed(const gp_XYZ& p) {
    return {static_cast<float>(p.X()), static_cast<float>(p.Y()), static_cast<float>(p.Z())};
}

void addFace(const TopoDS_Face& face, int number, Mesh& m) {
    TopLoc_Location where;
    const Handle(Poly_Triangulation) t = BRep_Tool::Triangulation(face, where);
    if (t.IsNull()) return;
    const bool turned = face.Orientation() == TopAbs_REVERSED;
    const gp_Trsf move = where.Transformation();
    std::vector<Mesh::Corner> nodes(static_cast<size_t>(t->NbNodes()));
    if (!t->HasNormals()) t->ComputeNormals();
    for (int i = 1; i <= t->NbNodes(); ++i) {
        gp_Dir n = t->Normal(i);
        n.Transform(move);
        if (turned) n.Reverse();
        nodes[static_cast<size_t>(i - 1)] = {packed(t->Node(i).Transformed(move).XYZ()), packed(n.XYZ())};
    }
    for (int i = 1; i <= t->NbTriangles(); ++i) {
        int a, b, c;
        t->Triangle(i).Get(a, b, c);
        if (turned) std::swap(b, c);
        for (int k : {a, b, c}) m.corners.push_back(nodes[static_cast<size_t>(k - 1)]);
        m.face_of.push_back(number);
    }
}

void addEdge(const TopoDS_Edge& edge, double deflection, Mesh& m) {
    if (BRep_Tool::Degenerated(edge)) return;
    const BRepAdaptor_Curve c(edge);
    const GCPnts_QuasiUniformDeflection points(c, deflection);
    if (!points.IsDone()) return;
    std::vector<std::array<float, 3>> chain;
    for (int i = 1; i <= points.NbPoints(); ++i) chain.push_back(packed(points.Value(i).XYZ()));
    m.edges.push_back(std::move(chain));
}

} // namespace

int faceAlong(const Mesh& m, Vec3 from, Vec3 way) {
    int best = -1;
    double nearest = std::numeric_limits<double>::infinity();
    const auto at = [&](size_t corner) {
        const auto& p = m.corners[corner].at;
        return Vec3{p[0], p[1], p[2]} - from;
    };
    for (size_t t = 0; t < m.face_of.size(); ++t) { // Moeller and Trumbore 1997
        const Vec3 a = at(3 * t), e = at(3 * t + 1) - a, f = at(3 * t + 2) - a, p = cross(way, f);
        const double det = dot(e, p);
        if (std::abs(det) < 1e-12) continue;
        const double u = -dot(a, p) / det;
        const Vec3 q = cross(-a, e);
        const double v = dot(way, q) / det;
        if (u < 0 || v < 0 || u + v > 1) continue;
        if (const double d = dot(f, q) / det; d < nearest) nearest = d, best = m.face_of[t];
    }
    return best;
}

Mesh meshOf(const TopoDS_Shape& shape, double deflection) {
    if (shape.IsNull()) return {};
    auto done = guarded<Mesh>([&] {
        Mesh m;
        const BRepMesh_IncrementalMesh meshed(shape, deflection, false, 0.3);
        TopTools_IndexedMapOfShape faces, edges;
        TopExp::MapShapes(shape, TopAbs_FACE, faces);
        TopExp::MapShapes(shape, TopAbs_EDGE, edges);
        TopTools_MapOfShape seams; // where a round face meets itself there is no edge to see
        for (int i = 1; i <= faces.Extent(); ++i) {
            const TopoDS_Face face = TopoDS::Face(faces(i));
            addFace(face, i - 1, m);
            for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
                if (BRep_Tool::IsClosed(TopoDS::Edge(x.Current()), face)) seams.Add(x.Current());
        }
        for (int i = 1; i <= edges.Extent(); ++i)
            if (!seams.Contains(edges(i))) addEdge(TopoDS::Edge(edges(i)), deflection, m);
        return m;
    });
    return done ? std::move(*done) : Mesh{};
}

} // namespace prism
