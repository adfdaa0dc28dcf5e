#include "core/building/kernel.h"
#include "core/building/step_bodies.h"

namespace prism {
namespace {

using namespace building;

Result<StepBody> ofAreas(const Figure& f, const AreaSets& areas, const Step& s, int index) {
    const auto picked = resolveAreas(f, areas, s);
    if (!picked) return tl::make_unexpected(picked.error());
    auto body = guarded<StepBody>([&] {
        return s.kind == StepKind::extrude ? extruded(f, s, picked->areas, index)
                                           : revolved(f, s, picked->areas, index);
    });
    if (body) body->told = picked->told;
    return body;
}

/// Areas with a reach each, one after another.
Result<StepBody> ofTable(const Figure& f, const AreaSets& areas, const Step& s, int index) {
    StepBody all;
    std::vector<TopoDS_Shape> bodies;
    for (size_t i = 0; i < s.areas.size(); ++i) {
        Step one = s;
        one.areas = {s.areas[i]}, one.to = s.tops[i];
        auto body = ofAreas(f, areas, one, index);
        if (!body) return body;
        bodies.push_back(body->shape);
        all.names.take(body->names);
        all.low.insert(all.low.end(), body->low.begin(), body->low.end());
        all.high.insert(all.high.end(), body->high.begin(), body->high.end());
        if (!body->told.empty()) all.told = body->told;
    }
    all.shape = together(bodies), all.may_touch = true;
    return all;
}

} // namespace

bool hasOwnBody(StepKind k) {
    switch (k) {
    case StepKind::extrude:
    case StepKind::revolve:
    case StepKind::hole:
    case StepKind::wall:
    case StepKind::slope:
    case StepKind::facet:
        return true;
    case StepKind::fillet:
    case StepKind::chamfer:
    case StepKind::shell:
    case StepKind::thicken:
    case StepKind::lip:
    case StepKind::flange:
    case StepKind::rib:
    case StepKind::tilt:
    case StepKind::mirror:
    case StepKind::pattern:
        break;
    }
    return false;
}

bool standsOnFaces(StepKind k) {
    return k == StepKind::thicken || k == StepKind::lip || k == StepKind::flange;
}

Result<StepBody> stepBody(const Figure& f, const AreaSets& areas, const Step& s, int index) {
    if (const auto missing = missingIn(s)) return failure(ErrorCode::impossible, *missing);
    switch (s.kind) {
    case StepKind::extrude:
        return s.tops.empty() ? ofAreas(f, areas, s, index) : ofTable(f, areas, s, index);
    case StepKind::revolve:
        return ofAreas(f, areas, s, index);
    case StepKind::hole:
        return guarded<StepBody>([&] { return holed(f, s, index, {}); });
    case StepKind::wall:
        return guarded<StepBody>([&] { return walled(f, s, index); });
    case StepKind::slope:
        return guarded<StepBody>([&] { return sloped(f, s, index); });
    case StepKind::facet:
        return guarded<StepBody>([&] { return facetted(f, s, index); });
    default:
        return failure(ErrorCode::impossible, "this step has no body of its own");
    }
}

} // namespace prism
