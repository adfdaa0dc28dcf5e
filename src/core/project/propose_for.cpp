#include "core/project/propose_for.h"

#include "core/building/kernel.h"
#include "core/project/facts_kept.h"
#include "core/proposing/mirrored_steps.h"

namespace prism {
namespace {

bool sameSolid(const BuildResult& a, const BuildResult& b) {
    constexpr double kSame = 1e-6; // of the volume
    return a.ok() && b.ok() && std::abs(a.measure.volume - b.measure.volume) <= kSame * a.measure.volume;
}

/// Whether two lists that make one solid go on making one when the numbers of the sheet change, one at a
/// time.
bool staySame(const Model& m, const std::vector<Step>& one, const std::vector<Step>& other,
              Progress& progress) {
    constexpr double kChange = 1.03;
    return std::ranges::all_of(m.ledger.entries, [&](const LedgerEntry& e) {
        if (e.state != EntryState::drives || progress.cancelled()) return !progress.cancelled();
        Figure f = m.figure;
        Ledger numbers = m.ledger;
        NumberChoices changed;
        changed[e.name].value = kChange * e.value;
        if (!drive(f, numbers, changed).ok()) return true; // then nobody sees them differ
        const AreaSets areas(f, progress);
        const auto made = [&](const std::vector<Step>& steps) {
            return build(f, areas, steps, progress, {}, nullptr, Measuring::coarse);
        };
        return sameSolid(made(one), made(other));
    });
}

/// Writes steps that are images of others as mirrors, where that is the same solid and stays so.
void mirror(const Model& m, Proposal& p, LineKinds kinds, Progress& progress) {
    const AreaSets areas(m.figure, progress);
    auto steps = withMirrors(m.figure, areas.drawn, p.steps);
    if (!p.clean || steps == p.steps) return;
    BuildResult b = build(m.figure, areas, steps, progress);
    auto proof = prove(m.figure, b.shape, progress, kinds);
    if (!sameSolid(p.build, b) || !proof || !proof->clean() || !staySame(m, p.steps, steps, progress)) return;
    p.steps = std::move(steps), p.build = std::move(b), p.proof = std::move(*proof);
}

} // namespace

Result<Proposal> proposeFor(const Model& m, const Search& how, Work& work, Progress& progress) {
    return guarded<Proposal>([&] {
        auto p = propose(m.figure, how, work, progress);
        if (p && how.effort == Effort::thorough) mirror(m, *p, how.kinds, progress);
        return p;
    });
}

Result<Proposal> proposeFor(const Model& m, const Choices& c, Progress& progress,
                            std::function<void(const Proposal&)> better) {
    Search how;
    how.better = std::move(better);
    auto facts = factsOf(m.ledger, c);
    if (!facts) return tl::make_unexpected(facts.error());
    how.facts = std::move(*facts);
    Work work(kMostWorkOfProposal);
    return proposeFor(m, how, work, progress);
}

} // namespace prism
