#pragma once
#include "core/base/result.h"
#include "core/building/steps.h"

#include <set>

// Places of the figure as drawn, found again where they now stand.
namespace prism::building {

/// A place in space, model coordinates as drawn, where it now stands: along each axis it moves with the marks
/// beside it, in proportion between two of them.
Vec3 placeNow(const Figure& f, Vec3 drawn);

/// The other way round: where a place as it now stands was drawn.
Vec3 placeDrawn(const Figure& f, Vec3 now);

/// The curve of a view that passes nearest to a place as drawn; -1 when none passes within a hundredth of the
/// view's size.
int curveNear(const Figure& f, const FigureView& v, Vec2 drawn);
/// The same among straight lines.
int lineNear(const Figure& f, const FigureView& v, Vec2 drawn);
/// The curves whose places a step says are to be sharp or straight: the nearest to each, and all that run
/// over it there.
std::set<int> sharpOf(const Figure& f, const FigureView& v, const Step& s);

/// Full circles of a view about the centre nearest to a place as drawn, by their radius as they now are, and
/// that centre now.
struct Concentric {
    Vec2 centre;
    std::vector<int> circles; ///< figure curves
    double diameter(const Figure& f, size_t i) const { return 2 * f.now[f.curves[circles[i]].radius]; }
};
/// Without circles where none stands within a hundredth of the view's size: then the nearest point, or else
/// where the view's plane has gone there.
Concentric circlesAt(const Figure& f, const FigureView& v, Vec2 drawn);

/// The plane that the centres of a hole step lie in: its view, or of holes that lie in that one of a model
/// axis that need be no view's.
struct HolePlane {
    FigureView view;
    std::vector<Vec2> centres; ///< as drawn
    Axis along() const { return view.axes.depth; }
};
/// None when a view of the step is not there.
std::optional<HolePlane> holePlane(const Figure& f, const Step& s);
/// A view along a model axis that no view of the sheet needs to be, seen from its low end. It has no lines.
FigureView viewAlong(Axis axis);
/// Of a hole that lies in a view the line that shows its wall there: the nearest one along the axis beside a
/// place on that, as drawn; -1 when there is none.
int wallBeside(const Figure& f, const FigureView& v, Vec2 on_axis, bool upright);

/// Where the corner of a view nearest to a place as drawn now stands: a point or centre of it, or the corner
/// that a rounding arc stands for; of that the arc, too.
struct ViewCorner {
    Vec2 at;
    int arc = -1;
};
ViewCorner cornerAt(const Figure& f, const FigureView& v, Vec2 drawn);

/// The lines of a view that pass at the places, as they now stand, from one end of the chain to the other.
/// Impossible when one is missing, or they do not follow each other.
Result<std::vector<std::pair<int, Curve>>> chainAt(const Figure& f, const FigureView& v,
                                                   const std::vector<Vec2>& drawn);

} // namespace prism::building
