#pragma once
#include "core/project/document.h"

namespace prism {

/// What the proof says of the sheet itself when all but a line or two of it agree with the solid: a line
/// drawn visible that the solid hides, or an edge of the solid that is not drawn. More differences than that
/// speak against the solid, and give nothing.
std::vector<Finding> findingsOfProof(const Model& m);

} // namespace prism
