#pragma once
#include "core/tracing/ink.h"

#include <vector>

namespace prism {

/// A middle line of the ink between two places where strokes meet or end.
struct Stroke {
    std::vector<Vec2> points; ///< scan coordinates, on the middle of the ink to a fraction of a pixel
    std::vector<bool> sure;   ///< the ink there belongs to this stroke alone
    int from = -1, to = -1;   ///< nodes at its ends; -1 where it ends free
    bool closed = false;
    double width = 0; ///< of the ink, pixels
};

struct Strokes {
    std::vector<Stroke> strokes;
    std::vector<Vec2> nodes; ///< where strokes meet, scan coordinates
    double width = 0;        ///< of most of the ink, pixels
};

/// Takes the ink apart. Spurs that thinning leaves are dropped, and meetings nearer to each other than the
/// ink is wide are one.
Strokes strokesOf(const Darkness& d, const cv::Mat1b& ink, Progress& progress);

/// The middle of the ink across a direction, near a place of it; none when there is no ink within `reach`
/// pixels.
struct Across {
    Vec2 middle;
    double width; ///< as if all of the darkness were full ink, pixels
};
std::optional<Across> inkAcross(const Darkness& d, Vec2 at, Vec2 along, double reach);

} // namespace prism
