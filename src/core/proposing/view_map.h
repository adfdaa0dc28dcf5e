#pragma once
#include "core/base/box_tree.h"
#include "core/base/nearest_place.h"
#include "core/base/polygon_bands.h"
#include "core/figure/areas.h"

namespace prism {

/// What a straight line across a view along one of its axes meets: at `breaks` it passes from one closed area
/// to the next. regions[i] lies between breaks[i - 1] and breaks[i]; -1 is outside the view's outline.
struct Scan {
    std::vector<double> breaks;
    std::vector<int> regions; ///< breaks.size() + 1
    int at(double x) const {
        return regions[std::upper_bound(breaks.begin(), breaks.end(), x) - breaks.begin()];
    }
};

/// Whether the viewer stands at the low end of a view's depth axis.
inline bool viewerAtLowEnd(const FigureView& v) {
    return dot(v.look, unitOf(v.axes.depth)) > 0;
}

/// Whether a view is a section along one plane square to the axes.
bool cutsSquare(const FigureView& v);

/// What a person has said of areas of a view, drawn through space from one depth to another (mm): material,
/// or air.
struct KnownRegion {
    int view = -1; ///< id
    std::vector<ClosedArea> areas;
    double lo = 0, hi = 0;
    bool material = true;
    bool contains(Vec2 p) const {
        return std::ranges::any_of(areas, [&](const ClosedArea& a) { return a.contains(p); });
    }
};

/// Quick answers about the closed areas of one view of the figure as drawn.
class ViewMap {
  public:
    /// `known`: of whatever views; those of this one are kept.
    ViewMap(const Figure& f, const FigureView& v, const std::vector<ClosedArea>& all,
            const std::vector<KnownRegion>& known = {});

    const FigureView& view() const { return *view_; }
    const std::vector<ClosedArea>& areas() const { return areas_; }
    /// Index in areas(); -1 outside.
    int areaAt(Vec2 p) const;
    /// Along the axis that is not `fixed`, at the value `at` of the axis `fixed`. Kept for the next call.
    const Scan& scan(Axis fixed, double at) const;
    /// The most visible line drawn at a place, as an index in curves(): outline before hidden; -1 when there
    /// is none.
    int curveAt(Vec2 p) const;
    /// Its role; unknown when there is none.
    LineRole lineAt(Vec2 p) const {
        const int c = curveAt(p);
        return c < 0 ? LineRole::unknown : curves_[static_cast<size_t>(c)].first;
    }
    /// Whether an area is hatched: material at the cutting plane. Of a view that shows hatching only.
    bool hatched(int area) const { return hatched_[static_cast<size_t>(area)]; }
    bool hasHatching() const { return std::ranges::find(hatched_, true) != hatched_.end(); }
    /// Of an area that a broken-out section shows: where its plane likely stands on the depth axis.
    const std::optional<double>& localCut(int area) const { return local_[static_cast<size_t>(area)]; }
    bool brokenOut(int area) const { return area >= 0 && broken_out_[static_cast<size_t>(area)]; }
    /// Whether a line is one that a cut shows, of a section or a broken-out one.
    bool showsCut(const Curve& c) const;
    /// Of a section: where its plane stands on the depth axis.
    const std::optional<double>& cut() const { return cut_; }
    /// Whether the view says nothing of a place so deep: it lies before the plane of a section, and that
    /// plane is not the middle of the part, whose two sides are taken to be alike.
    bool unseen(double depth) const {
        return cut_ && !in_middle_ && (viewerAtLowEnd(*view_) ? depth < *cut_ : depth > *cut_);
    }
    /// Coordinates this close are one (mm).
    double tolerance() const { return tolerance_; }
    /// Lines this close stand for the same edge (mm).
    double proof() const { return proof_; }
    bool hasHidden() const { return has_hidden_; }
    /// What is known beforehand of areas of this view.
    const std::vector<KnownRegion>& known() const { return known_; }
    /// Curves of the view as drawn with their roles.
    const std::vector<std::pair<LineRole, Curve>>& curves() const { return curves_; }

  private:
    void crossings(int fixed, double at, std::vector<double>& out) const;

    const FigureView* view_;
    double tolerance_, proof_;
    std::vector<ClosedArea> areas_;
    std::vector<PolygonBands> outlines_; ///< by area, its outer border
    std::vector<double> around_;         ///< by area, mm^2 within its outer border
    std::vector<std::pair<LineRole, Curve>> curves_;
    std::vector<NearestPlace> places_;      ///< by curve
    std::vector<std::vector<Vec2>> chords_; ///< by curve, but for arcs
    std::vector<Box2> boxes_;
    std::optional<BoxTree> area_tree_, curve_tree_;
    bool has_hidden_ = false;
    std::vector<KnownRegion> known_;
    std::vector<bool> hatched_;                ///< by area
    std::vector<bool> broken_out_;             ///< by area
    std::vector<std::optional<double>> local_; ///< by area
    std::optional<double> cut_;
    bool in_middle_ = false;
    mutable std::map<std::pair<int, double>, Scan> scans_;
};

} // namespace prism
