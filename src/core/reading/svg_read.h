#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"

#include <string_view>

namespace prism {

/// Whether the bytes look like an SVG file.
bool isSvg(std::string_view bytes);

/// Reads an SVG as a sheet in mm, y up (96 px to the inch unless the file says otherwise). Paths become
/// lines, arcs and splines, texts stay texts. Pens (width, dashes) become layers and line types. Errors say
/// what and where.
/// `scale`: sheet length of what is a unit of length in the file, for files that were written enlarged.
Result<Drawing> readSvg(std::string_view bytes, Progress& progress, double scale = 1);

} // namespace prism
