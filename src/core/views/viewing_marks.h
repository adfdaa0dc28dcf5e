#pragma once
#include "core/views/view_set.h"

// What a sheet draws to say where a section, a view along an arrow or a detail is taken (ISO 128-3). Only the
// wanted letters are looked for.
namespace prism::views {

using Letters = std::set<std::string>;

/// A line with a letter at either end, and the direction in which arrows at its ends point.
struct CuttingPlane {
    std::string letter;
    Vec2 from, to; ///< sheet coordinates; of a stepped one the plane in which it begins, all its way
    std::vector<Segment> legs; ///< of a stepped one: its parts in order; empty for a straight one
    std::optional<Vec2> look;  ///< unit direction; none when no arrow was found
    bool drawn = true;         ///< else a centre line that ends short of the letters is taken for it
};
std::vector<CuttingPlane> cuttingPlanes(const Drawing& d, const CleanSheet& s, const Letters& wanted);

/// Lines between two single letters, none of which is among `known`.
std::vector<StrayPlane> strayPlanes(const Drawing& d, const CleanSheet& s, const Letters& known);

/// An arrow by itself with a letter.
struct ViewingArrow {
    std::string letter;
    Vec2 tip, look;
};
std::vector<ViewingArrow> viewingArrows(const Drawing& d, const CleanSheet& s, const Letters& wanted);

/// A circle with a letter round what a detail shows.
struct DetailCircle {
    std::string letter;
    Arc circle;
};
std::vector<DetailCircle> detailCircles(const Drawing& d, const CleanSheet& s, const Letters& wanted);

} // namespace prism::views
