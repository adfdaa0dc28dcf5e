#pragma once
#include "core/views/view_set.h"

namespace prism::views {

/// The direction (unit, sheet) in which a view drawn askew is square: most of its straight length runs along
/// it or square to it. None for views that stand upright and for those with more directions, as pictorials
/// have.
std::optional<Vec2> askewDirection(const Drawing& d, const View& v);

/// The oblique edge that an auxiliary view was drawn square to.
struct ObliqueSource {
    int on;    ///< the view that shows the edge
    Vec2 edge; ///< its unit direction, sheet
};
/// Looks among the views other than `v`; the edge that lies opposite the view wins.
std::optional<ObliqueSource> obliqueSource(const Drawing& d, const ViewSet& set, const View& v);

} // namespace prism::views
