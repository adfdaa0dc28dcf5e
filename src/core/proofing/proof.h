#pragma once
#include "core/building/solid.h"

// The solid projected back onto each view with hidden lines removed, and compared with the sheet line by
// line.
namespace prism {

enum class LineState { matched, missing, extra };
const char* nameOf(LineState s);

/// A piece of line with its state. Missing: on the sheet, not on the solid. Extra: on the solid, not on the
/// sheet.
struct ProofPiece {
    LineState state = LineState::matched;
    bool hidden = false;
    int curve = -1; ///< figure curve, for pieces of the sheet
    Curve shape;    ///< model coordinates of the view
    double length = 0;
};

struct ViewProof {
    int view = 0;
    Role role = Role::front;
    int matched = 0, missing = 0, extra = 0; ///< lines; a line with any piece off counts as off
    double matched_length = 0, missing_length = 0, extra_length = 0; ///< mm
    std::vector<ProofPiece> pieces;
};

struct Proof {
    std::vector<ViewProof> views;
    int matched = 0, missing = 0, extra = 0;
    bool clean() const { return missing == 0 && extra == 0 && matched > 0; }
};

/// One projected edge of the solid.
struct ProjectedLine {
    enum class Kind { visible, hidden, smooth } kind; ///< smooth: a seam between tangent faces, drawn or not
    Curve shape;
};

/// Exact hidden-line removal along the view's direction.
Result<std::vector<ProjectedLine>> projected(const TopoDS_Shape& shape, Role role);

/// Compares the solid with the figure as it now stands. Views without any hidden line drawn are not asked for
/// them.
Result<Proof> prove(const Figure& f, const TopoDS_Shape& shape, Progress& progress);

/// The comparison of one view, from its lines; `x` are the unknowns that place the sheet's lines.
ViewProof compare(const Figure& f, const FigureView& view, const std::vector<double>& x,
                  const std::vector<ProjectedLine>& lines);

} // namespace prism
