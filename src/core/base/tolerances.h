#pragma once
#include <algorithm>

namespace prism {

/// The few tolerances of a document; every comparison names one of them.
struct Tolerances {
    double same_sheet = 1e-6; ///< two places on the sheet are one (sheet units, scaled by the drawing's size)
    double touch_sheet = 1e-4; ///< lines touch (sheet units, scaled likewise)
    double same_model = 1e-4;  ///< two coordinates are one station (mm)
    double solved = 1e-9;      ///< an equation holds (relative to the size of the part)
    double angular = 1e-6;     ///< directions are equal (radians)
    double proof = 2e-3;       ///< a projected line lies on a drawn one (mm)
    double traced_sheet = 0;   ///< how well a scan tells where an end is (sheet units)

    /// Ends no further apart than this are one place (sheet units).
    double placeOnSheet() const { return std::max(touch_sheet, traced_sheet); }

    /// Tolerances for a drawing whose geometry spans `size` sheet units and lies up to `reach` from the
    /// origin: far-away sheets lose digits, so the smallest difference that means anything grows with the
    /// distance.
    static Tolerances forSheet(double size, double reach);
    /// The same for views drawn at a scale: lines that touch on the sheet touch in the model (mm per sheet
    /// unit). Never finer than it was.
    Tolerances atScale(double mm_per_sheet) const;
    /// The same for a file whose coordinates are rounded to multiples of `step` (sheet units).
    Tolerances forSteps(double step) const;
    /// The same for lines traced over a scan, which are known to a fraction of a pixel (sheet units).
    Tolerances forTracing(double pixel) const;
};

} // namespace prism
