#pragma once
#include "core/base/box_tree.h"
#include "core/base/point_merger.h"
#include "core/figure/areas.h"

namespace prism::figure {

/// The lines of one view, split where they meet, as a planar graph without the ends that meet nothing.
/// Half-edge 2e runs along edge e, 2e + 1 back.
class Arrangement {
  public:
    Arrangement(const Figure& f, int view, const std::vector<double>& x, Progress& progress);
    /// Borders of the graph's faces, the outer ones clockwise.
    std::vector<Loop> loops() const;
    double tolerance() const { return tol_; }

  private:
    struct Edge {
        int curve;
        double t0, t1;
        Curve shape;
        int from, to; ///< vertices
    };
    struct Line {
        int curve;
        Curve shape;
        int from, to; ///< vertices of its ends, -1 of a closed one
    };
    void split(size_t line, const BoxTree& tree, const std::vector<Box2>& boxes);
    void addEdge(const Line& l, double t0, double t1);
    void prune();
    Curve shapeOf(int half) const {
        return half % 2 ? reversed(edges_[half / 2].shape) : edges_[half / 2].shape;
    }
    int origin(int half) const { return half % 2 ? edges_[half / 2].to : edges_[half / 2].from; }
    std::vector<std::vector<int>> sortedStar() const;
    Loop loopOf(const std::vector<int>& halves) const;

    double tol_;
    std::vector<Line> lines_;
    PointMerger vertices_;
    std::vector<Edge> edges_;
    std::map<std::pair<int, int>, std::vector<int>> between_; ///< edges by their ends, lower vertex first
};

} // namespace prism::figure
