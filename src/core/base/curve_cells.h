#pragma once
#include "core/base/curve.h"

#include <cstdint>
#include <functional>

namespace prism {

/// Curves laid into square cells: two that come within `reach` of each other share a cell. The number of
/// cells grows with the number of curves, however long they are and however crowded they lie.
class CurveCells {
  public:
    CurveCells(const std::vector<const Curve*>& curves, double reach);
    /// Calls with the curves of every cell, by index, sorted; cells in a fixed order.
    void forEachCell(const std::function<void(const std::vector<int>&)>& f) const;

  private:
    /// Sorted by a number of the cell that few bits make: sorting is most of the work. Cells so far apart
    /// that they share one count as the same.
    std::vector<std::pair<std::uint64_t, int>> entries_;
};

} // namespace prism
