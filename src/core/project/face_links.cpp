#include "core/project/face_links.h"

#include "core/building/kernel.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

const std::vector<FaceName>& namesOf(const Model& m, int face) {
    static const std::vector<FaceName> none;
    return face >= 0 && face < static_cast<int>(m.build.faces.size()) ? m.build.faces[face] : none;
}

std::string kindOf(const BRepAdaptor_Surface& s) {
    switch (s.GetType()) {
    case GeomAbs_Plane:
        return "plane";
    case GeomAbs_Cylinder:
        return fmt::format("cylinder of radius {:.6g} mm", s.Cylinder().Radius());
    case GeomAbs_Cone:
        return fmt::format("cone of {:.6g}°", 2 * std::abs(s.Cone().SemiAngle()) * 180 / kPi);
    case GeomAbs_Sphere:
        return fmt::format("sphere of radius {:.6g} mm", s.Sphere().Radius());
    case GeomAbs_Torus:
        return fmt::format("torus of radii {:.6g} and {:.6g} mm", s.Torus().MajorRadius(),
                           s.Torus().MinorRadius());
    default:
        return "free-form face";
    }
}

const char* kindOf(const Curve& c) {
    if (std::holds_alternative<Segment>(c)) return "a line";
    if (const auto* a = std::get_if<Arc>(&c)) return a->full() ? "a circle" : "an arc";
    return std::holds_alternative<EllipseArc>(c) ? "an ellipse" : "a curve";
}

std::optional<TopoDS_Face> faceOf(const Model& m, int face) {
    TopTools_IndexedMapOfShape faces;
    if (!m.build.shape.IsNull()) TopExp::MapShapes(m.build.shape, TopAbs_FACE, faces);
    if (face < 0 || face >= faces.Extent()) return std::nullopt;
    return TopoDS::Face(faces(face + 1));
}

/// What measures are taken from: a plane by its normal, a round face by its axis.
struct Carrier {
    bool plane;
    gp_Pnt at;
    gp_Dir along;
};

std::optional<Carrier> carrierOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface s(face);
    switch (s.GetType()) {
    case GeomAbs_Plane:
        return Carrier{true, s.Plane().Location(), s.Plane().Axis().Direction()};
    case GeomAbs_Cylinder:
        return Carrier{false, s.Cylinder().Location(), s.Cylinder().Axis().Direction()};
    case GeomAbs_Cone:
        return Carrier{false, s.Cone().Location(), s.Cone().Axis().Direction()};
    case GeomAbs_Torus:
        return Carrier{false, s.Torus().Location(), s.Torus().Axis().Direction()};
    default:
        return std::nullopt;
    }
}

void relate(const Carrier& a, const Carrier& b, FaceMeasure& m) {
    constexpr double kParallel = 1e-7; // radians
    const double turned = a.along.Angle(b.along), between = std::min(turned, kPi - turned);
    m.angle = a.plane == b.plane ? between : kPi / 2 - between;
    if (*m.angle > kParallel) return;
    const gp_Vec from_a(a.at, b.at);
    if (a.plane || b.plane)
        m.apart = std::abs(from_a.Dot(gp_Vec(a.plane ? a.along : b.along)));
    else
        m.apart = from_a.Crossed(gp_Vec(a.along)).Magnitude();
}

} // namespace

std::optional<FaceMeasure> measureBetween(const Model& m, int a, int b) {
    auto r = guarded<std::optional<FaceMeasure>>([&]() -> std::optional<FaceMeasure> {
        const auto fa = faceOf(m, a), fb = faceOf(m, b);
        if (!fa || !fb) return std::nullopt;
        FaceMeasure found;
        found.nearest = BRepExtrema_DistShapeShape(*fa, *fb).Value();
        const auto ca = carrierOf(*fa), cb = carrierOf(*fb);
        if (ca && cb) relate(*ca, *cb, found);
        return found;
    });
    return r ? *r : std::nullopt;
}

std::string inWords(const FaceMeasure& m) {
    std::string r = m.apart   ? fmt::format("parallel, {:.4f} mm apart", *m.apart)
                    : m.angle ? fmt::format("at {:.4f}°", *m.angle * 180 / kPi)
                              : std::string("at no single angle");
    return r + fmt::format("; nearest places {:.4f} mm apart", m.nearest);
}

std::set<int> linesOfFace(const Model& m, int face) {
    std::set<int> r;
    for (const FaceName& n : namesOf(m, face))
        if (n.curve >= 0) r.insert(m.figure.curves[n.curve].entity);
    return r;
}

std::set<int> numbersOfFace(const Model& m, int face) {
    const std::set<int> lines = linesOfFace(m, face);
    std::set<int> r;
    for (const LedgerEntry& e : m.ledger.entries)
        for (int line : linesOf(m.figure, e))
            if (lines.contains(line)) r.insert(e.dimension);
    return r;
}

std::set<int> facesOfLines(const Model& m, const std::set<int>& lines) {
    std::set<int> r;
    if (lines.empty()) return r;
    for (size_t i = 0; i < m.build.faces.size(); ++i)
        for (const FaceName& n : m.build.faces[i])
            if (n.curve >= 0 && lines.contains(m.figure.curves[n.curve].entity))
                r.insert(static_cast<int>(i));
    return r;
}

std::set<int> facesOfStep(const Model& m, int step) {
    std::set<int> r;
    for (size_t i = 0; i < m.build.faces.size(); ++i)
        for (const FaceName& n : m.build.faces[i])
            if (n.step == step) r.insert(static_cast<int>(i));
    return r;
}

std::string describeFace(const Model& m, int face) {
    const auto words = guarded<std::string>([&] {
        const auto f = faceOf(m, face);
        if (!f) return std::string();
        GProp_GProps area;
        BRepGProp::SurfaceProperties(*f, area);
        std::string r = fmt::format("{}, {:.2f} mm²", kindOf(BRepAdaptor_Surface(*f)), area.Mass());
        const auto& names = namesOf(m, face);
        if (names.empty()) return r;
        const FaceName& n = names.front();
        const StepReport& s = m.build.steps[n.step];
        r += fmt::format(", step {} \"{}\"", n.step + 1, s.name);
        if (n.curve >= 0) {
            const FigureCurve& c = m.figure.curves[n.curve];
            r += fmt::format(", along {} of the {} view", kindOf(c.drawn),
                             nameOf(m.figure.viewById(c.view)->name));
        } else
            r += n.part == FaceName::Part::low_end ? ", where it begins" : ", where it ends";
        if (names.size() > 1) r += fmt::format(", and {} more", names.size() - 1);
        return r;
    });
    return words ? *words : std::string();
}

} // namespace prism
