#pragma once
#include "core/base/geometry.h"

#include <unordered_map>

namespace prism {

/// Gives places within a tolerance of each other one number, in the order in which they are seen.
class PointMerger {
  public:
    explicit PointMerger(double tolerance) : tolerance_(tolerance), side_(4 * tolerance) {}
    /// Number of the place; a new one when none seen so far is within the tolerance.
    int add(Vec2 p);
    /// Number of a place seen before, -1 for none.
    int find(Vec2 p) const;
    const std::vector<Vec2>& places() const { return places_; }

  private:
    using Cell = std::pair<long long, long long>;
    struct Hash {
        size_t operator()(const Cell& c) const {
            return static_cast<size_t>(c.first) * 0x9E3779B97F4A7C15ull ^ static_cast<size_t>(c.second);
        }
    };
    Cell cell(Vec2 p) const { return {std::llround(p.x / side_), std::llround(p.y / side_)}; }

    double tolerance_, side_;
    std::vector<Vec2> places_;
    std::unordered_map<Cell, std::vector<int>, Hash> cells_;
};

} // namespace prism
