#pragma once
#include "core/building/steps.h"

namespace prism {

/// What a note on a drawing says of a hole: "4x dia 9 counterbore dia 14 deep 5", "M8 deep 16", "dia 8
/// through", "6 holes dia 5.5 countersink dia 11 90 deg" (ISO 15786, ISO 6410-1).
struct HoleNote {
    int count = 1;
    HoleShape shape;
    bool through = false;
};

/// Reads such a note; lengths are multiplied by `mm`. None when it says no size of a hole, or holds a word
/// that is none of a hole's.
std::optional<HoleNote> readHoleNote(const std::string& text, double mm = 1);

} // namespace prism
