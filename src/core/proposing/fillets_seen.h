#pragma once
#include "core/base/progress.h"
#include "core/building/solid.h"
#include "core/figure/rounds.h"

// Fillets of the solid, told from the arcs that round corners in several views.
namespace prism {

/// Sets of rounds that may be fillets, likely ones first: those whose radius stands in two views or more, all
/// together and then by radius. A radius in one view alone is part of an outline that was pushed.
std::vector<std::vector<Round>> filletChoices(const Figure& f);

/// The steps with these corners left sharp, followed by the fillets that round the edges of the solid there.
std::vector<Step> withFillets(const Figure& f, const AreaSets& areas, std::vector<Step> steps,
                              const std::vector<Round>& rounds, Progress& progress);

} // namespace prism
