#pragma once
#include "core/base/geometry.h"

#include <unordered_map>

namespace prism {

/// Gives places within a tolerance of each other one number, in the order in which they are seen.
class PointMerger {
  public:
    /// Cells are far wider than the tolerance, so that a place seldom has to look beyond its own.
    explicit PointMerger(double tolerance) : tolerance_(tolerance), side_(64 * tolerance) {}
    /// Makes room for so many places.
    void reserve(size_t n) { places_.reserve(n), next_.reserve(n), newest_.reserve(n); }
    /// Number of the place; a new one when none seen so far is within the tolerance.
    int add(Vec2 p);
    /// Number of a place seen before, -1 for none.
    int find(Vec2 p) const;
    const std::vector<Vec2>& places() const { return places_; }

  private:
    using Cell = std::pair<long long, long long>;
    /// Cells side by side get neighbouring numbers, so that places asked for one after another, which mostly
    /// lie close together, are close together in memory, too.
    struct Hash {
        size_t operator()(const Cell& c) const {
            return static_cast<size_t>(c.first) + static_cast<size_t>(c.second) * 0x9E3779B97F4A7C15ull;
        }
    };
    long long cell(double v) const { return std::llround(v / side_); }

    double tolerance_, side_;
    std::vector<Vec2> places_;
    std::vector<int> next_; ///< by place: the one seen before it in its cell, -1 for none
    std::unordered_map<Cell, int, Hash> newest_; ///< by cell: the place seen last
};

} // namespace prism
