#pragma once
#include "core/building/plane_faces.h"
#include "core/building/reaches.h"

// One function for each kind of step that makes a body of its own. They may throw what the modeller throws.
namespace prism::building {

Result<StepBody> extruded(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas, int index);
Result<StepBody> revolved(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas, int index);
/// `solid`: what the holes are made in; they begin where they meet it, unless the step says otherwise. Null
/// where that is not to be looked for.
Result<StepBody> holed(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid);
/// Whether it matters where the holes meet the solid.
bool beginsAtSolid(const Step& s);
Result<StepBody> walled(const Figure& f, const Step& s, int index);
Result<StepBody> sloped(const Figure& f, const Step& s, int index);
Result<StepBody> facetted(const Figure& f, const Step& s, int index);
/// A layer, lip or flange on faces of the solid.
Result<StepBody> onFaces(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid);
/// What is put on plane faces of the solid, and what is taken off them, so that they come to lie in the plane
/// of a line. A body of which nothing is needed has no shape.
struct Tilting {
    StepBody added, taken;
};
Result<Tilting> tilted(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid);
/// What a rib adds to the solid that it is built on.
Result<StepBody> ribbed(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid);

} // namespace prism::building
