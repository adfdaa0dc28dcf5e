#pragma once
#include "core/project/picking.h"

// Many closed areas picked at once.
namespace prism {

/// Areas of one view, each by a point inside it as drawn.
struct PickedAreas {
    ViewName view;
    std::vector<Vec2> seeds;
    bool empty() const { return seeds.empty(); }
};

/// The areas, as they now stand, that lie within a polygon of sheet places; with `touching` also those that
/// it cuts. Of one view: that given, else the one with most of them.
PickedAreas areasWithin(const Model& m, const std::vector<Vec2>& polygon, bool touching,
                        const std::optional<ViewName>& view);

/// In what further areas of a view are like those picked.
enum class AreaLikeness {
    shape,      ///< as large, with borders of equal pieces: also turned or mirrored
    layer,      ///< bordered by lines of the same layers
    neighbours, ///< they share a piece of border with one of them, or with one that does
    view        ///< all of the view
};

/// The areas picked and all that are like one of them, by a point inside each as drawn.
std::vector<Vec2> areasLike(const Model& m, const ViewName& view, const std::vector<Vec2>& picked,
                            AreaLikeness how);

} // namespace prism
