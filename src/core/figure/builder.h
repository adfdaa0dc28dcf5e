#pragma once
#include "core/base/progress.h"
#include "core/figure/figure.h"

#include <set>

namespace prism::figure {

/// Gives each end and centre a point; points that coincide in a view become one, and the coordinates along a
/// horizontal or vertical line become one unknown.
void makeUnknowns(const Drawing& d, const CleanSheet& s, const ViewSet& set, Figure& f);

/// Adds an equation as a relation that people see.
void addRelation(Figure& f, Equation e, RelationKind kind, std::vector<int> curves);

/// Relations within one view that always hold: ends on circles, tangents, ends on other lines.
void relateWithinViews(Figure& f);

/// Where the points of a view stand on the own axes of auxiliary views that hang on it: unknowns and the
/// equations that tie them to the points. The axis follows an edge of the figure that runs its way.
void castShadows(Figure& f);

/// Collects the hatching of sections, and of principal views.
void readHatching(const Drawing& d, const CleanSheet& s, const ViewSet& set, Figure& f);

/// Finds what is broken out of principal views; other hatching of theirs is let go.
void readLocalCuts(const Drawing& d, Figure& f, Progress& progress);

/// Collects the marks of every view: coordinates of ends and centres, the outermost places of circles, and
/// centre lines in the middle of two lines.
void makeMarks(const Drawing& d, const ViewSet& set, Figure& f);
/// The straight centre lines of a view, in its own coordinates.
std::vector<Segment> centreSegments(const Drawing& d, const View& v, const FigureView& fv);

/// Joins marks of equal value: one feature seen in two views strongly, mere agreement weakly.
void joinStations(Figure& f, Progress& progress);

/// Equal radii and places centred about a centre line, both weak.
void relateByLooks(const Drawing& d, const ViewSet& set, Figure& f);

/// Circles drawn as centre lines about a centre of the view, with two holes on them or more: an unknown
/// radius each, on which the holes stay, weakly.
void findPitchCircles(const Drawing& d, const ViewSet& set, Figure& f);

/// Weights that keep the datum still: the low end of each axis, or the middle of a part symmetric about a
/// centre.
void setWeights(Figure& f);

} // namespace prism::figure
