#include "core/diagnosing/repairing.h"

namespace prism {

std::vector<std::pair<const Finding*, const Remedy*>> firstRemedies(const Diagnosis& d,
                                                                    const std::set<std::string>& kinds) {
    std::vector<std::pair<const Finding*, const Remedy*>> r, lines;
    for (const Finding& f : d.findings) {
        const auto remedy = std::ranges::find_if(
            f.remedies, [&](const Remedy& x) { return kinds.empty() || kinds.contains(x.kind); });
        if (remedy != f.remedies.end() && !f.accepted) (f.from_proof ? lines : r).emplace_back(&f, &*remedy);
    }
    return r.empty() ? lines : r;
}

Result<std::vector<Repaired>> repairAll(Document& d, const std::set<std::string>& kinds, Progress& progress,
                                        KnownSolids* known) {
    KnownSolids own;
    constexpr int kMostPasses = 6;
    std::vector<Repaired> r;
    for (int pass = 0; pass < kMostPasses; ++pass) {
        const auto found = diagnose(d.source(), d.choices(), d.sharedModel(), progress, known ? known : &own);
        if (!found) return tl::make_unexpected(found.error());
        const size_t before = r.size();
        for (const auto& [finding, remedy] : firstRemedies(*found, kinds))
            // One that clashes with another is left: the next look tells.
            if (d.apply(remedy->words, changed(d.choices(), remedy->change), progress, Stage::checks))
                r.push_back({finding->message, remedy->kind, remedy->words});
        if (r.size() == before) break;
    }
    return r;
}

} // namespace prism
