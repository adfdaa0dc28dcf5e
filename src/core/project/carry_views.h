#pragma once
#include "core/project/document.h"
#include "core/project/sheet_difference.h"

// What was said of views, exchanged for a revised sheet.
namespace prism {

using Names = std::map<std::string, std::string>; ///< old to new; only what has a counterpart

/// Places of a curve by which others hang on it: its ends, its middle, and the centre of an arc.
std::vector<Vec2> anchorsOf(const Curve& c);

/// Roles, lines moved between views, ties, governing views, zeros, names, fold lines and hung views, with the
/// keys that the views have now; places go with the lines that they were picked on. What has no counterpart
/// is told in `misfits`.
void carryViews(const ViewChoices& was, const Names& keys, const Model& before, const Model& after,
                const SheetDifference& d, ViewChoices& now, std::vector<std::string>& misfits);

} // namespace prism
