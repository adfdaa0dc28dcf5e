#pragma once
#include "core/proofing/proof.h"

#include <TopoDS_Shape.hxx>
#include <functional>
#include <gp_Pnt.hxx>

namespace prism {

/// Adds what the search for hidden lines leaves out of a solid now and then: straight outlines of cylinders,
/// where they run into the curve in which two of them meet, and the very ends of circles seen from the side.
/// `look` is the way that the viewer looks, `back` takes space to the view. Adds some of them when stopped.
void addMissedLines(const TopoDS_Shape& shape, Vec3 look, const std::function<Vec2(const gp_Pnt&)>& back,
                    std::vector<ProjectedLine>& lines, const Progress& progress);

} // namespace prism
