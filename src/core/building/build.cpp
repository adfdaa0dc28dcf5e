#include "core/building/kernel.h"
#include "core/building/solid.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_ListOfShape.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

/// Faces that meet within this angle run smoothly into each other (radians): tangencies of old sheets are
/// only as good as the digits of their files.
constexpr double kSmooth = 1e-4;

template <class Algorithm>
TopoDS_Shape combined(const TopoDS_Shape& base, const std::vector<TopoDS_Shape>& tools) {
    TopTools_ListOfShape arguments, others;
    arguments.Append(base);
    for (const TopoDS_Shape& t : tools) others.Append(t);
    Algorithm a;
    a.SetArguments(arguments);
    a.SetTools(others);
    a.SetToFillHistory(false); // nothing here asks where a face came from
    a.SetCheckInverted(false); // prisms and turned bodies are never inside out
    a.SetRunParallel(false);   // threads cost more than they give on bodies of this size
    a.Build();
    if (a.HasErrors() || !a.IsDone()) throw KernelError("the bodies could not be combined");
    return a.Shape();
}

TopoDS_Shape apply(Operation o, const TopoDS_Shape& base, const std::vector<TopoDS_Shape>& tools) {
    switch (o) {
    case Operation::add:
        return combined<BRepAlgoAPI_Fuse>(base, tools);
    case Operation::cut:
        return combined<BRepAlgoAPI_Cut>(base, tools);
    case Operation::intersect:
        break;
    }
    TopoDS_Shape r = base;
    for (const TopoDS_Shape& t : tools) r = combined<BRepAlgoAPI_Common>(r, {t});
    return r;
}

int count(const TopoDS_Shape& s, TopAbs_ShapeEnum kind) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, kind, m);
    return m.Extent();
}

/// Consecutive steps of one operation go to the modeller together: the same result in a fraction of the time.
struct Run {
    Operation operation = Operation::add;
    std::vector<TopoDS_Shape> bodies;
    std::vector<size_t> steps;
};

void flush(Run& run, BuildResult& r) {
    if (run.bodies.empty()) return;
    auto done = guarded<TopoDS_Shape>([&]() -> TopoDS_Shape {
        if (!r.shape.IsNull()) return apply(run.operation, r.shape, run.bodies);
        if (run.bodies.size() == 1) return run.bodies.front();
        return apply(run.operation, run.bodies.front(), {run.bodies.begin() + 1, run.bodies.end()});
    });
    if (done) r.shape = *done;
    for (size_t i : run.steps) {
        r.steps[i].ok = done.has_value();
        if (!done) r.steps[i].message = done.error().message;
    }
    run = {};
}

} // namespace

SolidMeasure measured(const TopoDS_Shape& shape) {
    SolidMeasure m;
    if (shape.IsNull()) return m;
    GProp_GProps volume, area;
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
    m.valid = m.solids > 0 && m.volume > 0 && BRepCheck_Analyzer(shape).IsValid();
    return m;
}

BuildResult build(const Figure& f, const std::vector<Step>& steps, Progress& progress) {
    BuildResult r;
    if (steps.empty()) return r;
    const AreaSets areas(f);
    Run run;
    for (size_t i = 0; i < steps.size(); ++i) {
        const Step& s = steps[i];
        progress.report(static_cast<double>(i) / static_cast<double>(steps.size()), "Building the solid");
        r.steps.push_back({s.name, describe(s), false, {}});
        if (progress.cancelled()) return {};
        if (s.off) {
            r.steps.back().ok = true, r.steps.back().message = "switched off";
            continue;
        }
        const auto body = stepBody(f, areas, s);
        if (!body) {
            r.steps.back().message = body.error().message;
            continue;
        }
        if (s.operation != run.operation) flush(run, r);
        if (s.operation != Operation::add && r.shape.IsNull() && run.bodies.empty()) {
            r.steps.back().message = fmt::format("there is nothing yet to {}", nameOf(s.operation));
            continue;
        }
        run.operation = s.operation;
        run.bodies.push_back(*body);
        run.steps.push_back(i);
    }
    flush(run, r);
    if (r.shape.IsNull()) return r;
    auto unified = guarded<TopoDS_Shape>([&]() -> TopoDS_Shape {
        ShapeUpgrade_UnifySameDomain u(r.shape, true, true, false);
        u.Build();
        TopoDS_Shape whole = u.Shape();
        BRepLib::EncodeRegularity(whole, kSmooth); // smooth edges are no lines of a drawing
        return whole;
    });
    if (unified) r.shape = *unified;
    r.measure = measured(r.shape);
    return r;
}

} // namespace prism
