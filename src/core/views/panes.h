#pragma once
#include "core/views/view_set.h"

namespace prism {

/// Extent of the part along the model axes, mm.
struct PartBox {
    Vec3 lo, hi;
};

/// Where the pane of one principal view stands in space for a given hinge. Third angle: the pane lies between
/// the viewer and the part; first angle: behind the part (ISO 5456-2). The front pane stays where it is; the
/// others turn round their fold lines towards it, the rear pane round the far edge of the pane it hangs on.
class PanePlacement {
  public:
    /// `margin`: distance of the panes from the part, mm. `hinge`: 0 flat, 1 box.
    PanePlacement(Role role, Convention convention, const PartBox& part, double margin, double hinge);

    /// Point of the view's model coordinates (right axis value, up axis value) in space.
    Vec3 operator()(Vec2 p) const;
    /// Corners of the pane in the view's model coordinates.
    Box2 extent() const { return extent_; }
    /// The fold line in space; equal ends for the front pane, which has none.
    std::pair<Vec3, Vec3> foldLine() const;

  private:
    Role role_;
    bool third_;
    Vec3 lo_, hi_; ///< the glass box
    double cos_, sin_, cos2_, sin2_;
    Box2 extent_;
};

} // namespace prism
