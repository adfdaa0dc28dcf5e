#pragma once
#include "core/base/result.h"
#include "core/tracing/picture_choices.h"

#include <vector>

namespace prism {

/// Uncertainty of a picked place on each axis, pixels: a careful click on the middle of a line.
inline constexpr double kPickError = 0.5;

/// What one known length says once the best scale is taken.
struct LengthFit {
    int length = 0;         ///< index in PictureChoices::lengths
    double pixels = 0;      ///< as picked
    double found_mm = 0;    ///< as measured with the best scale
    double expected_mm = 0; ///< how far picking alone may put it off (one standard deviation)
};

/// The scale of a scan, or of a part of it, by least squares over the lengths that hold for it.
struct Calibration {
    double mm_x = 0, mm_y = 0;   ///< mm a pixel along its level and its upright direction
    std::vector<LengthFit> fits; ///< empty when the resolution of the file alone is believed
    double relative_error = 0;   ///< expected error of the scale (one standard deviation)
    /// How much longer a pixel is upright than level, as a factor; with its expected error. Only when lengths
    /// run along both.
    std::optional<double> stretch;
    double stretch_error = 0;
    bool stretched() const; ///< the factor differs from 1 by more than picking explains
    bool corrected = false; ///< both axes were given scales of their own
};

/// Of the part of a scan; the whole of it for an index of -1.
Calibration calibrate(const ScanPixels& scan, const PictureChoices& choices, int cut);

/// The length that a person means by two places: level or upright when they lie nearly so, since the places
/// are then picked on lines that run across, wherever that was easy.
KnownLength lengthBetween(const ScanPixels& scan, const PictureChoices& choices, Vec2 a, Vec2 b, double mm);

/// How the scan is turned to lie straight: as chosen, else as measured, else not at all.
Straightening straighteningOf(const ScanPixels& scan, const PictureChoices& choices);

/// The same when a line between two pixels is said to be level, or else upright; the other axis keeps its
/// angle to this one. Impossible for a line more than an eighth of a half turn away from it.
Result<Straightening> straightenedBy(const ScanPixels& scan, const PictureChoices& choices, Vec2 a, Vec2 b,
                                     bool level);

/// The scan, or each part cut out of it, as it lies on the sheet. Parts stand apart as they do in the scan;
/// when one is shown larger than the others, all move apart so that none covers another.
std::vector<Picture> placed(std::shared_ptr<const ScanPixels> scan, const std::string& name,
                            const PictureChoices& choices);

/// The picture that shows a place of the sheet; -1 for none.
int pictureAt(const std::vector<Picture>& pictures, Vec2 sheet);

} // namespace prism
