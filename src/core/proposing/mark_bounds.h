#pragma once
#include "core/building/steps.h"
#include "core/figure/figure.h"

namespace prism {

/// A mark of a principal view, or of one that cuts square, that stands at a depth of another view `v`, as
/// near as there is one to what lies within `near`, coordinates of `v`; none where there is none. `tol`: mm.
std::optional<Bound> markAtDepth(const Figure& f, const FigureView& v, double depth, double tol,
                                 const Box2& near);

} // namespace prism
