#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"
#include "core/tracing/picture_choices.h"

#include <string_view>

namespace prism {

/// The format of a picture that can be read ("PNG", "JPEG", "TIFF"); empty for other files.
std::string pictureFormat(std::string_view bytes);

/// Reads a scan as a sheet in mm on which it lies as a backdrop. Errors (unreadable) for damaged files and
/// for pictures of more than 400 million pixels.
Result<Drawing> readPicture(std::string_view bytes, const PictureChoices& choices, Progress& progress);

/// A sheet that holds nothing but a scan. Measures how it lies.
Drawing sheetOf(ScanPixels scan, const PictureChoices& choices, Progress& progress);

/// The sheet with its scan placed anew.
Drawing placedAnew(const Drawing& d, const PictureChoices& choices);

} // namespace prism
