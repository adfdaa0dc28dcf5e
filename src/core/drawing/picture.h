#pragma once
#include "core/base/geometry.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <string>

// Scans and photographs that lie on the sheet as a backdrop.
namespace prism {

/// Directions of the lines that should be level and upright, as they lie in a scan: radians by which they are
/// turned counter-clockwise. Equal for a sheet that is only turned; they differ on a sheet that was also
/// stretched or pulled through askew.
struct Straightening {
    double level = 0, upright = 0;
    friend bool operator==(const Straightening&, const Straightening&) = default;
};

/// A decoded picture. Its coordinates run right and down from the upper left corner, in pixels; the middle of
/// the first pixel is (0.5, 0.5).
struct ScanPixels {
    int width = 0, height = 0;
    std::vector<std::uint8_t> grey; ///< row by row from the top, 0 black
    double dpi_x = 0, dpi_y = 0;    ///< pixels an inch of paper; 0 when the file does not say
    bool light_on_dark = false;     ///< as blueprints are
    /// As measured on the lines in it; empty when there are too few to tell.
    std::optional<Straightening> askew;
    int level_lines = 0, upright_lines = 0; ///< how many it was measured on

    int at(int x, int y) const { return grey[static_cast<size_t>(y) * width + x]; }
};

/// A scan, or the part of it that holds one view, placed on the sheet.
struct Picture {
    std::string name;
    std::shared_ptr<const ScanPixels> scan;
    Box2 region; ///< the part shown, scan coordinates
    bool light_on_dark = false;
    Affine2 to_sheet; ///< scan coordinates to sheet units
    double pixel = 1; ///< sheet units a pixel, mean of both axes

    /// The four corners of the region on the sheet, in order round it.
    std::vector<Vec2> corners() const {
        return {to_sheet(region.lo), to_sheet({region.hi.x, region.lo.y}), to_sheet(region.hi),
                to_sheet({region.lo.x, region.hi.y})};
    }
};

} // namespace prism
