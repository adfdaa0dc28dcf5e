#include "core/project/propose_for.h"

#include "core/building/kernel.h"

namespace prism {

Result<Proposal> proposeFor(const Model& m, const Search& how, Work& work, Progress& progress) {
    return guarded<Proposal>([&] { return propose(m.figure, how, work, progress); });
}

Result<Proposal> proposeFor(const Model& m, const Choices& c, Progress& progress,
                            std::function<void(const Proposal&)> better) {
    Search how;
    how.better = std::move(better);
    for (Step& s : withLevels(c.facts, c.levels)) {
        auto fact = evaluated(std::move(s), numbersIn(m.ledger));
        if (!fact) return tl::make_unexpected(fact.error());
        how.facts.push_back(std::move(*fact));
    }
    Work work(kMostWorkOfProposal);
    return proposeFor(m, how, work, progress);
}

} // namespace prism
