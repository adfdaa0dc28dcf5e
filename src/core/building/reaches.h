#pragma once
#include "core/building/solid.h"

// How far a step goes, from the marks, values and ends that it was said with.
namespace prism::building {

/// From one place to another along the way in which a view's depths count, mm.
struct Range {
    double lo, hi;
    MarkRef low, high; ///< what was picked for the ends
};

/// Extent of the whole part along a model axis, from all views that show it; none when there is none.
std::optional<Range> partRange(const Figure& f, Axis axis);
/// The same along the way in which a view's depths count, from all views that show it.
Result<Range> partRange(const Figure& f, const FigureView& v);
/// Where a mark of another view stands along the way in which a view's depths count.
Result<double> depthOfMark(const Figure& f, const FigureView& v, const MarkRef& mark);
/// Where a bound that is a mark stands, or else `outermost`; with what it goes beyond.
Result<double> boundValue(const Figure& f, const FigureView& v, const Bound& b, double outermost);
/// The range of a step whose high end is `to`. Impossible when it is empty.
Result<Range> reachOf(const Figure& f, const Step& s, const FigureView& v, const Bound& to);

} // namespace prism::building
