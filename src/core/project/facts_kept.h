#pragma once
#include "core/project/model.h"

// What a person said of the part, held against the solid of a build list.
namespace prism {

/// The facts among the choices with their levels and formulas resolved. Impossible where a formula is.
Result<std::vector<Step>> factsOf(const Ledger& numbers, const Choices& c);

/// That a solid which shows every line of the sheet does not keep a fact; none where it keeps all of them, or
/// where the list is not brought to its end yet.
std::optional<Finding> factNotKept(const Model& m, const Choices& c);

} // namespace prism
