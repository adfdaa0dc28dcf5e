#pragma once
#include "core/proposing/consistency.h"
#include "core/proposing/judge.h"
#include "core/proposing/view_map.h"

// Turned parts, whole or with something cut from them.
namespace prism {

/// A view along the axis of a turned part: a circle goes round all that it shows, though a keyway or a flat
/// may have taken pieces of it.
struct EndView {
    const FigureView* view;
    Vec2 centre;
    double radius;
};

/// A profile that may be turned round the axis which an end view shows.
struct HalfProfile {
    int map;       ///< of the view that shows it
    bool upright;  ///< the axis runs along that view's up axis
    double at;     ///< where it stands on the other one
    double middle; ///< where it lies in the depth of that view
    EndView end;
};
/// In every other view that shows the axis of an end view, the profile on both sides of it.
std::vector<HalfProfile> halfProfiles(const Figure& f, const std::vector<ViewMap>& maps);

/// The halves of a profile that are worth turning, +1 beyond the axis, -1 before it: one of them where both
/// are alike. `tol`: lines this close are one, mm.
std::vector<int> sidesOf(const ViewMap& m, const HalfProfile& p, double tol);

/// Half profiles turned: which of their areas are material is reasoned from all views.
void fromTurning(const Figure& f, const std::vector<ViewMap>& maps, const std::vector<HalfProfile>& profiles,
                 Lines lines, Progress& progress, Judge& best);

/// A turned body from which areas of the views are cut: keyways, flats, slots. `side`: the half of the
/// profile that is turned. `gridded`: cut further at every coordinate of
/// the sheet.
void fromTurningAndCuts(const Figure& f, const std::vector<ViewMap>& maps, const HalfProfile& p, int side,
                        bool gridded, Lines lines, Progress& progress, Judge& best);

/// Profiles that may be turned round the centre of a circle, where lines that lean or bend stand in mirrored
/// pairs about it: cones and other bosses on a part that is not turned itself. A handful at most.
std::vector<HalfProfile> bossProfiles(const Figure& f, const std::vector<ViewMap>& maps);

/// Areas of the views extruded, with areas turned that belong to it: cones beside prisms, turned parts whose
/// profile is notched on both sides.
void fromTurnedPieces(const Figure& f, const std::vector<ViewMap>& maps, const HalfProfile& p, int side,
                      bool gridded, Lines lines, Progress& progress, Judge& best);

/// The hatched areas of a section turned: what the plane goes through is material all round, unless holes
/// were in its way. Where the end view has no circles about the axis for an area that is not hatched, that is
/// a hole and no groove, and is filled to be cut again.
void fromSections(const Figure& f, const AreaSets& areas, const std::vector<ViewMap>& maps,
                  const std::vector<HalfProfile>& profiles, Judge& best);

} // namespace prism
