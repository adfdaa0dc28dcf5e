#pragma once
#include "core/checking/open_sizes.h"
#include "core/diagnosing/repairing.h"
#include "core/project/carry_over.h"
#include "core/project/suggestion.h"
#include "core/reporting/report.h"

#include <nlohmann/json.hpp>

// What the batch door prints, as JSON.
namespace prism::cli {

using Json = nlohmann::ordered_json;

Json readReport(const Model& m, const Choices& choices);
/// Every line and text, in file coordinates, as read; for lines that a repair changed also as repaired.
Json entitiesReport(const Model& m);
/// What a re-read brought, line by line.
Json rereadReport(const Reread& r, const Drawing& before, const Drawing& after);
Json viewsReport(const Model& m);
/// What was found on one part of a sheet.
struct Checked {
    std::shared_ptr<const Model> model;
    Diagnosis found;
    Completeness sizes;
};
Json checkReport(const std::vector<Checked>& parts, const std::vector<Repaired>& repaired);
/// With the further solids that fit the sheet, when it was proposed and there are any; `would_fit`: the
/// finding whose repair would leave the sheet a solid.
Json buildReport(const Model& m, const std::optional<Material>& material,
                 const std::optional<Proposal>& proposal, const std::optional<Finding>& would_fit = {});
/// What may be done next, or why nothing is suggested.
Json suggestionReport(const Result<Suggestion>& s);
Json proofReport(const Model& m);
Json ledgerReport(const Model& m);

} // namespace prism::cli
