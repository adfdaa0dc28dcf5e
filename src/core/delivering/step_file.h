#pragma once
#include "core/building/solid.h"

namespace prism {

/// Writes the solid as STEP (ISO 10303-21, AP214, mm). Written aside and renamed: no half-written file is
/// left.
Result<void> writeStep(const TopoDS_Shape& shape, const std::string& path);

/// Reads a STEP file back; for checking what was delivered.
Result<TopoDS_Shape> readStep(const std::string& path);

} // namespace prism
