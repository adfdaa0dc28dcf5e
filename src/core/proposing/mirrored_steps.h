#pragma once
#include "core/building/steps.h"

namespace prism {

/// The same list with every step that makes the mirror image of an earlier one written as a mirror of that,
/// where a centre line of the sheet says that the two belong together: a number that moves the one then
/// moves the other. Neighbours that make something on the solid, or take something off it, trade places so
/// that one mirror takes several. The steps must have names, no two alike. Which solid it makes, and
/// whether the numbers of the sheet keep it, is to be looked at afterwards.
std::vector<Step> withMirrors(const Figure& f, const std::vector<ClosedArea>& areas, std::vector<Step> steps);

} // namespace prism
