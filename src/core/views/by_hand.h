#pragma once
#include "core/base/result.h"
#include "core/views/view_set.h"

// What a person says of the views by pointing at the sheet, turned into what the choices keep. Places are
// sheet coordinates of the repaired sheet unless they say "in file".
namespace prism {

/// Whether a principal view shows a model axis.
bool shows(Role r, Axis axis);

/// The view of a line, or else the one round a place; -1 for none.
int viewAt(const ViewSet& set, Vec2 place, int line = -1);

/// Two sides of a tie said to be one: a tie for each axis that both views show. Impossible when they share
/// none, or are one view.
Result<std::vector<HandTie>> tiesBetween(const ViewSet& set, const TieSide& a, const TieSide& b);

/// The place gets the coordinate 0 on both axes of its view.
void setZero(ViewChoices& choices, const View& view, Vec2 in_file);

/// A line drawn by hand for a section or an auxiliary view: it hangs on the principal view nearest to the
/// middle of the line, and is looked at from the side that its place on the sheet implies. Wrong use for a
/// line shorter than the sheet's tolerance, impossible without a principal view.
Result<HungByHand> hungAlong(const ViewSet& set, const CleanSheet& s, const View& view, Vec2 from, Vec2 to);
/// The same view as it hangs now, looked at from the other side of its line.
HungByHand hungFromOtherSide(const ViewSet& set, const CleanSheet& s, const ViewChoices& choices,
                             const View& view);
/// Moves a fold line away from the part by sheet units; one drawn by hand itself, any other by its gap.
struct FoldLine;
void moveFoldLine(ViewChoices& choices, const ViewSet& set, const CleanSheet& s, const FoldLine& line,
                  double by);

/// Keys of lines that may be moved into another view; those of locked views stay where they are.
struct MovableLines {
    std::vector<std::string> keys;
    int held = 0; ///< how many a lock keeps
};
MovableLines movableLines(const Drawing& d, const ViewSet& set, const ViewChoices& choices,
                          const std::set<int>& lines);
/// Puts lines into a view, or out of all for an empty key. Wrong use when that view is locked.
Result<void> moveLines(ViewChoices& choices, const std::vector<std::string>& lines,
                       const std::string& view_key);
/// Makes a view of its own out of lines; returns its key.
std::string gatherView(ViewChoices& choices, const std::vector<std::string>& lines);

/// Sheet length of lines, in the sheet's unit.
double lengthOnSheet(const Drawing& d, const std::set<int>& lines);
/// The scale of the sheet at which a length on it, in its unit, is a true length in mm. Wrong use for lengths
/// that are not above zero.
Result<double> scaleByLength(double on_sheet, const UnitEvidence& unit, double true_mm);

} // namespace prism
