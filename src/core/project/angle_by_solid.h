#pragma once
#include "core/project/model.h"

namespace prism {

/// Where a sheet does not state its projection angle, a solid may: the angle in which alone there is one that
/// shows every line. Takes the views laid out in that angle, with the reason; leaves them as they are when
/// both angles have such a solid, or none, or when the sheet is too large for trying. Counted budgets.
void decideAngleBySolid(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set,
                        Progress& progress);

} // namespace prism
