#pragma once
#include "core/proposing/holes_seen.h"

// Round bosses that grow out of a round body: a circle in the view along them, walls and a flat end in the
// views beside it, and where they meet the body a curve that is neither.
namespace prism {

/// One boss; what it explains is taken out of the figure as of a hole.
struct BossSeen {
    SeenLines seen;
    Step step; ///< that makes it, from within the body
};

/// Those whose end is free, on the side of the viewer of their circle or, where that is hidden, on the far
/// one. `areas`: of the whole sheet, which the steps are made of.
std::vector<BossSeen> bossesSeen(const Figure& f, const std::vector<ViewMap>& maps, const AreaSets& areas);

/// The figure as it would be drawn without them. What only they hide is seen then.
Figure withoutBosses(const Figure& f, const std::vector<BossSeen>& bosses);

} // namespace prism
