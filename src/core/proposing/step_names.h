#pragma once
#include "core/figure/areas.h"

#include "core/building/steps.h"

namespace prism {

/// Gives the steps of a proposal that have no name one that says what they are: base, boss, block, bore,
/// slot, pocket, opening, notch. Names that several steps have are numbered anew.
void nameSteps(const Figure& f, const std::vector<ClosedArea>& areas, std::vector<Step>& steps);

} // namespace prism
