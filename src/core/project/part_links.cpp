#include "core/project/part_links.h"

#include "core/building/kernel.h"
#include "core/building/plane_faces.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

const std::vector<FaceName>& namesOf(const Model& m, int face) {
    static const std::vector<FaceName> none;
    return face >= 0 && face < static_cast<int>(m.build.faces.size()) ? m.build.faces[face] : none;
}

/// What a face or an edge is, and its size.
struct KindAndSize {
    std::string kind, size;
};

KindAndSize kindOf(const BRepAdaptor_Surface& s) {
    switch (s.GetType()) {
    case GeomAbs_Plane:
        return {"plane", ""};
    case GeomAbs_Cylinder:
        return {"cylinder", fmt::format("radius {:.6g} mm", s.Cylinder().Radius())};
    case GeomAbs_Cone:
        return {"cone", fmt::format("{:.6g}°", 2 * std::abs(s.Cone().SemiAngle()) * 180 / kPi)};
    case GeomAbs_Sphere:
        return {"sphere", fmt::format("radius {:.6g} mm", s.Sphere().Radius())};
    case GeomAbs_Torus:
        return {"torus",
                fmt::format("radii {:.6g} and {:.6g} mm", s.Torus().MajorRadius(), s.Torus().MinorRadius())};
    default:
        return {"free-form face", ""};
    }
}

KindAndSize kindOf(const BRepAdaptor_Curve& c) {
    switch (c.GetType()) {
    case GeomAbs_Line:
        return {"straight edge", ""};
    case GeomAbs_Circle:
        return {c.IsClosed() ? "circular edge" : "arc edge",
                fmt::format("radius {:.6g} mm", c.Circle().Radius())};
    case GeomAbs_Ellipse:
        return {"elliptic edge", fmt::format("half axes {:.6g} and {:.6g} mm", c.Ellipse().MajorRadius(),
                                             c.Ellipse().MinorRadius())};
    default:
        return {"free-form edge", ""};
    }
}

const char* kindOf(const Curve& c) {
    if (std::holds_alternative<Segment>(c)) return "a line";
    if (const auto* a = std::get_if<Arc>(&c)) return a->full() ? "a circle" : "an arc";
    return std::holds_alternative<EllipseArc>(c) ? "an ellipse" : "a curve";
}

/// What measures are taken from: a plane by its normal, a round face or edge by its axis, a straight edge by
/// itself, a corner by its place.
struct Carrier {
    enum class Kind { plane, axis, place } kind;
    gp_Pnt at;
    gp_Dir along;
};

std::optional<Carrier> carrierOf(const TopoDS_Shape& part) {
    using K = Carrier::Kind;
    if (part.ShapeType() == TopAbs_VERTEX) return Carrier{K::place, BRep_Tool::Pnt(TopoDS::Vertex(part)), {}};
    const auto axis = [](const gp_Ax1& a) { return Carrier{K::axis, a.Location(), a.Direction()}; };
    if (part.ShapeType() == TopAbs_EDGE) {
        const BRepAdaptor_Curve c(TopoDS::Edge(part));
        if (c.GetType() == GeomAbs_Line) return axis(c.Line().Position());
        if (c.GetType() == GeomAbs_Circle) return axis(c.Circle().Axis());
        return std::nullopt;
    }
    const BRepAdaptor_Surface s(TopoDS::Face(part));
    switch (s.GetType()) {
    case GeomAbs_Plane:
        return Carrier{K::plane, s.Plane().Location(), s.Plane().Axis().Direction()};
    case GeomAbs_Cylinder:
        return axis(s.Cylinder().Axis());
    case GeomAbs_Cone:
        return axis(s.Cone().Axis());
    case GeomAbs_Torus:
        return axis(s.Torus().Axis());
    default:
        return std::nullopt;
    }
}

void relate(const Carrier& a, const Carrier& b, PartMeasure& m) {
    using K = Carrier::Kind;
    constexpr double kParallel = 1e-7; // radians
    const gp_Vec from_a(a.at, b.at);
    const auto square = [&](const Carrier& c) { // from a place elsewhere to what carries
        return c.kind == K::plane ? std::abs(from_a.Dot(gp_Vec(c.along)))
                                  : from_a.Crossed(gp_Vec(c.along)).Magnitude();
    };
    if (a.kind == K::place || b.kind == K::place) {
        if (a.kind != b.kind) m.apart = square(a.kind == K::place ? b : a);
        return;
    }
    const double turned = a.along.Angle(b.along), between = std::min(turned, kPi - turned);
    m.angle = a.kind == b.kind ? between : kPi / 2 - between;
    if (*m.angle <= kParallel) m.apart = square(a.kind == K::plane || b.kind != K::plane ? a : b);
}

/// Where a face comes from, in words.
std::string originOf(const Model& m, int face) {
    const auto& names = namesOf(m, face);
    if (names.empty()) return {};
    const FaceName& n = names.front();
    const std::string& name = m.build.steps[n.step].name;
    std::string r = fmt::format("step {}", n.step + 1) + (name.empty() ? "" : fmt::format(" \"{}\"", name));
    if (n.curve >= 0) {
        const FigureCurve& c = m.figure.curves[n.curve];
        r += fmt::format(", along {} of the {} view", kindOf(c.drawn),
                         nameOf(m.figure.viewById(c.view)->name));
    } else
        r += n.part == FaceName::Part::low_end    ? ", where it begins"
             : n.part == FaceName::Part::high_end ? ", where it ends"
                                                  : "";
    if (names.size() > 1) r += fmt::format(", and {} more", names.size() - 1);
    return r;
}

/// Figure curves that a face comes from: what was swept, or what stands where the end was picked.
std::vector<int> curvesOf(const Model& m, const FaceName& n) {
    if (n.curve >= 0) return {n.curve};
    const StepReport& s = m.build.steps[n.step];
    return n.part == FaceName::Part::low_end    ? s.low
           : n.part == FaceName::Part::high_end ? s.high
                                                : std::vector<int>{};
}

} // namespace

std::optional<PartMeasure> measureBetween(const Model& m, SolidPart a, SolidPart b) {
    auto r = guarded<std::optional<PartMeasure>>([&]() -> std::optional<PartMeasure> {
        const TopoDS_Shape sa = shapeOf(m.build.shape, a), sb = shapeOf(m.build.shape, b);
        if (sa.IsNull() || sb.IsNull()) return std::nullopt;
        PartMeasure found;
        found.nearest = BRepExtrema_DistShapeShape(sa, sb).Value();
        const auto ca = carrierOf(sa), cb = carrierOf(sb);
        if (ca && cb) relate(*ca, *cb, found);
        return found;
    });
    return r ? *r : std::nullopt;
}

std::string inWords(const PartMeasure& m) {
    std::string r;
    if (m.apart && m.angle)
        r = fmt::format("parallel, {:.4f} mm apart; ", *m.apart);
    else if (m.apart)
        r = fmt::format("{:.4f} mm square to it; ", *m.apart);
    else if (m.angle)
        r = fmt::format("at {:.4f}°; ", *m.angle * 180 / kPi);
    return r + fmt::format("nearest places {:.4f} mm apart", m.nearest);
}

std::set<int> linesOf(const Model& m, SolidPart p) {
    std::set<int> r;
    for (int face : facesAt(m.build.shape, p))
        for (const FaceName& n : namesOf(m, face))
            for (int c : curvesOf(m, n)) r.insert(m.figure.curves[c].entity);
    return r;
}

std::set<int> numbersOf(const Model& m, SolidPart p) {
    const std::set<int> lines = linesOf(m, p);
    std::set<int> r;
    for (const LedgerEntry& e : m.ledger.entries)
        for (int line : linesOf(m.figure, e))
            if (e.dimension >= 0 && lines.contains(line)) r.insert(e.dimension);
    return r;
}

std::set<int> facesOfLines(const Model& m, const std::set<int>& lines) {
    std::set<int> r;
    if (lines.empty()) return r;
    for (size_t i = 0; i < m.build.faces.size(); ++i)
        for (const FaceName& n : m.build.faces[i])
            for (int c : curvesOf(m, n))
                if (lines.contains(m.figure.curves[c].entity)) r.insert(static_cast<int>(i));
    return r;
}

std::set<int> facesOfStep(const Model& m, int step) {
    std::set<int> r;
    for (size_t i = 0; i < m.build.faces.size(); ++i)
        for (const FaceName& n : m.build.faces[i])
            if (n.step == step) r.insert(static_cast<int>(i));
    return r;
}

LastForms lastForms(const Model& now, const Model& before, const LastForms& kept) {
    LastForms r;
    for (const StepReport& failed : now.build.steps) {
        if (failed.ok || failed.name.empty()) continue;
        const auto was = std::ranges::find(before.build.steps, failed.name, &StepReport::name);
        if (was != before.build.steps.end() && was->ok) {
            std::vector<TopoDS_Shape> faces;
            for (int i : facesOfStep(before, static_cast<int>(was - before.build.steps.begin())))
                faces.push_back(shapeOf(before.build.shape, faceNumber(i)));
            if (!faces.empty()) r[failed.name] = building::together(faces);
        } else if (const auto k = kept.find(failed.name); k != kept.end())
            r.insert(*k);
    }
    return r;
}

TopoDS_Shape asOne(const LastForms& forms) {
    std::vector<TopoDS_Shape> all;
    for (const auto& [name, shape] : forms) all.push_back(shape);
    return all.empty() ? TopoDS_Shape() : building::together(all);
}

namespace {

PartRow rowOf(const Model& m, const PartAt& p, const std::vector<PartAt>& faces) {
    const auto row = guarded<PartRow>([&]() -> PartRow {
        if (p.part.kind == SolidPart::Kind::corner) {
            const gp_Pnt at = BRep_Tool::Pnt(TopoDS::Vertex(p.shape));
            return {p.part, "corner", fmt::format("at {:.4f}, {:.4f}, {:.4f}", at.X(), at.Y(), at.Z()),
                    fmt::format("where {} faces meet", p.faces.size())};
        }
        const bool face = p.part.kind == SolidPart::Kind::face;
        GProp_GProps extent;
        if (face)
            BRepGProp::SurfaceProperties(p.shape, extent);
        else
            BRepGProp::LinearProperties(p.shape, extent);
        const KindAndSize k = face ? kindOf(BRepAdaptor_Surface(TopoDS::Face(p.shape)))
                                   : kindOf(BRepAdaptor_Curve(TopoDS::Edge(p.shape)));
        std::string size = fmt::format("{:.2f} {}", extent.Mass(), face ? "mm²" : "mm long");
        if (!k.size.empty()) size = k.size + ", " + size;
        if (face) return {p.part, k.kind, size, originOf(m, p.part.index)};
        std::string between;
        for (int f : p.faces)
            between += (between.empty() ? "between " : " and ") +
                       kindOf(BRepAdaptor_Surface(TopoDS::Face(faces[static_cast<size_t>(f)].shape))).kind;
        return {p.part, k.kind, size, between};
    });
    return row ? *row : PartRow{p.part, {}, {}, {}};
}

} // namespace

std::vector<PartRow> rowsOf(const Model& m, SolidPart::Kind kind) {
    const auto faces = partsOf(m.build.shape, SolidPart::Kind::face);
    std::vector<PartRow> r;
    for (const PartAt& p : partsOf(m.build.shape, kind)) r.push_back(rowOf(m, p, faces));
    return r;
}

std::string describe(const Model& m, SolidPart p) {
    const PartAt at{p, shapeOf(m.build.shape, p), facesAt(m.build.shape, p)};
    if (at.shape.IsNull()) return {};
    const PartRow r = rowOf(m, at, partsOf(m.build.shape, SolidPart::Kind::face));
    return r.kind + (r.size.empty() ? "" : ", " + r.size) + (r.from.empty() ? "" : ", " + r.from);
}

} // namespace prism
