#pragma once
#include "core/base/progress.h"
#include "core/building/steps.h"
#include "core/proposing/cell_model.h"

#include <functional>

namespace prism {

struct StepsFound {
    std::vector<Step> steps; ///< empty when extruded areas cannot make the cells
    std::string left_undone; ///< what a budget kept from being looked at; empty for nothing
};

/// Steps that make the cells which are material: areas of the views extruded and joined, then areas cut away,
/// as few as a greedy cover finds. `model` is cut at every coordinate.
StepsFound stepsFor(const Figure& f, ProductCells& model, const std::function<bool(int cell)>& material,
                    Progress& progress);

/// Steps that cut away the cells for which `air` holds from what is there, and none for which `material`
/// does. What neither holds for may go or stay.
StepsFound cutsFor(const Figure& f, ProductCells& model, const std::function<bool(int cell)>& material,
                   const std::function<bool(int cell)>& air, Progress& progress);

} // namespace prism
