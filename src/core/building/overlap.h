#pragma once
#include "core/views/view_set.h"

#include <TopoDS_Shape.hxx>

// What two solids have in common and what they do not; a null shape is nothing. The modeller's failures are
// thrown as KernelError.
namespace prism {

/// mm^3.
double volumeOf(const TopoDS_Shape& s);
TopoDS_Shape commonOf(const TopoDS_Shape& a, const TopoDS_Shape& b);
/// What of `a` lies outside `b`.
TopoDS_Shape beyond(const TopoDS_Shape& a, const TopoDS_Shape& b);
/// What of a solid lies in a box.
TopoDS_Shape within(const TopoDS_Shape& s, Vec3 lo, Vec3 hi);
/// From where to where a body reaches along an axis, mm.
std::pair<double, double> extentAlong(const TopoDS_Shape& s, Axis axis);
/// mm^3 by which two solids differ.
double apart(const TopoDS_Shape& a, const TopoDS_Shape& b);

} // namespace prism
