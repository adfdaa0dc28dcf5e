#pragma once
#include "core/base/curve.h"

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
    std::vector<std::pair<std::pair<long long, long long>, int>> entries_; ///< sorted
};

} // namespace prism
