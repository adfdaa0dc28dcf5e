#pragma once
#include "core/project/model.h"
#include "core/proposing/propose.h"

namespace prism {

/// A solid suggested for the sheet of a model (from the figure on), which keeps the facts. Nothing that a
/// library throws leaves it.
Result<Proposal> proposeFor(const Model& m, Work& work, Progress& progress, Effort effort = Effort::thorough,
                            LineKinds kinds = LineKinds::told, const std::vector<Step>& facts = {});
/// Where the search for one proposal ends; most are found within a fifth of it.
inline constexpr int kMostWorkOfProposal = 6000;
/// The same within that, by the lines alone.
inline Result<Proposal> proposeFor(const Model& m, Progress& progress) {
    Work work(kMostWorkOfProposal);
    return proposeFor(m, work, progress);
}
/// The same with the facts among the choices, whose levels and formulas are those of the model.
Result<Proposal> proposeFor(const Model& m, const Choices& c, Progress& progress);

} // namespace prism
