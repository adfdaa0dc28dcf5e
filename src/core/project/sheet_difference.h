#pragma once
#include "core/drawing/drawing.h"

namespace prism {

/// What became of one line between two readings of a sheet.
struct LineChange {
    enum class Kind { added, removed, moved };
    Kind kind = Kind::added;
    int before = -1, after = -1; ///< entity ids; -1 where it is not
    double by = 0;               ///< moved: the farthest that a place of it went, sheet units
};

struct DimensionChange {
    std::string handle;
    int before = -1, after = -1; ///< dimension ids; -1 where it is not
    std::string text_before, text_after;
    double value_before = 0, value_after = 0; ///< as the texts say, in the sheet's unit
};

/// Two readings of a sheet compared. Lines are the same when they lie in the same place on the same layer,
/// else when they have the same name in the file and have not gone far.
struct SheetDifference {
    std::vector<LineChange> lines;
    std::vector<DimensionChange> dimensions; ///< added, removed or with another text
    std::vector<int> after_of;               ///< by entity id before: the id after, -1 when removed
    std::vector<int> dimension_after_of;     ///< likewise for dimensions
    bool none() const { return lines.empty() && dimensions.empty(); }
};

SheetDifference compareSheets(const Drawing& before, const Drawing& after);

} // namespace prism
