#pragma once
#include "core/base/curve.h"

namespace prism {

/// The places of one curve that are nearest to others, when many are asked for.
class NearestPlace {
  public:
    explicit NearestPlace(Curve c);

    /// As nearestParameter (curve.h).
    double operator()(Vec2 p) const;
    /// Whether all of the curve is surely farther from a place than so much, mm; false may be either.
    bool farther(Vec2 p, double than) const;

  private:
    double leastBetween(Vec2 p, double lo, double hi) const;

    Curve c_;
    std::vector<Vec2> samples_; ///< at even parameters; none of lines and arcs
    double apart_ = 0;          ///< the largest distance between neighbours
};

} // namespace prism
