#pragma once
#include "core/base/polygon.h"

namespace prism {

/// A closed polygon with many corners that is asked often what lies within it: its edges by the level band
/// that they cross.
class PolygonBands {
  public:
    explicit PolygonBands(std::vector<Vec2> points);
    /// As insidePolygon (polygon.h).
    bool contains(Vec2 p) const;

  private:
    size_t bandOf(double y) const;

    std::vector<Vec2> points_;
    double lo_ = 0, each_ = 1;              ///< where the bands begin, and how high each is
    std::vector<std::vector<size_t>> ends_; ///< by band: the edges there, by the corner that they end in
};

} // namespace prism
