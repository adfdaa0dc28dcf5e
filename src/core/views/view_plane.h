#pragma once
#include "core/views/view_set.h"

namespace prism {

/// How a view lies in space: where it counts its two coordinates along, and which way it looks. A principal
/// view is the special case in which all of these are model axes.
struct ViewPlane {
    /// The axes of the coordinates. In a view square to the model axes both count as the axis does. In any
    /// other the first runs along an axis of its own, the second along the axis through the view it hangs on.
    ViewAxes axes{};
    Vec3 right, up;     ///< unit, the way in which the coordinates count, as drawn
    Vec3 look;          ///< unit, the way in which it is looked at
    Affine2 to_model;   ///< sheet to these coordinates, mm
    bool square = true; ///< to the model axes
};

/// Of a principal view that is used, or of a view that hangs on one; none for any other.
std::optional<ViewPlane> planeOf(const ViewSet& set, const View& v);

} // namespace prism
