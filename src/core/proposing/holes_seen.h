#pragma once
#include "core/building/steps.h"
#include "core/proposing/walls.h"

// Round holes that the lines of a sheet show: as circles in the view along their axis, and by their walls in
// a neighbour view (ISO 128, ISO 129; drawn as hidden lines, or as outlines of a section).
namespace prism {

/// A line that stands in a view once a feature is gone.
struct Closing {
    int view;
    Segment line;
    LineRole role = LineRole::outline;
    std::vector<int> over{}; ///< curves of the figure in whose place it stands
};

/// What of a sheet's lines a feature explains.
struct SeenLines {
    std::vector<CurvePart> lines;
    std::vector<Closing> closing;
};

/// One hole.
struct HoleSeen : SeenLines {
    Step step; ///< that makes it; one centre
    /// What tells it from others: radius and wider radius, where it begins, widens and ends, mm.
    std::array<double, 5> sizes{};
    bool open_end = false; ///< nothing closes it where its wall ends
    int into = -1;         ///< the hole that it runs into, while they are being looked for
    HoleProfile profile;   ///< along the depth axis of its view
};

/// The holes, those of a view together. Lines of walls without a circle, or the reverse, are no hole. Which
/// of its lines are hidden may count for nothing.
std::vector<HoleSeen> holesSeen(const Figure& f, const std::vector<ViewMap>& maps,
                                LineKinds kinds = LineKinds::told);

/// As few steps as make all of them: one for all that are alike.
std::vector<Step> holeSteps(const std::vector<HoleSeen>& holes, double tolerance);

} // namespace prism
