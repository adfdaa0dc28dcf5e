#pragma once
#include "core/cleaning/clean_sheet.h"
#include "core/marking/line_edits.h"

// Lines that repairs set aside because others stand for them: pieces that were joined to one line, dashes,
// chords of an arc, copies. A mark on the line that stands for them has to take them off the sheet, or they
// would be there again once it does not any more.
namespace prism {

/// Those that these lines stand for, by entity, sorted.
std::vector<int> stoodForBy(const CleanSheet& s, const std::vector<int>& lines);

/// Adds marks that take off what these lines stand for.
void takeOffStoodFor(const CleanSheet& s, const std::vector<int>& lines, std::vector<MarkedLine>& marks);

/// What the mark-up keeps of edits on the repaired sheet.
std::vector<MarkedLine> marksOn(const CleanSheet& s, const LineEdits& edits);

} // namespace prism
