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

/// A closed area of a section that is hatched where the solid is cut through no material, or the reverse.
struct AreaOff {
    Vec2 seed;       ///< a point in it; coordinates of the view
    double area = 0; ///< mm^2
    bool hatched = false;
};

struct ViewProof {
    int view = 0;
    ViewName name;
    Shows shows = Shows::all;
    bool in_part = false;                    ///< it shows the part in part only, and was compared there
    int matched = 0, missing = 0, extra = 0; ///< lines; a line with any piece off counts as off
    double matched_length = 0, missing_length = 0, extra_length = 0; ///< mm
    std::vector<ProofPiece> pieces;
    /// Of a section: the closed areas whose hatching and the cut through the solid were held against each
    /// other, and those of them that disagree.
    int areas = 0;
    std::vector<AreaOff> areas_off;
    /// Of each broken-out section in the view the place on its depth axis where the solid was cut to compare:
    /// of the places where the plane may stand the one that agrees best. Model coordinates.
    std::vector<double> broken_out;
    double areaOff() const {
        double sum = 0;
        for (const AreaOff& a : areas_off) sum += a.area;
        return sum;
    }
    /// How far the view is off, to choose the nearest by: mm of line, and of areas the side of a square
    /// alike.
    double off() const { return missing_length + extra_length + std::sqrt(areaOff()); }
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
    int areas_off = 0; ///< closed areas of sections that disagree
    /// Whether the views that were compared agree with the solid line by line, and in what is cut.
    bool clean() const { return missing == 0 && extra == 0 && areas_off == 0 && matched > 0; }
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
    /// Smooth: a seam between tangent faces, drawn or not.
    enum class Kind { visible, hidden, smooth, smooth_hidden } kind;
    Curve shape;
};

/// Exact hidden-line removal along the direction in which a frame looks, in its coordinates.
Result<std::vector<ProjectedLine>> projected(const TopoDS_Shape& shape, const ViewFrame& frame,
                                             const Progress& progress);

/// What of a solid a view shows: all of it; or, of a section, what lies behind its cutting plane, with the
/// faces that the plane cuts.
struct ShownSolid {
    TopoDS_Shape shape;
    std::vector<TopoDS_Shape> cut;
};
/// What lies behind a cut, looking along `look` (a unit vector).
Result<ShownSolid> shownBehind(const Cut& cut, Vec3 look, const TopoDS_Shape& shape, double tolerance);
Result<ShownSolid> shownBy(const Figure& f, const FigureView& v, const TopoDS_Shape& shape);

/// Whether a place of a section lies in one of the faces that its plane cuts.
bool inCut(const Figure& f, const FigureView& v, const ShownSolid& shown, Vec2 place);

/// Compares the solid with the views of the figure as it now stands: sections behind their plane, close-ups
/// within their circle, auxiliary views along their own direction, views that show the part in part only
/// where they show it. Views without any hidden line drawn are not asked for them. On a sheet without any
/// hidden line, a solid that agrees only when every edge is drawn as a visible line counts as agreeing, and
/// the proof tells.
Result<Proof> prove(const Figure& f, const TopoDS_Shape& shape, Progress& progress,
                    LineKinds kinds = LineKinds::told);
/// The same, telling which views of the sheet were not compared, and why.
Result<Proof> prove(const Figure& f, const ViewSet& set, const TopoDS_Shape& shape, Progress& progress);
/// A proof against the views of the figure, telling as well which views of the sheet were not compared.
Proof ofTheSheet(Proof p, const Figure& f, const ViewSet& set);

/// What a solid shows in a view: its lines, and within the borders of a broken-out section those behind its
/// plane.
struct SeenInView {
    struct BrokenOut {
        const LocalCut* cut = nullptr;
        double depth = 0; ///< on the depth axis of the view
        ShownSolid solid;
        std::vector<ProjectedLine> lines;
    };
    ShownSolid solid;
    std::vector<ProjectedLine> lines;
    std::vector<BrokenOut> broken_out;
};

/// A solid that is held against several figures of one sheet, repaired in one way or another: views that look
/// at it alike are projected once.
class SeenSolid {
  public:
    explicit SeenSolid(TopoDS_Shape shape) : shape_(std::move(shape)) {}
    /// As prove().
    Result<Proof> against(const Figure& f, Progress& progress, LineKinds kinds = LineKinds::told);

  private:
    struct Known {
        ViewFrame frame;
        SeenInView seen;
    };
    Result<SeenInView> in(const Figure& f, const FigureView& v, Progress& progress);

    TopoDS_Shape shape_;
    std::vector<Known> known_;
};

/// The comparison of one view with what the solid shows there.
ViewProof compare(const Figure& f, const FigureView& view, const SeenInView& seen, LineKinds kinds,
                  Progress& progress);

} // namespace prism
