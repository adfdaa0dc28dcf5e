#include "core/building/kernel.h"
#include "core/building/solid.h"
#include "core/building/soundness.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

/// Faces that meet within this angle run smoothly into each other (radians): tangencies of old sheets are
/// only as good as the digits of their files.
constexpr double kSmooth = 1e-4;

template <class Algorithm>
TopoDS_Shape combined(const TopoDS_Shape& base, const std::vector<TopoDS_Shape>& tools, FaceNames& names) {
    TopTools_ListOfShape arguments, others;
    arguments.Append(base);
    for (const TopoDS_Shape& t : tools) others.Append(t);
    Algorithm a;
    a.SetArguments(arguments);
    a.SetTools(others);
    a.SetCheckInverted(false); // prisms and turned bodies are never inside out
    a.SetRunParallel(false);   // threads cost more than they give on bodies of this size
    a.Build();
    if (a.HasErrors() || !a.IsDone()) throw KernelError("the bodies could not be combined");
    names.follow(a, base);
    for (const TopoDS_Shape& t : tools) names.follow(a, t);
    return a.Shape();
}

int count(const TopoDS_Shape& s, TopAbs_ShapeEnum kind) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, kind, m);
    return m.Extent();
}

/// The solid while it is being made: bodies whose union it is. They are joined only at the end, since a small
/// body is cut in a fraction of the time that the whole takes: (A + B) - T = (A - T) + (B - T).
class Parts {
  public:
    bool empty() const { return bodies_.empty(); }
    void apply(Operation o, const std::vector<TopoDS_Shape>& tools, const FaceNames& names) {
        names_.take(names);
        switch (o) {
        case Operation::add:
            bodies_.insert(bodies_.end(), tools.begin(), tools.end());
            return;
        case Operation::cut:
            cut(tools);
            return;
        case Operation::intersect:
            for (const TopoDS_Shape& t : tools)
                for (TopoDS_Shape& b : bodies_) b = combined<BRepAlgoAPI_Common>(b, {t}, names_);
            break;
        }
        dropEmpty();
    }
    TopoDS_Shape whole() {
        if (bodies_.empty()) return {};
        if (bodies_.size() == 1) return bodies_.front();
        return combined<BRepAlgoAPI_Fuse>(bodies_.front(), {bodies_.begin() + 1, bodies_.end()}, names_);
    }
    FaceNames& names() { return names_; }

  private:
    static Bnd_Box boxOf(const TopoDS_Shape& s) {
        Bnd_Box b;
        BRepBndLib::Add(s, b, false);
        return b;
    }
    void cut(const std::vector<TopoDS_Shape>& tools) {
        for (TopoDS_Shape& b : bodies_) {
            std::vector<TopoDS_Shape> near;
            for (const TopoDS_Shape& t : tools)
                if (!boxOf(b).IsOut(boxOf(t))) near.push_back(t);
            if (!near.empty()) b = combined<BRepAlgoAPI_Cut>(b, near, names_);
        }
        dropEmpty();
    }
    void dropEmpty() {
        std::erase_if(bodies_, [](const TopoDS_Shape& b) { return count(b, TopAbs_SOLID) == 0; });
    }

    std::vector<TopoDS_Shape> bodies_;
    FaceNames names_;
};

/// Consecutive steps of one operation go to the modeller together: the same result in a fraction of the time.
struct Run {
    Operation operation = Operation::add;
    std::vector<TopoDS_Shape> bodies;
    FaceNames names;
    std::vector<size_t> steps;
};

void flush(Run& run, Parts& parts, BuildResult& r) {
    if (run.bodies.empty()) return;
    const auto done = guarded<Parts>([&] {
        Parts next = parts;
        next.apply(run.operation, run.bodies, run.names);
        return next;
    });
    if (done) parts = *done;
    for (size_t i : run.steps) {
        r.steps[i].ok = done.has_value();
        if (!done) r.steps[i].message = done.error().message;
    }
    run = {};
}

/// Whether any edge is neither straight nor an arc of a circle or an ellipse.
bool isFreeForm(const TopoDS_Shape& shape) {
    for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next()) {
        if (BRep_Tool::Degenerated(TopoDS::Edge(x.Current()))) continue;
        const auto kind = BRepAdaptor_Curve(TopoDS::Edge(x.Current())).GetType();
        if (kind != GeomAbs_Line && kind != GeomAbs_Circle && kind != GeomAbs_Ellipse) return true;
    }
    return false;
}

} // namespace

SolidMeasure measured(const TopoDS_Shape& shape) {
    SolidMeasure m;
    if (shape.IsNull()) return m;
    GProp_GProps volume, area;
    if (isFreeForm(shape)) // a fixed number of places on each border is too few there
        BRepGProp::VolumePropertiesGK(shape, volume, 1e-8, true);
    else
        BRepGProp::VolumeProperties(shape, volume);
    BRepGProp::SurfaceProperties(shape, area);
    m.volume = volume.Mass();
    m.area = area.Mass();
    Bnd_Box box;
    BRepBndLib::AddOptimal(shape, box, false, false);
    if (!box.IsVoid()) {
        box.SetGap(0);
        box.Get(m.lo.x, m.lo.y, m.lo.z, m.hi.x, m.hi.y, m.hi.z);
    }
    m.faces = count(shape, TopAbs_FACE);
    m.solids = count(shape, TopAbs_SOLID);
    m.valid = m.solids > 0 && m.volume > 0 && isSound(shape);
    return m;
}

BuildResult build(const Figure& f, const AreaSets& areas, const std::vector<Step>& steps,
                  Progress& progress) {
    BuildResult r;
    if (steps.empty()) return r;
    Run run;
    Parts parts;
    for (size_t i = 0; i < steps.size(); ++i) {
        const Step& s = steps[i];
        progress.report(static_cast<double>(i) / static_cast<double>(steps.size()), "Building the solid");
        r.steps.push_back({s.name, describe(s), false, {}, {}, {}});
        if (progress.cancelled()) return {};
        if (s.off) {
            r.steps.back().ok = true, r.steps.back().message = "switched off";
            continue;
        }
        const auto body = stepBody(f, areas, s, static_cast<int>(i));
        r.steps.back().message = body ? body->told : body.error().message;
        if (body) r.steps.back().low = body->low, r.steps.back().high = body->high;
        if (!body) continue;
        if (s.operation != run.operation) flush(run, parts, r);
        if (s.operation != Operation::add && parts.empty() && run.bodies.empty()) {
            r.steps.back().message = fmt::format("there is nothing yet to {}", nameOf(s.operation));
            continue;
        }
        run.operation = s.operation;
        run.bodies.push_back(body->shape);
        run.names.take(body->names);
        run.steps.push_back(i);
    }
    if (progress.cancelled()) return {};
    flush(run, parts, r);
    const auto whole = guarded<TopoDS_Shape>([&] { return parts.whole(); });
    if (whole)
        r.shape = *whole;
    else
        r.steps.back().ok = false, r.steps.back().message = whole.error().message;
    if (r.shape.IsNull()) return r;
    auto unified = guarded<TopoDS_Shape>([&]() -> TopoDS_Shape {
        ShapeUpgrade_UnifySameDomain u(r.shape, true, true, false);
        u.Build();
        TopoDS_Shape whole = u.Shape();
        parts.names().follow(*u.History(), r.shape);
        BRepLib::EncodeRegularity(whole, kSmooth); // smooth edges are no lines of a drawing
        return whole;
    });
    if (unified) r.shape = *unified;
    r.faces = parts.names().ofAll(r.shape);
    r.measure = measured(r.shape);
    return r;
}

} // namespace prism
