#include "core/proposing/fillets_seen.h"

#include "core/building/kernel.h"
#include "core/building/solid.h"
#include "core/building/solid_places.h"

#include <fmt/format.h>
#include <set>

namespace prism {
namespace {

double radiusOf(const Figure& f, const Round& r) {
    return std::get<Arc>(f.curves[static_cast<size_t>(r.arc)].drawn).radius;
}

int viewOf(const Figure& f, const Round& r) {
    return f.curves[static_cast<size_t>(r.arc)].view;
}

/// Rounds by radius, the largest first.
std::vector<std::vector<Round>> byRadius(const Figure& f, std::vector<Round> rounds) {
    std::ranges::stable_sort(rounds, std::greater{}, [&](const Round& r) { return radiusOf(f, r); });
    std::vector<std::vector<Round>> groups;
    for (const Round& r : rounds)
        if (!groups.empty() && radiusOf(f, groups.back().front()) - radiusOf(f, r) <= f.tolerances.proof)
            groups.back().push_back(r);
        else
            groups.push_back({r});
    return groups;
}

MarkRef cornerMark(const Figure& f, const Round& r) {
    return {f.viewById(viewOf(f, r))->name, cornerOf(f, r, f.drawn)};
}

} // namespace

std::vector<std::vector<Round>> filletChoices(const Figure& f) {
    constexpr size_t kMostChoices = 4;
    std::vector<Round> seen = roundsOf(f), all;
    std::erase_if(seen, [&](const Round& r) { return !f.viewById(viewOf(f, r))->principal(); });
    std::vector<std::vector<Round>> choices;
    for (std::vector<Round>& g : byRadius(f, std::move(seen))) {
        std::set<int> views;
        for (const Round& r : g) views.insert(viewOf(f, r));
        if (views.size() < 2) continue;
        all.insert(all.end(), g.begin(), g.end());
        choices.push_back(std::move(g));
    }
    // Small radii are more often fillets of edges than corners of an outline.
    std::ranges::reverse(choices);
    if (choices.size() > kMostChoices) choices.resize(kMostChoices);
    if (choices.size() > 1) choices.insert(choices.begin(), std::move(all));
    return choices;
}

std::vector<Step> withFillets(const Figure& f, const AreaSets& areas, std::vector<Step> steps,
                              const std::vector<Round>& rounds, Progress& progress) {
    for (Step& s : steps)
        for (const Round& r : rounds)
            if (s.kind == StepKind::extrude && f.viewById(viewOf(f, r))->name == s.view)
                s.sharp.push_back(pointAt(f.curves[static_cast<size_t>(r.arc)].drawn, 0.5));
    const BuildResult sharp = build(f, areas, steps, progress);
    if (!sharp.ok()) return steps;
    for (const std::vector<Round>& group : byRadius(f, rounds)) {
        Step s;
        s.kind = StepKind::fillet;
        for (const Round& r : group) {
            PartPick pick;
            pick.corner = cornerMark(f, r);
            const auto edges = guarded<std::vector<TopoDS_Edge>>([&] {
                return building::edgesOf(f, sharp.shape, {EdgeChoice::Which::picked, {pick}, {}, {}}, {});
            });
            const bool known = std::ranges::find(s.edges.picks, pick) != s.edges.picks.end();
            if (edges && !known) s.edges.picks.push_back(pick);
        }
        if (s.edges.picks.empty()) continue;
        s.name = fmt::format("fillets R{:g}", radiusOf(f, group.front()));
        steps.push_back(std::move(s));
    }
    return steps;
}

} // namespace prism
