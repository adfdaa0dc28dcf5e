#pragma once
#include "core/base/progress.h"
#include "core/figure/figure.h"

namespace prism {

/// A piece of a figure curve on the border of an area, run from t0 to t1 of the curve, or back.
struct AreaEdge {
    int curve = 0; ///< index in Figure::curves
    double t0 = 0, t1 = 1;
    bool backwards = false;
    Curve shape; ///< the piece itself, in the direction of the loop
    /// Numbers of the places where it begins and ends, equal for all edges of a view that meet there.
    int from = -1, to = -1;
};
using Loop = std::vector<AreaEdge>;

/// A bounded area of a view, without smaller areas lying in it.
struct ClosedArea {
    int view = 0;
    Loop outer;              ///< counter-clockwise in the view's model coordinates
    std::vector<Loop> holes; ///< clockwise
    double area = 0;         ///< mm^2, holes taken off
    Vec2 seed;               ///< a point inside
    Box2 box;
    std::vector<int> bounds; ///< figure curves on its border, sorted
    bool contains(Vec2 p) const;
    bool onBorder(Vec2 p, double tolerance) const;
};

/// Areas of all views with the given unknowns, hidden lines included, sorted by view and bounds.
/// Lines are split where they meet or cross; ends that meet nothing are left away.
/// Empty when it was stopped.
std::vector<ClosedArea> closedAreas(const Figure& f, const std::vector<double>& x, Progress& progress);
inline std::vector<ClosedArea> closedAreas(const Figure& f, const std::vector<double>& x) {
    NoProgress quiet;
    return closedAreas(f, x, quiet);
}

/// The same for one view alone, sorted by bounds.
std::vector<ClosedArea> closedAreasOf(const Figure& f, int view, const std::vector<double>& x,
                                      Progress& progress);

/// Whether a closed area of a section, as drawn, is hatched: material that the cutting plane went through
/// (ISO 128-3).
bool isHatched(const Figure& f, const ClosedArea& drawn);

/// The areas of all those given that a broken-out section shows.
std::vector<ClosedArea> areasWithin(const LocalCut& cut, const std::vector<ClosedArea>& areas);
/// The broken-out sections of a view.
std::vector<const LocalCut*> localCutsIn(const Figure& f, int view);

/// The lines that hatch an area at half a right angle, at a distance from each other; in the area's
/// coordinates.
std::vector<Segment> hatchLines(const ClosedArea& a, double apart);

/// The closed areas of a figure: as drawn, where people picked them, and as they now stand.
struct AreaSets {
    std::vector<ClosedArea> drawn, now;
    AreaSets() = default;
    AreaSets(const Figure& f, Progress& progress)
        : drawn(closedAreas(f, f.drawn, progress)),
          now(f.now == f.drawn ? drawn : closedAreas(f, f.now, progress)) {}
    explicit AreaSets(const Figure& f)
        : drawn(closedAreas(f, f.drawn)), now(f.now == f.drawn ? drawn : closedAreas(f, f.now)) {}
};

/// The borders of the union of areas of one view that were found together: common edges cancelled, loops
/// chained, joints within a line or arc taken out; outer loops first run counter-clockwise, holes clockwise.
std::vector<Loop> unionLoops(const std::vector<const ClosedArea*>& areas);

/// A loop as a polygon that leaves it by a tolerance at most (mm).
std::vector<Vec2> polygonOf(const Loop& l, double tolerance);
/// Signed area inside a loop (Green's theorem; exact for segments and arcs).
double signedArea(const Loop& loop);
/// Even-odd test against a loop.
bool insideLoop(const Loop& loop, Vec2 p);

} // namespace prism
