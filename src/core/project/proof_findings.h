#pragma once
#include "core/project/model.h"

namespace prism {

/// What a solid that nearly all lines of the sheet agree on says of the others: lines that are missing, too
/// many, of the wrong kind, or displaced. Empty when the solid differs from the sheet in more than a line or
/// two, or not at all.
std::vector<Finding> findingsOfProof(const Model& m, const BuildResult& build, const Proof& proof);
/// The same of the solid that the model has.
std::vector<Finding> findingsOfProof(const Model& m);

} // namespace prism
