#pragma once
#include "core/base/curve.h"

#include <string_view>

namespace prism::svg {

/// Numbers separated by blanks or commas, up to the first thing that is none.
std::vector<double> numbersIn(std::string_view s);

/// One run of a path without a jump.
struct Run {
    std::vector<Curve> curves;
    bool closed = false;
};

/// Path data as its runs (SVG 1.1, chapter 8). Lines and circular arcs stay what they are; cubic and
/// quadratic curves become splines. Stops at the first error, as the standard says.
std::vector<Run> pathRuns(std::string_view data);

/// Elliptical arc from p to q in the endpoint form of SVG (1.1, appendix F.6).
Curve arcTo(Vec2 p, Vec2 q, Vec2 radii, double turn, bool large, bool positive);

} // namespace prism::svg
