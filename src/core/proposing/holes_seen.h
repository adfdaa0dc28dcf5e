#pragma once
#include "core/building/steps.h"
#include "core/proposing/walls.h"

// Round holes that the lines of a sheet show: as circles in the view along their axis, and by their walls in
// a neighbour view (ISO 128, ISO 129; drawn as hidden lines, or as outlines of a section).
namespace prism {

/// What of a sheet's lines a feature explains.
struct SeenLines {
    std::vector<CurvePart> lines;
    std::vector<std::pair<int, Segment>> closing; ///< by view: lines that stand there once it is gone
};

/// One hole.
struct HoleSeen : SeenLines {
    Step step; ///< that makes it; one centre
    /// What tells it from others: radius and wider radius, where it begins, widens and ends, mm.
    std::array<double, 5> sizes{};
    bool open_end = false; ///< nothing closes it where its wall ends
    HoleProfile profile;   ///< along the depth axis of its view
};

/// The holes, those of a view together. Lines of walls without a circle, or the reverse, are no hole.
std::vector<HoleSeen> holesSeen(const Figure& f, const std::vector<ViewMap>& maps);

/// As few steps as make all of them: one for all that are alike.
std::vector<Step> holeSteps(const std::vector<HoleSeen>& holes, double tolerance);

/// The figure as it would be drawn without the features.
Figure without(const Figure& f, const std::vector<SeenLines>& features);
inline Figure withoutHoles(const Figure& f, const std::vector<HoleSeen>& holes) {
    return without(f, {holes.begin(), holes.end()});
}

} // namespace prism
