#pragma once
#include "core/checking/finding.h"

namespace prism::checking {

/// Holes of a bolt circle that stand beside their places on it: where the view beside is a section, nothing
/// else may show it.
void onBoltCircles(const CheckInput& in, std::vector<Finding>& out);

} // namespace prism::checking
