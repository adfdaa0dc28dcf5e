#pragma once
#include "core/project/model.h"
#include "core/proposing/propose.h"

namespace prism {

/// A solid suggested for the sheet of a model (from the figure on). Nothing that a library throws leaves it.
Result<Proposal> proposeFor(const Model& m, Work& work, Progress& progress, Effort effort = Effort::thorough,
                            LineKinds kinds = LineKinds::told);
/// Where the search for one proposal ends; most are found within a fifth of it.
inline constexpr int kMostWorkOfProposal = 6000;
/// The same within that.
inline Result<Proposal> proposeFor(const Model& m, Progress& progress, Effort effort = Effort::thorough) {
    Work work(kMostWorkOfProposal);
    return proposeFor(m, work, progress, effort);
}

} // namespace prism
