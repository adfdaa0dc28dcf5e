#pragma once
#include "core/cleaning/clean_sheet.h"

namespace prism {

/// Records repairs for lines drawn twice, lines lying wholly inside a longer line of the same role, and
/// specks. Sorting by carrier keeps this O(n log n).
void setAsideRepeats(const Drawing& d, CleanSheet& s);

} // namespace prism
