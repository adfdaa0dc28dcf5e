#pragma once
#include "core/drawing/drawing.h"

#include <array>

namespace prism {

/// Which ends and centres of the sheet's lines are one place. Decided once, on the repaired sheet: every
/// later stage takes a place's number from here and none compares ends by distance again.
struct SheetNodes {
    /// The nodes of one curve; -1 for the ends of a closed one, and for what has no centre.
    struct Of {
        int start = -1, end = -1, centre = -1;
    };
    std::vector<Vec2> at;      ///< by node, coordinates of the sheet
    std::vector<size_t> first; ///< by entity: its first curve in `curves`
    std::vector<Of> curves;

    const Of& of(int entity, int curve) const {
        return curves[first[static_cast<size_t>(entity)] + static_cast<size_t>(curve)];
    }
};

/// The nodes of all lines; ends within `touch` sheet units of each other meet. Where they lie is told by the
/// lines in use, as long as one of these is there.
SheetNodes nodesOf(const Drawing& d, const std::vector<bool>& in_use, double touch);

} // namespace prism
