#pragma once
#include "core/project/model.h"

namespace prism {

/// What a solid that nearly all lines of the sheet agree on says of the others: lines that are missing, too
/// many, of the wrong kind, or displaced. Empty when the solid differs from the sheet in more than a line or
/// two, or not at all.
std::vector<Finding> findingsOfProof(const Model& m, const BuildResult& build, const Proof& proof,
                                     const Progress& progress);
/// The same of the solid that the model has.
std::vector<Finding> findingsOfProof(const Model& m, const Progress& progress);
/// Of the few lines that a solid near the sheet does not show: that each is drawn visible but hidden, or the
/// reverse. Suppositions; none when it lacks more lines than a slip would explain.
std::vector<Finding> suspectsOf(const Model& m, const BuildResult& build, const Proof& proof,
                                const Progress& progress);

} // namespace prism
