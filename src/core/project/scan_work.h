#pragma once
#include "core/project/document.h"
#include "core/tracing/trace.h"

namespace prism {

/// The choices with a scan placed otherwise. What was drawn on it moves with it: onto the same pixels, arcs
/// staying arcs. A drawn dimension keeps what it says.
Choices withPicturePlaced(const Model& m, const Choices& c, const PictureChoices& next);

/// All that is seen in the pictures of a sheet. Error: cancelled.
struct TracedPicture {
    int picture = 0; ///< index in Drawing::pictures
    Traced traced;
};
Result<std::vector<TracedPicture>> traceAll(const Drawing& d, Progress& progress);

/// The choices with traced lines accepted: each a line added by hand. Coordinates of the drawing as repaired.
Choices withAccepted(const Model& m, const Choices& c, const std::vector<TracedLine>& lines);

/// A line drawn over a scan, put where its ink runs; an end that was put on another line's end stays there.
/// As it is where it lies on no scan.
Curve ontoInk(const Model& m, const Curve& c);

/// The choices with the scan sized by the overall sizes of the part along X, Y and Z, mm (0: not known): each
/// size is said between the ends of every view that shows it, and the best fit over all is taken.
Choices withOverallSizes(const Model& m, const Choices& choices, Vec3 size);

} // namespace prism
