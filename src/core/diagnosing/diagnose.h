#pragma once
#include "core/project/document.h"

namespace prism {

/// What is wrong with a sheet, each cause once.
struct Diagnosis {
    std::vector<Finding> findings; ///< sorted by severity
    /// Whether a solid shows every line of the sheet as it is.
    bool sound = false;
    int tried = 0;           ///< repairs tried to tell what is the cause of what
    std::string left_undone; ///< what a budget kept from being looked at; empty for nothing
};

/// Asks of everything that the checks say what would explain it. Repairs are tried on the sheet, without
/// changing it: one that makes other findings go away as well is their common cause. Where several would do,
/// or nothing but a line is wrong, a solid decides: the sheet that has one which shows every line is the
/// right one. Where a solid shows every line of the sheet as it is, coordinates without a counterpart are no
/// fault. `m` has the checks for these choices. The trials are counted, not timed. Empty when it was stopped.
Result<Diagnosis> diagnose(const std::string& source, const Choices& c, const std::shared_ptr<const Model>& m,
                           Progress& progress);

/// The repairs to make at once: the first one of every finding that was not left as it is, of the kinds named
/// or of all when none is. What a solid says of single lines it says of the sheet as all else is repaired:
/// these are named only when nothing else is left.
std::vector<std::pair<const Finding*, const Remedy*>> firstRemedies(const Diagnosis& d,
                                                                    const std::set<std::string>& kinds = {});

/// One repair that was made.
struct Repaired {
    std::string finding; ///< what it mended, in words
    std::string kind;    ///< of the remedy
    std::string words;   ///< what it did
};

/// Makes the repairs that come first for each finding, of the kinds named or of all when none is, until
/// nothing more is offered; each is a step of the document's history.
Result<std::vector<Repaired>> repairAll(Document& d, const std::set<std::string>& kinds, Progress& progress);

} // namespace prism
