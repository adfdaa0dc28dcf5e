#pragma once
#include "core/views/view_set.h"

namespace prism {

/// The line on the sheet about which a view folds away from the one that it hangs on; sheet coordinates.
struct FoldLine {
    int view = 0, on = 0;
    Segment line;
    Vec2 away;       ///< unit, from `on` towards the view
    double edge = 0; ///< where the part ends on `on`, along `away`
    double mm_per_sheet = 1;
    bool cuts = false; ///< a cutting plane: it lies where the section is taken
    /// Distance from the part, mm.
    double gap() const { return (dot(line.a, away) - edge) * mm_per_sheet; }
};

/// The fold lines of all views but the front view: half way between the views, or where a person put them.
/// The rear view folds away from the side view that it lies beside.
std::vector<FoldLine> foldLinesOf(const ViewSet& set, const ViewChoices& choices);

} // namespace prism
