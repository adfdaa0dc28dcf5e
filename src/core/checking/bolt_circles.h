#pragma once
#include "core/checking/finding.h"

namespace prism::checking {

enum class BoltCircles {
    drawn,   ///< those whose circle is drawn as a centre line, with holes beside it that no dimension places
    supposed ///< any that another circle is the middle of
};
/// Holes of a bolt circle that stand beside their places on it: where the view beside is a section, nothing
/// else may show it.
void onBoltCircles(const CheckInput& in, BoltCircles which, std::vector<Finding>& out);

} // namespace prism::checking
