#pragma once
#include <algorithm>
#include <numeric>
#include <vector>

namespace prism {

/// Disjoint sets over 0 .. n-1 with path halving (Tarjan 1975); the smallest member stands for its set.
class Groups {
  public:
    explicit Groups(size_t n) : parent_(n) { std::iota(parent_.begin(), parent_.end(), 0); }
    int find(int i) {
        while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
        return i;
    }
    void join(int a, int b) {
        a = find(a), b = find(b);
        parent_[std::max(a, b)] = std::min(a, b);
    }

  private:
    std::vector<int> parent_;
};

} // namespace prism
