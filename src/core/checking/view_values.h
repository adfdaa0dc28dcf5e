#pragma once
#include "core/checking/finding.h"

// The coordinates that views show, and where.
namespace prism::checking {

/// Distinct mark values of a view along an axis, sorted, mm; the centre of an arc that stands outside the
/// view is none.
std::vector<double> valuesOf(const Figure& f, int view, Axis axis);

/// Whether one of sorted values is the same within a tolerance.
bool has(const std::vector<double>& v, double x, double tolerance);

/// A coordinate of one view that another view, which shows the same axis, does not have.
struct Unmatched {
    double value = 0;   ///< mm
    int curve = -1;     ///< a figure curve that stands there
    bool round = false; ///< the edge of a full circle
};
/// By value. Joints where a line runs smoothly into another are none: no edge ends there.
std::vector<Unmatched> unmatchedIn(const CheckInput& in, int from, int to, Axis axis);

/// The same coordinate in two views, within this.
inline double sameCoordinate(const Figure& f) {
    return 4 * f.tolerances.same_model;
}

} // namespace prism::checking
