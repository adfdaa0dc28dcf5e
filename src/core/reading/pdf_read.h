#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"

#include <string_view>

namespace prism {

/// Whether the bytes start like a PDF.
bool isPdf(std::string_view bytes);

/// Reads one page of a PDF, from 1, as a sheet in mm of paper, y up: its drawn paths as lines, arcs and
/// splines, and its texts. A page that is only a picture is told as such. Errors say what and where.
Result<Drawing> readPdf(std::string_view bytes, int page, Progress& progress);

} // namespace prism
