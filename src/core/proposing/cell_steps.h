#pragma once
#include "core/building/steps.h"
#include "core/proposing/cell_model.h"

#include <functional>

namespace prism {

/// Steps that make the cells which are material: areas of the views extruded and joined, then areas cut away,
/// as few as a greedy cover finds. `model` is cut at every coordinate. Empty when extruded areas cannot make
/// them.
std::vector<Step> stepsFor(const Figure& f, ProductCells& model,
                           const std::function<bool(int cell)>& material);

} // namespace prism
