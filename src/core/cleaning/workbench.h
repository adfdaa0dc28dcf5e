#pragma once
#include "core/base/point_merger.h"
#include "core/cleaning/clean_sheet.h"

#include <span>

namespace prism::cleaning {

/// One curve of the sheet that belongs to the part.
struct Piece {
    int entity, index; ///< index among the entity's curves
    bool operator==(const Piece&) const = default;
};

struct Web;

/// The sheet under repair. Copies the drawing the first time that a line is changed.
class Workbench {
  public:
    Workbench(std::shared_ptr<const Drawing> d, const RepairChoices& choices, CleanSheet& sheet);

    const Drawing& drawing() const { return *current_; }
    CleanSheet& sheet() { return sheet_; }
    const CleanSheet& sheet() const { return sheet_; }
    double touch() const { return sheet_.tolerances.touch_sheet; }
    double gap() const { return sheet_.gap; }
    /// The widest gap between two free ends, which may be wider than that between an end and a line it
    /// misses.
    double cornerGap() const { return corner_gap_; }
    /// mm on the sheet in sheet units.
    double paper(double mm) const { return mm / mm_; }

    /// Records a repair; true when it is to be done.
    bool record(const char* kind, std::vector<int> entities, Vec2 at, double size = 0);
    /// Tells what was too much to be looked for.
    void leaveUndone(const std::string& what) {
        if (std::ranges::find(sheet_.left_undone, what) == sheet_.left_undone.end())
            sheet_.left_undone.push_back(what);
    }
    void setAside(int entity) {
        sheet_.in_use[entity] = false;
        webs_ = {};
    }
    void setRole(int entity, LineRole role) {
        sheet_.entity_roles[entity] = role;
        webs_ = {};
    }
    void setCurves(int entity, std::vector<Curve> curves) {
        curves_[entity] = static_cast<int>(curves.size());
        own().entities[entity].curves = std::move(curves);
    }
    void setCurve(Piece p, const Curve& c) { own().entities[p.entity].curves[p.index] = c; }
    /// The whole drawing, for repairs that change more than lines.
    Drawing& own();
    const Curve& curve(Piece p) const { return current_->entities[p.entity].curves[p.index]; }
    LineRole role(Piece p) const { return sheet_.entity_roles[p.entity]; }

    bool isPartLine(int entity, bool centres = true) const;
    /// Curves of part lines in use; without centre lines unless asked for.
    std::vector<Piece> pieces(bool centres = false) const;
    /// The curves of part lines, and where they meet; made anew only after a change.
    std::shared_ptr<const Web> web(bool centres = false) const;

  private:
    std::shared_ptr<const Drawing> source_, current_; ///< the source stays alive for references into it
    std::shared_ptr<Drawing> own_;
    const RepairChoices& choices_;
    CleanSheet& sheet_;
    std::map<std::string, int> seen_;                        ///< how often each key was given
    mutable std::array<std::shared_ptr<const Web>, 2> webs_; ///< the second with centre lines
    std::vector<int>
        curves_; ///< by entity, how many it has: kept together, for the many walks over all of them
    double mm_, corner_gap_ = 0;
};

/// Two ends of a curve: 0 its start, 1 its end.
struct End {
    int piece, side;
};

/// Where curve ends meet: ends within the tolerance of each other share a node.
class Nodes {
  public:
    Nodes(const Workbench& w, const std::vector<Piece>& pieces);
    size_t size() const { return at_.places().size(); }
    Vec2 at(int node) const { return at_.places()[node]; }
    std::span<const End> ends(int node) const {
        return std::span(ends_).subspan(first_[node], first_[node + 1] - first_[node]);
    }
    /// Node of an end, -1 for closed curves.
    int node(End e) const { return of_[2 * e.piece + e.side]; }

  private:
    PointMerger at_;
    std::vector<End> ends_;     ///< node after node
    std::vector<size_t> first_; ///< by node, index of its first end
    std::vector<int> of_;
};

/// Pieces with their nodes.
struct Web {
    std::vector<Piece> pieces;
    Nodes nodes;
    Web(const Workbench& w, bool centres) : pieces(w.pieces(centres)), nodes(w, pieces) {}
};

/// Finds the pieces that pass near a point.
class NearPieces {
  public:
    /// `usual`: the distance that is mostly asked for; `questions`: how often, as often as there are pieces
    /// where that is not known. For few questions it is made more coarsely, which is quicker.
    NearPieces(const Workbench& w, const std::vector<Piece>& pieces, double usual,
               std::optional<size_t> questions = {});
    /// Indices of pieces that may pass within the reach of p, without repeats, in a fixed order.
    std::vector<int> near(Vec2 p, double reach) const;

  private:
    using Cell = std::pair<long long, long long>;
    Cell cell(Vec2 p) const;
    double cell_;
    std::vector<std::pair<Cell, int>> entries_; ///< sorted by cell
    mutable std::vector<unsigned> asked_;       ///< by piece: the last question it was an answer to
    mutable unsigned question_ = 0;
};

// The repairs, one file each. Every one records what it does and looks only at part lines.
void turnSheet(Workbench& w);
void moveOrigin(Workbench& w);
void setPointsAside(Workbench& w);
void setRepeatedLinesAside(Workbench& w);
void setRepeatedArcsAside(Workbench& w);
void recogniseCentres(Workbench& w);
void setHatchingAside(Workbench& w);
void joinDashes(Workbench& w);
/// After the dashes, whose dots are as short.
void setSpecksAside(Workbench& w);
void recoverArcs(Workbench& w);
void straighten(Workbench& w);
void closeCorners(Workbench& w);
void closeBreaks(Workbench& w);
void joinPieces(Workbench& w);
/// Lists the ends that still meet nothing.
void listLooseEnds(Workbench& w);

} // namespace prism::cleaning
