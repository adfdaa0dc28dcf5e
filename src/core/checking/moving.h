#pragma once
#include "core/checking/finding.h"

// Changes of a sheet that bring a view, or a feature in it, to another place.
namespace prism::checking {

/// Those of some drawing entities that are drawn, not another half that was added: as repairs change them.
std::vector<const Entity*> drawnOf(const CheckInput& in, const std::vector<int>& entities);

/// A place on the sheet that a dimension names: an end, or the centre of a circle of a radius.
struct NamedPlace {
    Vec2 at;
    double radius = 0; ///< as it is drawn, sheet units; 0 for an end
};
std::vector<NamedPlace> placesOf(const Dimension& d);

/// All that is drawn of a view, its dimensions with it, under a map of the sheet.
Change viewMoved(const CheckInput& in, const View& v, const Affine2& map);

/// What stands at some coordinates of a view brought to others: lines there move, lines that end there are
/// stretched, circles that reach there move as a whole, and dimensions of these places with them. Model
/// coordinates along an axis of the view, mm. None where something would have to be bent.
std::optional<Change> featureMoved(const CheckInput& in, const View& v, Axis axis,
                                   const std::vector<double>& at, double by);

/// Offers that as a repair of a finding, which is told to lie where the lines that move do.
void offerMove(const CheckInput& in, const View& v, Axis axis, const std::vector<double>& at, double by,
               Finding& f);

/// Maps of the sheet that leave a view in line with its neighbours: it is made larger about the end, or the
/// middle, that lies where theirs does,
Affine2 scaledInPlace(const CheckInput& in, const View& v, double by);
/// mirrored about its middle, left to right or top to bottom,
Affine2 mirroredInPlace(const View& v, bool level);
/// or turned by quarters about its middle and put in line with the view beside;
Affine2 turnedInPlace(const View& v, const View& beside, int quarters);
/// or turned by a quarter, 1 or -1, its lower left corner where it was.
Affine2 turnedAtCorner(const View& v, int quarter);

} // namespace prism::checking
