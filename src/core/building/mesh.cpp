#include "core/building/mesh.h"

#include "core/building/kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_QuasiUniformDeflection.hxx>
#include <Poly_Triangulation.hxx>
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

void addEdge(const TopoDS_Edge& edge, int number, double deflection, Mesh& m) {
    const BRepAdaptor_Curve c(edge);
    const GCPnts_QuasiUniformDeflection points(c, deflection);
    if (!points.IsDone()) return;
    std::vector<std::array<float, 3>> chain;
    for (int i = 1; i <= points.NbPoints(); ++i) chain.push_back(packed(points.Value(i).XYZ()));
    m.edges.push_back(std::move(chain));
    m.edge_of.push_back(number);
}

} // namespace

namespace {

struct Hit {
    int index = -1;
    double depth = std::numeric_limits<double>::infinity();
};

Hit faceAlong(const Mesh& m, Vec3 from, Vec3 way) {
    Hit best;
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
        if (const double d = dot(f, q) / det; d < best.depth) best = {m.face_of[t], d};
    }
    return best;
}

/// Places nearer to the line than `reach` that no face covers: the nearest of them.
struct Near {
    Vec3 from, way;
    double reach, covered;
    int index = -1;
    void offer(Vec3 p, int i) {
        const double depth = dot(p - from, way);
        const Vec3 beside = p - from - depth * way;
        const double off = std::sqrt(dot(beside, beside));
        if (off < reach && depth < covered) reach = off, index = i;
    }
};

} // namespace

std::optional<SolidPart> partAlong(const Mesh& m, Vec3 from, Vec3 way, double reach) {
    const Hit face = faceAlong(m, from, way);
    // An edge lies in the faces beside it, which slope away from the viewer.
    const double covered = face.depth + 4 * reach;
    Near corner{from, way, 1.3 * reach, covered}, edge{from, way, reach, covered};
    for (const auto& [p, i] : m.points) corner.offer(p, i);
    if (corner.index >= 0) return SolidPart{SolidPart::Kind::corner, corner.index};
    for (size_t k = 0; k < m.edges.size(); ++k)
        for (size_t i = 1; i < m.edges[k].size(); ++i) {
            const auto at = [&](size_t n) {
                const auto& p = m.edges[k][n];
                return Vec3{p[0], p[1], p[2]};
            };
            // The place of the piece nearest to the line, both seen along it.
            const Vec3 a = at(i - 1), d = at(i) - a, flat = d - dot(d, way) * way,
                       off = (a - from) - dot(a - from, way) * way;
            const double square = dot(flat, flat);
            const double t = square > 0 ? std::clamp(-dot(off, flat) / square, 0.0, 1.0) : 0;
            edge.offer(a + t * d, m.edge_of[k]);
        }
    if (edge.index >= 0) return SolidPart{SolidPart::Kind::edge, edge.index};
    return face.index < 0 ? std::nullopt : std::optional(faceNumber(face.index));
}

Mesh meshOf(const TopoDS_Shape& shape, double deflection) {
    if (shape.IsNull()) return {};
    auto done = guarded<Mesh>([&] {
        Mesh m;
        const BRepMesh_IncrementalMesh meshed(shape, deflection, false, 0.3);
        for (const PartAt& f : partsOf(shape, SolidPart::Kind::face))
            addFace(TopoDS::Face(f.shape), f.part.index, m);
        for (const PartAt& e : partsOf(shape, SolidPart::Kind::edge))
            addEdge(TopoDS::Edge(e.shape), e.part.index, deflection, m);
        for (const PartAt& c : partsOf(shape, SolidPart::Kind::corner)) {
            const gp_Pnt p = BRep_Tool::Pnt(TopoDS::Vertex(c.shape));
            m.points.push_back({{p.X(), p.Y(), p.Z()}, c.part.index});
        }
        return m;
    });
    return done ? std::move(*done) : Mesh{};
}

} // namespace prism
