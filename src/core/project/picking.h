#pragma once
#include "core/building/solid_parts.h"
#include "core/project/solved_sheet.h"

// What a place of the sheet, as it now stands, stands for when steps are put together. Distances in sheet
// units.
namespace prism {

/// The closed area, as it now stands, at a place; null outside all views.
const ClosedArea* areaAt(const Model& m, Vec2 sheet);
/// A point inside the same area as drawn: what a step keeps, whatever the figure does later.
Vec2 seedAsDrawn(const Model& m, const ClosedArea& area);

struct PickedMark {
    MarkRef ref; ///< as drawn
    Axis axis = Axis::x;
    double value = 0; ///< now, mm
    Vec2 sheet;       ///< the picked place moved onto the mark
};
/// What marks may be picked.
struct MarkFilter {
    std::optional<Axis> axis;       ///< only along this one
    std::optional<ViewName> not_in; ///< not in this view
};
/// The mark nearest to a place, at most `within` away along its own axis.
std::optional<PickedMark> markNear(const Model& m, Vec2 sheet, double within, const MarkFilter& filter);

struct PickedAxis {
    int entity = -1;
    bool upright = false;
    MarkRef ref; ///< a place on it as drawn
};
/// The line of a view nearest to a place that runs along one of its axes; centre lines before lines of the
/// part.
std::optional<PickedAxis> axisNear(const Model& m, const SolvedSheet& now, const ViewName& view, Vec2 sheet,
                                   double within);

/// The line of the part at a place, as steps name it; none farther than `within` away.
struct PickedLine {
    int entity = -1;
    MarkRef ref; ///< the place on it nearest to the picked one, as drawn
};
std::optional<PickedLine> lineNear(const Model& m, Vec2 sheet, double within);

/// Whether a line of the part, or a point or centre of one, lies within a distance of a place.
bool isOnPart(const Model& m, Vec2 sheet, double within);

/// The centre, as drawn, of the smallest circle round a place.
std::optional<MarkRef> circleRound(const Model& m, Vec2 sheet);

/// A place of the view that shows it, as drawn.
std::optional<MarkRef> placeIn(const Model& m, Vec2 sheet);

/// What a step calls an edge or a face of the solid; none for a part that is not there.
std::optional<PartPick> pickOf(const Model& m, SolidPart part);

} // namespace prism
