#pragma once
#include "core/building/places.h"
#include "core/proposing/view_map.h"

// Round holes along an axis that no view looks along: two views show them from the side.
namespace prism {

/// The axis of such a hole, and the radii of the walls round it.
struct LyingAxis {
    FigureView across; ///< the plane across it; no view of the sheet
    Vec2 centre;       ///< in that plane
    std::vector<double> radii;
    /// A view that shows it from the side, and a place on it there between walls; and another such view.
    ViewName view, other;
    Vec2 on_axis;

    /// Says of a hole step, found in the plane across, where its axis lies in the views of the sheet.
    void layDown(Step& s) const;
};

/// Those of which something tells that they are round: a pair of walls as far apart in both views, but not as
/// long, as where they come out of a round body. Axes that could be paired in several ways are left out.
std::vector<LyingAxis> lyingAxes(const Figure& f, const std::vector<ViewMap>& maps);

} // namespace prism
