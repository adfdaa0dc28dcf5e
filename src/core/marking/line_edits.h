#pragma once
#include "core/base/result.h"
#include "core/marking/mark_up.h"

#include <set>

// Lines of a sheet given another shape by pointing at them. Coordinates of the sheet.
namespace prism {

/// A line, and the place at which it was pointed at.
struct LinePick {
    Vec2 at;
    int line = -1;
};

/// Lines with the curves that take the place of theirs; none for a line that is deleted.
using LineEdits = std::vector<std::pair<int, std::vector<Curve>>>;

/// Of the curves of a line, the one that was pointed at.
const Curve& curveAt(const Drawing& d, const LinePick& p);

/// The part round the place cut out, up to the next lines that cross it; see trimmed().
Result<LineEdits> trimAt(const Drawing& d, const std::vector<bool>& in_use, const LinePick& p,
                         double tolerance);
/// The nearer end prolonged to the next line ahead; see extended().
Result<LineEdits> extendAt(const Drawing& d, const std::vector<bool>& in_use, const LinePick& p,
                           double tolerance);
/// Two different straight lines made to meet; see cornered().
Result<LineEdits> cornerAt(const Drawing& d, const LinePick& p, const LinePick& q);
/// Lines moved as they are.
LineEdits movedBy(const Drawing& d, const std::set<int>& lines, Vec2 by);

/// What the mark-up keeps of it.
std::vector<MarkedLine> marksOf(const Drawing& d, const LineEdits& edits, const Affine2& to_file);

} // namespace prism
