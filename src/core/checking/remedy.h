#pragma once
#include "core/ledger/ledger.h"

// What would mend a finding: a change of the choices that a sheet is read with, as a person could make it.
namespace prism {

/// Added to what was chosen before.
struct Change {
    std::vector<MarkedLine> lines; ///< an added line has no name yet
    std::vector<MarkedDimension> corrected;
    std::vector<AddedDimension> dimensions;
    NumberChoices numbers;
    std::optional<Convention> convention;
    bool empty() const { return size() == 0; }
    /// How much it changes: what mends with less is likelier.
    size_t size() const {
        return lines.size() + corrected.size() + dimensions.size() + numbers.size() + (convention ? 1 : 0);
    }
    friend bool operator==(const Change&, const Change&) = default;
};

/// One repair that is offered.
struct Remedy {
    std::string kind;   ///< stable code for the batch door: close_gap, believe_drawing ...
    std::string words;  ///< what it does, as a button says it
    std::string reason; ///< why it is likely; empty when nothing speaks for it
    Change change;
};

} // namespace prism
