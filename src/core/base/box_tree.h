#pragma once
#include "core/base/geometry.h"

#include <memory>

namespace prism {

/// Boxes found by where they lie: a packed R-tree (Leutenegger et al. 1997).
class BoxTree {
  public:
    /// Boxes that are not valid are never found.
    explicit BoxTree(const std::vector<Box2>& boxes);
    ~BoxTree();
    BoxTree(BoxTree&&) noexcept;
    /// Indices of the boxes that overlap this one, sorted.
    std::vector<int> overlapping(const Box2& box) const;

  private:
    struct Tree;
    std::unique_ptr<Tree> tree_;
};

} // namespace prism
