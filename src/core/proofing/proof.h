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

/// A view of the sheet that the solid was not held against.
struct NotCompared {
    int view = 0; ///< id in the ViewSet
    std::string reason;
    bool counts = true; ///< false for a pictorial, which says nothing of sizes
};

struct Proof {
    std::vector<ViewProof> views; ///< those that were compared
    /// Alike: the solid shows every line only if the sheet draws hidden lines like visible ones.
    LineKinds kinds = LineKinds::told;
    std::vector<NotCompared> not_compared;
    int matched = 0, missing = 0, extra = 0;
    /// Whether the views that were compared agree with the solid line by line.
    bool clean() const { return missing == 0 && extra == 0 && matched > 0; }
    int compared() const { return static_cast<int>(views.size()); }
    int total() const {
        return compared() + static_cast<int>(std::count_if(not_compared.begin(), not_compared.end(),
                                                           [](const NotCompared& n) { return n.counts; }));
    }
    /// Whether every view of the part was compared and agrees: only then is the solid proved.
    bool proved() const { return clean() && compared() == total(); }
};

/// What a proof says, in words: "the solid shows every line of the sheet", "... of the 3 views that were
/// compared, of 4", "2 lines of the sheet are missing, 1 too many; 3 of 4 views were compared".
std::string inWords(const Proof& p);

/// One projected edge of the solid.
struct ProjectedLine {
    enum class Kind { visible, hidden, smooth } kind; ///< smooth: a seam between tangent faces, drawn or not
    Curve shape;
};

/// Exact hidden-line removal along the view's direction.
Result<std::vector<ProjectedLine>> projected(const TopoDS_Shape& shape, Role role);

/// Compares the solid with the principal views of the figure as it now stands. Views without any hidden line
/// drawn are not asked for them. On a sheet without any hidden line, a solid that agrees only when every edge
/// is drawn as a visible line counts as agreeing, and the proof tells.
Result<Proof> prove(const Figure& f, const TopoDS_Shape& shape, Progress& progress);
/// The same, telling which views of the sheet were not compared, and why.
Result<Proof> prove(const Figure& f, const ViewSet& set, const TopoDS_Shape& shape, Progress& progress);

/// The comparison of one view, from its lines; `x` are the unknowns that place the sheet's lines.
ViewProof compare(const Figure& f, const FigureView& view, const std::vector<double>& x,
                  const std::vector<ProjectedLine>& lines, LineKinds kinds = LineKinds::told);

} // namespace prism
