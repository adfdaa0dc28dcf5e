#pragma once
#include "core/figure/figure.h"

// Arcs of an outline that round a corner: fillets seen along their edge.
namespace prism {

/// An arc that runs smoothly into two straight lines of its view, which would meet in a corner without it.
struct Round {
    int arc, first, second; ///< figure curves: the arc, the lines at its start and at its end
};
std::vector<Round> roundsOf(const Figure& f);

/// The corner that a round stands for, with the given unknowns; the coordinates of its view.
Vec2 cornerOf(const Figure& f, const Round& r, const std::vector<double>& x);

/// The figure as drawn with these corners left sharp.
Figure sharpened(const Figure& f, const std::vector<Round>& rounds);

/// Adds a point with coordinates of its own to a view, and tells its number.
int addPoint(Figure& f, int view, Vec2 at);

} // namespace prism
