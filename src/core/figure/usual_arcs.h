#pragma once
#include "core/figure/figure.h"

namespace prism {

/// Whether a flat arc is the usual one for a curve in which round faces meet: it misses its own ends a
/// little. Its centre, its radius and its outermost place are no sizes of the part.
bool standsForAnother(const Figure& f, const FigureCurve& c);

} // namespace prism
