#pragma once
#include "core/views/labels.h"

// The parts of view finding, in the order in which they run.
namespace prism::views {

/// A connected group of lines that may become a view.
struct Group {
    std::vector<int> entities;
    Box2 box;
    std::vector<Vec2> hull; ///< convex hull of its lines, counter-clockwise; made when views are told apart
};

/// Joins lines that touch or cross.
std::vector<Group> connectedGroups(const Drawing& d, const CleanSheet& s, const std::vector<int>& lines);

/// Joins groups that lie within one another (a hole in a plate, hidden lines inside an outline). Told by
/// their hulls: the box of an oblique view may reach over its neighbours.
void mergeNested(const Drawing& d, std::vector<Group>& groups);

/// Leaves out the lines drawn between views to project one from another, which differ from the lines of the
/// part in layer, colour or line type, so that each view is a group of its own.
void splitBridged(const Drawing& d, const CleanSheet& s, std::vector<Group>& groups,
                  std::vector<LeftOut>& out);

/// A frame that lines of a view cross, and what is left of their group without it.
struct CrossedFrame {
    Group frame;
    std::vector<Group> rest;
};
/// The long lines of a group that make a rectangle, if there are any; whether that is a frame or the outline
/// of a part is not known yet.
std::optional<CrossedFrame> frameCrossed(const Drawing& d, const CleanSheet& s, const Group& g);

/// Takes border, title block and projection symbol out of the groups; tells what the symbol says.
std::optional<Convention> setAsideFurniture(const Drawing& d, const CleanSheet& s, std::vector<Group>& groups,
                                            std::vector<LeftOut>& out);

/// The convention that a projection symbol drawn with these lines states (ISO 5456-2): circles on the side of
/// the cone's small end mean third angle.
std::optional<Convention> readSymbol(const Drawing& d, const std::vector<int>& entities);

/// What the texts of the sheet say about the angle ("THIRD ANGLE", "1ST ANGLE PROJECTION" ...).
std::optional<Convention> statedInTexts(const Drawing& d);

/// How well two views line up along a sheet axis: 2 both ends, 1 one end or the middle, 0 not.
int alignment(const Box2& a, const Box2& b, int axis);

/// The box of a view that is drawn at a scale of its own, as it would be at that of others: both its sizes
/// are those that two of them tell, one of which it lies beside and which may be drawn by half, times one
/// factor. None where that fits no two.
std::optional<Box2> boxAtScaleOf(const std::vector<Box2>& others, const Box2& v);

/// Whether a view that lines up with none of others would, if it were drawn at their scale, or turned by a
/// quarter about a corner or its middle.
bool fitsOtherwise(const std::vector<Box2>& others, const Box2& v);

/// Tells the parts of a sheet that shows several apart by which views line up, and leaves the views of all
/// but one out.
void separateParts(const Drawing& d, const ViewChoices& choices, ViewSet& set);

/// Roles and angle from labels, layout and which lines are hidden. Fills View::role and View::name.
void assignRoles(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set);

/// Votes of single lines for "the neighbour `other` is seen from the side where it lies (third angle)"
/// against first angle: a visible inner line belongs to an end of the profile on the near side, a hidden one
/// on the far side.
struct Votes {
    int first = 0, third = 0;
};
Votes hiddenLineVotes(const Drawing& d, const CleanSheet& s, const View& front, const View& other);

/// Weighs what speaks for each unit; a person's choice wins.
UnitEvidence decideUnit(const Drawing& d, const CleanSheet& s, const ViewChoices& choices);
/// Gives dimensions and centre lines to views and sets every view's scale.
void decideScales(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set);
/// Scales that the match with the other views tells: of a pictorial, and of a view drawn at a scale of its
/// own.
void matchScales(const Drawing& d, const CleanSheet& s, ViewSet& set);
/// Adds the other half of views that are drawn to their symmetry line only (ISO 128-3). Fills
/// ViewSet::completed.
void completeHalves(const Drawing& d, const CleanSheet& s, ViewSet& set);
/// Sets every principal view's offset so that shared coordinates agree, all views of an axis at once, and
/// records the ties.
void lineUp(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set);

/// Tells where sections, auxiliary views and details stand. Runs once the principal views are lined up.
void hangViews(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set);

} // namespace prism::views
