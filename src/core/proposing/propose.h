#pragma once
#include "core/proofing/proof.h"

namespace prism {

/// A solid suggested from the views, as the steps that make it.
struct Proposal {
    std::vector<Step> steps;
    std::string how; ///< in words
    int tried = 0;   ///< candidate steps tried against the proof
};

/// Suggests steps: a part of revolution when an end view is all circles; else the intersection of the views'
/// outlines drawn through the part (Aldefeld 1983), then cuts, each kept only when the solid projected back
/// comes closer to the sheet. Exact for parts that such cuts make; the proof tells for any other.
Result<Proposal> propose(const Figure& f, const std::vector<std::pair<Role, double>>& centreLines,
                         Progress& progress);

/// Level centre lines of a view: role of the view and height of the line, model coordinates.
std::vector<std::pair<Role, double>> levelCentreLines(const Drawing& d, const ViewSet& set, const Figure& f);

} // namespace prism
