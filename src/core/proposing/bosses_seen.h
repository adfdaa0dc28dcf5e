#pragma once
#include "core/proposing/holes_seen.h"

// Round bosses: a circle in the view along them, walls and a flat end in the views beside it, and where they
// grow out of a round body a curve in which they meet it.
namespace prism {

/// One boss; what it explains is taken out of the figure as of a hole.
struct BossSeen {
    SeenLines seen;
    Step step; ///< that makes it, from within the body
    Vec2 centre;
    HoleProfile::Wall wall; ///< along the depth axis of its view, from the free end
};

/// What bosses stand on.
enum class StandsOn { round_body, plane_face };

/// Those whose end is free, on the side of the viewer of their circle or, where that is hidden, on the far
/// one. `areas`: of the whole sheet, which the steps are made of.
std::vector<BossSeen> bossesSeen(const Figure& f, const std::vector<ViewMap>& maps, const AreaSets& areas,
                                 StandsOn on = StandsOn::round_body);

/// The figure as it would be drawn without them. What only they hide is seen then.
Figure withoutBosses(const Figure& f, const std::vector<BossSeen>& bosses);

} // namespace prism
