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

/// The same for the pieces of a model that need not be cut at every coordinate, as `fine` is; by piece, what
/// it has to become. Pieces without an entry are either.
StepsFound stepsForPieces(const Figure& f, ProductCells& pieces, bool gridded, ProductCells& fine,
                          const std::vector<Fill>& fills, Progress& progress);
/// What a piece has to become once one more cell of it is known: air wherever any of it is.
inline void take(Fill& piece, bool material, bool looked_at) {
    if (!material)
        piece = Fill::air;
    else if (looked_at && piece == Fill::either)
        piece = Fill::material;
}

/// Keeps what lies within the areas of a view, drawn through the part.
Step withinOutline(const FigureView& v, const std::vector<ClosedArea>& areas);

/// The outlines of the principal views drawn through the part and intersected. A rectangle that the others
/// imply is left out.
std::vector<Step> outlinesIntersected(const Figure& f, const std::vector<ClosedArea>& areas);

/// Steps that cut away the cells which are air from what is there, and none that are material.
StepsFound cutsFor(const Figure& f, ProductCells& model, const CellFill& fill, Progress& progress);

} // namespace prism
