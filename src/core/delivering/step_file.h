#pragma once
#include "core/building/solid.h"

namespace prism {

/// Writes the solid as STEP (ISO 10303-21, AP214, mm). Written aside and renamed: no half-written file is
/// left.
Result<void> writeStep(const TopoDS_Shape& shape, const std::string& path);

/// Reads a STEP file back; for checking what was delivered.
Result<TopoDS_Shape> readStep(const std::string& path);

/// Writes bytes to a file beside the target, flushes them to disk and renames it over the target.
Result<void> writeAtomically(const std::string& path, const std::string& bytes);

} // namespace prism
