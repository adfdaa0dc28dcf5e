#pragma once
#include "core/building/solid.h"

#include <TopoDS_Shape.hxx>

namespace prism {

/// A step round a wall, as high as it is wide, made a chamfer: it is filled up, and its edges are cut off.
struct ChamferForStep {
    Step fill, cut;
    double width = 0, radius = 0; ///< of the step, and of the wall; mm
};

/// Seen from the end, and from the side where something hides its slant, a chamfer at the end of a round wall
/// is drawn as a step of the same width is. What turns such steps of a solid into chamfers, in the order in
/// which it is to follow the steps that made the solid.
std::vector<ChamferForStep> chamfersForSteps(const Figure& f, const AreaSets& areas,
                                             const TopoDS_Shape& solid);

} // namespace prism
