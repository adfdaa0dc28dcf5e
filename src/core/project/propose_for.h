#pragma once
#include "core/project/model.h"
#include "core/proposing/propose.h"

namespace prism {

/// A solid suggested for the sheet of a model (from the figure on). Nothing that a library throws leaves it.
Result<Proposal> proposeFor(const Model& m, Progress& progress, Effort effort = Effort::thorough,
                            int most_work = 0);

} // namespace prism
