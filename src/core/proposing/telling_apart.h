#pragma once
#include "core/figure/figure.h"

#include <TopoDS_Shape.hxx>

// What tells two solids apart that a sheet allows alike.
namespace prism {

struct Difference {
    TopoDS_Shape more, less;                 ///< what the other solid has more, and what it has less
    double more_volume = 0, less_volume = 0; ///< mm^3
    Vec3 lo, hi;                             ///< the box round it all, model coordinates, mm
    /// What would settle it, in words, each alone: "a left view", "a section at Y 30".
    std::vector<std::string> settled_by;
};

/// How `other` differs from `proposed`, and which of the views that the sheet does not have would show it.
/// Failures of the modeller are thrown as KernelError.
/// A stop is thrown like them, or leaves out which view would show it.
Difference differenceOf(const Figure& f, const TopoDS_Shape& proposed, const TopoDS_Shape& other,
                        const Progress& progress);

/// "1200 mm³ more material at X 10 to 30, Y 0 to 20, Z 5 to 8 mm; a left view or a section at Y 10 would
/// tell".
std::string inWords(const Difference& d);

} // namespace prism
