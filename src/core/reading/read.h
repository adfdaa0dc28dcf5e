#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/drawing/drawing.h"
#include "core/reading/reading_choices.h"

#include <string_view>

namespace prism {

/// Reads a drawing from the bytes of a file, whatever its format. Errors (unreadable) say what and where.
Result<Drawing> readDrawing(std::string_view bytes, const ReadingChoices& choices, Progress& progress);
inline Result<Drawing> readDrawing(std::string_view bytes, Progress& progress) {
    return readDrawing(bytes, {}, progress);
}

} // namespace prism
