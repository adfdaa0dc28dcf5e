#pragma once
#include "core/views/view_set.h"

#include <array>
#include <functional>

namespace prism {

/// Extent of the part along the model axes, mm.
struct PartBox {
    Vec3 lo, hi;
};

/// The plane of a view in space: where a point of the view's own coordinates is, mm. The pane of a stepped
/// section stands in several parts, each where its part of the cutting plane does.
struct PaneFrame {
    Vec3 origin, right, up;
    Vec3 inward; ///< unit vector from the pane towards the part
    /// Of a stepped section: each part begins where the one before ends, and stands so far inward of the
    /// plane.
    struct Part {
        double to; ///< where it ends, first coordinate of the view
        double in; ///< mm
    };
    std::vector<Part> parts;

    Vec3 operator()(Vec2 p) const { return inSpace(p, inAt(p.x)); }
    struct Face {
        std::array<Vec2, 4> own;
        std::array<Vec3, 4> at; ///< in space
    };
    /// The faces that the pane has within a rectangle of the view: its parts, and between two of them where
    /// it steps (those have no width in the view).
    std::vector<Face> faces(const Box2& extent) const;
    /// A chain of places, broken where the pane steps.
    std::vector<std::vector<Vec3>> runs(const std::vector<Vec2>& chain) const;

  private:
    double inAt(double right_of_origin) const;
    Vec3 inSpace(Vec2 p, double in) const { return origin + p.x * right + p.y * up + in * inward; }
};

/// The glass box round a part. Third angle: a pane lies between the viewer and the part; first angle: behind
/// the part (ISO 5456-2). The front pane stays where it is; the others turn round their fold lines towards
/// it, the rear pane round the far edge of the pane right of the front one.
class GlassBox {
  public:
    /// How far the pane of a role is turned: 0 flat, 1 box.
    using Turn = std::function<double(Role)>;

    /// `margin`: distance of the panes from the part, mm; `gaps`: of single panes, by role.
    GlassBox(Convention convention, const PartBox& part, double margin,
             const std::map<Role, double>& gaps = {});

    /// The pane of a principal view.
    PaneFrame pane(Role role, const Turn& turn) const;
    PaneFrame pane(Role role, double hinge) const {
        return pane(role, [hinge](Role) { return hinge; });
    }
    /// Corners of a principal pane in its view's model coordinates.
    Box2 extent(Role role) const;
    /// The fold line in the coordinates of a pane; none for the front pane.
    std::optional<Segment> foldLine(Role role) const;

    /// The pane of a view that hangs on another. Its fold line lies outside the part while flat; folded, a
    /// section stands at its cutting plane, an auxiliary view at its fold line.
    PaneFrame hungPane(const Hanging& h, Role on, const Turn& turn, double own_turn) const;
    /// The fold line of such a view in the coordinates of `on`, at a turn.
    Segment hungFoldLine(const Hanging& h, Role on, double own_turn) const;

    /// Direction from a pane towards whoever sees its view the right way round.
    Vec3 facing(const PaneFrame& f) const { return third_ ? -f.inward : f.inward; }

  private:
    struct Hinge;
    Hinge hingeOf(Role role) const;

    bool third_;
    Vec3 lo_, hi_; ///< the glass
};

/// Where a point of a hung view is in space when its view stands in its true place; for a detail the place on
/// its pane is not known and 0 is taken.
Vec3 standing(const Hanging& h, Role on, Vec2 own);

} // namespace prism
