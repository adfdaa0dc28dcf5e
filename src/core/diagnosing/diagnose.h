#pragma once
#include "core/diagnosing/known_solids.h"
#include "core/project/document.h"

namespace prism {

/// What is wrong with a sheet, each cause once.
struct Diagnosis {
    std::vector<Finding> findings; ///< sorted by severity
    /// Whether a solid shows every line of the sheet as it is.
    bool sound = false;
    /// Of a sheet that has no such solid: the finding whose first repair alone leaves it one.
    std::optional<Finding> settles;
    int tried = 0;           ///< repairs tried to tell what is the cause of what
    std::string left_undone; ///< what a budget kept from being looked at; empty for nothing
};

/// Asks of everything that the checks say what would explain it. Repairs are tried on the sheet, without
/// changing it: one that makes other findings go away as well is their common cause. Where several would do,
/// or nothing but a line is wrong, a solid decides: the sheet that has one which shows every line is the
/// right one. Where a solid shows every line of the sheet as it is, coordinates without a counterpart are no
/// fault. `m` has the checks for these choices. The trials are counted, not timed. Empty when it was stopped.
/// `known`: solids that earlier checks of this source have looked for; those of this one are kept there.
Result<Diagnosis> diagnose(const std::string& source, const Choices& c, const std::shared_ptr<const Model>& m,
                           Progress& progress, KnownSolids* known = nullptr);

} // namespace prism
