#pragma once
#include "core/base/result.h"

#include <string>
#include <string_view>

namespace prism::dxf {

/// Whether the bytes start with the sentinel of a binary DXF.
bool isBinary(std::string_view bytes);

/// The same groups as ASCII DXF. Numbers keep all their digits. Group codes take one byte in files of the
/// oldest releases and two in later ones; the first group tells which. Errors say the byte offset.
Result<std::string> asciiFromBinary(std::string_view bytes);

} // namespace prism::dxf
