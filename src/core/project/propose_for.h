#pragma once
#include "core/project/model.h"
#include "core/proposing/propose.h"

namespace prism {

/// A solid suggested for the sheet of a model (from the figure on). Nothing that a library throws leaves it.
Result<Proposal> proposeFor(const Model& m, const Search& how, Work& work, Progress& progress);
/// Where the search for one proposal ends; most are found within a fifth of it.
inline constexpr int kMostWorkOfProposal = 10'000;
/// The same within that, by the lines alone.
inline Result<Proposal> proposeFor(const Model& m, Progress& progress) {
    Work work(kMostWorkOfProposal);
    return proposeFor(m, Search{}, work, progress);
}
/// The same with the facts among the choices, whose levels and formulas are those of the model. `better` as
/// of a Search.
Result<Proposal> proposeFor(const Model& m, const Choices& c, Progress& progress,
                            std::function<void(const Proposal&)> better = {});

} // namespace prism
