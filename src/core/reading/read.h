#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"

#include <string_view>

namespace prism {

/// Reads a drawing from the bytes of a file. Errors (unreadable) say what and where.
Result<Drawing> readDrawing(std::string_view bytes, Progress& progress);

/// The whole of a file; unreadable when it cannot be opened, is a directory or is larger than 2 GiB.
Result<std::string> fileBytes(const std::string& path);

} // namespace prism
