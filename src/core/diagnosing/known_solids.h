#pragma once
#include "core/project/propose_for.h"

#include <deque>

namespace prism {

/// Solids that were looked for on one source, with what came of it: a check after a change that leaves a
/// figure as it was, or brings an earlier one back, asks for none of them again, and spends what it would
/// have spent. Of the last searches only; for one thread.
class KnownSolids {
  public:
    struct Search {
        Choices choices; ///< which say the figure
        Effort effort;
        LineKinds kinds;
        int limit; ///< of work
    };
    struct Outcome {
        std::optional<Proposal> proposal;
        int work = 0;
        bool exhausted = false;
    };
    const Outcome* of(const Search& s) const;
    const Outcome& keep(Search s, Outcome o);
    /// How many were looked for, and how many of these were known.
    int asked() const { return asked_; }
    int known() const { return known_; }

  private:
    std::deque<std::pair<Search, Outcome>> kept_; ///< the latest first
    mutable int asked_ = 0, known_ = 0;
};

} // namespace prism
