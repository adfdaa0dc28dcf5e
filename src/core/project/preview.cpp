#include "core/project/preview.h"

#include "core/building/kernel.h"
#include "core/building/overlap.h"

#include <TopExp_Explorer.hxx>

namespace prism {
namespace {

/// What of one shape lies outside another, where that is a solid; null for nothing.
TopoDS_Shape changeOf(const TopoDS_Shape& a, const TopoDS_Shape& b, double& volume) {
    const TopoDS_Shape rest = beyond(a, b);
    if (rest.IsNull() || !TopExp_Explorer(rest, TopAbs_SOLID).More()) return {};
    volume = volumeOf(rest);
    return rest;
}

} // namespace

Result<StepPreview> previewOf(const Model& m, const std::vector<Step>& steps, size_t at, const Step& step,
                              Progress& progress) {
    std::vector<Step> before(steps.begin(),
                             steps.begin() + static_cast<std::ptrdiff_t>(std::min(at, steps.size())));
    for (Step& s : before) s.stop = false; // what is previewed lies behind them all
    const NumberSource numbers = numbersIn(m.ledger);
    const BuildResult begun = at >= steps.size() && before == steps
                                  ? m.build
                                  : build(m.figure, m.areas, before, progress, numbers, &m.build);
    const TopoDS_Shape was = begun.shape;
    before.push_back(step);
    const BuildResult now = build(m.figure, m.areas, before, progress, numbers, &begun);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "the preview was stopped");
    const StepReport& r = now.steps.back();
    if (!r.ok) return failure(ErrorCode::impossible, r.message);
    return guarded<StepPreview>([&] {
        StepPreview p;
        p.told = r.message;
        p.added = changeOf(now.shape, was, p.more);
        p.removed = changeOf(was, now.shape, p.less);
        return p;
    });
}

} // namespace prism
