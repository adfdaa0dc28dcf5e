#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"
#include "core/reading/reading_choices.h"

#include <string_view>

namespace prism {

/// Whether the bytes start like a PDF.
bool isPdf(std::string_view bytes);

/// Reads the chosen page of a PDF as a sheet in mm of paper, y up: its drawn paths as lines, arcs and
/// splines, and its texts. A page on which nothing is drawn in lines, or of which it is asked for, is read as
/// a picture. Errors say what and where.
Result<Drawing> readPdf(std::string_view bytes, const ReadingChoices& choices, Progress& progress);

} // namespace prism
