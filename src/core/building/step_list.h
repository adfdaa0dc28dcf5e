#pragma once
#include "core/base/result.h"
#include "core/building/steps.h"

// What a person does with the build list as a whole.
namespace prism {

/// A name that no step of a list has: "hole 3".
std::string freshName(const std::vector<Step>& steps, StepKind kind);

/// How many steps are built: those up to the first at which the list stops, or all.
size_t builtSteps(const std::vector<Step>& steps);

/// Stops the list behind a step, and nowhere else; stopped there already, it is built to its end again.
void toggleStop(std::vector<Step>& steps, size_t behind);

/// Puts a new step where the list goes on: behind the one at which it stops, which then stops behind the new
/// one; or at its end.
void goOnWith(std::vector<Step>& steps, Step s);

/// Takes a step out of the list and puts it in again so that it has the place `to`; as many as before are
/// built. Between two of one group it belongs to that group, away from its own it leaves it.
void moveStep(std::vector<Step>& steps, size_t from, size_t to);

/// Takes a step out of the list; where the list stopped behind it, it stops behind the one before.
void removeStep(std::vector<Step>& steps, size_t which);

/// Gives a step another name, also where others speak of it. Errors: no name, or another step has it.
Result<void> renameStep(std::vector<Step>& steps, size_t which, const std::string& name);

} // namespace prism
