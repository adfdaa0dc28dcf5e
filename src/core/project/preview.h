#pragma once
#include "core/project/model.h"

namespace prism {

/// What one more step would change.
struct StepPreview {
    TopoDS_Shape added, removed; ///< null when nothing is
    double more = 0, less = 0;   ///< mm^3
    std::string told;            ///< what a person should know of the step
};

/// Builds the steps of a list before number `at` and this one after them. An error says why the step cannot
/// be made.
Result<StepPreview> previewOf(const Model& m, const std::vector<Step>& steps, size_t at, const Step& step,
                              Progress& progress);

} // namespace prism
