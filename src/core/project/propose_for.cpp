#include "core/project/propose_for.h"

#include "core/building/kernel.h"

namespace prism {

Result<Proposal> proposeFor(const Model& m, Work& work, Progress& progress, Effort effort, LineKinds kinds,
                            const std::vector<Step>& facts) {
    return guarded<Proposal>([&] { return propose(m.figure, work, progress, effort, kinds, facts); });
}

Result<Proposal> proposeFor(const Model& m, const Choices& c, Progress& progress) {
    std::vector<Step> facts;
    for (Step& s : withLevels(c.facts, c.levels)) {
        auto fact = evaluated(std::move(s), numbersIn(m.ledger));
        if (!fact) return tl::make_unexpected(fact.error());
        facts.push_back(std::move(*fact));
    }
    Work work(kMostWorkOfProposal);
    return proposeFor(m, work, progress, Effort::thorough, LineKinds::told, facts);
}

} // namespace prism
