#pragma once
#include <algorithm>
#include <limits>

namespace prism {

/// What a search takes, counted instead of timed, so that it ends at the same place on every machine. A unit
/// is about 1 ms of a machine of 2020: building and projecting back a face of a small solid, or looking along
/// lines of sight at some sixty places.
class Work {
  public:
    /// `most`: where the search ends; 0 for no limit.
    explicit Work(int most = 0) : most_(most > 0 ? most : std::numeric_limits<int>::max()) {}
    void spend(int units) { done_ += units; }
    int done() const { return done_; }
    bool exhausted() const { return done_ > most_; }
    /// Whether so much more stays within the limit.
    bool affords(int units) const { return units <= most_ - done_; }
    /// Space was cut into so many cells; what stays is the most of any search, for those who measure.
    void metCells(int count) { cells_ = std::max(cells_, count); }
    int cells() const { return cells_; }

  private:
    int most_, done_ = 0, cells_ = 0;
};

} // namespace prism
