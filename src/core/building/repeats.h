#pragma once
#include "core/building/solid.h"

#include <gp_Trsf.hxx>

namespace prism::building {

/// Where the copies of a mirror or a pattern stand, the original and those left out not counted.
Result<std::vector<gp_Trsf>> copiesOf(const Figure& f, const Step& s);

/// A body at another place, with its faces named after the step that copied it.
StepBody copied(const TopoDS_Shape& shape, const FaceNames& names, const gp_Trsf& to, int index);

} // namespace prism::building
