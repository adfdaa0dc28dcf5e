#pragma once
#include "core/drawing/drawing.h"

namespace prism {

/// What a dimension's definition points measure, times its factor; degrees for angles.
double measuredOf(const Dimension& d);

} // namespace prism
