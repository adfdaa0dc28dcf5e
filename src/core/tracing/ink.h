#pragma once
#include "core/base/progress.h"
#include "core/drawing/picture.h"

#include <opencv2/core.hpp>

namespace prism {

/// How dark each pixel is against the paper round it: 0 paper, 1 black. 32-bit floats, as large as the part
/// looked at.
struct Darkness {
    cv::Mat1f value;
    cv::Point origin; ///< scan pixel of the first one
    float noise = 0;  ///< standard deviation on bare paper
    float full = 1;   ///< of a well inked line

    /// Between the middles of pixels, linear; 0 outside. ScanPixels coordinates.
    float at(Vec2 p) const;
};

/// Darkness of a part of a scan, in scan coordinates; stains and shadows that change slowly are paper.
Darkness darknessOf(const ScanPixels& scan, const Box2& region, bool lightOnDark);

/// Pixels that are ink: dark enough, or less dark and joined to such (hysteresis, Canny 1986); 255 and 0.
cv::Mat1b inkOf(const Darkness& d);

/// Middle lines of the ink, one pixel wide and connected as the ink is (Guo & Hall 1989). Takes the ink.
cv::Mat1b thinned(cv::Mat1b ink, Progress& progress);

} // namespace prism
