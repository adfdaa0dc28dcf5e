#pragma once
#include "core/figure/areas.h"

namespace prism {

/// The areas that areas as drawn have become in the figure as it now stands.
struct Successors {
    std::vector<int> now;      ///< indices in AreaSets::now, sorted
    std::vector<int> nearest;  ///< of the areas asked for: those whose border is gone; the area nearest to
                               ///< where they were stands for them
    std::vector<int> vanished; ///< of the areas asked for: those that nothing stands for
};

/// An area is what the curves round it enclose, wherever they went and whatever else has come to lie between
/// them. Areas as drawn (indices in AreaSets::drawn, of one view) are taken together: curves between two of
/// them are no border.
Successors successorsOf(const Figure& f, const AreaSets& areas, const std::vector<int>& drawn);

} // namespace prism
