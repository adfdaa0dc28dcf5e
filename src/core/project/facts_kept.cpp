#include "core/project/facts_kept.h"

#include "core/building/kernel.h"
#include "core/proposing/facts.h"

#include <fmt/format.h>

namespace prism {

Result<std::vector<Step>> factsOf(const Ledger& numbers, const Choices& c) {
    std::vector<Step> r;
    for (Step& s : withLevels(c.facts, c.levels)) {
        auto fact = evaluated(std::move(s), numbersIn(numbers));
        if (!fact) return tl::make_unexpected(fact.error());
        r.push_back(std::move(*fact));
    }
    return r;
}

std::optional<Finding> factNotKept(const Model& m, const Choices& c) {
    if (c.facts.empty() || !m.build.ok() || !m.proof || !m.proof->clean()) return std::nullopt;
    const auto said = factsOf(m.ledger, c);
    const auto facts = said ? factsIn(m.figure, m.areas, *said)
                            : Result<std::vector<Fact>>(tl::make_unexpected(said.error()));
    Finding f;
    f.kind = "fact_not_kept", f.from_proof = true;
    if (!facts) {
        f.message = facts.error().message;
        return f;
    }
    const Fact* against = nullptr;
    if (const auto trouble = thrownBy([&] { against = notKept(*facts, m.build.shape); })) {
        f.message = "Whether the solid keeps what is known could not be told: " + trouble->message;
        return f;
    }
    if (!against) return std::nullopt;
    f.message = fmt::format("The solid shows every line of the sheet but {} what the fact \"{}\" says is {}",
                            against->region.material ? "lacks" : "fills", against->name,
                            against->region.material ? "material" : "air");
    f.views = {against->region.view};
    const FigureView& v = *m.figure.viewById(against->region.view);
    for (const ClosedArea& a : against->region.areas)
        f.at_sheet.push_back(ontoSheet(m.figure, v, m.figure.now)(Warp(m.figure, v.view)(a.seed)));
    f.repair = "change the steps there, or take the fact back";
    return f;
}

} // namespace prism
