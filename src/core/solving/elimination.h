#pragma once
#include "core/solving/system.h"

#include <unordered_map>

namespace prism {

/// Factors of an eliminated row that are a smaller share of the largest it was given are rounding.
inline constexpr double kRounding = 1e-8;

/// Sparse Gaussian elimination that takes rows one at a time and says of each whether it is independent,
/// follows from the rows before it, or contradicts them (Thierry et al. 2011 call the rows so found the
/// witness's dependencies).
class Elimination {
  public:
    /// `explain`: keep of which rows each row is made, so that contradictions can be explained.
    explicit Elimination(bool explain = true) : explain_(explain) {}
    enum class Verdict { independent, redundant, contradiction };

    /// row . dx = rhs. `eps` is the largest right-hand side that counts as zero, `least` the smallest factor
    /// that counts, as a share of the row's largest. On contradiction nothing is kept, and `involved` names
    /// the earlier rows (by their ids) of which the row is a combination.
    Verdict add(int id, const std::vector<Term>& row, double rhs, double eps, std::vector<int>* involved,
                double least = kRounding);

    /// What is left of a row when all rows that were kept are taken from it, scaled so that its first factor
    /// is 1; empty for one that follows. Rows with the same remainder say the same.
    std::vector<Term> remainder(const std::vector<Term>& row) const;

  private:
    struct Row {
        std::vector<Term> terms; ///< sorted by variable
        double rhs = 0;
        int pivot = -1;
        std::vector<Term> made_of; ///< multiples of the rows as given, `variable` being their id
    };
    void subtract(Row& from, const Row& what, double factor) const;
    Row reduced(Row row, double least) const;

    bool explain_;
    std::vector<Row> rows_;
    std::unordered_map<int, int> row_of_pivot_;
};

} // namespace prism
