#pragma once
#include "core/proposing/holes_seen.h"

// Figures from which features have been taken out, and what that asks of the steps.
namespace prism {

/// Where holes run into `bores` that stay in the figure, the walls of these go on past them.
void closeBores(const Figure& f, const std::vector<HoleSeen>& bores, std::vector<HoleSeen>& holes);

/// Steps that begin with areas of the whole figure `whole`, their borders straight where a hole, seen in the
/// figure `f`, comes out of them.
void straightPast(const Figure& f, const AreaSets& whole, const std::vector<HoleSeen>& holes,
                  std::vector<Step>& steps);

/// The figure as it would be drawn without the features.
Figure without(const Figure& f, const std::vector<SeenLines>& features);
inline Figure withoutHoles(const Figure& f, const std::vector<HoleSeen>& holes) {
    return without(f, {holes.begin(), holes.end()});
}

} // namespace prism
