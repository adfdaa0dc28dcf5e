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

/// What a cell has to become; either: nobody looked, or it does not matter.
enum class Fill { air, material, either };
using CellFill = std::function<Fill(int cell)>;

/// Steps that make the cells which are material: areas of the views extruded and joined, then areas cut away,
/// as few as a greedy cover finds. `model` is cut at every coordinate.
StepsFound stepsFor(const Figure& f, ProductCells& model, const CellFill& fill, Progress& progress);

/// Steps that cut away the cells which are air from what is there, and none that are material.
StepsFound cutsFor(const Figure& f, ProductCells& model, const CellFill& fill, Progress& progress);

} // namespace prism
