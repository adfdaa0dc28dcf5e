#pragma once
#include "core/diagnosing/diagnose.h"

namespace prism {

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
/// nothing more is offered; each is a step of the document's history. `known` as of diagnose().
Result<std::vector<Repaired>> repairAll(Document& d, const std::set<std::string>& kinds, Progress& progress,
                                        KnownSolids* known = nullptr);

} // namespace prism
