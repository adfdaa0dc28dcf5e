#pragma once
#include "core/project/document.h"
#include "core/project/sheet_difference.h"

namespace prism {

/// What a re-read brought.
struct Reread {
    SheetDifference difference;
    std::vector<std::string> misfits; ///< choices and steps that no longer fit, in words
};

/// The mark-up in the names of another reading.
MarkUp carriedMarks(const MarkUp& m, const Drawing& before, const Drawing& after,
                    const SheetDifference& difference, std::vector<std::string>& misfits);

/// The choices made for one reading, put in the names of another: lines, views, numbers, and the places that
/// steps refer to. What has no counterpart is left out and told in `misfits`. `after` was computed with
/// `after_marks`.
Choices carriedOver(const Choices& choices, const Model& before, const Model& after,
                    const SheetDifference& difference, const MarkUp& after_marks,
                    std::vector<std::string>& misfits);

} // namespace prism
