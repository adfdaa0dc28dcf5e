#pragma once
#include "core/building/steps.h"

#include <QString>

// What the step editor shows for a step of a kind.
namespace prism::app {

bool hasReach(StepKind k);
bool hasOperation(StepKind k);
bool repeats(StepKind k);
/// Whether a step of the kind begins with faces of the solid.
bool onFaces(StepKind k);
bool onLines(const Repetition& r);

/// A step of a kind with what is usual for it.
Step usualStep(StepKind k);
/// The numbers of the step, with what they are called.
std::vector<std::pair<QString, StepNumber*>> shownNumbers(Step& s);

} // namespace prism::app
