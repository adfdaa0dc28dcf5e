#pragma once
#include "core/building/solid.h"
#include "core/figure/areas.h"

namespace prism {

/// Holes that a stretch of material lacks which another one has on the same axes, with space between the two,
/// as the flanges at both ends of a pipe.
struct LackingHoles {
    double low, high;                     ///< of the material, mm along the view's depth axis
    Bound from, to;                       ///< marks that stand there
    std::vector<std::vector<Vec2>> holes; ///< by seeds of the areas that their circles are made of
};

/// Those of the circles of a view, in a solid built on the figure. Where no mark bounds the material they are
/// left out.
std::vector<LackingHoles> lackingHoles(const Figure& f, const FigureView& v, const AreaSets& areas,
                                       const BuildResult& build);

} // namespace prism
