#pragma once
#include "core/base/curve.h"
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"

namespace prism {

/// A line, arc or circle seen in a scan, for a person to accept.
struct TracedLine {
    Curve shape; ///< sheet coordinates
    LineRole role = LineRole::outline;
    double width = 0; ///< of the ink, sheet units
    double off = 0;   ///< how far the ink is from the shape (root mean square), sheet units
};

struct Traced {
    std::vector<TracedLine> lines;
    int lettering = 0;     ///< pieces set aside as texts and arrow heads
    int specks = 0;        ///< as too small to be anything
    double line_width = 0; ///< of most of the ink, sheet units
};

/// Looks for lines, arcs and circles in a picture as it is placed. Dashes in a row become one line with the
/// role that their pattern tells; where two widths of line are drawn, the thin ones are dimension lines (ISO
/// 128-2). Error: cancelled.
Result<Traced> trace(const Picture& picture, Progress& progress);

/// Directions of the level and upright lines of a scan, from the lines found in it; empty when there are not
/// two of each or three of either that agree.
void measureAskew(ScanPixels& scan, Progress& progress);

} // namespace prism
